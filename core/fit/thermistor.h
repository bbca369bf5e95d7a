#pragma once

#include "core/base/result.h"
#include "core/parts/resistance_curve.h"

#include <vector>

/// A thermistor's curve from its own readings.
namespace vicegrip::fit {

struct ThermistorFit
{
    parts::SteinhartHartCurve curve;
    std::vector<double> residuals_k; ///< temperature that was read less the curve's, in the order of the points
    double worst_k = 0; ///< largest of them
};

/// Steinhart-Hart through readings, by least squares in 1/T (Steinhart, Hart 1968): exact through three. Errors
/// (Range): fewer than three points, temperatures or resistances at or below 0, points closer than 2 K, two
/// temperatures of one resistance, readings whose resistance does not fall with temperature, and a curve that turns
/// back within them.
[[nodiscard]] Result<ThermistorFit> fitThermistor(const std::vector<parts::TableCurve::Point>& readings);

} // namespace vicegrip::fit
