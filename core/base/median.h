#pragma once

#include <algorithm>
#include <vector>

namespace vicegrip {

/// The middle of at least one value; of an even number the mean of the two in the middle.
[[nodiscard]] inline double median(std::vector<double> values)
{
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::ranges::nth_element(values, middle);
    return values.size() % 2 == 1 ? *middle : (*middle + *std::max_element(values.begin(), middle)) / 2;
}

} // namespace vicegrip
