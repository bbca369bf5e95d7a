#include "core/trigger/gap_ratio.h"

#include "core/trigger/channel_look.h"
#include "core/trigger/periods.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace vicegrip::trigger {

std::optional<GapRatio> gapRatio(const Report& report)
{
    const std::vector<std::size_t> after = afterGaps(report.wheel, report.trailing);
    if (after.empty() || !isEven(report.wheel, report.trailing))
        return std::nullopt;
    std::vector<double> logSteps;
    for (const double step : stepsOf(report.wheel, report.trailing))
        logSteps.push_back(std::log(step));
    const std::vector<double> due = standsOut(logSteps, true), seen = standsOut(logPeriods(report.times_s), false);
    constexpr double kNone = std::numeric_limits<double>::max();
    double least = kNone, most = 0, leastDue = kNone;
    for (std::size_t i = 1; i + 1 < seen.size(); ++i) {
        const int tooth = report.followed.tooth[i];
        if (tooth < 0 || report.followed.tooth[i - 1] < 0 || report.followed.tooth[i + 2] < 0)
            continue;
        const auto t = static_cast<std::size_t>(tooth);
        if (std::ranges::find(after, (t + 1) % due.size()) != after.end()) {
            least = std::min(least, std::exp(seen[i]));
            leastDue = std::min(leastDue, std::exp(due[t]));
        } else {
            most = std::max(most, std::exp(seen[i]));
        }
    }
    if (least == kNone || most <= 0)
        return std::nullopt;
    return GapRatio{least, most, std::sqrt(leastDue)};
}

} // namespace vicegrip::trigger
