#pragma once

#include "core/job/job.h"

#include <string>
#include <vector>

/// What must be agreed with the tuner before anything is bought.
namespace vicegrip::brief {

struct Question
{
    std::string id; ///< key of the answer in the brief
    std::string text;
    std::string why;
    std::string answer; ///< empty while it is open
};

/// The questions the brief's choices raise, in the order they are best asked, with the answers given so far.
[[nodiscard]] std::vector<Question> questions(const job::Brief& brief, const job::Job& job);

[[nodiscard]] int openQuestions(const job::Job& job);

} // namespace vicegrip::brief
