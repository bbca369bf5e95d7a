#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

namespace {
constexpr double kRated_v = 12, kColdShare = 0.1;

double coldOhm(const Lamp& lamp)
{
    return kColdShare * kRated_v / lamp.lit_a;
}

} // namespace

Drive Lamp::drive(const Part&) const
{
    return {.driver = DriverKind::Switched,
            .amps = lit_a * kCharging_v / kRated_v / (1 - tolerance),
            .start_a = kCharging_v / (coldOhm(*this) * (1 - tolerance)),
            .most_hz = 0,
            .kicks = false};
}

Laid Lamp::lay(ElementSink& to, const Part& part, const PartState& state) const
{
    const double now = state.running ? kRated_v / lit_a : coldOhm(*this);
    to.resistor(to.at(PinRole::Signal), to.at(*acrossFrom(part, PinRole::Signal)), now, now * tolerance);
    return {};
}

void Lamp::write(DeckPen& to, const Part& part, const PartState& state) const
{
    const bool fed = std::ranges::any_of(part.pins, [](const auto& p) { return p.second == PinRole::Supply; });
    to.resistor(to.at(PinRole::Signal), to.at(fed ? PinRole::Supply : PinRole::Ground),
                (state.running ? 12 : 1.2) / lit_a);
}

void Lamp::readLine(PartLines& lines, const Line& l, const Part&)
{
    lines.quantity(l, l.value, Dimension::Current, "mA", lit_a);
}

std::string Lamp::lines(const Part&) const
{
    return percentLine(tolerance) + "lamp: " + plainNumber(lit_a * 1e3) + " mA\n";
}

} // namespace vicegrip::parts
