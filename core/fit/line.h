#pragma once

#include "core/base/result.h"

#include <vector>

/// A straight line through readings that are uncertain in both axes.
namespace vicegrip::fit {

struct Point
{
    double x = 0, y = 0;
    double sigmaX = 0, sigmaY = 0; ///< standard deviations, in the axis' unit; 0: none in this axis
};

struct Line
{
    double slope = 0, intercept = 0;
    double sigmaSlope = 0, sigmaIntercept = 0;
    double covariance = 0; ///< of slope and intercept
    double chiSquared = 0; ///< of the residuals; about `freedom` where the stated sigmas are right
    int freedom = 0; ///< points less two
    std::vector<double> residuals; ///< y less the line, in the order of the points
    std::vector<double> pulls; ///< residuals in their own standard deviations

    [[nodiscard]] double at(double x) const { return intercept + slope * x; }
    /// Half the width of the band the line itself lies in, one standard deviation.
    [[nodiscard]] double sigmaAt(double x) const;
};

/// What chi squared exceeds by chance in one case of a hundred (Wilson, Hilferty, "The distribution of chi-square",
/// PNAS 17, 1931).
[[nodiscard]] double chiSquaredLimit(int freedom);

/// York's line (York, "Least-squares fitting of a straight line", Canadian Journal of Physics 44, 1966; standard
/// deviations by York, Evensen, Lopez Martinez, De Basabe Delgado, American Journal of Physics 72, 2004). His iteration
/// is held against the least chi squared over all directions, which is taken where he has not found it. Where no point
/// states a sigma all weigh alike, and sigmas come from the scatter. Errors (Range): fewer than three points, a
/// sigma below 0, some points with sigmas and some without, all x in one place.
[[nodiscard]] Result<Line> fitLine(const std::vector<Point>& points);

} // namespace vicegrip::fit
