#include "core/fit/monotone.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::fit {
namespace {

/// The slope at an end, from the three points there (Moler, "Numerical Computing with MATLAB", 2004, 3.4): kept within
/// what leaves the piece monotone.
double endSlope(double near, double far, double nearRise, double farRise)
{
    const double slope = ((2 * near + far) * nearRise - near * farRise) / (near + far);
    if (slope * nearRise <= 0)
        return 0;
    if (nearRise * farRise <= 0 && std::abs(slope) > 3 * std::abs(nearRise))
        return 3 * nearRise;
    return slope;
}

} // namespace

/// Slopes by Fritsch and Butland (SIAM Journal on Scientific and Statistical Computing 5, 1984): the weighted harmonic
/// mean of the rises at both sides, 0 where they differ in sign.
Result<Monotone> Monotone::through(std::vector<Breakpoint> breakpoints)
{
    if (breakpoints.size() < 2)
        return fail(ErrorCode::Range, phrase("a curve needs at least two points"));
    std::ranges::sort(breakpoints, {}, &Breakpoint::x);
    const auto same = std::ranges::adjacent_find(breakpoints, {}, &Breakpoint::x);
    if (same != breakpoints.end())
        return fail(ErrorCode::Range, phrase("two points have the same x"));
    std::vector<double> wide, rise;
    for (size_t i = 1; i < breakpoints.size(); ++i) {
        wide.push_back(breakpoints[i].x - breakpoints[i - 1].x);
        rise.push_back((breakpoints[i].y - breakpoints[i - 1].y) / wide.back());
    }
    Monotone out;
    out.m_slopes.assign(breakpoints.size(), rise.front());
    for (size_t i = 1; i + 1 < breakpoints.size(); ++i) {
        const double left = wide[i] * 2 + wide[i - 1], right = wide[i] + wide[i - 1] * 2;
        out.m_slopes[i] = rise[i - 1] * rise[i] <= 0 ? 0 : (left + right) / (left / rise[i - 1] + right / rise[i]);
    }
    if (breakpoints.size() > 2) {
        const size_t last = rise.size() - 1;
        out.m_slopes.front() = endSlope(wide[0], wide[1], rise[0], rise[1]);
        out.m_slopes.back() = endSlope(wide[last], wide[last - 1], rise[last], rise[last - 1]);
    }
    out.m_breakpoints = std::move(breakpoints);
    return out;
}

double Monotone::at(double x) const
{
    if (x <= m_breakpoints.front().x)
        return m_breakpoints.front().y;
    if (x >= m_breakpoints.back().x)
        return m_breakpoints.back().y;
    const auto next = std::ranges::upper_bound(m_breakpoints, x, {}, &Breakpoint::x);
    const auto i = static_cast<size_t>(next - m_breakpoints.begin()) - 1;
    const Breakpoint &a = m_breakpoints[i], &b = m_breakpoints[i + 1];
    const double h = b.x - a.x, t = (x - a.x) / h, s = 1 - t;
    return a.y * (1 + 2 * t) * s * s + m_slopes[i] * h * t * s * s + b.y * t * t * (3 - 2 * t) -
           m_slopes[i + 1] * h * t * t * s;
}

} // namespace vicegrip::fit
