#pragma once

#include "core/analysis/analysis.h"
#include "core/diagnosis/suspect.h"

#include <vector>

/// What would be read where, for every suspect: the network answers, no table of symptoms does.
namespace vicegrip::diagnosis {

/// A reading that was taken, or that can be.
struct Spot
{
    job::CircuitId circuit;
    proof::Place place;
};

/// What one suspect says of one spot.
struct Prediction
{
    enum class Kind {
        Nothing, ///< it cannot be read then: the unit is off
        Open, ///< an ohmmeter finds nothing that conducts
        Quantity
    };
    Kind kind = Kind::Nothing;
    double value = 0; ///< SI
    double sigma = 0; ///< of a car with this fault, and of the instrument
};

/// By suspect, then by spot. The network is solved once for each suspect and condition, on as many threads as there are
/// processors.
[[nodiscard]] std::vector<std::vector<Prediction>>
predictions(const analysis::Analysis& analysis, const std::vector<Suspect>& suspects, const std::vector<Spot>& spots);

} // namespace vicegrip::diagnosis
