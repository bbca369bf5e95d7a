#include "core/review/steps.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::review {

std::vector<Step> stepsIn(std::span<const float> values, std::size_t width, double noise, double least)
{
    std::vector<Step> out;
    if (values.size() < 4 * width || !(noise > 0) || width == 0)
        return out;
    const auto w = static_cast<double>(width);
    const double deviation = noise * std::sqrt(5 / w);
    double a = 0, b = 0, c = 0, d = 0; // sums of the four windows
    for (std::size_t i = 0; i < width; ++i) {
        a += values[i];
        b += values[i + width];
        c += values[i + 2 * width];
        d += values[i + 3 * width];
    }
    for (std::size_t at = 2 * width;; ++at) {
        const double height = ((c - b) - ((b - a) + (d - c)) / 2) / w;
        const double times = std::abs(height) / deviation;
        if (times >= least) {
            if (!out.empty() && at - out.back().at < 2 * width) {
                if (times > out.back().times)
                    out.back() = {at, (c - b) / w, times};
            } else {
                out.push_back({at, (c - b) / w, times});
            }
        }
        if (at + 2 * width >= values.size())
            return out;
        a += static_cast<double>(values[at - width]) - values[at - 2 * width];
        b += static_cast<double>(values[at]) - values[at - width];
        c += static_cast<double>(values[at + width]) - values[at];
        d += static_cast<double>(values[at + 2 * width]) - values[at + width];
    }
}

} // namespace vicegrip::review
