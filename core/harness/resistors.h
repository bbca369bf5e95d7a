#pragma once

#include "core/job/job.h"

/// Resistors the installer adds in the harness. A circuit that is not there or has no seat is said (Reference), and the
/// job stays as it was.
namespace vicegrip::harness {

/// Adds a pull-up from the unit's sensor supply to the signal, in a splice of its own; replaces one that is there. The
/// circuit must be seated.
[[nodiscard]] Result<void> addPullUp(job::Job& job, const job::CircuitId& id, double ohm, double tolerance);

/// Adds a divider: `series_ohm` in the signal wire before the input, `toGround_ohm` from there to the sensor ground.
[[nodiscard]] Result<void> addDivider(job::Job& job, const job::CircuitId& id, double series_ohm, double toGround_ohm,
                                      double tolerance);

/// Adds a resistor in series in the wire of what an output drives, beside the output's cavity.
[[nodiscard]] Result<void> addSeries(job::Job& job, const job::CircuitId& id, double ohm, double tolerance);

} // namespace vicegrip::harness
