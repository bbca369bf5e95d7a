#pragma once

#include "core/base/result.h"

#include <string>
#include <vector>

/// The order of hands: steps with what must come before them, put in a sequence that walks from place to place as
/// little as can be.
namespace vicegrip::work {

struct Step
{
    std::string id;
    std::string what; ///< "Pin the coolant plug"
    std::string place; ///< where hands and eyes must be: "under the intake"
    std::vector<std::string> after; ///< ids of what must be done first
    std::string tools;
    std::string why; ///< why it comes where it does; empty where that is plain
    bool done = false;
};

struct Order
{
    std::vector<size_t> order; ///< indices of the steps that are not done, in the order they are best done
    int moves = 0; ///< from one place to another
    bool optimal = false; ///< proved that no order moves less; otherwise the best found
};

/// The order with the fewest moves. Whoever is at a place does all that can be done there before he leaves: that never
/// costs a move, so only the sequence of places is searched (A*, with the places that still hold work as the bound).
/// Errors: an id used twice, a step after one that is not there (Reference), steps that wait for each other (Range);
/// the pointer is "/N/after".
[[nodiscard]] Result<Order> order(const std::vector<Step>& steps);

} // namespace vicegrip::work
