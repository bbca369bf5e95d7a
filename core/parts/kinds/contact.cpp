#include "core/base/phrase.h"
#include "core/parts/lines.h"
#include "core/parts/part.h"

namespace vicegrip::parts {

bool Contact::needsPullUp(const Part& part) const
{
    return !cavityOf(part, PinRole::Ground).empty();
}

double Contact::mostVolts(const Part& part) const
{
    constexpr double kBattery_v = 14.4; // charging (typical)
    return needsPullUp(part) ? 0 : kBattery_v;
}

void Contact::setContact(std::optional<double> ohm)
{
    closedAtRest = ohm.has_value();
    on_ohm = ohm.value_or(on_ohm);
}

Laid Contact::lay(ElementSink& to, const Part& part, const PartState&) const
{
    if (closedAtRest)
        to.resistor(to.at(PinRole::Signal), to.at(needsPullUp(part) ? PinRole::Ground : PinRole::Supply), on_ohm,
                    on_ohm);
    return {};
}

void Contact::write(DeckPen& to, const Part& part, const PartState&) const
{
    const bool toGround = std::ranges::any_of(part.pins, [](const auto& p) { return p.second == PinRole::Ground; });
    if (closedAtRest)
        to.resistor(to.at(PinRole::Signal), to.at(toGround ? PinRole::Ground : PinRole::Supply), on_ohm);
}

void Contact::readLine(PartLines& lines, const Line& l, const Part&)
{
    if (lower(l.value) != "open" && lower(l.value) != "closed")
        lines.complain(l, phrase("expected how it stands at rest: open or closed"));
    closedAtRest = lower(l.value) == "closed";
}

std::string Contact::lines(const Part&) const
{
    return std::string("switch: ") + (closedAtRest ? "closed" : "open") + "\n";
}

} // namespace vicegrip::parts
