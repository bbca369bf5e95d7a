#pragma once

#include "core/brief/functions.h"

#include <string>
#include <vector>

/// Where a sensor goes, and why: common practice, with both schools where people differ, and the caution that belongs
/// to the work.
namespace vicegrip::brief {

struct School
{
    std::string says;
    std::string because;
};

struct SitingCard
{
    std::vector<std::string> places; ///< each one sentence: where, and why
    std::string question; ///< what people differ about; empty when they do not
    std::vector<School> schools;
    std::string caution; ///< where the work can hurt; empty otherwise
};

/// The card for a function.
[[nodiscard]] SitingCard sitingOf(const job::FunctionId& function);

/// The same for what the ECU drives, by what the part is for as well: a fan's relay is not a pump's.
[[nodiscard]] SitingCard drivenSiting(const job::FunctionId& function, parts::PartUse use);

} // namespace vicegrip::brief
