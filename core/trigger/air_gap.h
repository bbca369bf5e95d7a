#pragma once

#include "core/base/result.h"

namespace vicegrip::trigger {

/// A sensor in a thread: where it stands, and where it may.
struct AirGap
{
    double now_m = 0;
    double least_m = 0, most_m = 0; ///< the window
    double pitch_m = 0; ///< of its thread: so far in a turn
    double runOut_m = 0; ///< of the wheel, from the least gap to the greatest: `now_m` is the mean of them
};

/// What hands do.
struct GapTurn
{
    double turns = 0; ///< in, towards the wheel; negative: out
    double after_m = 0; ///< where it stands then, mean
    bool isInside = false; ///< already now, at every place of the wheel
    bool fits = false; ///< afterwards, at every place of the wheel
};

/// To the middle of the window, in sixths of a turn: the flats of a nut. Where sixths are too coarse to land inside it,
/// as it comes. Errors (Range): a pitch or a window that cannot be, a gap below nothing.
[[nodiscard]] Result<GapTurn> turnFor(const AirGap& gap);

} // namespace vicegrip::trigger
