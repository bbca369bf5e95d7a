#pragma once

#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>

namespace vicegrip {

/// Where a continuous function crosses zero between two places, to the last bits (Alefeld, Potra, Shi, Algorithm 748,
/// ACM Transactions on Mathematical Software 21, 1995; by Boost.Math). Where it does not change sign between them, the
/// end that is nearer to zero.
template <class Function> [[nodiscard]] double rootBetween(Function off, double low, double high)
{
    const double offLow = off(low), offHigh = off(high);
    if (!(offLow * offHigh < 0))
        return std::abs(offLow) <= std::abs(offHigh) ? low : high;
    std::uintmax_t steps = 200;
    const auto [a, b] = boost::math::tools::toms748_solve(off, low, high, offLow, offHigh,
                                                          boost::math::tools::eps_tolerance<double>(), steps);
    return std::abs(off(a)) <= std::abs(off(b)) ? a : b;
}

} // namespace vicegrip
