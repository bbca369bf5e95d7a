#include "core/trigger/periods.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::trigger {

std::vector<double> logPeriods(std::span<const double> times_s)
{
    constexpr double kLeast_s = 1e-12;
    std::vector<double> out;
    for (std::size_t i = 1; i < times_s.size(); ++i)
        out.push_back(std::log(std::max(kLeast_s, times_s[i] - times_s[i - 1])));
    return out;
}

std::vector<double> standsOut(std::span<const double> logPeriods, bool round)
{
    const std::size_t n = logPeriods.size();
    std::vector<double> out(n, 0);
    for (std::size_t i = 0; i < n; ++i)
        if (round || (i > 0 && i + 1 < n))
            out[i] = logPeriods[i] - (logPeriods[(i + n - 1) % n] + logPeriods[(i + 1) % n]) / 2;
    return out;
}

double medianOf(std::vector<double> values)
{
    if (values.empty())
        return 0;
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::ranges::nth_element(values, middle);
    return *middle;
}

} // namespace vicegrip::trigger
