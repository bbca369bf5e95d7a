#pragma once

#include <string>

/// The standard atmosphere, ISO 2533:1975: what the barometer reads at an altitude on a standard day.
namespace vicegrip::brief {

inline constexpr double kLowest_m = -430, kHighest_m = 6000; ///< where engines are driven

/// Pressure at a geometric altitude in the troposphere (ISO 2533, equations 8 and 12).
[[nodiscard]] double barometerAt(double altitude_m);

/// The altitude at which a standard day has this pressure.
[[nodiscard]] double altitudeOf(double barometer_pa);

/// A pressure as the brief's sentences say it, which say its zero themselves: "101 kPa".
[[nodiscard]] std::string pressureText(double pa);

} // namespace vicegrip::brief
