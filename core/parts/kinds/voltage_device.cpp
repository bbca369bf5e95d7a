#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

#include <cmath>

namespace vicegrip::parts {

ElementValues VoltageDevice::values(const Part& part, double x) const
{
    if (!points.empty())
        return {alongPoints(points, &Point::volts, x)};
    const auto [least, most] = std::minmax(low_v, high_v);
    return {std::clamp(std::lerp(low_v, high_v, alongRange(part, x)), least, most)};
}

std::vector<double> VoltageDevice::kinks(const Part& part) const
{
    std::vector<double> out = {part.low, part.high};
    for (const auto& p : points)
        out.push_back(p.value);
    return out;
}

ElementRange VoltageDevice::around(double value) const
{
    return {value - tolerance_v, value + tolerance_v};
}

Result<void> VoltageDevice::check(const Part&) const
{
    if (low_v == high_v)
        return outOfRange("/voltage/high_v", phrase("the output does not move: high_v equals low_v"));
    return checkRising(points, &Point::volts, "/voltage/points", phrase("voltage"));
}

double VoltageDevice::mostVolts(const Part&) const
{
    double most = points.empty() ? std::max(low_v, high_v) : 0;
    for (const auto& p : points) // a bent one puts out what its points say
        most = std::max(most, p.volts);
    return most;
}

std::optional<OutputSpan> VoltageDevice::span() const
{
    return OutputSpan{low_v, high_v, tolerance_v / std::abs(high_v - low_v), 0, points.empty()};
}

void VoltageDevice::setSpan(double from_v, double to_v, double share)
{
    low_v = from_v;
    high_v = to_v;
    setTolerance(share);
}

void VoltageDevice::setTolerance(double share)
{
    tolerance_v = share * std::abs(high_v - low_v);
}

void VoltageDevice::setDraw(double amps, const Part&)
{
    supply_ohm = 12 / amps;
}

Laid VoltageDevice::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    const auto ground = to.at(PinRole::Ground);
    to.resistor(to.at(PinRole::Supply), ground, supply_ohm, supply_ohm * 0.15);
    if (!state.keyOn)
        return {};
    const auto output = to.inside();
    const auto source = to.volts(output, ground, values(part, state.value)[0], tolerance_v);
    to.resistor(output, to.at(PinRole::Signal), out_ohm, out_ohm * 0.2);
    return {.varied = {source}, .least_supply_v = least_supply_v, .source = source};
}

void VoltageDevice::write(DeckPen& to, const Part& part, const PartState& state) const
{
    const std::string supply = to.at(PinRole::Supply), ground = to.at(PinRole::Ground);
    to.resistor(supply, ground, supply_ohm);
    const double share = (state.value - part.low) / (part.high - part.low);
    const auto [least, most] = std::minmax(low_v, high_v);
    const double volts = points.empty() ? std::clamp(low_v + (high_v - low_v) * share, least, most)
                                        : alongPoints(points, &Point::volts, state.value);
    if (state.keyOn)
        to.output("V(" + supply + "," + ground + ") >= " + units::shortest(least_supply_v) + " ? " +
                      units::shortest(volts) + " : 0",
                  out_ohm);
}

void VoltageDevice::readLine(PartLines& lines, const Line& l, const Part& part)
{
    if (l.value.empty()) {
        for (const auto& [value, volts] : lines.tableBelow(l, part.measures, part.unit, Dimension::Voltage, "V"))
            points.push_back({value, volts});
        if (points.size() >= 2) {
            low_v = points.front().volts;
            high_v = points.back().volts;
        }
    } else if (const auto v = lines.two(l, "0 V, 5 V"); !v.empty()) {
        lines.quantity(l, v[0], Dimension::Voltage, "V", low_v);
        lines.quantity(l, v[1], Dimension::Voltage, "V", high_v);
    }
}

std::string VoltageDevice::lines(const Part& part) const
{
    const std::string start =
        percentLine(tolerance_v / std::abs(high_v - low_v)) + "draws: " + plainNumber(12 / supply_ohm * 1e3) + " mA\n";
    if (points.empty())
        return start + "volts: " + plainNumber(low_v) + " V, " + plainNumber(high_v) + " V\n";
    return start + "volts:\n" + pointLines(part, points, &Point::volts);
}

} // namespace vicegrip::parts
