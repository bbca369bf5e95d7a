#pragma once

#include "core/electrics/wiring.h"

#include <vector>

namespace vicegrip::electrics {

/// From the feeds and the power grounds of the unit that a circuit is seated on, to the battery's posts: what is wrong
/// there is wrong for all of the unit's circuits. None without a seat.
[[nodiscard]] std::vector<Path> unitWays(const job::Job& job, const Wiring& wiring, const job::Circuit& circuit);

} // namespace vicegrip::electrics
