#pragma once

#include "core/engine/figures.h"

/// The air an engine takes: through its plate into the manifold, and from there into its cylinders.
namespace vicegrip::engine {

inline constexpr double kAir_j_per_kg_k = 287.05; ///< gas constant of dry air (ISO 2533)
inline constexpr double kAirGamma = 1.4; ///< its ratio of specific heats (ISO 2533)

/// kg/s through an opening of `area_m2` (its discharge in it) from air at rest to `behind_pa`: the isentropic nozzle,
/// which chokes where the pressures are as 0.528 (Heywood, Internal Combustion Engine Fundamentals, appendix C; from
/// memory). Nothing flows back.
[[nodiscard]] double through(double area_m2, double before_pa, double before_k, double behind_pa);

/// The opening of a plate that stands at this share of its stroke, with the air that is let past it shut: m², its
/// discharge in it.
[[nodiscard]] double plateArea(const Figures& of, double throttle);

/// What an idle valve lets by where it is open by this share, or a screw where there is none.
[[nodiscard]] double bypassArea(const Figures& of, double open);

/// How much of its displacement a cylinder fills with air as it stands in the manifold: typical of four valves, best
/// near 4,300 rpm; what is left of the burnt gas at a low manifold pressure takes room (Heywood, equation 6.2; from
/// memory).
[[nodiscard]] double filling(double rpm, double manifold_pa, double exhaust_pa);

/// What burnt gas pushes against: the air outside, what the pipe resists at so much air, and the turbine, which asks
/// for nearly as much as it makes before the plate (typical).
[[nodiscard]] double exhaustPressure(const Figures& of, double barometer_pa, double charge_pa, double air_kg_s);

/// kg that all cylinders together take in two turns: m = filling p V / (R T), with what the intake warms the air by.
[[nodiscard]] double airOfACycle(const Figures& of, double rpm, double manifold_pa, double exhaust_pa, double intake_k);

} // namespace vicegrip::engine
