#pragma once

#include "core/diagnosis/predictions.h"

#include <vector>

/// How likely each suspect is after what was read (Bayes). One reading in fifty is a slip of the probe or of the pen,
/// so that none rules out the truth.
namespace vicegrip::diagnosis {

inline constexpr double kSlips = 0.02; ///< share of readings (typical)

/// What a reading makes of one prediction: a density, with the slip's share in it; never 0.
[[nodiscard]] double likelihood(const Prediction& predicted, const job::Reading& reading, double span);

/// The chance that this reading was a slip, if the suspect is the truth.
[[nodiscard]] double slipChance(const Prediction& predicted, const job::Reading& reading, double span);

/// A reading where it was taken.
struct Evidence
{
    size_t spot = 0; ///< in the list of spots
    job::Reading reading;
};

/// By suspect, adding up to 1. `spans`: the width of what the instrument can show at each spot, SI.
[[nodiscard]] std::vector<double> belief(const std::vector<Suspect>& suspects,
                                         const std::vector<std::vector<Prediction>>& predicted,
                                         const std::vector<Evidence>& evidence, const std::vector<double>& spans);

/// Suspects that no spot tells apart, the likelier groups first; in each the likeliest first.
struct Group
{
    std::vector<size_t> members;
    double share = 0; ///< of the belief
};
[[nodiscard]] std::vector<Group> groups(const std::vector<std::vector<Prediction>>& predicted,
                                        const std::vector<double>& belief);

/// Bits that a reading at this spot is expected to tell of the suspects: their mutual information.
[[nodiscard]] double information(const std::vector<std::vector<Prediction>>& predicted,
                                 const std::vector<double>& belief, size_t spot);

} // namespace vicegrip::diagnosis
