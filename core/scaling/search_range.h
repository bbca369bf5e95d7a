#pragma once

#include "core/scaling/transfer.h"

#include <utility>

namespace vicegrip::scaling {

/// The values between which a reading is looked for: up to a tenth of the range beyond each end, as far as the sensor's
/// output goes on, for a grid or a sensor that is off may lead there.
[[nodiscard]] std::pair<double, double> searchRange(const Transfer& transfer, const job::ScalingSpec& spec);

} // namespace vicegrip::scaling
