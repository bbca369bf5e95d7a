#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"
#include "core/parts/transceiver.h"

namespace vicegrip::parts {
namespace {

constexpr double kSheet_v = 12, kDrawTolerance = 0.3, kLeast_v = 6; ///< (typical)

} // namespace

Drive BusDevice::drive(const Part&) const
{
    return {.driver = DriverKind::Bus, .supply_a = draws_a};
}

void BusDevice::setDraw(double amps, const Part&)
{
    draws_a = amps;
}

Laid BusDevice::lay(ElementSink& to, const Part&, const PartState& state) const
{
    const auto ground = to.at(PinRole::Ground), high = to.at(PinRole::Signal), low = to.at(PinRole::Signal2);
    const double ohm = kSheet_v / draws_a;
    to.resistor(to.at(PinRole::Supply), ground, ohm, ohm * kDrawTolerance);
    if (terminator_ohm > 0)
        to.resistor(high, low, terminator_ohm, terminator_ohm * terminator_tolerance);
    if (!state.keyOn)
        return {};
    const auto middle = to.inside();
    const auto source = to.volts(middle, ground, kQuiet_v, kQuietTolerance_v);
    for (const auto wire : {high, low})
        to.resistor(middle, wire, kBias_ohm, kBias_ohm * kBiasTolerance);
    return {.least_supply_v = kLeast_v, .source = source};
}

void BusDevice::write(DeckPen& to, const Part&, const PartState& state) const
{
    const std::string supply = to.at(PinRole::Supply), ground = to.at(PinRole::Ground);
    to.resistor(supply, ground, 12 / draws_a);
    if (terminator_ohm > 0)
        to.resistor(to.at(PinRole::Signal), to.at(PinRole::Signal2), terminator_ohm);
    if (state.keyOn)
        for (const PinRole wire : {PinRole::Signal, PinRole::Signal2})
            to.output("V(" + supply + "," + ground + ") >= 6 ? 2.5 : 0", 30e3, wire);
}

void BusDevice::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (lower(l.value) == "open")
        terminator_ohm = 0;
    else
        lines.quantity(l, l.value, Dimension::Resistance, "Ω", terminator_ohm);
}

std::string BusDevice::lines(const Part&) const
{
    return "draws: " + plainNumber(draws_a * 1e3) +
           " mA\nbus: " + (terminator_ohm > 0 ? plainNumber(terminator_ohm) + " ohm" : "open") + "\n" +
           percentLine(terminator_tolerance);
}

} // namespace vicegrip::parts
