#pragma once

#include <string>

/// Resistance and thickness of wire, and resistance of joints.
namespace vicegrip::parts {

/// Resistance of a stranded copper wire in Ohm. rho(20 °C) = 1.7241e-8 Ohm m for annealed copper and a temperature
/// coefficient of 0.00393 / K (IEC 60028); 2 % longer strands than wire (lay, typical).
[[nodiscard]] constexpr double wireOhms(double length_m, double area_m2, double kelvin)
{
    constexpr double kResistivity = 1.7241e-8, kCoefficient = 0.00393, kLay = 1.02, kT20 = 293.15;
    return kResistivity * (1 + kCoefficient * (kelvin - kT20)) * kLay * length_m / area_m2;
}

/// Largest outer diameter of a thin-wall vehicle wire of this area, m: ISO 6722-1, thin wall (from memory), straight
/// lines over the square root of the area between its sizes.
[[nodiscard]] double outerDiameter(double area_m2);

/// The pull a crimp on a conductor of this area must hold, N: IEC 60352-2, table 1 (from memory), straight lines
/// between its sizes; the nearest end beyond them.
[[nodiscard]] double crimpHolds(double area_m2);

/// "0.75 mm²"
[[nodiscard]] std::string areaText(double area_m2);

/// Typical joints in Ohm, clean and new; a good one may be anywhere from nothing to twice this.
inline constexpr double kMatedPairOhms = 5e-3;
inline constexpr double kCrimpOhms = 1e-3; ///< crimp or splice
inline constexpr double kStudOhms = 1e-3;

/// The drain of a shielded lead, m² (typical).
inline constexpr double kDrain_m2 = 0.35e-6;

/// Tolerance of a wire's resistance (area and length as cut; typical).
inline constexpr double kWireTolerance = 0.05;

} // namespace vicegrip::parts
