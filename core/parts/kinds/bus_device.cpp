#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"
#include "core/parts/transceiver.h"

namespace vicegrip::parts {
namespace {

constexpr double kSheet_v = 12, kDrawTolerance = 0.3, kLeast_v = 6; ///< (typical)

} // namespace

Drive BusDevice::drive(const Part& part) const
{
    return {.driver = DriverKind::Bus, .supply_a = cavityOf(part, PinRole::Supply).empty() ? 0 : draws_a};
}

Result<void> BusDevice::check(const Part& part) const
{
    const bool supply = !cavityOf(part, PinRole::Supply).empty(), ground = !cavityOf(part, PinRole::Ground).empty();
    if (supply != ground)
        return outOfRange("/pins", phrase("its electronics need a supply pin and a ground pin, or neither"));
    if (port && (supply || terminator_ohm > 0))
        return outOfRange("/bus/port", phrase("the port of a unit has its power and its terminator from the unit"));
    return {};
}

void BusDevice::setDraw(double amps, const Part&)
{
    draws_a = amps;
}

Laid BusDevice::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    if (port)
        return {};
    const bool fed = !cavityOf(part, PinRole::Supply).empty();
    const auto ground = to.at(PinRole::Ground), high = to.at(PinRole::Signal), low = to.at(PinRole::Signal2);
    if (const double ohm = kSheet_v / draws_a; fed)
        to.resistor(to.at(PinRole::Supply), ground, ohm, ohm * kDrawTolerance);
    if (terminator_ohm > 0)
        to.resistor(high, low, terminator_ohm, terminator_ohm * terminator_tolerance);
    if (!state.keyOn)
        return {};
    const auto middle = to.inside();
    const auto source = to.volts(middle, ground, kQuiet_v, kQuietTolerance_v);
    for (const auto wire : {high, low})
        to.resistor(middle, wire, kBias_ohm, kBias_ohm * kBiasTolerance);
    if (!fed)
        return {};
    return {.least_supply_v = kLeast_v, .source = source};
}

void BusDevice::write(DeckPen& to, const Part& part, const PartState& state) const
{
    if (port)
        return;
    const bool fed = part.pins.size() > 2;
    const std::string supply = to.at(PinRole::Supply), ground = to.at(PinRole::Ground);
    if (fed)
        to.resistor(supply, ground, 12 / draws_a);
    if (terminator_ohm > 0)
        to.resistor(to.at(PinRole::Signal), to.at(PinRole::Signal2), terminator_ohm);
    if (state.keyOn)
        for (const PinRole wire : {PinRole::Signal, PinRole::Signal2})
            to.output(fed ? "V(" + supply + "," + ground + ") >= 6 ? 2.5 : 0" : "2.5", 30e3, wire);
}

void BusDevice::readLine(PartLines& lines, const Line& l, const Part&)
{
    port = lower(l.value) == "port";
    if (port || lower(l.value) == "open")
        terminator_ohm = 0;
    else
        lines.quantity(l, l.value, Dimension::Resistance, "Ω", terminator_ohm);
}

std::string BusDevice::lines(const Part&) const
{
    return "draws: " + plainNumber(draws_a * 1e3) + " mA\nbus: " +
           (port                 ? "port"
            : terminator_ohm > 0 ? plainNumber(terminator_ohm) + " ohm"
                                 : "open") +
           "\n" + percentLine(terminator_tolerance);
}

} // namespace vicegrip::parts
