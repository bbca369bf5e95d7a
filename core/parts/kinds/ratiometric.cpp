#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

#include <cmath>

namespace vicegrip::parts {

namespace {

/// An output saturates a little short of its rails (typical), but where its sheet says otherwise: shares of the supply.
std::pair<double, double> railsOf(const RatiometricTransducer& r)
{
    constexpr double kLeastShare = 0.02, kMostShare = 0.98;
    const auto [low, high] = std::minmax({r.low_v / r.at_supply_v, r.high_v / r.at_supply_v});
    return {std::clamp(low, 0.0, kLeastShare), std::clamp(high, kMostShare, 1.0)};
}

} // namespace

ElementValues RatiometricTransducer::values(const Part& part, double x) const
{
    const auto [least, most] = railsOf(*this);
    return {std::clamp(std::lerp(low_v, high_v, alongRange(part, x)) / at_supply_v, least, most)};
}

std::vector<double> RatiometricTransducer::kinks(const Part& part) const
{
    const auto [least, most] = railsOf(*this);
    std::vector<double> out;
    for (const double rail : {least, most})
        if (high_v != low_v)
            out.push_back(std::lerp(part.low, part.high, (rail * at_supply_v - low_v) / (high_v - low_v)));
    return out;
}

ElementRange RatiometricTransducer::around(double value) const
{
    const double off = tolerance * std::abs(high_v - low_v) / at_supply_v;
    return {std::max(value - off, 0.0), std::min(value + off, 1.0)};
}

Result<void> RatiometricTransducer::check(const Part&) const
{
    if (low_v == high_v)
        return outOfRange("/ratiometric/high_v", phrase("the output does not move: high_v equals low_v"));
    return {};
}

double RatiometricTransducer::mostVolts(const Part&) const
{
    return std::max(low_v, high_v);
}

std::optional<OutputSpan> RatiometricTransducer::span() const
{
    return OutputSpan{low_v, high_v, tolerance, at_supply_v, true};
}

void RatiometricTransducer::setSpan(double from_v, double to_v, double share)
{
    low_v = from_v;
    high_v = to_v;
    tolerance = share;
}

void RatiometricTransducer::setDraw(double amps, const Part&)
{
    supply_ohm = at_supply_v / amps;
}

Laid RatiometricTransducer::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    const auto supply = to.at(PinRole::Supply), ground = to.at(PinRole::Ground);
    to.resistor(supply, ground, supply_ohm, supply_ohm * 0.3);
    if (!state.keyOn) // unpowered, its output has no resistance to promise
        return {};
    const auto output = to.inside();
    const double span = std::abs(high_v - low_v) / at_supply_v;
    Laid out{.varied = {to.shareOf(output, supply, ground, values(part, state.value)[0], tolerance * span)}};
    to.resistor(output, to.at(PinRole::Signal), out_ohm, out_ohm * 0.2);
    return out;
}

void RatiometricTransducer::write(DeckPen& to, const Part& part, const PartState& state) const
{
    const std::string supply = to.at(PinRole::Supply), ground = to.at(PinRole::Ground);
    to.resistor(supply, ground, supply_ohm);
    const double share = (state.value - part.low) / (part.high - part.low);
    const double low = std::min({low_v, high_v, 0.02 * at_supply_v}),
                 high = std::max({low_v, high_v, 0.98 * at_supply_v});
    const double volts = std::clamp(low_v + (high_v - low_v) * share, std::max(low, 0.0), std::min(high, at_supply_v));
    if (state.keyOn)
        to.output(units::shortest(volts / at_supply_v) + " * V(" + supply + "," + ground + ")", out_ohm);
}

void RatiometricTransducer::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (const auto v = lines.two(l, "0.5 V, 4.5 V"); !v.empty()) {
        lines.quantity(l, v[0], Dimension::Voltage, "V", low_v);
        lines.quantity(l, v[1], Dimension::Voltage, "V", high_v);
    }
}

std::string RatiometricTransducer::lines(const Part&) const
{
    return percentLine(tolerance) + "draws: " + plainNumber(at_supply_v / supply_ohm * 1e3) +
           " mA\nratiometric: " + plainNumber(low_v) + " V, " + plainNumber(high_v) + " V\n";
}

} // namespace vicegrip::parts
