#pragma once

#include "core/base/result.h"

#include <string_view>

/// Ambient and barometer as people type them: "22C", "72 °F", "98.4 kPa".
namespace vicegrip::job {

/// K, from -60 °C to 70 °C.
[[nodiscard]] Result<double> parseAmbient(std::string_view typed);

/// Pa, from 40 kPa to 110 kPa.
[[nodiscard]] Result<double> parseBarometer(std::string_view typed);

} // namespace vicegrip::job
