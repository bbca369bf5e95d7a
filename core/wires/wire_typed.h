#pragma once

#include "core/base/result.h"

#include <string_view>

/// Lengths and areas of wire as people type and paste them, within what a wire can have.
namespace vicegrip::wires {

/// "85 cm", "0,85", "3 ft": 1 cm to 50 m. A bare number is in `unit`; a decimal comma is understood.
[[nodiscard]] Result<double> lengthTyped(std::string_view typed, std::string_view unit = "m");

/// "0,5", "0.75 mm²", "20 AWG": 0.05 to 120 mm². `unit` may be AWG.
[[nodiscard]] Result<double> areaTyped(std::string_view typed, std::string_view unit = "mm²");

/// The same beside a number that is shown: a bare one is read as that is (core/units/shown.h).
[[nodiscard]] Result<double> lengthShown(std::string_view typed);
[[nodiscard]] Result<double> areaShown(std::string_view typed);

} // namespace vicegrip::wires
