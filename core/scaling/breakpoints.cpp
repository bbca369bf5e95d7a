#include "core/scaling/breakpoints.h"

#include "core/fit/least_worst.h"
#include <algorithm>
#include <bitset>
#include <cmath>
#include <limits>
#include <memory>
#include <numeric>

namespace vicegrip::scaling {
namespace {

using Curve = std::span<const Sample>;

constexpr size_t kPlacesPerSegment = 8; ///< of a linear program's first rows
constexpr double kNear = 1e-4; ///< of a tolerance: it is not halved further

double heldAt(const Sample& s)
{
    return s.y + s.rounding;
}

/// Walks away from `start` while any straight line from there can stay within `off` of every sample passed, and tells
/// of each sample whose own chord does, with room for its rounding.
template <class Tell> void reach(Curve curve, size_t start, double off, Tell tell)
{
    double least = -std::numeric_limits<double>::infinity(), most = -least;
    const double x0 = curve[start].x, y0 = heldAt(curve[start]);
    for (size_t j = start + 1; j < curve.size(); ++j) {
        const double run = 1 / (curve[j].x - x0);
        const double slope = (heldAt(curve[j]) - y0) * run;
        if (curve[j].breakpoint && slope >= least && slope <= most && std::abs(curve[j].rounding) <= off)
            tell(j);
        const double rise = curve[j].y - y0;
        least = std::max(least, (rise - off) * run);
        most = std::min(most, (rise + off) * run);
        if (least > most)
            return;
    }
}

/// Whether a table that begins (`end` the first sample) or ends (the last) with this point is flat within its share of
/// `off` up to there. The curve goes one way, so the end is the worst of it.
bool flatTo(const Sample& end, const Sample& breakpoint, double off, double endShare)
{
    if (!breakpoint.breakpoint || std::abs(breakpoint.rounding) > off)
        return false;
    return &end == &breakpoint || std::abs(heldAt(breakpoint) - end.y) <= endShare * off;
}

/// The farthest chord each time, from the farthest begin; empty when more than `segments` of them are needed.
std::vector<size_t> farthest(Curve curve, size_t segments, double off, double endShare)
{
    std::vector<size_t> breakpoints;
    for (size_t i = 0; i < curve.size() && std::abs(curve[i].y - curve[0].y) <= 2 * off; ++i)
        if (flatTo(curve.front(), curve[i], off, endShare))
            breakpoints = {i};
    if (breakpoints.empty())
        return {};
    while (!flatTo(curve.back(), curve[breakpoints.back()], off, endShare)) {
        if (breakpoints.size() > segments)
            return {};
        size_t far = breakpoints.back();
        reach(curve, breakpoints.back(), off, [&](size_t j) { far = j; });
        if (far == breakpoints.back())
            return {};
        breakpoints.push_back(far);
    }
    return breakpoints;
}

/// A way of exactly `segments` chords within `off`; empty when there is none. Fewer would not do: a breakpoint more on
/// the curve may bend a chord that was near enough without it.
std::vector<size_t> exactly(Curve curve, size_t segments, double off, double endShare)
{
    using Places = std::bitset<kExactSamples>;
    std::vector<Places> chords(curve.size()); // of each place, where a chord may go
    for (size_t i = 0; i + 1 < curve.size(); ++i)
        if (curve[i].breakpoint)
            reach(curve, i, off, [&](size_t j) { chords[i].set(j); });
    std::vector<Places> after(segments + 1); // so many chords, the places that are reached
    Places ends;
    for (size_t i = 0; i < curve.size(); ++i) {
        after[0][i] = flatTo(curve.front(), curve[i], off, endShare);
        ends[i] = flatTo(curve.back(), curve[i], off, endShare);
    }
    for (size_t k = 0; k < segments; ++k)
        for (size_t i = k; i < curve.size(); ++i)
            if (after[k][i])
                after[k + 1] |= chords[i];
    const Places done = after[segments] & ends;
    if (done.none())
        return {};
    size_t last = curve.size() - 1;
    while (!done[last])
        --last;
    std::vector<size_t> breakpoints = {last};
    for (size_t k = segments; k-- > 0;) {
        size_t i = k;
        while (!after[k][i] || !chords[i][breakpoints.back()])
            ++i;
        breakpoints.push_back(i);
    }
    std::ranges::reverse(breakpoints);
    return breakpoints;
}

std::vector<size_t> evenBreakpoints(size_t samples, size_t count)
{
    std::vector<size_t> breakpoints;
    for (size_t i = 0; i < count; ++i)
        breakpoints.push_back(i * (samples - 1) / (count - 1));
    return breakpoints;
}

/// Of so many places as can be placed exactly, each the n-th.
std::vector<size_t> everyNth(const std::vector<size_t>& of)
{
    std::vector<size_t> out;
    for (size_t k : evenBreakpoints(of.size(), std::min(of.size(), kExactSamples)))
        out.push_back(of[k]);
    return out;
}

std::vector<size_t> mayBeBreakpoints(Curve curve)
{
    std::vector<size_t> out;
    for (size_t i = 0; i < curve.size(); ++i)
        if (curve[i].breakpoint)
            out.push_back(i);
    return out;
}

/// An ECU that has so many points gets so many: those left over go into the middle of the widest gaps. `may` are the
/// samples they may go to, the breakpoints among them.
void fillUp(std::vector<size_t>& breakpoints, size_t count, const std::vector<size_t>& may)
{
    std::vector<size_t> at; // their places in `may`
    for (size_t k : breakpoints)
        at.push_back(static_cast<size_t>(std::ranges::lower_bound(may, k) - may.begin()));
    while (at.size() < count) {
        size_t from = 0, widest = 0;
        for (size_t i = 0; i <= at.size(); ++i) {
            const size_t first = i == 0 ? 0 : at[i - 1] + 1, end = i == at.size() ? may.size() : at[i];
            if (end - first > widest) {
                from = first;
                widest = end - first;
            }
        }
        at.insert(std::ranges::upper_bound(at, from), from + widest / 2);
    }
    breakpoints.clear();
    for (size_t i : at)
        breakpoints.push_back(may[i]);
}

} // namespace

namespace {

/// worstOff with the flat ends weighed.
double weighed(Curve curve, const std::vector<size_t>& breakpoints, double endShare)
{
    double worst = 0;
    const auto look = [&](size_t i, double line, double share = 1) {
        if (const double off = std::abs(line - curve[i].y); off > worst * share)
            worst = off / share;
    };
    for (size_t i = 0; i < breakpoints.front(); ++i)
        look(i, heldAt(curve[breakpoints.front()]), endShare);
    look(breakpoints.front(), heldAt(curve[breakpoints.front()]));
    for (size_t k = 1; k < breakpoints.size(); ++k) {
        const Sample &a = curve[breakpoints[k - 1]], &b = curve[breakpoints[k]];
        const double slope = (heldAt(b) - heldAt(a)) / (b.x - a.x);
        for (size_t i = breakpoints[k - 1] + 1; i <= breakpoints[k]; ++i)
            look(i, heldAt(a) + slope * (curve[i].x - a.x));
    }
    for (size_t i = breakpoints.back() + 1; i < curve.size(); ++i)
        look(i, heldAt(curve[breakpoints.back()]), endShare);
    return worst;
}

/// Halves the tolerance down to where `place` finds nothing any more. `breakpoints` are the best so far.
template <class Place> void tighten(Curve curve, std::vector<size_t>& breakpoints, double endShare, Place place)
{
    double most = weighed(curve, breakpoints, endShare), least = 0;
    while (most - least > kNear * most && most > 1e-12) {
        const double off = std::midpoint(least, most);
        auto better = place(off);
        if (better.empty()) {
            least = off;
            continue;
        }
        breakpoints = std::move(better);
        most = std::min(off, weighed(curve, breakpoints, endShare)); // often well below what was asked
    }
}

} // namespace

double worstOff(Curve curve, const std::vector<size_t>& breakpoints)
{
    return weighed(curve, breakpoints, 1);
}

std::vector<size_t> bestBreakpoints(Curve curve, size_t count, double endShare)
{
    const auto may = mayBeBreakpoints(curve);
    std::vector<size_t> breakpoints;
    for (size_t k : evenBreakpoints(may.size(), count))
        breakpoints.push_back(may[k]);
    tighten(curve, breakpoints, endShare, [&](double off) { return farthest(curve, count - 1, off, endShare); });
    fillUp(breakpoints, count, may);

    const auto places = curve.size() <= kExactSamples ? evenBreakpoints(curve.size(), curve.size())
                                                      : everyNth(may); // of those that may be breakpoints
    std::vector<Sample> fewer;
    for (size_t p : places)
        fewer.push_back(curve[p]);
    if (count <= fewer.size()) {
        // One look whether anything is to be gained: on a plain bend the farthest chords are the answer already.
        const double now = weighed(curve, breakpoints, endShare);
        auto exact = exactly(fewer, count - 1, now * (1 - kNear), endShare);
        if (!exact.empty()) {
            tighten(fewer, exact, endShare, [&](double off) { return exactly(fewer, count - 1, off, endShare); });
            for (size_t& k : exact)
                k = places[k];
            if (weighed(curve, exact, endShare) < now)
                breakpoints = std::move(exact);
        }
    }
    return breakpoints;
}

namespace {

/// The breakpoints' values whose worst error over chosen samples is least.
class LeastOff
{
  public:
    LeastOff(Curve curve, const std::vector<size_t>& breakpoints)
        : m_least(static_cast<int>(breakpoints.size())),
          m_curve(curve),
          m_breakpoints(breakpoints),
          m_zero(curve.front().y),
          m_span(curve.back().y - m_zero) // scaled to 0..1 for the solver's tolerances
    {
        for (int k = 0; k + 1 < static_cast<int>(breakpoints.size()); ++k)
            m_least.demand({{k, -1}, {k + 1, 1}}, 0); // towards the curve's end
    }

