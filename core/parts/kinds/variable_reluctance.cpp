#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

namespace {
constexpr double kCoilTolerance = 0.1; ///< of a coil's resistance (typical)
}

Result<void> VariableReluctance::check(const Part& part) const
{
    if (part.measures != Dimension::Frequency)
        return outOfRange("/measures", phrase("a variable-reluctance sensor measures frequency"));
    return {};
}

Laid VariableReluctance::lay(ElementSink& to, const Part&, const PartState&) const
{
    to.resistor(to.at(PinRole::Signal), to.at(PinRole::Ground), coil_ohm, coil_ohm * kCoilTolerance);
    return {};
}

void VariableReluctance::write(DeckPen& to, const Part&, const PartState&) const
{
    to.resistor(to.at(PinRole::Signal), to.at(PinRole::Ground), coil_ohm);
}

void VariableReluctance::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (const auto v = lines.two(l, "850 ohm, 60 V"); !v.empty()) {
        lines.quantity(l, v[0], Dimension::Resistance, "Ω", coil_ohm);
        lines.quantity(l, v[1], Dimension::Voltage, "V", peak_v);
    }
}

std::string VariableReluctance::lines(const Part&) const
{
    return "coil: " + plainNumber(coil_ohm) + " ohm, " + plainNumber(peak_v) + " V\n";
}

} // namespace vicegrip::parts
