#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

ElementValues Resistive::values(const Part&, double x) const
{
    return {alongPoints(points, &Point::ohm, x)};
}

std::vector<double> Resistive::kinks(const Part&) const
{
    std::vector<double> out;
    for (const auto& p : points)
        out.push_back(p.value);
    return out;
}

ElementRange Resistive::around(double value) const
{
    return {value * (1 - tolerance), value * (1 + tolerance)};
}

Result<void> Resistive::check(const Part&) const
{
    return checkRising(points, &Point::ohm, "/resistive/points", phrase("resistance"));
}

Laid Resistive::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    const double ohm = values(part, state.value)[0];
    return {.varied = {to.resistor(to.at(PinRole::Signal), to.at(PinRole::Ground), ohm, ohm * tolerance)}};
}

void Resistive::write(DeckPen& to, const Part&, const PartState& state) const
{
    to.resistor(to.at(PinRole::Signal), to.at(PinRole::Ground), alongPoints(points, &Point::ohm, state.value));
}

void Resistive::readLine(PartLines& lines, const Line& l, const Part& part)
{
    for (const auto& [value, ohm] : lines.tableBelow(l, part.measures, part.unit, Dimension::Resistance, "Ω"))
        points.push_back({value, ohm});
}

std::string Resistive::lines(const Part& part) const
{
    return percentLine(tolerance) + "ohms:\n" + pointLines(part, points, &Point::ohm);
}

} // namespace vicegrip::parts
