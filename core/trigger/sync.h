#pragma once

#include "core/trigger/wheel.h"

#include <cstddef>
#include <span>
#include <vector>

namespace vicegrip::trigger {

/// Why it is no longer known where the wheel stands.
enum class LossCause {
    Missing, ///< an edge did not come: a tooth that was not seen
    Extra, ///< one came that is none of the wheel's: noise
    Speed ///< a period that neither explains: another wheel, or a speed that leaps
};

struct Loss
{
    std::size_t edge = 0; ///< the first that was not as it should be
    double time_s = 0;
    int tooth = 0; ///< that was due
    LossCause cause = LossCause::Speed;
};

/// What was made of a row of edges.
struct Followed
{
    std::vector<int> tooth; ///< of each edge, by its number in `edgesOf`; -1: not known then
    std::vector<Loss> losses;
    bool placed = true; ///< false: all steps of the wheel are alike, and the numbers begin anywhere

    [[nodiscard]] std::size_t known() const; ///< edges that were
};

/// Where the wheel stands, edge by edge (times of one kind, rising): by a turn of periods that fits it in one way only,
/// then by each next period against the one before. After a loss it looks again. `trailing`: the edges are where teeth
/// end.
[[nodiscard]] Followed follow(std::span<const double> times_s, const Wheel& wheel, bool trailing);

} // namespace vicegrip::trigger
