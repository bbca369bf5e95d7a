#include "core/fuel/fill_watch.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::fuel {
namespace {

constexpr double kOfNow_s = 5, kStands_s = 30; ///< over which is looked for what it shows, and whether it stands
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

double meanSince(std::span<const Shown> shown, double from_s)
{
    double sum = 0, count = 0;
    for (const Shown& s : shown)
        if (s.at_s >= from_s) {
            sum += s.content;
            count += 1;
        }
    return sum / count;
}

/// Whether it has not moved for a while; it must have been looked at for so long.
bool stands(std::span<const Shown> shown)
{
    const double from_s = shown.back().at_s - kStands_s;
    if (shown.front().at_s > from_s)
        return false;
    double least = INFINITY, most = -INFINITY;
    for (const Shown& s : shown)
        if (s.at_s >= from_s) {
            least = std::min(least, s.content);
            most = std::max(most, s.content);
        }
    return most - least <= kStands;
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
    out.now = meanSince(shown, at_s - kOfNow_s);
    out.due = settling.at(at_s);
    const bool moves = std::abs(after - before) > kSameContent;
    const bool asBefore = moves && std::abs(out.now - before) < kHasLeft;
    if (at_s < settling.purge_s() && (asBefore || !moves)) {
        out.sentence = phrase("The line still holds the old fuel, for {} more.", minutes(settling.purge_s() - at_s));
    } else if (asBefore && at_s > kLate * settling.purge_s() + kStands_s) {
        out.state = Watched::State::Unmoved;
        out.sentence =
            phrase("It still shows the old fuel after {}: less flows than was said, the sensor sits where no "
                   "fuel passes, or the fill is in another tank. Nothing is tuned on it.",
                   minutes(at_s));
    } else if (at_s >= settling.purge_s() && !asBefore && stands(shown)) {
        const bool isSo = std::abs(out.now - after) <= kSameContent;
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
