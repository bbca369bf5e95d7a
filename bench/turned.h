#pragma once

#include "core/faults/fault_list.h"
#include "core/job/job.h"

#include <set>

namespace vicegrip::bench {

/// The circuits before whose sensors a tooth stands while the crank is at this angle: of sensors that switch, whose
/// wheel is said. What is too far away, or chipped, is not seen.
[[nodiscard]] std::set<job::CircuitId> onTooth(const job::Job& job, const faults::FaultList& faults, double crank_deg);

} // namespace vicegrip::bench
