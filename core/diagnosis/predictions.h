#pragma once

#include "core/analysis/analysis.h"
#include "core/diagnosis/suspect.h"

#include <cmath>
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
        Anything, ///< nothing, or nonsense: the input is set to another kind of signal
        Open, ///< an ohmmeter finds nothing that conducts
        Quantity
    };
    Kind kind = Kind::Nothing;
    double value = 0; ///< SI
    /// Standard deviations: of cars with this fault, which all readings of one cause share (its sign says which way);
    /// of this reading alone; and, of a fault that has a size, what half a step to the next size moves.
    double car = 0, own = 0, grown = 0;
    int cause = -1; ///< 0 to kCauses - 1; -1: it shares nothing

    [[nodiscard]] double sigma() const { return std::sqrt(car * car + own * own); }
};

/// What a circuit's readings have in common: each of its ways, in volts and in ohms.
inline constexpr int kCauses = 6;

/// By suspect, then by spot. The network is solved once for each suspect and condition, on as many threads as there are
/// processors. Of sizes that need not be solved it lies on the curve (a + b r) / (1 + c r) through the neighbours that
/// are and the sound car: that is how every voltage and every resistance of a linear network goes with one of its
/// resistances. Where something switches off between two sizes, or what the ECU makes of it moves, all are solved.
/// The first suspect is the sound car; those of one series stand together, by size. `of`: the circuit whose readings
/// share causes; those of others share nothing with one another.
[[nodiscard]] std::vector<std::vector<Prediction>> predictions(const analysis::Analysis& analysis,
                                                               const job::CircuitId& of,
                                                               const std::vector<Suspect>& suspects,
                                                               const std::vector<Spot>& spots);

} // namespace vicegrip::diagnosis
