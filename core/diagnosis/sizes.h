#pragma once

#include <cmath>
#include <vector>

/// Sizes of faults that have one: ohms too many, a share of the sensor's range. The network is solved at a few of them;
/// what is read at the others lies between (predictions.h).
namespace vicegrip::diagnosis {

struct Size
{
    double value = 0;
    bool solved = false;
};

/// Ohms from `least` to 1000, six a decade as series E6 of IEC 60063 has them; solved at 10 and 1000: with the sound
/// car they make the curve. `least` is a power of ten.
inline std::vector<Size> ohmSizes(double least)
{
    std::vector<Size> out;
    for (double decade = least; decade < 999; decade *= 10)
        for (const double step : {1.0, 1.5, 2.2, 3.3, 4.7, 6.8})
            out.push_back({decade * step, decade * step > 9.9 && decade * step < 10.1});
    out.push_back({1000, true});
    return out;
}

inline bool isDecade(double size)
{
    const double power = std::log10(std::abs(size));
    return std::abs(power - std::round(power)) < 1e-9;
}

/// Shares of a range a sensor may be off by, to 20 %, one by one in a hundred.
inline std::vector<Size> driftSizes()
{
    std::vector<Size> out;
    for (int percent = -20; percent <= 20; ++percent)
        if (percent != 0)
            out.push_back({percent / 100.0, percent % 20 == 0 || std::abs(percent) == 5 || std::abs(percent) == 10});
    return out;
}

} // namespace vicegrip::diagnosis
