#pragma once

#include "core/diagnosis/predictions.h"

#include <optional>
#include <vector>

/// What faults of a size show that was not solved, from the sizes that were.
namespace vicegrip::diagnosis {

/// What a solved car shows, and what in it had power.
struct Solved
{
    std::vector<Prediction> shows; ///< by spot; empty: not solved
    std::vector<bool> powered; ///< units and devices, condition after condition
};

/// Where what the ECU reports at a spot bends: at which volts of which spot. Between them it is straight.
struct Bends
{
    size_t spot = 0; ///< the input's volts
    std::vector<double> volts;

    /// Whether any lies between two readings of it, or at an end.
    [[nodiscard]] bool between(double one, double other) const;
};

/// By spot; none: a probe, where nothing bends, or what may bend anywhere. A table bends at its points, but for those
/// that lie on a line, and a converter ends at nothing and at its full scale.
[[nodiscard]] std::vector<std::optional<Bends>> bendsOf(const analysis::Analysis& analysis,
                                                        const std::vector<Spot>& spots);

/// Sizes, by their place in the list, that should be solved as well: those between two where something switches
/// off, the decades first; and every second of those between two where what the ECU reports moves, since that bends
/// where its table does and ends where its converter does. To be asked again once those are solved.
[[nodiscard]] std::vector<size_t> needSolving(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots,
                                              const std::vector<std::optional<Bends>>& bends,
                                              const std::vector<Solved>& solved);

/// The others, on the curve through their neighbours; and what half a step of its size moves in each.
void fillBetween(const std::vector<Suspect>& suspects, const std::vector<Spot>& spots,
                 const std::vector<std::optional<Bends>>& bends, std::vector<Solved>& solved);

} // namespace vicegrip::diagnosis
