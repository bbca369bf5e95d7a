#include "core/throttle/dead_spots.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace vicegrip::throttle {
namespace {

constexpr int kNothing = -1;

/// Longest run so far that ends at or below a step; a tree of maxima over prefixes (Fenwick, Software: Practice and
/// Experience 24, 1994).
class LongestBelow
{
  public:
    struct Run
    {
        int length = 0;
        int last = kNothing; ///< sample it ends with
    };

    explicit LongestBelow(size_t steps) : m_runs(steps + 1) {}

    [[nodiscard]] Run at(size_t step) const
    {
        Run best;
        for (size_t i = step + 1; i > 0; i -= i & (~i + 1))
            if (m_runs[i].length > best.length)
                best = m_runs[i];
        return best;
    }

    void put(size_t step, Run run)
    {
        for (size_t i = step + 1; i < m_runs.size(); i += i & (~i + 1))
            if (run.length > m_runs[i].length)
                m_runs[i] = run;
    }

  private:
    std::vector<Run> m_runs;
};

/// Which samples of a stroke belong to its course.
std::vector<bool> courseOf(std::span<const double> volts, bool rising, double step)
{
    const auto [least, most] = std::ranges::minmax(volts);
    const double lowest = least, highest = most;
    const auto stepOf = [&](double v) { return static_cast<size_t>((rising ? v - lowest : highest - v) / step); };
    LongestBelow longest(static_cast<size_t>((highest - lowest) / step) + 1);
    std::vector<int> before(volts.size());
    for (size_t i = 0; i < volts.size(); ++i) {
        const size_t here = stepOf(volts[i]);
        const auto run = longest.at(here);
        before[i] = run.last;
        longest.put(here, {run.length + 1, static_cast<int>(i)});
    }
    std::vector<bool> kept(volts.size(), false);
    for (int i = longest.at(stepOf(rising ? highest : lowest)).last; i != kNothing; i = before[static_cast<size_t>(i)])
        kept[static_cast<size_t>(i)] = true;
    return kept;
}

/// How far a sample lies outside what a course from one value to the other passes through: a sample between them is
/// on its way, however few samples a quick hand leaves.
double outside(double volts, double from, double to)
{
    const auto [low, high] = std::minmax(from, to);
    return std::max({low - volts, volts - high, 0.0});
}

/// Spots of one stroke.
std::vector<DeadSpot> inStroke(std::span<const double> volts, std::span<const double> time, bool rising, double least_v)
{
    std::vector<DeadSpot> out;
    const auto kept = courseOf(volts, rising, least_v / 2);
    size_t before = 0; // the last sample of the course
    for (size_t i = 0; i < volts.size();) {
        if (kept[i]) {
            before = i++;
            continue;
        }
        size_t after = i;
        while (after < volts.size() && !kept[after])
            ++after;
        DeadSpot spot;
        spot.strokes = 1;
        const double from = volts[kept[before] ? before : std::min(after, volts.size() - 1)];
        const double to = after < volts.size() ? volts[after] : from;
        for (; i < after; ++i) {
            const double depth = outside(volts[i], from, to);
            if (depth > spot.depth_v) {
                spot.depth_v = depth;
                spot.volts = std::midpoint(from, to);
                spot.time_s = time[i];
            }
        }
        if (spot.depth_v > least_v)
            out.push_back(spot);
    }
    return out;
}

} // namespace

std::vector<Stroke> strokesBetween(const std::vector<Rest>& closed, const std::vector<Rest>& open)
{
    struct Visit
    {
        const Rest* rest;
        bool open;
    };
    std::vector<Visit> visits;
    for (const Rest& r : closed)
        visits.push_back({&r, false});
    for (const Rest& r : open)
        visits.push_back({&r, true});
    std::ranges::sort(visits, {}, [](const Visit& v) { return v.rest->from; });
    std::vector<Stroke> out;
    for (size_t i = 1; i < visits.size(); ++i)
        if (visits[i].open != visits[i - 1].open)
            out.push_back({visits[i - 1].rest->to, visits[i].rest->from, visits[i].open});
    return out;
}

std::vector<DeadSpot> deadSpotsOf(const Recording& recording, const std::vector<Stroke>& strokes, double least_v,
                                  double travel_v)
{
    std::vector<DeadSpot> out;
    for (const Stroke& s : strokes) {
        if (s.to <= s.from)
            continue;
        const auto way = std::span(recording.volts).subspan(s.from, s.to - s.from);
        // Whether it rises is a matter of the ends, not of opening: a reversed one falls.
        std::vector<bool> counted(out.size(), false);
        const auto time = std::span(recording.time_s).subspan(s.from, s.to - s.from);
        for (const DeadSpot& spot : inStroke(way, time, way.back() > way.front(), least_v)) {
            const auto same = std::ranges::find_if(
                out, [&](const DeadSpot& d) { return std::abs(d.volts - spot.volts) < travel_v / 50; });
            if (same == out.end()) {
                out.push_back(spot);
                counted.push_back(true);
                continue;
            }
            const auto index = static_cast<size_t>(same - out.begin());
            same->depth_v = std::max(same->depth_v, spot.depth_v);
            if (!counted[index])
                ++same->strokes;
            counted[index] = true;
        }
    }
    std::ranges::sort(out, {}, &DeadSpot::volts);
    return out;
}

} // namespace vicegrip::throttle
