#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

ElementValues Potentiometer::values(const Part& part, double x) const
{
    const double position = std::clamp(alongRange(part, x), 0.0, 1.0);
    const double share = endGap + position * (1 - 2 * endGap);
    return {track_ohm * (1 - share), track_ohm * share};
}

std::vector<double> Potentiometer::kinks(const Part& part) const
{
    return {part.low, part.high};
}

double Potentiometer::mostVolts(const Part&) const
{
    return track_ohm > 0 ? 5 : 0;
}

Laid Potentiometer::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    const auto halves = values(part, state.value);
    const auto wiper = to.inside();
    Laid out{.varied = {to.resistor(to.at(PinRole::Supply), wiper, halves[0]),
                        to.resistor(wiper, to.at(PinRole::Ground), halves[1])},
             .jointTolerance = tolerance * track_ohm,
             .jointSlopes = {halves[0] / track_ohm, halves[1] / track_ohm}};
    to.resistor(wiper, to.at(PinRole::Signal), wiper_ohm, wiper_ohm * 0.5);
    for (const double track : {1 - tolerance, 1 + tolerance})
        for (const double x : {state.low, state.high}) {
            const ElementValues there = values(part, x);
            out.jointSettings.push_back({track * there[0], track * there[1]});
        }
    return out;
}

void Potentiometer::write(DeckPen& to, const Part& part, const PartState& state) const
{
    const std::string wiper = to.fresh();
    const double share = std::clamp((state.value - part.low) / (part.high - part.low), 0.0, 1.0);
    const double at = endGap + share * (1 - 2 * endGap);
    to.resistor(to.at(PinRole::Supply), wiper, track_ohm * (1 - at));
    to.resistor(wiper, to.at(PinRole::Ground), track_ohm * at);
    to.resistor(wiper, to.at(PinRole::Signal), wiper_ohm);
}

void Potentiometer::readLine(PartLines& lines, const Line& l, const Part&)
{
    lines.quantity(l, l.value, Dimension::Resistance, "Ω", track_ohm);
}

std::string Potentiometer::lines(const Part&) const
{
    return percentLine(tolerance) + "track: " + plainNumber(track_ohm) + " ohm\n";
}

} // namespace vicegrip::parts
