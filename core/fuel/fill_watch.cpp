#include "core/fuel/fill_watch.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::fuel {
namespace {

constexpr double kOfNow_s = 5; ///< over which is looked for what it shows
/// It stands where what it shows then and now is the same: sooner where it was said to, longer where a slow tank may
/// only be on its way.
constexpr double kStands_s = 40, kStandsElsewhere_s = 160;
constexpr double kStands = 0.005; ///< within which it does not move: what a sensor flickers (typical)
constexpr double kLate = 3; ///< times as late as the line was said to be long: nobody's flow is that far off
constexpr double kHasLeft = 0.01; ///< beyond this it is not the old fuel any more

std::string share(double content)
{
    return units::formatNumber(100 * content, 1) + " %";
}

std::string minutes(double seconds)
{
    return units::formatNumber(seconds / 60, 1) + " min";
}

/// Over this while; where nothing was shown in it, what was shown last before.
double meanOf(std::span<const Shown> shown, double from_s, double to_s)
{
    double sum = 0, count = 0, last = shown.front().content;
    for (const Shown& s : shown) {
        if (s.at_s > to_s)
            break;
        last = s.content;
        if (s.at_s >= from_s) {
            sum += s.content;
            count += 1;
        }
    }
    return count > 0 ? sum / count : last;
}

/// Whether it has not moved for so long; it must have been looked at all the while.
bool stands(std::span<const Shown> shown, double seconds)
{
    const double now_s = shown.back().at_s, from_s = now_s - seconds;
    return shown.front().at_s <= from_s &&
           std::abs(meanOf(shown, now_s - seconds / 4, now_s) - meanOf(shown, from_s, from_s + seconds / 4)) <= kStands;
}

/// What was poured in, from what all of it became.
std::optional<double> addedOf(const Pour& pour, double mixed)
{
    if (!(pour.add.volume_m3 > 0))
        return std::nullopt;
    const double all_m3 = pour.in.volume_m3 + pour.add.volume_m3;
    return (mixed * all_m3 - pour.in.ethanol * pour.in.volume_m3) / pour.add.volume_m3;
}

std::string elsewhere(const Watched& w, double after)
{
    constexpr double kHalf = 0.005; // rounding of a share that is at its end
    if (w.added && *w.added > -kHalf && *w.added < 1 + kHalf)
        return phrase("It stands at {}, and {} was worked out: what went in had {} ethanol, if the volumes are right. "
                      "Believe the sensor, and what is sold may differ from season to season.",
                      share(w.now), share(after), share(std::clamp(*w.added, 0.0, 1.0)));
    return phrase(
        "It stands at {}, and {} was worked out: no fuel makes that of these volumes. Ask how much was in the "
        "tank, then look at the sensor.",
        share(w.now), share(after));
}

} // namespace

Result<Watched> watchFill(std::span<const Shown> shown, const Settling& settling, const Pour& pour)
{
    if (shown.empty())
        return fail(ErrorCode::Range, phrase("the sensor has shown nothing yet"));
    const auto mixed = blend({pour.in, pour.add});
    if (!mixed)
        return tl::make_unexpected(mixed.error());
    const double at_s = shown.back().at_s, before = pour.in.ethanol, after = mixed->ethanol;
    Watched out;
    out.now = meanOf(shown, at_s - kOfNow_s, at_s);
    out.due = settling.at(at_s);
    const bool moves = std::abs(after - before) > kSameContent;
    const bool isSo = std::abs(out.now - after) <= kSameContent;
    const bool asBefore = moves && std::abs(out.now - before) < kHasLeft;
    if (at_s < settling.purge_s() && (asBefore || !moves)) {
        out.sentence = phrase("The line still holds the old fuel, for {} more.", minutes(settling.purge_s() - at_s));
    } else if (asBefore && at_s > kLate * settling.purge_s() + kStands_s) {
        out.state = Watched::State::Unmoved;
        out.sentence =
            phrase("It still shows the old fuel after {}: less flows than was said, the sensor sits where no "
                   "fuel passes, or the fill is in another tank. Nothing is tuned on it.",
                   minutes(at_s));
    } else if (at_s >= settling.purge_s() && !asBefore && stands(shown, kStands_s) &&
               (isSo || (at_s >= settling.settled_s() && stands(shown, kStandsElsewhere_s)))) {
        out.state = isSo ? Watched::State::AsSaid : Watched::State::Elsewhere;
        out.added = addedOf(pour, out.now);
        out.sentence =
            isSo ? phrase("It stands at {}, as worked out ({}).", share(out.now), share(after)) : elsewhere(out, after);
    } else {
        out.state = Watched::State::OnItsWay;
        out.sentence = phrase("On its way: {} now, {} by the curve; it ends at {} after about {}.", share(out.now),
                              share(out.due), share(after), minutes(settling.settled_s()));
    }
    return out;
}

} // namespace vicegrip::fuel
