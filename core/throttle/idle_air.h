#pragma once

#include <optional>
#include <span>
#include <string>

/// The stop screw and the idle valve share the air of an idle: which way the screw goes, and how much.
namespace vicegrip::throttle {

/// A warm idle as it was read: where the shut throttle rested, and how far the valve was open.
struct IdleRead
{
    double rest_v = 0;
    double valve = 0; ///< share of its way
};

/// Where the valve has room both ways: warm, in neutral, throttle at 0 (common practice, no source).
inline constexpr double kLeastValve = 0.02, kMostValve = 0.10;

struct ScrewTurn
{
    enum class Way { None, In, Out };
    Way way = Way::None; ///< in: the plate rests further open
    std::optional<double> rest_v; ///< where the shut throttle is to rest then; none: an eighth of a turn tells
    std::string sentence;
};

/// What to do after these readings of one throttle, in the order they were taken; `travel_v` lies between its two
/// stops, signed. Two readings at different rests tell what the screw does, and the line through them where it goes
/// (secant); one alone tells only the way. Never further than a fiftieth of the travel at once.
[[nodiscard]] ScrewTurn screwTurn(std::span<const IdleRead> reads, double travel_v);

} // namespace vicegrip::throttle
