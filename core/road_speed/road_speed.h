#pragma once

#include "core/base/result.h"

#include <string>
#include <string_view>

/// Road speed from pulses: how many there are to a distance, by the tyre and gears, and by a measured run.
namespace vicegrip::road_speed {

/// A tyre as its side says: "205/55 R16".
struct Tyre
{
    double width_m = 0, aspect = 0, rim_m = 0;

    /// Free diameter, new.
    [[nodiscard]] double diameter_m() const { return rim_m + 2 * width_m * aspect; }
    /// What it rolls in a turn under load: 3.05 of its diameter, as for radial tyres in UN Regulation No. 30 (from
    /// memory). Wear takes up to 2.5 % of it.
    [[nodiscard]] double rolling_m() const { return 3.05 * diameter_m(); }
};

/// Reads "205/55 R16", "205/55R16 91V", "265/70-17", "195/80 15". Errors (Malformed, Range) with what was expected.
[[nodiscard]] Result<Tyre> parseTyre(std::string_view text);

/// Where the sensor counts.
struct SpeedPlace
{
    double pulsesPerTurn = 0; ///< teeth, magnets or windows
    double turnsPerWheelTurn = 1; ///< 1 at the wheel, the final drive's ratio at the gearbox output
    double rolling_m = 0;

    [[nodiscard]] double pulsesPerMetre() const { return pulsesPerTurn * turnsPerWheelTurn / rolling_m; }
};

/// Pulses counted over a known distance.
struct MeasuredRun
{
    double pulses = 0;
    double distance_m = 0;
    double distanceError_m = 0; ///< how well the distance is known

    [[nodiscard]] double pulsesPerMetre() const { return pulses / distance_m; }
    /// Worst case: a pulse at either end, and the distance.
    [[nodiscard]] double error() const { return pulsesPerMetre() * (2 / pulses + distanceError_m / distance_m); }
};

/// What a run says against the gears and the tyre.
struct RunVerdict
{
    double pulsesPerMetre = 0; ///< of the run
    double error = 0; ///< worst case, of the same
    double off = 0; ///< run over plan, less 1
    bool agrees = false;
    std::string sentence;
};

/// Tolerates the run's own error and 3 % of tyre (wear, pressure, load). Beyond that it says what else fits: every edge
/// or every second pulse counted, another number of teeth, the direct drive taken for the final drive.
/// Errors (Range): no pulses, no distance, a run too short to tell 3 %.
[[nodiscard]] Result<RunVerdict> compareRun(const SpeedPlace& place, const MeasuredRun& run);

} // namespace vicegrip::road_speed
