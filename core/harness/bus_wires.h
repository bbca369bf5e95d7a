#pragma once

#include "core/job/job.h"

/// How a further device joins a bus that is drawn already.
namespace vicegrip::harness {

/// The longest lead from a bus to a device that hangs beside it, m (ISO 11898-2 for 1 Mbit/s, from memory), and the one
/// that is planned.
inline constexpr double kLongestStub_m = 0.3, kPlannedStub_m = 0.15;

/// Where a wire of the device's pair goes: a Y lead, whose splice is cut into the wire close to the plug of the device
/// that came last; for the first one the ECU's cavity. `circuit` is seated on a bus.
[[nodiscard]] job::PointRef joinBus(job::Job& job, const job::Circuit& circuit, parts::PinRole role);

} // namespace vicegrip::harness
