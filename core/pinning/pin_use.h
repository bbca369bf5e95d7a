#pragma once

#include "core/pinning/pinning.h"

#include <map>
#include <string>

/// What each cavity is for, in the words of the person who pins it.
namespace vicegrip::pinning {

struct PinUse
{
    std::string purpose; ///< "Coolant temp, signal", "Sensor ground of 7", "Power ground"
    job::CircuitId circuit; ///< the one circuit it serves; empty when it serves several, or the unit itself
};

/// How far a cavity is, a key: `phrase` says it.
[[nodiscard]] std::string_view stateName(PinState state);

/// For every place of the drawing that serves something.
[[nodiscard]] std::map<job::PointRef, PinUse> pinUses(const job::Job& job);

} // namespace vicegrip::pinning
