#pragma once

#include "core/base/result.h"
#include "core/parts/resistance_curve.h"

#include <Eigen/Core>
#include <vector>

/// A thermistor's curve from its own readings.
namespace vicegrip::fit {

struct ThermistorFit
{
    parts::SteinhartHartCurve curve;
    std::vector<double> residuals_k; ///< temperature that was read less the curve's, in the order of the points
    double worst_k = 0; ///< largest of them
    bool straight = false; ///< C would have been below 0: it is left out, and ln R is straight in 1/T (a beta curve)
    double middle = 0; ///< mean of ln R, about which the covariance is
    Eigen::Matrix3d covariance = Eigen::Matrix3d::Zero(); ///< of the terms in 1/T

    /// One standard deviation of the curve's own temperature at a resistance, K; 0: three readings tell none.
    [[nodiscard]] double sigmaAt(double ohm) const;
};

/// Steinhart-Hart through readings, by least squares in 1/T (Steinhart, Hart 1968): exact through three. Readings that
/// would want C below 0, which turns back somewhere and has no resistance at some temperatures, are fitted without it.
/// Where every reading states how well its temperature is known (`sigma_k`, as many) these weigh them, and tell how
/// well the curve is; else the scatter about it does. Errors (Range): fewer than three points, temperatures or
/// resistances at or below 0, points closer than 2 K, two temperatures of one resistance, readings whose resistance
/// does not fall with temperature, and a curve that turns back within them.
[[nodiscard]] Result<ThermistorFit> fitThermistor(const std::vector<parts::TableCurve::Point>& readings,
                                                  const std::vector<double>& sigma_k = {});

} // namespace vicegrip::fit
