#include "core/scaling/polynomial.h"

#include "core/base/phrase.h"
#include "core/fit/least_worst.h"
#include <algorithm>
#include <cmath>
#include <memory>

namespace vicegrip::scaling {
namespace {

using Coefficients = std::vector<double>;

/// Chebyshev polynomials at x in -1..1, up to a degree.
Coefficients chebyshev(double x, int degree)
{
    Coefficients t = {1, x};
    for (int k = 2; k <= degree; ++k)
        t.push_back(2 * x * t[static_cast<size_t>(k) - 1] - t[static_cast<size_t>(k) - 2]);
    return t;
}

/// Powers of z out of Chebyshev polynomials of z.
Coefficients powersOf(const Coefficients& series)
{
    Coefficients before = {1}, now = {0, 1}, out(series.size(), 0);
    const auto add = [&](const Coefficients& t, double factor) {
        for (size_t i = 0; i < t.size(); ++i)
            out[i] += factor * t[i];
    };
    add(before, series[0]);
    for (size_t k = 1; k < series.size(); ++k) {
        add(now, series[k]);
        Coefficients next(k + 2, 0);
        for (size_t i = 0; i < now.size(); ++i)
            next[i + 1] = 2 * now[i];
        for (size_t i = 0; i < before.size(); ++i)
            next[i] -= before[i];
        before = std::move(now);
        now = std::move(next);
    }
    return out;
}

/// The same polynomial over x where z = scale * x + shift.
Coefficients inX(const Coefficients& inZ, double scale, double shift)
{
    Coefficients out = {0};
    for (size_t i = inZ.size(); i-- > 0;) { // Horner's rule with a binomial
        Coefficients next(out.size() + 1, 0);
        for (size_t k = 0; k < out.size(); ++k) {
            next[k + 1] += scale * out[k];
            next[k] += shift * out[k];
        }
        next[0] += inZ[i];
        out = std::move(next);
    }
    out.resize(inZ.size());
    return out;
}

/// The series over z whose worst error is least; empty when the program has no answer.
Coefficients bestSeries(std::span<const Sample> curve, int degree, double scale, double shift, double zero, double span)
{
    const int terms = degree + 1;
    fit::LeastWorst least(terms);
    for (const Sample& sample : curve) {
        const Coefficients factors = chebyshev(scale * sample.x + shift, degree);
        fit::LeastWorst::Terms row;
        for (int k = 0; k < terms; ++k)
            row.emplace_back(k, factors[static_cast<size_t>(k)]);
        least.approach(row, (sample.y - zero) / span);
    }
    Coefficients out = least.solved().value_or(Coefficients{});
    for (double& c : out)
        c *= span;
    return out;
}

} // namespace

double Polynomial::at(double x) const
{
    double sum = 0;
    for (size_t i = coefficients.size(); i-- > 0;)
        sum = sum * x + coefficients[i];
    return sum;
}

Result<Polynomial> bestPolynomial(std::span<const Sample> curve, int degree)
{
    if (degree < 1 || degree > kMostDegree)
        return fail(ErrorCode::Range, phrase("expected a degree from 1 to {}", std::to_string(kMostDegree)));
    if (curve.size() < static_cast<size_t>(degree) + 1)
        return fail(ErrorCode::Range, phrase("a polynomial of degree {} needs {} places or more",
                                             std::to_string(degree), std::to_string(degree + 1)));
    const double first = curve.front().x, last = curve.back().x;
    if (!(last > first))
        return fail(ErrorCode::Range, phrase("the input does not move over the range"));
    const double scale = 2 / (last - first), shift = -1 - scale * first;
    const auto [least, most] = std::ranges::minmax(curve, {}, &Sample::y);
    const double span = most.y > least.y ? most.y - least.y : 1;
    Coefficients series = bestSeries(curve, degree, scale, shift, least.y, span);
    if (series.empty())
        return fail(ErrorCode::Range, phrase("no polynomial of degree {} was found", std::to_string(degree)));
    series[0] += least.y;
    Polynomial out{inX(powersOf(series), scale, shift), 0};
    for (const Sample& s : curve)
        out.worst = std::max(out.worst, std::abs(out.at(s.x) - s.y));
    return out;
}

Result<Polynomial> polynomialOf(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec,
                                int degree)
{
    constexpr int kPlaces = 120, kFine = 4096, kRounds = 10;
    const auto sampleAt = [&](double value) {
        return Sample{transfer.reading(value), units::toUnit(value, sensor.measures, unitOf(sensor, spec))};
    };
    const auto along = [&](int places) {
        std::vector<Sample> out;
        for (int i = 0; i <= places; ++i)
            out.push_back(sampleAt(std::lerp(spec.low, spec.high, static_cast<double>(i) / places)));
        for (const double kink : transfer.kinks())
            if (kink > spec.low && kink < spec.high)
                out.push_back(sampleAt(kink));
        std::ranges::sort(out, {}, &Sample::x);
        return out;
    };
    std::vector<Sample> curve = along(kPlaces);
    const std::vector<Sample> fine = along(kFine);
    // Remez's exchange: where the answer over a few places is worst over many is one of the places next time.
    auto best = bestPolynomial(curve, degree);
    for (int round = 0; best && round < kRounds; ++round) {
        const auto off = [&](const Sample& s) { return std::abs(best->at(s.x) - s.y); };
        const Sample worst = *std::ranges::max_element(fine, {}, off);
        if (off(worst) <= best->worst * (1 + 1e-4))
            break;
        curve.insert(std::ranges::lower_bound(curve, worst.x, {}, &Sample::x), worst);
        best = bestPolynomial(curve, degree);
    }
    return best;
}

} // namespace vicegrip::scaling
