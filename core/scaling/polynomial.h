#pragma once

#include "core/scaling/breakpoints.h"
#include "core/scaling/table.h"

/// The polynomial an ECU wants that takes coefficients in place of a table.
namespace vicegrip::scaling {

inline constexpr int kMostDegree = 8;

struct Polynomial
{
    std::vector<double> coefficients; ///< of 1, x, x^2, ...: value over reading, in the units of the samples
    double worst = 0; ///< largest distance from the curve

    [[nodiscard]] double at(double x) const;
};

/// The polynomial of this degree whose worst error over the samples is least (Chebyshev's best approximation): a linear
/// program in Chebyshev polynomials over the samples' span. Errors (Range): a degree below 1 or above kMostDegree,
/// fewer samples than the degree needs, all x in one place.
[[nodiscard]] Result<Polynomial> bestPolynomial(std::span<const Sample> curve, int degree);

/// The same of a circuit's transfer, between the ends of its range, kinks included: value in the ECU's unit over V or
/// Hz (places are exchanged until none is worse; Remez 1934).
[[nodiscard]] Result<Polynomial> polynomialOf(const Transfer& transfer, const parts::Part& sensor,
                                              const job::ScalingSpec& spec, int degree);

} // namespace vicegrip::scaling
