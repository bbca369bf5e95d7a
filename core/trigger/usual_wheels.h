#pragma once

#include <span>
#include <string_view>

namespace vicegrip::trigger {

/// Wheels that are met in many engines, as `readWheel` reads them (common practice, from memory).
[[nodiscard]] std::span<const std::string_view> usualWheels();

/// Those of them whose gaps are several.
[[nodiscard]] std::span<const std::string_view> wheelsOfManyGaps();

} // namespace vicegrip::trigger
