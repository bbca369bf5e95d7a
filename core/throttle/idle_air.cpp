#include "core/throttle/idle_air.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::throttle {
namespace {

constexpr double kMiddle = (kLeastValve + kMostValve) / 2;
constexpr double kMoved = 5e-4; ///< of the travel: closer rests are one, by what a converter flickers (typical)
constexpr double kMostAtOnce = 0.02; ///< of the travel
constexpr double kSomething = 0.005; ///< of the valve's way: less is its own wandering (typical)

/// Volts that the rest moves for each share of the valve, from the last two readings at different rests; none: they do
/// not go together.
std::optional<double> voltsPerShare(std::span<const IdleRead> reads, double travel_v)
{
    const IdleRead& last = reads.back();
    const auto other = std::ranges::find_if(reads.rbegin(), reads.rend(), [&](const IdleRead& r) {
        return std::abs(r.rest_v - last.rest_v) > kMoved * std::abs(travel_v);
    });
    if (other == reads.rend() || std::abs(last.valve - other->valve) < kSomething)
        return std::nullopt;
    const double slope = (last.rest_v - other->rest_v) / (last.valve - other->valve);
    return slope * travel_v < 0 ? std::optional(slope) : std::nullopt; // a plate further open closes the valve
}

} // namespace

ScrewTurn screwTurn(std::span<const IdleRead> reads, double travel_v)
{
    ScrewTurn out;
    if (reads.empty() || !(std::abs(travel_v) > 0))
        return out;
    const IdleRead& last = reads.back();
    if (last.valve >= kLeastValve && last.valve <= kMostValve)
        return out;
    out.way = last.valve > kMostValve ? ScrewTurn::Way::In : ScrewTurn::Way::Out;
    const std::string much = out.way == ScrewTurn::Way::In
                                 ? phrase("the valve works hard, for the plate lets in too little")
                                 : phrase("the valve has nothing left, for the plate lets in too much");
    const std::string way = out.way == ScrewTurn::Way::In ? phrase("in") : phrase("out");
    const auto slope = voltsPerShare(reads, travel_v);
    if (!slope) {
        out.sentence = phrase("At {} {}: turn the stop {} by an eighth of a turn. Then Scale, Strokes zeroes the "
                              "throttle where it rests now, and the valve is read again: that tells how much is left.",
                              units::format(last.valve, units::Dimension::Ratio, "%", 1), much, way);
        return out;
    }
    const double most_v = kMostAtOnce * std::abs(travel_v);
    const double moves_v = std::clamp(*slope * (kMiddle - last.valve), -most_v, most_v);
    out.rest_v = last.rest_v + moves_v;
    out.sentence = phrase("At {} {}: turn the stop {} until the shut throttle rests at {}, by what the last turn did. "
                          "Then Scale, Strokes zeroes it there, and the valve is read again.",
                          units::format(last.valve, units::Dimension::Ratio, "%", 1), much, way,
                          units::format(*out.rest_v, units::Dimension::Voltage, "V", 3));
    return out;
}

} // namespace vicegrip::throttle
