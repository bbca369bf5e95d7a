#pragma once

#include "core/job/brief_facts.h"

#include <optional>

namespace vicegrip::engine {

/// What an engine is made of, as far as a bench must know. What a brief does not say is typical of a petrol engine.
struct Figures
{
    int cylinders = 4;
    double displacement_m3 = 2e-3;
    double fuel_pa = 300e3; ///< in the rail, above the manifold's
    double boost_pa = 0; ///< that the charge is asked to have above the air outside; 0: none is blown
    bool cooled = false; ///< what is blown is cooled before the plate
    bool idlesByAir = false; ///< the ECU has a valve or a plate for its idle; else a screw, and the spark
    bool burnsEthanol = false; ///< its calibration is for ethanol, whatever a sensor says

    bool operator==(const Figures&) const = default;
    [[nodiscard]] double litres() const { return displacement_m3 * 1e3; }
};

/// Without a brief those of two litres without boost.
[[nodiscard]] Figures figuresOf(const std::optional<job::Brief>& brief);

/// A car round it (typical).
struct Body
{
    double mass_kg = 1100;
    double drag_n_s2 = 0.4; ///< force over the square of the speed: half of density, area and drag coefficient
    double roll_n = 160;
    /// How far it goes in a turn of the crank, m for each radian: gear 1 first.
    double way_m[5] = {0.0224, 0.0388, 0.0551, 0.0714, 0.0877};
};

inline constexpr double kMinute_s = 60;

/// rad/s from turns a minute, and back.
[[nodiscard]] constexpr double radians(double rpm)
{
    return rpm * 2 * 3.14159265358979323846 / kMinute_s;
}
[[nodiscard]] constexpr double turns(double rad_s)
{
    return rad_s * kMinute_s / (2 * 3.14159265358979323846);
}

} // namespace vicegrip::engine
