#pragma once

#include "core/base/result.h"
#include "core/job/brief_facts.h"

#include <string>
#include <string_view>
#include <vector>

/// The banks of an engine, under the user's own names: which side is the first differs from maker to maker.
///
///     banksFrom("left 1 3 5, right 2 4 6", 6)   // {{"left", {1, 3, 5}}, {"right", {2, 4, 6}}}
///     bankOf(banks, 3)                          // "left"
namespace vicegrip::brief {

/// Two banks, each a name and its cylinders, between a comma, a semicolon or a slash; empty for an engine in line. Each
/// cylinder is in one of them: what is missing or said twice is named (Range).
[[nodiscard]] Result<std::vector<job::Bank>> banksFrom(std::string_view typed, int cylinders);

/// The check alone, for banks from a file.
[[nodiscard]] Result<void> checkBanks(const std::vector<job::Bank>& banks, int cylinders);

/// "left 1-3-5, right 2-4-6"; empty for none.
[[nodiscard]] std::string banksText(const std::vector<job::Bank>& banks);

/// The name of the bank with this cylinder; empty where there are none.
[[nodiscard]] std::string bankOf(const std::vector<job::Bank>& banks, int cylinder);

} // namespace vicegrip::brief
