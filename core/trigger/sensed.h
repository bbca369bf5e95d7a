#pragma once

#include "core/trigger/turning.h"
#include "core/trigger/wheel.h"

#include <cstdint>
#include <vector>

namespace vicegrip::trigger {

/// How far a sensor stands from the teeth, and how that changes as the wheel turns off its centre: gap + run-out / 2 *
/// cos(angle - where it is greatest).
struct Clearance
{
    double gap_m = 1.5e-3;
    double runOut_m = 0; ///< from the least gap to the greatest, in one turn of the wheel
    double greatestAt_deg = 0;

    [[nodiscard]] double at(double angle_deg, double turn_deg) const;
};

/// A sensor that switches: its output is low while a tooth stands before it. The farther it stands, the narrower a
/// tooth looks to it; beyond the greatest gap it sees none.
struct HallSensor
{
    double low_v = 0.2, high_v = 5;
    double narrows_deg_m = 400; ///< at each edge of a tooth, for each metre of gap (0.4 degrees a millimetre; typical)
    double farthest_m = 3e-3; ///< it switches no more
};

/// A coil: a tooth that comes makes volts of one sign, one that leaves of the other: k * speed * exp(-gap / decay) *
/// slope of the tooth's edge.
struct ReluctanceSensor
{
    double volts = 1; ///< at the steepest of an edge, at 360 degrees a second and no gap
    double decay_m = 0.7e-3; ///< farther by this, an e-th of the volts (typical)
    double edge_deg = 1.5; ///< how wide an edge looks to it, from its middle to a standard deviation
    bool swapped = false; ///< its two wires: a tooth that comes makes the other sign
};

/// A belt between the crank and the wheel: it lags by its stretch, and after every valve that opens it swings, now more
/// and now less, until that dies away.
struct Belt
{
    double stretch_deg = 0; ///< of the crank, behind where the wheel would stand
    double swing_deg = 0; ///< of a usual swing: root mean square of its first peak
    double swing_hz = 50; ///< typical
    double dies_s = 25e-3; ///< to an e-th (typical)
};

/// What disturbs a signal on its way.
struct Disturbance
{
    double noise_v = 0; ///< root mean square, at each sample
    double burst_v = 0; ///< of an ignition: a peak that dies away in 50 microseconds, cylinders / 2 times a turn
    std::vector<int> missing = {}; ///< teeth that are not there, by number from 0
    double dropOuts_hz = 0; ///< how often in a second its wire lets go, by chance
    double dropOut_s = 2e-3; ///< how long then
    Belt belt = {}; ///< before its wheel
    std::uint32_t seed = 1; ///< of chance
};

/// A signal's samples, evenly in time.
struct Sensed
{
    double step_s = 0;
    std::vector<float> volts;
    std::vector<float> angle_deg; ///< of the crank, modulo 720, at each sample
};

[[nodiscard]] Sensed senseHall(const Wheel& wheel, const Turning& turning, const HallSensor& sensor,
                               const Clearance& clearance, const Disturbance& disturbance, double seconds,
                               double rate_hz);
[[nodiscard]] Sensed senseReluctance(const Wheel& wheel, const Turning& turning, const ReluctanceSensor& sensor,
                                     const Clearance& clearance, const Disturbance& disturbance, double seconds,
                                     double rate_hz);

} // namespace vicegrip::trigger
