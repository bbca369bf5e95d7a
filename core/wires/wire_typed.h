#pragma once

#include "core/base/result.h"

#include <string_view>

/// Lengths and areas of wire as people type them, within what a wire can have.
namespace vicegrip::wires {

/// "85 cm", "0,85", "3 ft": 1 cm to 50 m. A bare number is in `unit`; a decimal comma is understood.
[[nodiscard]] Result<double> lengthTyped(std::string_view typed, std::string_view unit = "m");

/// "0,5", "0.75 mm²", "20 AWG": 0.05 to 120 mm². `unit` may be AWG.
[[nodiscard]] Result<double> areaTyped(std::string_view typed, std::string_view unit = "mm²");

} // namespace vicegrip::wires
