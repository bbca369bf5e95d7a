#pragma once

#include "core/electrics/wiring.h"
#include "core/job/facts.h"
#include "core/job/job.h"

#include <optional>
#include <string>

/// The taught limits of a throttle or pedal: what they rest on, and whether they still stand.
namespace vicegrip::throttle {

/// Whether the circuit is one whose limits are taught.
[[nodiscard]] bool hasStops(const parts::Sensor& sensor);

/// `stops` with the facts they rest on: the sensor, its conductors, its input. `paths` are the circuit's.
[[nodiscard]] job::Stops taught(job::Stops stops, const job::Facts& facts, const job::Circuit& circuit,
                                const std::vector<electrics::Path>& paths);

/// The limits after the stop screw was turned and the shut throttle rests at `rest_v` now: the shut one moves with it
/// and keeps its margin, the open one stays. `when` is ISO 8601, UTC. Errors (Range): it rests farther from where it
/// did than a screw moves it (15 % of the travel), so it is not shut, or it is the stroke that has to be taught again.
[[nodiscard]] Result<job::Stops> zeroed(job::Stops stops, double rest_v, const std::string& when);

/// Why the limits must be taught again, as one line; none while they stand.
[[nodiscard]] std::optional<std::string> staleStops(const job::Facts& facts, const job::Stops& stops);

} // namespace vicegrip::throttle
