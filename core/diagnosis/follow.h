#pragma once

#include "core/diagnosis/diagnose.h"

#include <functional>
#include <optional>
#include <vector>

/// Hands that do what the finder says, on a car that answers: what the finder promises of its own work, and what a
/// learner is held against.
namespace vicegrip::diagnosis {

/// What a car shows at a spot; none where nothing can be read.
using Shown = std::function<std::optional<job::Reading>(const Spot& spot)>;

struct Followed
{
    std::vector<Taken> taken; ///< what was known at the start, then what was read
    int probes = 0; ///< read after the start
    double seconds = 0; ///< of work for them
    Diagnosis last;
};

/// Reads where most is told for the work until it is enough, nothing is left to read, or `most` were read. `now`: the
/// condition the car is in.
[[nodiscard]] Followed follow(Finder& finder, std::vector<Taken> start, job::Condition now, const Shown& shown,
                              int most = 30);

} // namespace vicegrip::diagnosis
