#pragma once

#include "core/electrics/wiring.h"
#include "core/job/facts.h"
#include "core/job/job.h"
#include "core/scaling/table.h"

#include <optional>
#include <string>

/// The closed and open limits a throttle or pedal is calibrated to: what they rest on, whether they still stand, and
/// the table that runs from one to the other.
namespace vicegrip::throttle {

/// Whether the circuit is one that is calibrated to limits.
[[nodiscard]] bool takesLimits(const parts::Part& sensor);

/// `limits` with the facts they rest on: the sensor, its conductors, its input. `paths` are the circuit's.
[[nodiscard]] job::ThrottleLimits calibrated(job::ThrottleLimits limits, const job::Facts& facts,
                                             const job::Circuit& circuit, const std::vector<electrics::Path>& paths);

/// The limits after the stop screw was turned and the closed throttle rests at `rest_v` now: the closed one moves with
/// it and keeps its margin, the open one stays. `when` is ISO 8601, UTC. Errors (Range): it rests farther from where it
/// did than a screw moves it (15 % of the travel), so it is not closed, or it is the stroke that has to be taken again.
[[nodiscard]] Result<job::ThrottleLimits> zeroed(job::ThrottleLimits limits, double rest_v, const std::string& when);

/// Why the limits must be calibrated again, as one line; none while they stand.
[[nodiscard]] std::optional<std::string> staleLimits(const job::Facts& facts, const job::ThrottleLimits& limits);

/// The ECU's table of such a circuit: `spec.low` at the closed limit, `spec.high` at the open one.
[[nodiscard]] scaling::Table tableOf(const job::ThrottleLimits& limits, const parts::Part& sensor,
                                     const job::ScalingSpec& spec);

} // namespace vicegrip::throttle
