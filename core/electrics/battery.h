#pragma once

#include "core/circuit/network.h"
#include "core/job/job.h"

#include <functional>

/// Where the volts come from and what draws on them, in the network of a condition.
///
/// With the battery lead off there is no battery in it at all. With the key on it stands at rest; under the starter it
/// sags by its own resistance; while the engine runs the alternator holds it up. A load that is on is the resistance
/// that draws its current at these volts. While the engine turns each is on and may be off all the same, which is a
/// bound like any other. The starter is on while it turns the engine, and never else; where the drawing has none it
/// hangs on the posts and draws what one usually does.
namespace vicegrip::electrics {

/// Of a petrol engine's starter, once it turns (typical for four cylinders).
inline constexpr double kStarter_a = 140;

/// Of what stands open.
inline constexpr double kOff_ohm = 1e9;

using NodeAt = std::function<circuit::Node(const job::PointRef&)>;

/// The volts that what feeds the car holds under a condition.
[[nodiscard]] double batteryVolts(const job::Battery& battery, job::Condition condition);

/// `at`: the node of a place.
void addBatteryAndLoads(circuit::Network& net, const job::Job& job, job::Condition condition, double battery_v,
                        const NodeAt& at);

/// Whether a contact can conduct: one that a coil pulls in does while the engine turns.
[[nodiscard]] bool isClosed(const job::Switch& contact, job::Condition condition);

} // namespace vicegrip::electrics
