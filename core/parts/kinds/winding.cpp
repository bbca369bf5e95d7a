#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

namespace {

/// Below it an injector takes more than a plain driver gives (common practice, no source).
constexpr double kHighResistance_ohm = 8;

} // namespace

Drive Winding::drive(const Part& part) const
{
    const double amps = kCharging_v / (ohm * (1 - tolerance));
    Drive out{.driver = DriverKind::Switched, .amps = limited_a > 0 ? std::min(limited_a, amps) : amps, .most_hz = 0};
    out.kicks = !suppressed;
    if (part.kind == PartUse::Injector) {
        out.driver = ohm < kHighResistance_ohm ? DriverKind::PeakAndHold : DriverKind::Injector;
        out.most_hz = 150; // one opening a turn at 9000 1/min
    } else if (part.kind == PartUse::IgnitionCoil) {
        out.driver = DriverKind::Ignition;
        out.most_hz = 300; // four sparks a turn at 4500 1/min, of a distributor's coil
    } else if (isOnPulseWidth(part.kind)) {
        out.most_hz = 30; // of a solenoid valve (typical)
    }
    return out;
}

Laid Winding::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    // At work its driver holds the current down, as a greater resistance would, where a resistor has not done so.
    const double now = state.running && limited_a > 0 ? std::max(ohm, kCharging_v / limited_a - state.series_ohm) : ohm;
    to.resistor(to.at(PinRole::Signal), to.at(*acrossFrom(part, PinRole::Signal)), now, now * tolerance);
    return {};
}

void Winding::write(DeckPen& to, const Part& part, const PartState& state) const
{
    const bool fed = std::ranges::any_of(part.pins, [](const auto& p) { return p.second == PinRole::Supply; });
    to.resistor(to.at(PinRole::Signal), to.at(fed ? PinRole::Supply : PinRole::Ground),
                state.running && limited_a * ohm > 0 && 14.4 / (ohm + state.series_ohm) > limited_a
                    ? 14.4 / limited_a - state.series_ohm
                    : ohm);
}

void Winding::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (l.key == "winding")
        lines.quantity(l, l.value, Dimension::Resistance, "Ω", ohm);
    else if (l.key == "limited")
        lines.quantity(l, l.value, Dimension::Current, "A", limited_a);
    else
        suppressed = lines.yes(l);
}

std::string Winding::lines(const Part&) const
{
    std::string out = percentLine(tolerance) + "winding: " + plainNumber(ohm) + " ohm\n";
    if (limited_a > 0)
        out += "limited: " + plainNumber(limited_a) + " A\n";
    return suppressed ? out + "suppressed: yes\n" : out;
}

} // namespace vicegrip::parts
