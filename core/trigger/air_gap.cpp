#include "core/trigger/air_gap.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace vicegrip::trigger {

namespace {

constexpr double kTurn_deg = 360;

/// How much farther it seems at this gap, lying as it does after so many turns.
double farther(const AirGap& gap, double mean_m, double turns)
{
    if (!gap.strip)
        return 0;
    Strip strip = *gap.strip;
    strip.lies_deg += turns * kTurn_deg;
    return seemsFarther(strip, std::max(mean_m, 0.0));
}

struct Candidate
{
    double turns = 0;
    double margin_m = 0; ///< at every place of the wheel, to the nearer end of the window; below 0: outside

    [[nodiscard]] bool fits() const
    {
        constexpr double kSlack_m = 1e-9;
        return margin_m >= -kSlack_m;
    }
};

Candidate tried(const AirGap& gap, double turns)
{
    const double mean_m = gap.now_m - turns * gap.pitch_m;
    return {turns,
            std::min(mean_m - gap.least_m, gap.most_m - mean_m - farther(gap, mean_m, turns)) - gap.runOut_m / 2};
}

/// In this many steps of a half turn. After a half turn its strip lies as before: of each step of one, the half turns
/// that bring it nearest to the middle of the window, and those beside them.
Candidate nearest(const AirGap& gap, int steps)
{
    const double middle_m = std::midpoint(gap.least_m, gap.most_m);
    std::optional<Candidate> best;
    for (int step = 0; step < steps; ++step) {
        const double first = 0.5 * step / steps, more_m = farther(gap, middle_m, first);
        const double exact = (gap.now_m - middle_m + (std::isfinite(more_m) ? more_m / 2 : 0)) / gap.pitch_m;
        const double halves = std::round((exact - first) * 2);
        for (const double beside : {0.0, -1.0, 1.0}) {
            const Candidate one = tried(gap, first + (halves + beside) / 2);
            if (!best || one.margin_m > best->margin_m)
                best = one;
        }
    }
    return *best;
}

} // namespace

Result<GapTurn> turnFor(const AirGap& gap)
{
    if (!(gap.pitch_m >= 0))
        return fail(ErrorCode::Range, phrase("the pitch of a thread is not below 0 mm"));
    if (!(gap.least_m >= 0 && gap.most_m > gap.least_m))
        return fail(ErrorCode::Range, phrase("the window must rise from its least gap to its greatest"));
    if (!(gap.now_m >= 0 && gap.runOut_m >= 0))
        return fail(ErrorCode::Range, phrase("a gap and a run-out are not below 0 mm"));
    const double middle_m = std::midpoint(gap.least_m, gap.most_m), more_m = farther(gap, gap.now_m, 0);
    GapTurn out;
    out.isInside = tried(gap, 0).fits();
    out.seemsNow_m = gap.now_m + more_m;
    if (gap.pitch_m == 0) {
        out.after_m = std::max(gap.least_m + gap.runOut_m / 2, middle_m - (std::isfinite(more_m) ? more_m / 2 : 0));
        AirGap after = gap;
        after.now_m = out.after_m;
        out.seems_m = out.after_m + farther(gap, out.after_m, 0);
        out.fits = tried(after, 0).fits();
        return out;
    }
    constexpr int kFlats = 3, kFine = 36; // of half a turn
    Candidate best = nearest(gap, kFlats);
    if (!best.fits())
        if (const Candidate exact = tried(gap, (gap.now_m - middle_m) / gap.pitch_m); exact.fits())
            best = exact;
    if (!best.fits())
        if (const Candidate fine = nearest(gap, kFine); fine.fits())
            best = fine;
    out.turns = best.turns;
    out.after_m = gap.now_m - out.turns * gap.pitch_m;
    out.seems_m = out.after_m + farther(gap, out.after_m, out.turns);
    out.fits = best.fits();
    if (const Candidate halves = nearest(gap, 1); halves.fits())
        out.halves = halves.turns;
    return out;
}

/// Of a wheel off its centre the gap is a sine: opposite gaps differ by its share along that diameter.
Result<Feelers> feelersSay(std::span<const double> quarters_m)
{
    constexpr std::size_t kQuarters = 4;
    constexpr double kDegree = 180 / std::numbers::pi;
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
