#pragma once

#include <functional>
#include <optional>
#include <vector>

/// Who sits where, as a pure integer programme: no sensors and no ECUs, only items, classes of equal seats, and
/// budgets.
namespace vicegrip::seating {

/// Ranks of items: all of rank 0 that can be seated are, then as many of rank 1 as still can, and so on.
inline constexpr int kRanks = 3;

struct Item
{
    int rank = 0;
    double draw = 0; ///< of the budget of the seat it gets
    std::vector<std::optional<double>> cost; ///< one per class; none: it cannot sit there
};

struct SeatClass
{
    int seats = 0;
    int budget = 0; ///< index of the budget its occupants draw on
};

struct Problem
{
    std::vector<Item> items;
    std::vector<SeatClass> classes;
    std::vector<double> budgets; ///< total draw each can bear
};

struct Assignment
{
    std::vector<int> classOf; ///< per item; -1: not seated
    double cost = 0;
    bool optimal = false; ///< proved; otherwise the best found in the time allowed
};

/// How far it has come, told while it is solved.
struct Progress
{
    int step = 0, steps = kRanks + 1; ///< a step a rank, and one for the cost
    int seated = 0; ///< in the best found so far
};
/// Asked a few times a second; false ends it with the best found so far.
using Watch = std::function<bool(const Progress&)>;

/// The assignment that seats the most items of rank 0, then of rank 1, then of rank 2, then costs least. Items and
/// classes that are alike are counted together; a first seating is then bettered by branch and cut (GLPK), one step a
/// rank, each fixing what the one before has won. With no time left, or when `watch` says so, the best found stands and
/// `optimal` is false.
[[nodiscard]] Assignment assign(const Problem& problem, int allowed_ms = 2000, const Watch& watch = {});

} // namespace vicegrip::seating
