#pragma once

#include "core/base/result.h"
#include "core/trigger/strip.h"

#include <optional>
#include <span>

namespace vicegrip::trigger {

/// A sensor in a thread or a plain seat: where it stands, and where it may.
struct AirGap
{
    double now_m = 0;
    double least_m = 0, most_m = 0; ///< the window
    double pitch_m = 0; ///< of its thread: so far in a turn; 0: a plain seat, that it does not turn in
    double runOut_m = 0; ///< of the wheel, from the least gap to the greatest: `now_m` is the mean of them
    std::optional<Strip> strip =
        {}; ///< as it lies now; turned in, it turns clockwise. None: as if it sensed at a point
};

/// What hands do.
struct GapTurn
{
    double turns = 0; ///< in, towards the wheel; negative: out; 0 in a plain seat, that is shimmed
    double after_m = 0; ///< where it stands then, mean
    double seemsNow_m = 0, seems_m = 0; ///< with what its strip loses by how it lies: it senses as if from there
    bool isInside = false; ///< already now, at every place of the wheel
    bool fits = false; ///< afterwards, at every place of the wheel
    std::optional<double> halves; ///< in half turns, where some number of them fits: its face lies as it lay
};

/// Where a sensor's kind usually stands: one that switches 1.0 to 2.5 mm (common practice, no source), a coil 0.5 to
/// 1.2 mm (typical, from memory).
inline constexpr double kHallLeast_m = 1.0e-3, kHallMost_m = 2.5e-3, kCoilLeast_m = 0.5e-3, kCoilMost_m = 1.2e-3;

/// To where both ends of the window are farthest: the least of it is for the metal, the most for what is sensed. In
/// sixths of a turn, the flats of a nut; where they are too coarse to land inside it, as it comes. Errors (Range): a
/// pitch or a window that cannot be, a gap below nothing.
[[nodiscard]] Result<GapTurn> turnFor(const AirGap& gap);

/// What feelers say at every quarter of a turn.
struct Feelers
{
    double mean_m = 0, least_m = 0, most_m = 0;
    double runOut_m = 0; ///< from the least gap to the greatest of a wheel that is round but off its centre
    double farthest_deg = 0; ///< where the gap is greatest, after the first of the four
    double disagree_m = 0; ///< by how much the two diameters do: a wheel that is not round, or a feeler that slipped
};

/// Errors (Range): other than four gaps, or one that is not above 0 mm.
[[nodiscard]] Result<Feelers> feelersSay(std::span<const double> quarters_m);

} // namespace vicegrip::trigger
