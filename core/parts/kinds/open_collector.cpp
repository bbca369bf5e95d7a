#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

#include <cmath>
#include <tuple>

namespace vicegrip::parts {

ElementValues OpenCollector::values(const Part&, double) const
{
    return {off_ohm};
}

double OpenCollector::mostHertz(const Part&) const
{
    return high_hz;
}

double OpenCollector::hertz(const Part& part, double value) const
{
    if (!points.empty())
        return alongPoints(points, &Point::hz, value);
    return std::max(0.0, std::lerp(low_hz, high_hz, alongRange(part, value)));
}

void OpenCollector::setRates(double from_hz, double to_hz)
{
    points.clear();
    low_hz = from_hz;
    high_hz = to_hz;
}

void OpenCollector::setDraw(double amps, const Part& part)
{
    supply_ohm = (part.feed == Feed::Battery ? 12 : 5) / amps;
}

Result<void> OpenCollector::check(const Part&) const
{
    if (!(low_hz < high_hz))
        return outOfRange("/open_collector/high_hz",
                          phrase("the frequency does not rise: high_hz must be above low_hz"));
    if (on_ohm >= off_ohm)
        return outOfRange("/open_collector/off_ohm",
                          phrase("the output does not switch: off_ohm must be above on_ohm"));
    return checkRising(points, &Point::hz, "/open_collector/points", phrase("frequency"));
}

Laid OpenCollector::lay(ElementSink& to, const Part&, const PartState& state) const
{
    const auto ground = to.at(PinRole::Ground);
    to.resistor(to.at(PinRole::Supply), ground, supply_ohm, supply_ohm * 0.3);
    constexpr double kOnTolerance = 0.5; // of a transistor's ohms (typical)
    Laid out{.varied = {state.pulls ? to.resistor(to.at(PinRole::Signal), ground, on_ohm, on_ohm * kOnTolerance)
                                    : to.resistor(to.at(PinRole::Signal), ground, off_ohm)}};
    if (state.keyOn)
        out.least_supply_v = least_supply_v;
    return out;
}

void OpenCollector::write(DeckPen& to, const Part&, const PartState& state) const
{
    const std::string ground = to.at(PinRole::Ground);
    to.resistor(to.at(PinRole::Supply), ground, supply_ohm);
    to.resistor(to.at(PinRole::Signal), ground, state.pulls ? on_ohm : off_ohm);
}

void OpenCollector::readLine(PartLines& lines, const Line& l, const Part& part)
{
    if (l.value.empty()) {
        for (const auto& [value, hz] : lines.tableBelow(l, part.measures, part.unit, Dimension::Frequency, "Hz"))
            points.push_back({value, hz});
        if (points.size() >= 2)
            std::tie(low_hz, high_hz) = std::minmax(points.front().hz, points.back().hz);
    } else if (const auto v = lines.two(l, "50 Hz, 150 Hz"); !v.empty()) {
        lines.quantity(l, v[0], Dimension::Frequency, "Hz", low_hz);
        lines.quantity(l, v[1], Dimension::Frequency, "Hz", high_hz);
    }
}

std::string OpenCollector::lines(const Part& part) const
{
    const std::string start = percentLine(tolerance) +
                              "draws: " + plainNumber((part.feed == Feed::Battery ? 12 : 5) / supply_ohm * 1e3) +
                              " mA\n";
    if (points.empty())
        return start + "hertz: " + plainNumber(low_hz) + " Hz, " + plainNumber(high_hz) + " Hz\n";
    return start + "hertz:\n" + pointLines(part, points, &Point::hz);
}

} // namespace vicegrip::parts