    void addSample(size_t i)
    {
        const Sample& s = m_curve[i];
        const double y = (s.y - m_zero) / m_span;
        const auto right = static_cast<size_t>(std::ranges::lower_bound(m_breakpoints, i) - m_breakpoints.begin());
        if (right == 0 || right == m_breakpoints.size()) { // flat beyond the outermost
            m_least.approach({{static_cast<int>(std::clamp<size_t>(right, 1, m_breakpoints.size())) - 1, 1}}, y);
            return;
        }
        const Sample &a = m_curve[m_breakpoints[right - 1]], &b = m_curve[m_breakpoints[right]];
        const double share = (s.x - a.x) / (b.x - a.x);
        const int left = static_cast<int>(right) - 1;
        m_least.approach({{left, 1 - share}, {left + 1, share}}, y);
    }

    /// Empty when the programme has no answer.
    std::vector<double> solved()
    {
        std::vector<double> out = m_least.solved().value_or(std::vector<double>{});
        for (double& y : out)
            y = m_zero + m_span * y;
        return out;
    }

  private:
    fit::LeastWorst m_least;
    Curve m_curve;
    const std::vector<size_t>& m_breakpoints;
    double m_zero, m_span;
};

/// Of every segment, and of the flat ends, the sample these values miss most.
std::vector<std::pair<size_t, double>> missed(Curve curve, const std::vector<size_t>& breakpoints,
                                              const std::vector<double>& values)
{
    std::vector<std::pair<size_t, double>> out(breakpoints.size() + 1, {0, 0});
    for (size_t i = 0, right = 0; i < curve.size(); ++i) {
        while (right < breakpoints.size() && breakpoints[right] < i)
            ++right;
        const auto line = [&] {
            if (right == 0 || right == breakpoints.size())
                return right == 0 ? values.front() : values.back();
            const Sample &a = curve[breakpoints[right - 1]], &b = curve[breakpoints[right]];
            return std::lerp(values[right - 1], values[right], (curve[i].x - a.x) / (b.x - a.x));
        };
        const double off = std::abs(line() - curve[i].y);
        if (off > out[right].second)
            out[right] = {i, off};
    }
    return out;
}

} // namespace

std::vector<double> bestValues(Curve curve, const std::vector<size_t>& breakpoints)
{
    LeastOff program(curve, breakpoints);
    program.addSample(0);
    program.addSample(curve.size() - 1);
    for (size_t k = 1; k < breakpoints.size(); ++k) {
        const size_t from = breakpoints[k - 1], width = breakpoints[k] - from,
                     steps = std::min(width, kPlacesPerSegment);
        for (size_t i = 0; i <= steps; ++i)
            program.addSample(from + i * width / steps);
    }
    std::vector<double> best;
    for (const size_t k : breakpoints) // an unsolved program leaves the breakpoints on the curve
        best.push_back(curve[k].y);
    const auto worstOf = [](const auto& places) {
        return std::ranges::max(places, {}, &std::pair<size_t, double>::second).second;
    };
    double least = worstOf(missed(curve, breakpoints, best));
    constexpr int kRounds = 8;
    for (int round = 0; round < kRounds; ++round) {
        const auto values = program.solved();
        if (values.empty())
            break;
        const auto places = missed(curve, breakpoints, values);
        const double worst = worstOf(places);
        const bool better = worst < least * (1 - 1e-6);
        if (worst < least) {
            least = worst;
            best = values;
        }
        if (!better && round > 0)
            break;
        for (const auto& [i, off] : places)
            if (off > 0)
                program.addSample(i);
    }
    return best;
}

} // namespace vicegrip::scaling
