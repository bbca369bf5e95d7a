#include "core/parts/e_series.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace vicegrip::parts {
namespace {

/// One decade, in hundredths. E24 departs from the rounded powers at 2.7 to 4.7 and 8.2 (IEC 60063); E96 does not.
std::vector<int> decade(ESeries series)
{
    static constexpr std::array kE24 = {100, 110, 120, 130, 150, 160, 180, 200, 220, 240, 270, 300,
                                        330, 360, 390, 430, 470, 510, 560, 620, 680, 750, 820, 910};
    if (series == ESeries::E24)
        return {kE24.begin(), kE24.end()};
    std::vector<int> out;
    for (int k = 0; k < 96; ++k)
        out.push_back(static_cast<int>(std::lround(100 * std::pow(10.0, k / 96.0))));
    return out;
}

} // namespace

std::vector<double> preferredValues(ESeries series, double low_ohm, double high_ohm)
{
    std::vector<double> out;
    if (!(low_ohm > 0) || !(high_ohm >= low_ohm) || !std::isfinite(high_ohm))
        return out;
    const std::vector<int> values = decade(series);
    for (int power = static_cast<int>(std::floor(std::log10(low_ohm))); std::pow(10.0, power) <= high_ohm; ++power)
        for (int v : values) {
            // Whole hundredths times a power of ten, so that 2.4 kOhm is exactly 2400.
            const double ohm = power >= 2 ? v * std::pow(10.0, power - 2) : v / std::pow(10.0, 2 - power);
            if (ohm >= low_ohm && ohm <= high_ohm)
                out.push_back(ohm);
        }
    return out;
}

double nearestValue(ESeries series, double ohm)
{
    const auto near = preferredValues(series, ohm / 2, ohm * 2);
    return *std::ranges::min_element(near, {}, [&](double v) { return std::abs(std::log(v / ohm)); });
}

} // namespace vicegrip::parts
