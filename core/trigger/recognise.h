#pragma once

#include "core/trigger/wheel.h"

#include <cstddef>
#include <span>

namespace vicegrip::trigger {

/// A wheel that was recognised by its edges.
struct Recognised
{
    Wheel wheel; ///< by the kind of edge that was looked at; how wide its teeth are is not known from one kind alone
    std::string line; ///< as `readWheel` reads it
    std::size_t turns = 0; ///< that were seen
    double scatter = 0; ///< of a period against the same one a turn later, as a share
};

/// Which wheel makes these edges (times of one kind, rising), without being told: the shortest row of periods that
/// comes again and again. `turn_deg`: of the crank in one turn of the wheel. Errors (Range): fewer than two turns were
/// seen, nothing comes again, or all teeth are alike: then how many make a turn cannot be told by them.
[[nodiscard]] Result<Recognised> recognise(std::span<const double> times_s, double turn_deg = kCrankTurn_deg);

} // namespace vicegrip::trigger
