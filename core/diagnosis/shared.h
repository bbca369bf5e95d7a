#pragma once

#include "core/diagnosis/diagnose.h"

#include <optional>
#include <vector>

/// One fault behind several circuits: a ground, a supply, a plug that was counted wrong.
namespace vicegrip::diagnosis {

struct Shared
{
    Suspect suspect;
    double share = 0; ///< of the belief, with all that is alike
    std::vector<job::CircuitId> circuits; ///< whose wrong readings it explains, two at the least
};

/// From the readings of all circuits: what explains most of those that read wrong. None where each is wrong by itself,
/// or fewer than two are.
[[nodiscard]] std::optional<Shared> sharedFault(const analysis::Analysis& analysis, const Families& families,
                                                const parts::Library& library);

} // namespace vicegrip::diagnosis
