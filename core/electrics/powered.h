#pragma once

#include "core/circuit/solution.h"
#include "core/job/job.h"

#include <optional>
#include <utility>
#include <vector>

/// Devices and units that put nothing out while their supply is too low.
namespace vicegrip::electrics {

struct Powered
{
    circuit::Node supply = 0, ground = 0;
    double least_v = 0;
    std::optional<circuit::ElementIndex> source; ///< set to 0 when the supply is short
    job::CircuitId circuit; ///< empty: a unit
    size_t unit = 0;
    bool on = true;
    std::pair<double, double> asOn = {}; ///< the source's bounds while it is on
};

/// Solves the network with those off that have too little supply. `bounded`: a source that a good car may have on or
/// off gets bounds that are wide enough for both. Errors: those of circuit::solve.
[[nodiscard]] Result<circuit::Solution> solvePowered(circuit::Network& net, std::vector<Powered>& powered,
                                                     bool bounded);

} // namespace vicegrip::electrics
