#pragma once

#include "core/job/job.h"

#include <string_view>

/// Where things usually sit on a car.
namespace vicegrip::work {

inline constexpr const char *kBay = "engine bay", *kCabin = "cabin", *kUnder = "under the car",
                            *kIntake = "under the intake", *kFront = "front of the engine", *kBench = "bench";

/// Where a sensor usually sits, and what buries it (typical; common practice for oil pressure and rear sensors).
struct Site
{
    std::string_view function;
    const char* place;
    const char* gate; ///< empty: it can be reached at any time
    const char* mount; ///< what fitting it takes
    const char* tools;
};

/// By what the circuit is for.
[[nodiscard]] const Site& siteOf(const job::Circuit& circuit);

} // namespace vicegrip::work
