#pragma once

#include <cstddef>
#include <span>
#include <vector>

namespace vicegrip::review {

struct Step
{
    std::size_t at = 0; ///< the first sample after it
    double height = 0;
    double times = 0; ///< of what noise alone would make
};

/// Where a signal steps: the mean of `width` samples after a place less that of as many before, with the trend that the
/// two windows further out show taken off, in standard deviations of that; where it is above `least`, the greatest
/// within two widths, for a step shows again at half its height a width beside it. White noise of deviation s leaves s
/// times the root of 5 / width (weights of the windows: 0.5, 1.5, 1.5, 0.5).
///
/// A kink looks like one there, and so does a bend: a step stays only where it fits better beside one straight line, by
/// least squares, than a line that bends there into a curve. Its height is of that fit.
[[nodiscard]] std::vector<Step> stepsIn(std::span<const float> values, std::size_t width, double noise, double least);

} // namespace vicegrip::review
