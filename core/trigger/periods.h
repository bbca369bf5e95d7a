#pragma once

#include <span>
#include <vector>

namespace vicegrip::trigger {

/// Logarithms of the periods between times that rise.
[[nodiscard]] std::vector<double> logPeriods(std::span<const double> times_s);

/// How much longer each period is than the geometric mean of the two beside it, as a logarithm: a speed that rises
/// makes nothing of it, a gap does. The first and the last have no neighbour: 0. `round`: they are each other's.
[[nodiscard]] std::vector<double> standsOut(std::span<const double> logPeriods, bool round);

[[nodiscard]] double medianOf(std::vector<double> values);

} // namespace vicegrip::trigger
