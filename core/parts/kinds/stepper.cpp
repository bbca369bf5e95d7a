#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

Drive Stepper::drive(const Part&) const
{
    return {.driver = DriverKind::Stepper, .amps = kCharging_v / (ohm * (1 - tolerance)), .most_hz = 0, .kicks = true};
}

Laid Stepper::lay(ElementSink& to, const Part&, const PartState&) const
{
    to.resistor(to.at(PinRole::Signal), to.at(PinRole::Signal2), ohm, ohm * tolerance);
    to.resistor(to.at(PinRole::Signal3), to.at(PinRole::Signal4), ohm, ohm * tolerance);
    return {};
}

void Stepper::write(DeckPen& to, const Part&, const PartState&) const
{
    to.resistor(to.at(PinRole::Signal), to.at(PinRole::Signal2), ohm);
    to.resistor(to.at(PinRole::Signal3), to.at(PinRole::Signal4), ohm);
}

void Stepper::readLine(PartLines& lines, const Line& l, const Part&)
{
    lines.quantity(l, l.value, Dimension::Resistance, "Ω", ohm);
}

std::string Stepper::lines(const Part&) const
{
    return percentLine(tolerance) + "stepper: " + plainNumber(ohm) + " ohm\n";
}

} // namespace vicegrip::parts
