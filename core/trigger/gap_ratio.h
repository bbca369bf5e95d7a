#pragma once

#include "core/trigger/report.h"

#include <optional>

namespace vicegrip::trigger {

/// How a wheel's gaps stand out from its other steps, as an ECU compares them while it turns: each period against the
/// geometric mean of the two beside it, so that a speed that rises makes no gap.
struct GapRatio
{
    double least = 0; ///< of the gaps, in periods of those beside them
    double most = 0; ///< of the steps that are no gap
    double between = 0; ///< the middle between no gap and this wheel's at an even speed: where an ECU tells them apart

    [[nodiscard]] bool tells() const { return most < between && between < least; }
};

/// None: the wheel has no gap, or other steps of it differ, so that an ECU needs more than this to know it; nothing of
/// it was followed.
[[nodiscard]] std::optional<GapRatio> gapRatio(const Report& report);

} // namespace vicegrip::trigger
