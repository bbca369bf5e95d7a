#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

Drive Motor::drive(const Part& part) const
{
    const bool both = !cavityOf(part, PinRole::Signal2).empty();
    return {.driver = both ? DriverKind::Pair : DriverKind::Switched,
            .amps = running_a,
            .start_a = kCharging_v / (ohm * (1 - tolerance)),
            .most_hz = 0,
            .kicks = true};
}

Laid Motor::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    const double now = state.running ? kCharging_v / running_a : ohm; // turning, it takes less
    to.resistor(to.at(PinRole::Signal), to.at(*acrossFrom(part, PinRole::Signal)), now, now * tolerance);
    return {};
}

void Motor::write(DeckPen& to, const Part& part, const PartState& state) const
{
    PinRole other = PinRole::Signal2;
    for (const auto& [cavity, role] : part.pins)
        if (role != PinRole::Signal)
            other = role;
    to.resistor(to.at(PinRole::Signal), to.at(other), state.running ? 14.4 / running_a : ohm);
}

void Motor::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (const auto v = lines.two(l, "0.8 ohm, 7 A"); !v.empty()) {
        lines.quantity(l, v[0], Dimension::Resistance, "Ω", ohm);
        lines.quantity(l, v[1], Dimension::Current, "A", running_a);
    }
}

std::string Motor::lines(const Part&) const
{
    return percentLine(tolerance) + "motor: " + plainNumber(ohm) + " ohm, " + plainNumber(running_a) + " A\n";
}

} // namespace vicegrip::parts
