#include "core/throttle/strokes.h"

#include "core/base/median.h"
#include "core/base/phrase.h"
#include "core/throttle/dead_spots.h"

#include <algorithm>
#include <cmath>
#include <span>

namespace vicegrip::throttle {
namespace {

constexpr double kNormal = 1.4826; ///< standard deviations in a median absolute deviation of normal noise
constexpr double kShortestRest_s = 0.25;
constexpr double kEndShare = 0.15; ///< of the travel: there must be a rest no farther in
constexpr double kStopShare = 0.05; ///< of the travel from the outermost rest: others farther in are pauses of the hand
constexpr double kLeastTravel_v = 0.3; ///< less is no stroke

/// At most so many of them, evenly: a median of ten million is no better than one of a hundred thousand.
template <class Take> std::vector<double> some(size_t count, Take take)
{
    constexpr size_t kEnough = 100000;
    const size_t step = std::max<size_t>(1, count / kEnough);
    std::vector<double> out;
    for (size_t i = 0; i < count; i += step)
        out.push_back(take(i));
    return out;
}

/// Noise of one sample, from steps between neighbours: movement is slow against it, and outliers do not count.
double noiseOf(std::span<const double> volts, double volts_per_count)
{
    const auto steps = some(volts.size() - 1, [&](size_t i) { return std::abs(volts[i + 1] - volts[i]); });
    return std::max(kNormal * median(steps) / std::sqrt(2.0), volts_per_count / std::sqrt(12.0));
}

struct Span
{
    double low = 0, high = 0;
};

/// Samples that jump far away and, before long, far back: a wiper that lifts, a touched wire. A hand that is quicker
/// than the samples does the same, but not for so short a part of the recording.
std::vector<bool> wildIn(std::span<const double> volts)
{
    constexpr double kJump = 0.12, kMost = 0.05; // of the whole span, less than kEndShare; of the samples
    const auto [least, most] = std::ranges::minmax(volts);
    const double jump = kJump * (most - least);
    std::vector<bool> wild(volts.size());
    for (const double way : {-1.0, 1.0}) { // away below, away above
        std::vector<std::pair<size_t, size_t>> runs;
        size_t count = 0;
        for (size_t i = 1, from = 0; i < volts.size(); ++i) {
            const double step = (volts[i] - volts[i - 1]) * way;
            if (step > jump)
                from = i;
            if (step < -jump && from > 0) {
                runs.emplace_back(from, i);
                count += i - from;
                from = 0;
            }
        }
        if (static_cast<double>(count) > kMost * static_cast<double>(volts.size()))
            continue;
        for (const auto& [from, to] : runs)
            std::fill(wild.begin() + static_cast<std::ptrdiff_t>(from), wild.begin() + static_cast<std::ptrdiff_t>(to),
                      true);
    }
    return wild;
}

/// Where the signal is for all but one in a hundred samples, either side, wild ones apart: a single one is no stop.
Span spanOf(std::span<const double> volts, const std::vector<bool>& wild)
{
    std::vector<double> tame;
    for (size_t i = 0; i < volts.size(); ++i)
        if (!wild[i])
            tame.push_back(volts[i]);
    auto values = some(tame.size(), [&](size_t i) { return tame[i]; });
    const auto at = [&](double share) {
        const auto place = values.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(values.size() - 1));
        std::ranges::nth_element(values, place);
        return *place;
    };
    return {at(0.01), at(0.99)};
}

/// Runs in which every sample stays within `band` of the run's middle so far, whatever wild ones there are between.
std::vector<Rest> restsIn(const Recording& r, const std::vector<bool>& wild, double band)
{
    std::vector<Rest> out;
    size_t from = 0;
    double middle = r.volts.front();
    int outside = 0;
    const auto close = [&](size_t to) {
        if (to > from && r.time_s[to - 1] - r.time_s[from] >= kShortestRest_s)
            out.push_back({from, to});
    };
    for (size_t i = 1; i < r.volts.size(); ++i) {
        if (wild[i])
            continue;
        if (std::abs(r.volts[i] - middle) <= band) {
            outside = 0;
            middle += (r.volts[i] - middle) / static_cast<double>(i - from + 1);
            continue;
        }
        if (++outside < 3) // one or two wild samples do not end a rest
            continue;
        close(i - 2);
        from = i;
        middle = r.volts[i];
        outside = 0;
    }
    close(r.volts.size());
    std::erase_if(out, [&](const Rest& rest) { // nothing but a place where the wiper was off
        const auto begin = wild.begin() + static_cast<std::ptrdiff_t>(rest.from);
        const auto off = std::count(begin, wild.begin() + static_cast<std::ptrdiff_t>(rest.to), true);
        return 2 * static_cast<size_t>(off) > rest.to - rest.from;
    });
    for (Rest& rest : out) {
        const auto values = some(rest.to - rest.from, [&](size_t i) { return r.volts[rest.from + i]; });
        rest.volts = median(values);
        const auto off = some(values.size(), [&](size_t i) { return std::abs(values[i] - rest.volts); });
        rest.sigma = kNormal * median(off);
    }
    return out;
}

/// Neighbouring rests in one place with nothing between them are one that wild samples cut.
void joinCut(std::vector<Rest>& rests, double band)
{
    std::vector<Rest> out;
    for (const Rest& r : rests)
        if (out.empty() || r.from - out.back().to > 8 || std::abs(r.volts - out.back().volts) > band)
            out.push_back(r);
        else
            out.back().to = r.to;
    rests = std::move(out);
}

/// Only the rests at the stop: `outward` 1 where it is the higher one.
std::vector<Rest> atStop(const std::vector<Rest>& rests, double outward, double near)
{
    const double outermost = std::ranges::max(rests, {}, [&](const Rest& r) { return outward * r.volts; }).volts;
    std::vector<Rest> out;
    for (const Rest& r : rests)
        if (std::abs(r.volts - outermost) <= near)
            out.push_back(r);
    return out;
}

double medianVolts(const std::vector<Rest>& rests)
{
    std::vector<double> volts;
    for (const Rest& r : rests)
        volts.push_back(r.volts);
    return median(volts);
}

double spreadOf(const std::vector<Rest>& rests)
{
    const auto [least, most] = std::ranges::minmax(rests, {}, &Rest::volts);
    return most.volts - least.volts;
}

/// The line between two tracks: through their medians at the stops, so that a dead spot does not tilt it.
Pair pairOf(const Recording& r, const Report& report)
{
    const auto secondAt = [&](const std::vector<Rest>& rests) {
        std::vector<double> middles;
        for (const Rest& rest : rests)
            middles.push_back(median(some(rest.to - rest.from, [&](size_t i) { return r.second[rest.from + i]; })));
        return median(middles);
    };
    const double closed = secondAt(report.closed), open = secondAt(report.open);
    Pair pair;
    pair.slope = (open - closed) / report.travel_v();
    pair.offset_v = closed - pair.slope * report.closed_v;
    pair.crossed = pair.slope < 0;
    for (size_t i = 0; i < r.volts.size(); ++i)
        pair.worst_v = std::max(pair.worst_v, std::abs(r.second[i] - pair.offset_v - pair.slope * r.volts[i]));
    return pair;
}

} // namespace

