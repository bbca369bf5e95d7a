#include "core/log/summary.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::log {

Summary summaryOf(std::span<const float> values)
{
    Summary out;
    double sum = 0;
    for (const float v : values) {
        if (std::isnan(v))
            continue;
        out.least = out.count == 0 ? v : std::min(out.least, static_cast<double>(v));
        out.most = out.count == 0 ? v : std::max(out.most, static_cast<double>(v));
        sum += v;
        ++out.count;
    }
    if (out.count == 0)
        return out;
    out.mean = sum / static_cast<double>(out.count);
    double squares = 0;
    for (const float v : values)
        if (!std::isnan(v))
            squares += (v - out.mean) * (v - out.mean);
    out.spread = out.count > 1 ? std::sqrt(squares / static_cast<double>(out.count - 1)) : 0;
    return out;
}

} // namespace vicegrip::log
