#include "core/timing_light/timing_light.h"

#include "core/base/phrase.h"
#include "core/fit/line.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::timing_light {
namespace {

constexpr double kDegrees_s = 6; // in a second, of a turn a minute
constexpr double kTwo = 2; // standard deviations

std::string seenDegrees(double deg)
{
    return units::formatNumber(deg, 1) + "°";
}

std::string micros(double s)
{
    return units::formatNumber(s * 1e6, 0) + " µs";
}

/// Two points: the line is theirs, and its errors are those of its ends.
fit::Line through(const fit::Point& a, const fit::Point& b)
{
    fit::Line out;
    const double run = b.x - a.x;
    out.slope = (b.y - a.y) / run;
    out.intercept = a.y - out.slope * a.x;
    const double ofA = std::hypot(a.sigmaY, out.slope * a.sigmaX), ofB = std::hypot(b.sigmaY, out.slope * b.sigmaX);
    out.sigmaSlope = std::hypot(ofA, ofB) / std::abs(run);
    out.sigmaIntercept = std::hypot(ofA * b.x, ofB * a.x) / std::abs(run);
    out.residuals = {0, 0};
    return out;
}

} // namespace

Result<Lock> lockOf(std::span<const Seen> readings, const Known& known)
{
    std::vector<fit::Point> points;
    for (const Seen& r : readings) {
        if (!(r.rpm > 0) || !std::isfinite(r.rpm + r.commanded_deg + r.seen_deg))
            return fail(ErrorCode::Range, phrase("a reading wants a speed above nothing, and two angles"));
        points.push_back(
            {kDegrees_s * r.rpm, r.seen_deg - r.commanded_deg, kDegrees_s * r.rpm * known.rpm, known.seen_deg});
    }
    if (points.size() < 2)
        return fail(ErrorCode::Range, phrase("two readings are wanted, at two speeds: one cannot part an offset from a "
                                             "delay"));
    const auto [slow, fast] = std::ranges::minmax(points, {}, &fit::Point::x);
    constexpr double kApart = 1.3;
    if (fast.x < kApart * slow.x)
        return fail(ErrorCode::Range, phrase("the speeds are too close together: take one near idle, and one at twice "
                                             "that or more"));
    const auto line = points.size() == 2 ? Result<fit::Line>(through(points[0], points[1])) : fit::fitLine(points);
    if (!line)
        return tl::make_unexpected(line.error());
    Lock out;
    out.offset_deg = line->intercept;
    out.offsetWithin_deg = kTwo * line->sigmaIntercept;
    out.delay_s = -line->slope;
    out.delayWithin_s = kTwo * line->sigmaSlope;
    out.residuals_deg = line->residuals;
    out.agrees = line->freedom == 0 || line->chiSquared <= fit::chiSquaredLimit(line->freedom);
    return out;
}

bool stands(const Lock& lock, double most_s)
{
    return lock.agrees && std::abs(lock.offset_deg) <= lock.offsetWithin_deg &&
           std::abs(lock.delay_s) <= std::max(most_s, lock.delayWithin_s);
}

std::string todo(const Lock& lock, double most_s)
{
    if (!lock.agrees)
        return phrase("The readings lie on no line: something slips, or one was misread. Take them again, the timing "
                      "locked, before anything is set.");
    std::string out;
    if (std::abs(lock.offset_deg) <= lock.offsetWithin_deg)
        out = phrase("The offset stands: {} is within ± {} of the readings.", seenDegrees(lock.offset_deg),
                     seenDegrees(lock.offsetWithin_deg));
    else
        out =
            phrase("The spark comes {} {} than commanded, ± {}: move the trigger's offset by as much, then look again.",
                   seenDegrees(std::abs(lock.offset_deg)), lock.offset_deg > 0 ? phrase("earlier") : phrase("later"),
                   seenDegrees(lock.offsetWithin_deg));
    if (std::abs(lock.delay_s) <= lock.delayWithin_s)
        return out + " " + phrase("No delay shows (within ± {}).", micros(lock.delayWithin_s));
    if (lock.delay_s < 0)
        return out + " " +
               phrase("It comes earlier the faster the engine turns, by {}: the ECU makes up for more delay "
                      "than there is. Take that off its setting.",
                      micros(-lock.delay_s));
    if (lock.delay_s > most_s)
        return out + " " +
               phrase("It is {} late at every speed, more than the {} that an ECU usually holds (typical): "
                      "look at the sensor's conditioner, its filter and the coil driver.",
                      micros(lock.delay_s), micros(most_s));
    return out + " " +
           phrase("It is {} ± {} late at every speed: that is the delay to set.", micros(lock.delay_s),
                  micros(lock.delayWithin_s));
}

} // namespace vicegrip::timing_light
