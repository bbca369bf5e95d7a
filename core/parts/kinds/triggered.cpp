#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

namespace {

/// What its supply sees: without a signal a tenth of what it draws at work (typical).
double supplyOhm(double draws_a, bool working)
{
    constexpr double kSheetFeed_v = 12, kIdleShare = 0.1;
    return kSheetFeed_v / (working ? draws_a : kIdleShare * draws_a);
}

} // namespace

Drive Triggered::drive(const Part& part) const
{
    const bool spark = part.kind == PartUse::IgnitionCoil || part.kind == PartUse::IgnitionModule;
    return {.driver = spark ? DriverKind::IgnitionLogic : DriverKind::Logic,
            .amps = 5 / (input_ohm * (1 - tolerance)),
            .supply_a = draws_a,
            .most_hz = spark || part.kind == PartUse::Tachometer ? 300.0 : 0.0, // four sparks a turn at 4500 1/min
            .kicks = false,
            .least_v = needs_v};
}

void Triggered::setDraw(double amps, const Part&)
{
    draws_a = amps;
}

Laid Triggered::lay(ElementSink& to, const Part&, const PartState& state) const
{
    const double ohm = supplyOhm(draws_a, state.running);
    const auto ground = to.at(PinRole::Ground);
    to.resistor(to.at(PinRole::Signal), ground, input_ohm, input_ohm * tolerance);
    to.resistor(to.at(PinRole::Supply), ground, ohm, ohm * tolerance);
    return {};
}

void Triggered::write(DeckPen& to, const Part&, const PartState& state) const
{
    to.resistor(to.at(PinRole::Signal), to.at(PinRole::Ground), input_ohm);
    to.resistor(to.at(PinRole::Supply), to.at(PinRole::Ground), (state.running ? 12 : 120) / draws_a);
}

void Triggered::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (const auto v = lines.two(l, "3 V, 10 kohm"); !v.empty()) {
        lines.quantity(l, v[0], Dimension::Voltage, "V", needs_v);
        lines.quantity(l, v[1], Dimension::Resistance, "Ω", input_ohm);
    }
}

std::string Triggered::lines(const Part&) const
{
    return percentLine(tolerance) + "draws: " + plainNumber(draws_a * 1e3) + " mA\ntrigger: " + plainNumber(needs_v) +
           " V, " + plainNumber(input_ohm) + " ohm\n";
}

} // namespace vicegrip::parts
