#pragma once

#include <cstddef>
#include <span>

namespace vicegrip::log {

/// A column in numbers; what is empty does not count.
struct Summary
{
    std::size_t count = 0;
    double mean = 0, spread = 0; ///< standard deviation of a sample: by count - 1
    double least = 0, most = 0;
};

/// In two passes: the mean first, then what is left of it.
[[nodiscard]] Summary summaryOf(std::span<const float> values);

} // namespace vicegrip::log
