#include "core/trigger/edge_due.h"

namespace vicegrip::trigger {

Due::Due(std::span<const double> steps)
{
    const std::size_t n = steps.size();
    for (std::size_t t = 0; t < n; ++t) {
        const double before = steps[(t + n - 1) % n], after = steps[t];
        const std::array<double, 4> at = {-before - steps[(t + 2 * n - 2) % n], -before, after,
                                          after + steps[(t + 1) % n]};
        std::array<double, 4>& weights = m_weights.emplace_back();
        for (std::size_t i = 0; i < at.size(); ++i) {
            weights[i] = 1;
            for (std::size_t k = 0; k < at.size(); ++k)
                if (k != i)
                    weights[i] *= at[k] / (at[k] - at[i]);
        }
    }
}

double Due::off(std::span<const double, 5> times_s, std::size_t tooth) const
{
    const std::array<double, 4>& w = m_weights[tooth];
    // From the middle one, so that times far from zero lose nothing.
    const double due = w[0] * (times_s[0] - times_s[2]) + w[1] * (times_s[1] - times_s[2]) +
                       w[2] * (times_s[3] - times_s[2]) + w[3] * (times_s[4] - times_s[2]);
    return -2 * due / (times_s[3] - times_s[1]);
}

} // namespace vicegrip::trigger
