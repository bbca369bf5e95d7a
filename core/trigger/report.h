#pragma once

#include "core/trigger/edges.h"
#include "core/trigger/recognise.h"
#include "core/trigger/tooth_errors.h"

#include <optional>

namespace vicegrip::trigger {

/// What is known of a signal before it is looked at.
struct Known
{
    std::optional<Wheel> wheel; ///< none: it is recognised
    std::optional<bool>
        rising; ///< the kind of edge that counts; none: the one that comes more evenly from turn to turn
    bool lowOnTooth = true; ///< a sensor that pulls low while a tooth stands before it
    double turn_deg = kCrankTurn_deg; ///< of a wheel that is recognised
};

/// What was made of a signal.
struct Report
{
    bool rising = false; ///< the kind of edge that was looked at
    bool trailing = false; ///< these are where teeth end
    Wheel wheel;
    std::string line; ///< of a wheel that was recognised; empty: it was known
    std::vector<double> times_s; ///< of the edges
    Followed followed;
    double rpm = 0, rpmLeast = 0, rpmMost = 0; ///< of the crank: in the middle, and of the slowest and fastest turn
    double scatter = 0; ///< of a period against the same one a turn later, as a share
    std::optional<ToothErrors> errors;
};

/// The angle of the wheel that stands before the sensor at a time, in degrees of its turn; none where it is not known.
[[nodiscard]] std::optional<double> wheelAngle(const Report& report, double time_s);

/// Errors (Range): as `recognise`; no edge of that kind.
[[nodiscard]] Result<Report> reportOn(std::span<const Edge> edges, const Known& known);

} // namespace vicegrip::trigger
