#pragma once

#include "core/job/job.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

/// Readings that somebody wrote down: what another instrument told, and what the input showed.
namespace vicegrip::scaling {

struct PairLine
{
    int line = 0; ///< of the text, from 1
    std::optional<job::Captured> pair; ///< none: it is left out, and `sentence` says why
    std::string sentence; ///< what it became
};

/// Two columns, value and volts, between tabs, semicolons, or else blanks; units are understood, and without one the
/// sensor's own and V are meant. Empty lines, lines that begin with # and a heading are passed over; a line that is no
/// pair says why and the rest is kept.
[[nodiscard]] std::vector<PairLine> readPairs(std::string_view text, const parts::Part& sensor,
                                              const std::string& when);

} // namespace vicegrip::scaling
