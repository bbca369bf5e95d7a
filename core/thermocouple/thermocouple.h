#pragma once

#include "core/base/result.h"

#include <optional>
#include <string>

/// Type K thermocouples as an exhaust probe and its conditioner make use of them. Temperatures in kelvin, volts in V.
namespace vicegrip::thermocouple {

inline constexpr double kColdestTip_k = 3.15, kHottestTip_k = 1645.15;

/// What a type K thermocouple puts out with its other end at 0 °C (NIST Monograph 175, 1993: ITS-90 reference function;
/// also IEC 60584-1). Between kColdestTip_k and kHottestTip_k.
[[nodiscard]] double typeK_v(double kelvin);

/// The temperature at these volts. Errors (Range): more or less than type K puts out from -200 °C to 1372 °C.
[[nodiscard]] Result<double> typeK_k(double volts);

/// How a probe's two wires reach its conditioner.
enum class Hookup {
    Right,
    Reversed, ///< the two wires exchanged at one place: hotter reads colder
    ReversedTwice, ///< exchanged at both ends of an extension: it rises, and is wrong by twice the extension's ends
    Copper, ///< the way from the joint to the conditioner is copper: what the joint is warmer by is lost
    Bridged ///< shorted at the plug: the conditioner shows its own temperature
};

/// The temperatures along the way.
struct ProbePlace
{
    double tip_k = 0;
    double joint_k = 0; ///< where the probe's own wires end
    double conditioner_k = 0;
    double least_k = 73.15, most_k = kHottestTip_k; ///< what the conditioner can show
};

/// What a conditioner that compensates its own temperature shows, held to what it can.
[[nodiscard]] double shownBy(Hookup hookup, const ProbePlace& place);

/// The hookup that explains what is shown; none when several do, or none does, within `tolerance_k`.
[[nodiscard]] std::optional<Hookup> hookupOf(double shown_k, const ProbePlace& place, double tolerance_k);

/// One sentence: what it is, and what to do.
[[nodiscard]] std::string hookupSentence(Hookup hookup);

/// Where water boils under this pressure, between 60 and 101 °C: a bath to check a probe in. Saturation pressure after
/// Buck, "New equations for computing vapor pressure", Journal of Applied Meteorology 20, 1981, constants of 1996.
/// Errors (Range): a pressure outside that.
[[nodiscard]] Result<double> boilingPoint_k(double pascal);

} // namespace vicegrip::thermocouple