Result<Report> reportOn(const Recording& r, double volts_per_count)
{
    const double noise = noiseOf(r.volts, volts_per_count);
    const std::vector<bool> wild = wildIn(r.volts);
    const Span span = spanOf(r.volts, wild);
    const double travel = span.high - span.low;
    if (travel < std::max(kLeastTravel_v, 10 * noise))
        return fail(ErrorCode::Range,
                    phrase("the signal never moves: was the throttle opened, and is this its input?"));
    const double band = std::max(4 * noise, 0.004 * travel);
    auto rests = restsIn(r, wild, band);
    joinCut(rests, band);
    std::vector<Rest> low, high;
    for (const Rest& rest : rests) {
        if (rest.volts < span.low + kEndShare * travel)
            low.push_back(rest);
        else if (rest.volts > span.high - kEndShare * travel)
            high.push_back(rest);
    }
    if (low.empty() || high.empty())
        return fail(ErrorCode::Range, phrase("{}{} end: hold it still at each stop for half a second",
                                             phrase("there is no rest at the "), (low.empty() ? "low" : "high")));
    Report out;
    out.falls = high.front().from < low.front().from; // the hand begins with it shut
    const double near = std::max(kStopShare * travel, band);
    low = atStop(low, -1, near);
    high = atStop(high, 1, near);
    out.closed = out.falls ? high : low;
    out.open = out.falls ? low : high;
    out.closed_v = medianVolts(out.closed);
    out.open_v = medianVolts(out.open);
    out.closedSpread_v = spreadOf(out.closed);
    out.openSpread_v = spreadOf(out.open);
    std::vector<double> sigmas;
    for (const auto* stop : {&out.closed, &out.open})
        for (const Rest& rest : *stop)
            sigmas.push_back(rest.sigma);
    out.noise_v = std::max(median(sigmas), volts_per_count / std::sqrt(12.0));

    const auto strokes = strokesBetween(out.closed, out.open);
    out.strokes = static_cast<int>(strokes.size());
    out.deadSpots = deadSpotsOf(r, strokes, std::max(6 * out.noise_v, 0.01 * travel), travel);
    out.margin_v = std::max(3 * out.noise_v, volts_per_count);
    const double inward = out.falls ? -1 : 1;
    const auto innermost = [](const std::vector<Rest>& stop, double way) {
        return std::ranges::max(stop, {}, [&](const Rest& rest) { return way * rest.volts; }).volts;
    };
    out.limits = {innermost(out.closed, inward) + inward * out.margin_v,
                  innermost(out.open, -inward) - inward * out.margin_v};
    if (!r.second.empty())
        out.pair = pairOf(r, out);
    return out;
}

} // namespace vicegrip::throttle
