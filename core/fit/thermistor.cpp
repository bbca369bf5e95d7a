#include "core/fit/thermistor.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

namespace vicegrip::fit {
namespace {

using Reading = parts::TableCurve::Point;

constexpr size_t kLeastReadings = 3;
constexpr double kClosest_k = 2;

std::string degrees(double kelvin)
{
    return units::format(kelvin, units::Dimension::Temperature, "°C", 1);
}

Result<void> check(std::vector<Reading> readings)
{
    if (readings.size() < kLeastReadings)
        return fail(ErrorCode::Range, phrase("three coefficients need at least three readings"));
    for (const Reading& r : readings)
        if (!(r.kelvin > 0) || !(r.ohm > 0))
            return fail(ErrorCode::Range, phrase("a temperature is not above 0 K, or a resistance not above 0 Ohm"));
    std::ranges::sort(readings, {}, &Reading::kelvin);
    for (size_t i = 1; i < readings.size(); ++i) {
        const Reading &cold = readings[i - 1], &warm = readings[i];
        if (warm.kelvin - cold.kelvin < kClosest_k)
            return fail(ErrorCode::Range, phrase("{} and {} are closer than 2 K: their error decides the curve",
                                                 degrees(cold.kelvin), degrees(warm.kelvin)));
        if (!(warm.ohm < cold.ohm))
            return fail(ErrorCode::Range,
                        phrase("the resistance does not fall from {} to {}: no thermistor of this kind does that",
                               degrees(cold.kelvin), degrees(warm.kelvin)));
    }
    return {};
}

/// ln R is measured from the middle of the readings: powers of it alone would be all but parallel. The last is y³ less
/// its tangent in the middle: what the cube adds to a straight line.
Eigen::RowVector3d powersOf(double ohm, double middle)
{
    const double d = std::log(ohm) - middle;
    return {1, d, d * d * (d + 3 * middle)};
}

} // namespace

double ThermistorFit::sigmaAt(double ohm) const
{
    const Eigen::RowVector3d p = powersOf(ohm, middle);
    const double kelvin = parts::kelvin(curve, ohm);
    return kelvin * kelvin * std::sqrt(std::max(0.0, (p * covariance * p.transpose()).value()));
}

Result<ThermistorFit> fitThermistor(const std::vector<Reading>& readings, const std::vector<double>& sigma_k)
{
    if (auto good = check(readings); !good)
        return tl::make_unexpected(good.error());
    const auto n = static_cast<Eigen::Index>(readings.size());
    const bool stated = sigma_k.size() == readings.size();
    if (!sigma_k.empty() && (!stated || std::ranges::min(sigma_k) <= 0))
        return fail(ErrorCode::Range, phrase("every reading states how well it is known, above 0 K, or none does"));
    double middle = 0;
    for (const Reading& r : readings)
        middle += std::log(r.ohm) / static_cast<double>(n);
    Eigen::MatrixXd powers(n, 3);
    Eigen::VectorXd inverse(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const Reading& r = readings[static_cast<size_t>(i)];
        // a kelvin is 1/T² in 1/T
        const double weight = stated ? r.kelvin * r.kelvin / sigma_k[static_cast<size_t>(i)] : 1;
        powers.row(i) = weight * powersOf(r.ohm, middle);
        inverse(i) = weight / r.kelvin;
    }
    Eigen::Vector3d k = powers.colPivHouseholderQr().solve(inverse);
    ThermistorFit out;
    out.straight = k(2) < 0;
    const Eigen::Index terms = out.straight ? 2 : 3;
    if (out.straight)
        k << Eigen::Vector2d(powers.leftCols(2).colPivHouseholderQr().solve(inverse)), 0;
    // 1/T = k0 + k1 (y - m) + k2 (y³ - 3 m² y + 2 m³), multiplied out.
    out.middle = middle;
    const auto freedom = static_cast<double>(n - terms);
    const double scatter = stated ? 1 : freedom > 0 ? (powers * k - inverse).squaredNorm() / freedom : 0;
    const Eigen::MatrixXd used = powers.leftCols(terms);
    out.covariance.topLeftCorner(terms, terms) = scatter * (used.transpose() * used).inverse();
    out.curve.c = k(2);
    out.curve.b = k(1) - 3 * middle * middle * k(2);
    out.curve.a = k(0) - k(1) * middle + 2 * middle * middle * middle * k(2);
    for (const Reading& r : readings) {
        const double y = std::log(r.ohm);
        if (out.curve.b + 3 * out.curve.c * y * y <= 0)
            return fail(
                ErrorCode::Range,
                phrase("the curve turns back near {}: a reading does not belong to the others", degrees(r.kelvin)));
        out.residuals_k.push_back(r.kelvin - parts::kelvin(out.curve, r.ohm));
        out.worst_k = std::max(out.worst_k, std::abs(out.residuals_k.back()));
    }
    return out;
}

} // namespace vicegrip::fit
