#pragma once

#include <cmath>

/// Numbers that something could have measured: arithmetic with them stays arithmetic.
namespace vicegrip {

/// 0, or of a magnitude from 1e-30 to 1e15: squares, products and ratios of such are numbers still.
[[nodiscard]] inline bool isMeasurable(double value)
{
    const double size = std::abs(value);
    return size == 0 || (size >= 1e-30 && size <= 1e15);
}

} // namespace vicegrip
