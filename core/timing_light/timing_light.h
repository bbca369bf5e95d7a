#pragma once

#include "core/base/result.h"

#include <span>
#include <string>
#include <vector>

/// Does the spark come where it is commanded? What a light shows at the wheel, at one speed after another.
namespace vicegrip::timing_light {

/// In degrees of the crank before top dead centre.
struct Seen
{
    double rpm = 0;
    double commanded_deg = 0, seen_deg = 0;
};

/// How well each of them is known (typical of a hand-held light and its scale).
struct Known
{
    double seen_deg = 0.5; ///< standard deviations
    double rpm = 0.01; ///< share
};

struct Lock
{
    double offset_deg = 0, offsetWithin_deg = 0; ///< seen less commanded with the engine slow: what the ECU is off by
    double delay_s = 0, delayWithin_s = 0; ///< from the command to the spark: the faster, the later it is seen
    std::vector<double> residuals_deg; ///< seen less the line, in the order of the readings
    bool agrees = true; ///< the readings lie on a line, as well as they are known
};

/// Seen = commanded + offset - 6 n delay (n in turns a minute: 6 n are degrees a second). Two readings make it; of
/// three and more the line is York's, for speeds are uncertain too. The bounds are two standard deviations. Errors
/// (Range): fewer than two readings, or all at one speed.
[[nodiscard]] Result<Lock> lockOf(std::span<const Seen> readings, const Known& known = {});

/// The delay that ECUs hold (typical).
inline constexpr double kMostDelay_s = 200e-6;

/// Whether sparks come where they are commanded, as well as the readings tell, with no more delay than an ECU holds.
[[nodiscard]] bool stands(const Lock& lock, double most_s = kMostDelay_s);

/// What hands set: "Add 2.4° to the offset of the trigger", and what of the delay an ECU that holds no more than
/// `most_s` leaves.
[[nodiscard]] std::string todo(const Lock& lock, double most_s);

} // namespace vicegrip::timing_light
