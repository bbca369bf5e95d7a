#pragma once

#include "core/base/result.h"

#include <string>
#include <string_view>
#include <vector>

namespace vicegrip::trigger {

inline constexpr double kCrankTurn_deg = 360, kCamTurn_deg = 720; ///< of the crank, in one turn of the wheel
inline constexpr double kMinute_s = 60; ///< speeds are turns of the crank in a minute
inline constexpr int kMostTeeth = 2000;

/// Metal passes the sensor from one angle to another, in degrees of the crank as the wheel turns: from its leading to
/// its trailing edge. One that lies across the beginning of a turn ends after it.
struct Tooth
{
    double from_deg = 0, to_deg = 0;
    bool operator==(const Tooth&) const = default;
};

/// A disc that a sensor reads.
struct Wheel
{
    double turn_deg = kCrankTurn_deg;
    std::vector<Tooth> teeth; ///< as they pass; the first leads at 0 degrees, or where the line puts it
    bool operator==(const Wheel&) const = default;

    [[nodiscard]] bool onCam() const { return turn_deg > kCrankTurn_deg; }
};

/// Reads a line as people say it: "36-1" (36 places, the last is empty), "60-2", "24+1" (one more in the middle of the
/// last gap), "36-1-1" (gaps evenly in a turn), "36 without 17, 18, 35, 36" (empty places, from 1), "36-2-2-2" (as
/// everybody means it: 16 teeth, one, and 13 between its gaps), "4", "24 with 12 and 3 degrees" (widths in turn,
/// leading edges evenly apart), "3 at 0, 110, 240 degrees" (leading edges). "cam" before it: it turns once in 720
/// degrees of the crank, which is what the degrees count. "slots" after the number: what is missing is metal, and what
/// is between slots is a tooth. A tooth is half as wide as the least step from one to the next, where no width is said.
/// Errors (Malformed, with the place in the line): what is not understood; (Range) no tooth, too many of them, more
/// taken away than there are, teeth that overlap.
[[nodiscard]] Result<Wheel> readWheel(std::string_view line);

/// Angles of one kind of edges of a turn, rising. `trailing`: where teeth end.
[[nodiscard]] std::vector<double> edgesOf(const Wheel& wheel, bool trailing);

/// From each of these edges to the next, round the turn.
[[nodiscard]] std::vector<double> stepsOf(const Wheel& wheel, bool trailing);

} // namespace vicegrip::trigger
