#include "core/scaling/search_range.h"

#include <cmath>

namespace vicegrip::scaling {

std::pair<double, double> searchRange(const Transfer& transfer, const job::ScalingSpec& spec)
{
    constexpr double kBeyond = 0.1, kMoves = 1e-9;
    constexpr int kSteps = 8;
    const double step = kBeyond * (spec.high - spec.low) / kSteps;
    const double way = transfer.reading(spec.high) - transfer.reading(spec.low);
    const auto reach = [&](double end, double by) {
        double before = transfer.reading(end);
        for (int i = 1; i <= kSteps; ++i) {
            const double next = transfer.reading(end + by);
            if (!((next - before) * way * by > 0) || std::abs(next - before) < kMoves)
                break;
            before = next;
            end += by;
        }
        return end;
    };
    return {reach(spec.low, -step), reach(spec.high, step)};
}

} // namespace vicegrip::scaling
