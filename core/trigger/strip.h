#pragma once

#include "core/trigger/wheel.h"

namespace vicegrip::trigger {

/// The strip that senses, in a sensor's face, and the wheel under it.
struct Strip
{
    double tooth_m = 0; ///< from a tooth to the next along the rim, or twice the narrower of tooth and slot
    double wide_m = 1e-3; ///< 1 to 3 mm are met (common practice, no source)
    double long_m = 5e-3; ///< typical, from memory
    double lies_deg = 0; ///< turned from along the teeth, which is along the shaft: clockwise from behind the sensor
    double beside_m = 0; ///< from the middle of the face to the middle of the wheel's thickness, along the shaft
    double thick_m = 0; ///< the wheel, along the shaft; 0: thicker than the strip is long
};

/// From tooth to tooth along the rim of a wheel so far across its teeth, where they are closest; where a tooth or a
/// slot is narrower than half of that, twice its width: of a wheel seen from near, it is what passes the strip soonest.
[[nodiscard]] double toothPitch(const Wheel& wheel, double across_m);

/// How far a strip is turned from along the teeth, of 0 to 90 degrees: half a turn more is none.
[[nodiscard]] double foldedLie(double lies_deg);

/// How far what a strip senses swings as teeth pass, of 1 for a point right at the rim: the strip averages the field
/// over its face, as far as there is a wheel under it. The field is that of a rim whose teeth and slots are alike at
/// both ends of the swing, and falls with the gap as exp(-2 pi n gap / pitch) for its nth wave (Laplace's equation;
/// from memory).
[[nodiscard]] double sensedSwing(const Strip& strip, double gap_m);

/// How much farther from the teeth a strip that lies along them, over their middle, would sense as little. Infinite
/// where the strip senses nothing, or the wheel is not under it.
[[nodiscard]] double seemsFarther(const Strip& strip, double gap_m);

/// Up to how many degrees it may be turned either way before it seems farther by more than this: 90 where any will do,
/// -1 where none does.
[[nodiscard]] int mayLie(const Strip& strip, double gap_m, double spare_m);

} // namespace vicegrip::trigger
