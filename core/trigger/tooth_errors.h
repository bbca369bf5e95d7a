#pragma once

#include "core/trigger/sync.h"

#include <optional>

namespace vicegrip::trigger {

/// How far each tooth's edge is from where the wheel says it is, in degrees of the crank, later is positive: the mean
/// of all turns, with the speed of its neighbours taken out. What is the same for teeth beside each other is taken for
/// speed, and does not show.
struct ToothErrors
{
    std::vector<double> off_deg; ///< by number
    std::vector<double> scatter_deg; ///< of one turn against another: a standard deviation
    std::size_t turns = 0; ///< that went into the one that was seen least

    [[nodiscard]] double worst_deg() const;
};

/// None where some tooth was not followed for at least two turns with four neighbours at each side, or where the wheel
/// has more than 400. Of a long capture its first 20,000 edges count.
[[nodiscard]] std::optional<ToothErrors> toothErrors(std::span<const double> times_s, const Followed& followed,
                                                     const Wheel& wheel, bool trailing);

/// A sine that comes once in a turn of the wheel, in values at angles, by least squares: run-out, seen in the volts of
/// a coil or in how wide teeth look.
struct OnceATurn
{
    double mean = 0, amplitude = 0; ///< from the middle to the top
    double greatestAt_deg = 0;
};
[[nodiscard]] std::optional<OnceATurn> onceATurn(std::span<const double> angles_deg, std::span<const double> values,
                                                 double turn_deg = kCrankTurn_deg);

/// Run-out, from the least gap to the greatest, by a coil's peaks (volts fall by an e-th every `decay_m`): peaks at
/// angles of the wheel.
[[nodiscard]] std::optional<double> runOutOf(std::span<const double> angles_deg, std::span<const double> peaks_v,
                                             double decay_m, double turn_deg = kCrankTurn_deg);

} // namespace vicegrip::trigger
