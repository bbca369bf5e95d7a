#pragma once

#include "core/seating/assignment.h"

#include <utility>

/// Items that are alike in all that matters to a seat, counted, and classes of seats that nobody can tell apart,
/// joined: twenty coolant sensors before sixty equal inputs are one number to find and not twelve hundred.
namespace vicegrip::seating {

struct Grouped
{
    struct Kind
    {
        Item item;
        std::vector<size_t> items; ///< of the problem
    };
    struct Seats
    {
        int seats = 0;
        int budget = 0;
        std::vector<size_t> classes; ///< of the problem
    };
    std::vector<Kind> kinds; ///< `item.cost` is per entry of `seats`
    std::vector<Seats> seats;
    std::vector<double> budgets;
};

/// How many of each kind sit in each of the seats: one row a kind.
using Counts = std::vector<std::vector<int>>;

[[nodiscard]] Grouped group(const Problem& problem);

/// Counts as classes for the problem's own items.
[[nodiscard]] std::vector<int> ungroup(const Grouped& grouped, const Problem& problem, const Counts& counts);

/// A seating to start from: by rank, the hardest to please first, each where it costs least; who finds all taken is let
/// in where others can move up. Within the budgets; not the best.
[[nodiscard]] Counts firstSeating(const Grouped& grouped);

} // namespace vicegrip::seating
