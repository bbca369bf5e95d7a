#pragma once

#include "core/faults/fault_list.h"
#include "core/job/job.h"

#include <set>

namespace vicegrip::bench {

/// How a circuit's wheel stands before its sensor: as a fault has it, as hands measured it, or as usual.
[[nodiscard]] faults::WheelOff standsBefore(const job::Circuit& circuit, const faults::FaultList& faults);

/// The circuits before whose sensors a tooth stands while the crank is at this angle: of sensors that switch, whose
/// wheel is said. What is too far away, or chipped, is not seen.
[[nodiscard]] std::set<job::CircuitId> onTooth(const job::Job& job, const faults::FaultList& faults, double crank_deg);

} // namespace vicegrip::bench
