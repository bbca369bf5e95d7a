#pragma once

#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <utility>

namespace vicegrip {

/// Where a continuous function crosses zero between two places, in either order, to the last bits (Alefeld, Potra, Shi,
/// Algorithm 748, ACM Transactions on Mathematical Software 21, 1995; by Boost.Math). Where it does not change sign
/// between them, the end that is nearer to zero.
template <class Function> [[nodiscard]] double rootBetween(Function off, double low, double high)
{
    if (low > high)
        std::swap(low, high);
    const double offLow = off(low), offHigh = off(high);
    if (!(offLow * offHigh < 0))
        return std::abs(offLow) <= std::abs(offHigh) ? low : high;
    using namespace boost::math::policies;
    using Quiet = policy<domain_error<ignore_error>, evaluation_error<ignore_error>>; // errors are values here
    std::uintmax_t steps = 200;
    const auto [a, b] = boost::math::tools::toms748_solve(off, low, high, offLow, offHigh,
                                                          boost::math::tools::eps_tolerance<double>(), steps, Quiet());
    return std::abs(off(a)) <= std::abs(off(b)) ? a : b;
}

} // namespace vicegrip
