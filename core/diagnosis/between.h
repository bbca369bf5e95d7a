#pragma once

#include "core/diagnosis/predictions.h"

#include <vector>

/// What faults of a size show that was not solved, from the sizes that were.
namespace vicegrip::diagnosis {

/// What a solved car shows, and what in it had power.
struct Solved
{
    std::vector<Prediction> shows; ///< by spot; empty: not solved
    std::vector<bool> powered; ///< units and devices, condition after condition
};

/// Sizes, by their place in the list, that should be solved as well: all of those between two where something switches
/// off; and every second of those between two where what the ECU reports moves, since that bends where its table does
/// and ends where its converter does. To be asked again once those are solved.
[[nodiscard]] std::vector<size_t> needSolving(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots,
                                              const std::vector<Solved>& solved);

/// The others, on the curve through their neighbours; and what half a step of its size moves in each.
void fillBetween(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots, std::vector<Solved>& solved);

} // namespace vicegrip::diagnosis
