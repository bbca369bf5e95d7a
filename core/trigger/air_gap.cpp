#include "core/trigger/air_gap.h"

#include "core/base/phrase.h"

#include <cmath>
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
    return out;
}

} // namespace vicegrip::trigger
