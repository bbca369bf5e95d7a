#include "core/trigger/air_gap.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace vicegrip::trigger {

Result<GapTurn> turnFor(const AirGap& gap)
{
    constexpr double kFlats = 6, kSlack_m = 1e-9;
    if (!(gap.pitch_m > 0))
        return fail(ErrorCode::Range, phrase("a thread has a pitch above 0 mm"));
    if (!(gap.least_m >= 0 && gap.most_m > gap.least_m))
        return fail(ErrorCode::Range, phrase("the window must rise from its least gap to its greatest"));
    if (!(gap.now_m >= 0 && gap.runOut_m >= 0))
        return fail(ErrorCode::Range, phrase("a gap and a run-out are not below 0 mm"));
    const auto inside = [&](double mean_m) {
        return mean_m - gap.runOut_m / 2 >= gap.least_m - kSlack_m &&
               mean_m + gap.runOut_m / 2 <= gap.most_m + kSlack_m;
    };
    const double exact = (gap.now_m - std::midpoint(gap.least_m, gap.most_m)) / gap.pitch_m;
    GapTurn out;
    out.turns = std::round(exact * kFlats) / kFlats;
    if (!inside(gap.now_m - out.turns * gap.pitch_m))
        out.turns = exact;
    out.after_m = gap.now_m - out.turns * gap.pitch_m;
    out.isInside = inside(gap.now_m);
    out.fits = inside(out.after_m);
    constexpr double kHalves = 2;
    if (const double halves = std::round(exact * kHalves) / kHalves; inside(gap.now_m - halves * gap.pitch_m))
        out.halves = halves;
    return out;
}

/// Of a wheel off its centre the gap is a sine: opposite gaps differ by its share along that diameter.
Result<Feelers> feelersSay(std::span<const double> quarters_m)
{
    constexpr std::size_t kQuarters = 4;
    constexpr double kDegree = 180 / std::numbers::pi, kTurn_deg = 360;
    if (quarters_m.size() != kQuarters)
        return fail(ErrorCode::Range, phrase("four gaps are wanted, a quarter of a turn apart"));
    for (const double q : quarters_m)
        if (!(q > 0))
            return fail(ErrorCode::Range, phrase("a feeler is thicker than 0 mm"));
    Feelers out;
    const auto [least, most] = std::ranges::minmax(quarters_m);
    out.least_m = least;
    out.most_m = most;
    out.mean_m = std::accumulate(quarters_m.begin(), quarters_m.end(), 0.0) / kQuarters;
    const double along = (quarters_m[0] - quarters_m[2]) / 2, across = (quarters_m[1] - quarters_m[3]) / 2;
    out.runOut_m = 2 * std::hypot(along, across);
    out.farthest_deg = std::fmod(std::atan2(across, along) * kDegree + kTurn_deg, kTurn_deg);
    out.disagree_m = std::abs(quarters_m[0] + quarters_m[2] - quarters_m[1] - quarters_m[3]) / 2;
    return out;
}

} // namespace vicegrip::trigger
