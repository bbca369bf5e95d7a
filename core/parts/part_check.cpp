#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/parts/lines.h"
#include "core/units/document_range.h"

namespace vicegrip::parts {
namespace {

/// What a sensor says of its range.
Result<void> checkMeasures(const Part& s)
{
    if (!units::measures(s.unit, s.measures))
        return outOfRange("/unit", phrase("\"{}\" is not a unit of {}", s.unit, units::name(s.measures)));
    if (!(s.low < s.high))
        return outOfRange("/high", phrase("the range is empty: high must be above low"));
    for (const auto& [value, member] : {std::pair(s.low, "/low"), {s.high, "/high"}})
        if (auto sound = units::inRange(value, s.measures, s.unit); !sound)
            return outOfRange(member, sound.error().sentence);
    return {};
}

/// A hose leads to it, and the unit reads the volts it makes.
Result<void> checkInside(const Part& s)
{
    if (traitsOf(s).driven || signalOf(s) != SignalKind::Voltage || mostVolts(s) <= 0)
        return outOfRange("/feed", phrase("inside a unit there are sensors that make volts, and nothing else"));
    if (!s.pins.empty())
        return outOfRange("/pins", phrase("it is inside a unit: no plug of its own has pins"));
    return {};
}

/// Signals as many as its kind has, and one place for its current to come from or go to.
Result<void> checkDrivenPins(const Part& s)
{
    const KindTraits& kind = traitsOf(s);
    const bool supply = !cavityOf(s, PinRole::Supply).empty(), ground = !cavityOf(s, PinRole::Ground).empty();
    const auto signals = static_cast<int>(signalRoles(s).size());
    if (signals < kind.signalPins || cavityOf(s, PinRole::Signal).empty())
        return outOfRange(
            "/pins", phrase("{} signal pins are needed: signal, signal-2 and so on", std::to_string(kind.signalPins)));
    if (kind.supplied && !kind.pair && !(supply && ground))
        return outOfRange("/pins", phrase("its electronics need a supply pin and a ground pin"));
    if (!kind.supplied && signals + static_cast<int>(supply) + static_cast<int>(ground) != std::max(2, kind.signalPins))
        return outOfRange("/pins", phrase("its current needs one other end: a supply pin, a ground pin, or signal-2"));
    return {};
}

/// A signal, what it is measured against, and a supply where its electronics need one.
Result<void> checkReadPins(const Part& s)
{
    const KindTraits& kind = traitsOf(s);
    const bool supply = !cavityOf(s, PinRole::Supply).empty(), ground = !cavityOf(s, PinRole::Ground).empty();
    if (cavityOf(s, PinRole::Signal).empty() || (!ground && !kind.contact))
        return outOfRange("/pins", phrase("a signal pin and a ground pin are needed"));
    if (kind.contact && ground == supply)
        return outOfRange("/pins", phrase("a switch joins its signal pin to either a ground pin or a supply pin"));
    if (kind.supplied && !supply)
        return outOfRange("/pins", phrase("this kind of sensor needs a supply pin"));
    return {};
}

} // namespace

Result<void> checkPart(const Part& s)
{
    if (auto pins = isInside(s) ? checkInside(s) : traitsOf(s).driven ? checkDrivenPins(s) : Result<void>{}; !pins)
        return pins;
    if (!traitsOf(s).driven) {
        if (auto sound = checkMeasures(s); !sound)
            return sound;
        if (auto pins = isInside(s) ? Result<void>{} : checkReadPins(s); !pins)
            return pins;
    }
    const auto check = [&](const auto& m) -> Result<void> {
        if constexpr (requires { m.check(s); })
            return m.check(s);
        else
            return {};
    };
    return std::visit(check, s.model);
}

Result<Part> readPart(const nlohmann::json& json)
{
    if (auto valid = units::validate(json, kPartSchema); !valid)
        return tl::make_unexpected(valid.error());
    auto sensor = fields::fromJson<Part>(json);
    if (auto sense = checkPart(sensor); !sense)
        return tl::make_unexpected(sense.error());
    return sensor;
}

} // namespace vicegrip::parts
