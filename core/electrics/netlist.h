#pragma once

#include "core/electrics/electrics.h"

#include <map>
#include <string>

/// A job as a deck for a SPICE program: to look at in another program what this one works out. It is written straight
/// from the drawing and shares no code with the builder of electrics::build, so that the two can be held against each
/// other.
///
///     * A.7 is n12
///     R31 n12 n40 0.005 ; contact A.7
///     Bsupply0 n3 n2 V = V(n5,n2) >= 6.5 ? 5 : 0 ; supply
namespace vicegrip::electrics {

struct Netlist
{
    std::string elements; ///< a line each, with what it is behind a semicolon
    std::map<job::PointRef, std::string> places; ///< the node of each place a probe can reach; "0": the battery's
                                                 ///< negative post
    struct Input
    {
        std::string converter, ground, supply; ///< nodes inside the unit; supply: what a ratiometric input divides by
    };
    std::map<parts::InputId, Input> inputs;

    /// The whole deck: title, places as comments, elements, an operating point, and what it prints.
    [[nodiscard]] std::string deck(const std::string& title) const;
};

/// Faults of the situation are in it; devices whose supply is too low put nothing out. With the battery off there is no
/// source in it: a current of 1 A between two places makes volts of ohms.
[[nodiscard]] Netlist netlist(const job::Job& job, const Situation& situation);

} // namespace vicegrip::electrics
