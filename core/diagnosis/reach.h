#pragma once

#include "core/diagnosis/predictions.h"

/// What it costs hands to take a reading.
namespace vicegrip::diagnosis {

/// Seconds from one reading to the next, at this spot (typical): what the ECU reports is there already, an open plug
/// takes a probe, a plug under the intake takes the intake off, a splice lies in its sleeve. `now` is the condition the
/// car is in: another one takes the battery lead, the plugs, the key.
[[nodiscard]] double secondsFor(const job::Job& job, const Spot& spot, job::Condition now);

} // namespace vicegrip::diagnosis
