#pragma once

#include "core/scaling/table.h"

/// Where the points of a table go: on the grids of its ECU, rounding and the range's ends included in what is made
/// least.
namespace vicegrip::scaling {

/// Evenly over the input's readings. None where the grid is too coarse for so many.
[[nodiscard]] std::optional<Table> evenTable(const Transfer& transfer, const parts::Part& sensor,
                                             const job::ScalingSpec& spec);

/// At the readings the ECU has fixed. None where two fall together.
[[nodiscard]] std::optional<Table> fixedTable(const Transfer& transfer, const parts::Part& sensor,
                                              const job::ScalingSpec& spec);

/// Where the worst error is least, for Breakpoints::Best with values on the curve, or beyond the range those of its
/// ends, for Breakpoints::Free beside it as well. The best of several placings, each mended point by point until no
/// single move helps: free is never worse than best. While the grid has 512 places or fewer (breakpoints.h) the least
/// there is at those places is known; a table on the curve whose worst error, everywhere, is within 2 % of that is said
/// to be the least. None where the grid is too coarse.
[[nodiscard]] std::optional<Table> bestTable(const Transfer& transfer, const parts::Part& sensor,
                                             const job::ScalingSpec& spec);

} // namespace vicegrip::scaling
