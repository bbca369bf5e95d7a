#pragma once

#include "core/trigger/report.h"

#include <span>
#include <vector>

namespace vicegrip::trigger {

/// Where an edge of the cam's signal comes, in degrees of the crank.
struct CamEdge
{
    double angle_deg = 0; ///< of two turns, from the crank's first tooth: 0 to 720
    double scatter_deg = 0; ///< from one time to another: a standard deviation
    double toTooth_deg = 0; ///< to the nearest edge of the crank's wheel: how far it may move before they pass
    int tooth = 0; ///< that one, by its number
    std::size_t times = 0; ///< that it came
};

struct CamBeside
{
    std::vector<CamEdge> edges; ///< by their angle; the turn that begins with the first of them is called the first
    bool tellsTurn = false; ///< the two turns of the crank differ by them
};

/// The cam's edges (times of one kind, rising) beside a crank that was followed. Errors (Range): the crank was not
/// followed for two turns, no edge fell into what was followed, or they come at no angle that repeats.
[[nodiscard]] Result<CamBeside> camBeside(const Report& crank, std::span<const double> cam_s);

} // namespace vicegrip::trigger
