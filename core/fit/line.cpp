#include "core/fit/line.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <limits>

namespace vicegrip::fit {
namespace {

constexpr size_t kLeastPoints = 3;

bool isStated(const Point& p)
{
    return p.sigmaX > 0 || p.sigmaY > 0;
}

Result<void> check(const std::vector<Point>& points)
{
    if (points.size() < kLeastPoints)
        return fail(ErrorCode::Range, phrase("a line needs at least three points: two always agree with it"));
    if (std::ranges::any_of(points, [](const Point& p) { return p.sigmaX < 0 || p.sigmaY < 0; }))
        return fail(ErrorCode::Range, phrase("a standard deviation is below 0"));
    const auto stated = std::ranges::count_if(points, isStated);
    if (stated != 0 && stated != static_cast<long>(points.size()))
        return fail(ErrorCode::Range, phrase("some points state an uncertainty and some do not"));
    const auto [least, most] = std::ranges::minmax(points, {}, &Point::x);
    if (!(most.x > least.x))
        return fail(ErrorCode::Range, phrase("all points have the same x: no line can be told from another"));
    return {};
}

/// Sums of one step of York's iteration, for the slope of the step before.
struct Step
{
    double weights = 0, meanX = 0, meanY = 0;
    double slope = 0;
    std::vector<double> weight, adjusted; ///< W, and x as the line moves it
};

Step step(const std::vector<Point>& points, double slope)
{
    Step s;
    for (const Point& p : points) {
        s.weight.push_back(1 / (p.sigmaY * p.sigmaY + slope * slope * p.sigmaX * p.sigmaX));
        s.weights += s.weight.back();
        s.meanX += s.weight.back() * p.x;
        s.meanY += s.weight.back() * p.y;
    }
    s.meanX /= s.weights;
    s.meanY /= s.weights;
    double above = 0, below = 0;
    for (size_t i = 0; i < points.size(); ++i) {
        const Point& p = points[i];
        const double u = p.x - s.meanX, v = p.y - s.meanY;
        const double beta = s.weight[i] * (u * p.sigmaY * p.sigmaY + slope * v * p.sigmaX * p.sigmaX);
        s.adjusted.push_back(s.meanX + beta);
        above += s.weight[i] * beta * v;
        below += s.weight[i] * beta * u;
    }
    s.slope = above / below;
    return s;
}

/// The slope of least squares in y alone, to begin with. Means are taken off first: readings may lie far from 0.
double plainSlope(const std::vector<Point>& points)
{
    double meanX = 0, meanY = 0;
    const auto n = static_cast<double>(points.size());
    for (const Point& p : points) {
        meanX += p.x / n;
        meanY += p.y / n;
    }
    double xy = 0, xx = 0;
    for (const Point& p : points) {
        xy += (p.x - meanX) * (p.y - meanY);
        xx += (p.x - meanX) * (p.x - meanX);
    }
    return xy / xx;
}

double chiSquared(const std::vector<Point>& points, double slope)
{
    const Step s = step(points, slope);
    double sum = 0;
    for (size_t i = 0; i < points.size(); ++i) {
        const double off = points[i].y - s.meanY - slope * (points[i].x - s.meanX);
        sum += s.weight[i] * off * off;
    }
    return sum;
}

/// The slope of least chi squared, by looking at all directions and then closer at the best: York's iteration finds it
/// in a few steps from nearby, and wanders off where sigmas are as wide as the points lie apart.
double leastSlope(const std::vector<Point>& points)
{
    const auto apart = [&](double Point::*axis) {
        const auto [least, most] = std::ranges::minmax(points, {}, axis);
        return most.*axis - least.*axis;
    };
    const double high = apart(&Point::y), scale = (high > 0 ? high : 1) / apart(&Point::x);
    const auto off = [&](double angle) { return chiSquared(points, scale * std::tan(angle)); };
    constexpr int kDirections = 360;
    constexpr double kHalfTurn = 3.14159265358979323846;
    double best = 0;
    for (int i = 1; i < kDirections; ++i) {
        const double angle = kHalfTurn * (static_cast<double>(i) / kDirections - 0.5);
        if (i == 1 || off(angle) < off(best))
            best = angle;
    }
    const double step = kHalfTurn / kDirections;
    const auto [closer, least] =
        boost::math::tools::brent_find_minima(off, best - step, best + step, std::numeric_limits<double>::digits / 2);
    return scale * std::tan(least < off(best) ? closer : best);
}

} // namespace

double chiSquaredLimit(int freedom)
{
    constexpr double kNormal = 2.326348; // one in a hundred lies beyond
    const double spread = 2.0 / (9 * freedom);
    return freedom * std::pow(1 - spread + kNormal * std::sqrt(spread), 3);
}

double Line::sigmaAt(double x) const
{
    return std::sqrt(
        std::max(0.0, sigmaIntercept * sigmaIntercept + 2 * x * covariance + x * x * sigmaSlope * sigmaSlope));
}

Result<Line> fitLine(const std::vector<Point>& given)
{
    if (auto good = check(given); !good)
        return tl::make_unexpected(good.error());
    std::vector<Point> points = given;
    const bool stated = isStated(points.front());
    if (!stated)
        for (Point& p : points)
            p.sigmaY = 1;
    constexpr int kMostSteps = 200;
    constexpr double kStill = 1e-15;
    double slope = plainSlope(points);
    Step s = step(points, slope);
    for (int i = 0; i < kMostSteps && std::abs(s.slope - slope) > kStill * std::abs(s.slope); ++i) {
        slope = s.slope;
        s = step(points, slope);
    }
    constexpr double kAsLow = 1 + 1e-9;
    const double least = leastSlope(points);
    if (!std::isfinite(s.slope) || chiSquared(points, s.slope) > chiSquared(points, least) * kAsLow) {
        s = step(points, least);
        s.slope = least;
    }
    if (!std::isfinite(s.slope) || !std::isfinite(chiSquared(points, s.slope)))
        return fail(ErrorCode::Range, phrase("the points lie on no line: it stands upright, or an axis says nothing"));
    Line out;
    out.slope = s.slope;
    out.intercept = s.meanY - s.slope * s.meanX;
    double mean = 0;
    for (size_t i = 0; i < points.size(); ++i)
        mean += s.weight[i] * s.adjusted[i] / s.weights;
    double spread = 0;
    for (size_t i = 0; i < points.size(); ++i)
        spread += s.weight[i] * (s.adjusted[i] - mean) * (s.adjusted[i] - mean);
    out.freedom = static_cast<int>(points.size()) - 2;
    for (size_t i = 0; i < points.size(); ++i) {
        out.residuals.push_back(points[i].y - out.at(points[i].x));
        out.chiSquared += s.weight[i] * out.residuals[i] * out.residuals[i];
    }
    // Without stated sigmas the scatter tells what one reading is worth.
    const double scale = stated ? 1 : out.chiSquared / out.freedom;
    const double variance = scale / spread;
    out.sigmaSlope = std::sqrt(variance);
    out.sigmaIntercept = std::sqrt(scale / s.weights + mean * mean * variance);
    out.covariance = -mean * variance;
    for (size_t i = 0; i < points.size(); ++i)
        out.pulls.push_back(scale > 0 ? out.residuals[i] * std::sqrt(s.weight[i] / scale) : 0);
    return out;
}

} // namespace vicegrip::fit
