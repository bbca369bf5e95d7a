#pragma once

#include "core/diagram/placing.h"

#include <vector>

/// Inside: on which upright of its channel each run goes from one height to the other.
namespace vicegrip::diagram {

struct Tracks
{
    std::vector<int> of; ///< of each run, from the left of its channel; -1: it is level and needs none
    std::vector<int> count; ///< of each channel
};

/// No two runs share a piece of an upright. Of runs that go down together the lowest turns first, of those that go up
/// the highest: then they do not cross one another.
[[nodiscard]] Tracks tracksOf(const Placed& placed);

} // namespace vicegrip::diagram
