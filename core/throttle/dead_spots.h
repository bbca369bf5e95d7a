#pragma once

#include "core/throttle/strokes.h"

#include <span>
#include <vector>

/// Places of a track where the wiper loses it.
namespace vicegrip::throttle {

/// One way from a stop to the other.
struct Stroke
{
    size_t from = 0, to = 0; ///< samples, `to` is one beyond
    bool opening = true;
};

/// The ways between the rests, in the order of time; a way back to the same stop is none.
[[nodiscard]] std::vector<Stroke> strokesBetween(const std::vector<Rest>& closed, const std::vector<Rest>& open);

/// Volts that do not go along with the stroke: farther than `least_v` from the course of the others. The course is the
/// largest set of samples that never turns back (longest non-decreasing subsequence, Fredman, Discrete Mathematics 11,
/// 1975, over steps of half of `least_v`), so what falls out of it does not bend it. Spots within a fiftieth of
/// `travel_v` of each other are one place.
[[nodiscard]] std::vector<DeadSpot> deadSpotsOf(const Recording& recording, const std::vector<Stroke>& strokes,
                                                double least_v, double travel_v);

} // namespace vicegrip::throttle
