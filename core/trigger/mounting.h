#pragma once

#include "core/base/result.h"

#include <vector>

namespace vicegrip::trigger {

/// An engine, and the two places that its timing may be read at. What is assumed of ripple, belt and teeth is typical,
/// and there to be changed.
struct Mounting
{
    int cylinders = 4;
    double rpm = 250;
    double ripple = 0.25; ///< of the speed, up and down within a compression (typical while cranking; 0.02 at speed)
    int teeth = 36, missing = 1; ///< at the crank
    double tooth_deg = 0.1; ///< how far a tooth's edge is off, standard deviation (typical of a cut wheel)
    int beltSlots = 360; ///< behind the belt, in a turn of the cam
    double stretch_deg = 0.4; ///< of the crank: what the belt gives as the valves' load comes and goes (typical)
    double swing_deg = 0.6; ///< of the crank: its first swing after a valve has shut (typical)
    double swing_hz = 120; ///< how fast it swings (typical)
    double damping = 0.12; ///< of the critical (typical)
};

/// How far compressions change the speed: a quarter at 250 rpm, and less by the square of the speed, since the work of
/// a compression stays and the energy of the flywheel grows (typical).
[[nodiscard]] double usualRipple(double rpm);

/// How far sparks are off where they are asked for, in degrees of the crank, at all angles of two turns alike.
struct Spread
{
    std::vector<double> off_deg; ///< sorted
    [[nodiscard]] double at(double share) const; ///< -3° at 0.025, and so on
    [[nodiscard]] double worst_deg() const; ///< away from nothing
    [[nodiscard]] double most95_deg() const; ///< 95 of a hundred are no farther off
};

struct Mounted
{
    Spread crank; ///< predicted from its last two edges: the speed changes until the spark
    Spread belt; ///< fine slots, but of a shaft that is not where the crank is
};

/// Errors (Range): no cylinder, speed, tooth or slot, more missing than there are, a ripple or a damping of 1 and more.
[[nodiscard]] Result<Mounted> compareMounting(const Mounting& engine);

} // namespace vicegrip::trigger
