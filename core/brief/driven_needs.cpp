#include "core/brief/driven_needs.h"

#include "core/base/phrase.h"
#include "core/brief/banks.h"
#include "core/brief/firing_order.h"
#include "core/units/units.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace vicegrip::brief {
namespace {

using job::Want;

std::string numbered(const char* function, size_t n)
{
    return function + std::to_string(n);
}

std::string onBank(const job::Brief& brief, size_t cylinder)
{
    const std::string bank = bankOf(brief.banks, static_cast<int>(cylinder));
    return bank.empty() ? std::string() : phrase(", on the {} bank", bank);
}

/// By cylinder, so that the first output is the first cylinder's; the firmware knows the order.
void injectors(const job::Brief& brief, const Ask& ask)
{
    const auto& order = brief.firingOrder;
    const size_t cylinders = order.size();
    const size_t count = brief.injectors == 0 ? cylinders : static_cast<size_t>(brief.injectors);
    for (size_t n = 1; n <= count; ++n) {
        const size_t cylinder = (n - 1) % cylinders + 1;
        const auto place = std::ranges::find(order, static_cast<int>(cylinder)) - order.begin();
        std::string reason =
            count < cylinders
                ? phrase("one of {} that feed {} cylinders", std::to_string(count), std::to_string(cylinders))
            : n > cylinders
                ? phrase("the second one of cylinder {}{}", std::to_string(cylinder), onBank(brief, cylinder))
                : phrase("feeds cylinder {}, number {} of the firing order{}", std::to_string(cylinder),
                         std::to_string(place + 1), onBank(brief, cylinder));
        ask(numbered("inj", n), Want::Required, std::move(reason),
            brief.injectors == 0 ? phrase("firing order") : phrase("number of injectors"));
    }
}

void coils(const job::Brief& brief, const Ask& ask)
{
    const auto& order = brief.firingOrder;
    const std::string by = phrase("ignition");
    switch (brief.ignition) {
    case job::Ignition::Distributor:
        ask("ign1", Want::Required, phrase("one coil feeds the distributor"), by);
        break;
    case job::Ignition::WastedSpark:
        for (size_t n = 1; const auto& [one, other] : companions(order))
            ask(numbered("ign", n++), Want::Required,
                phrase("fires cylinders {} and {}, which are half a firing order apart", std::to_string(one),
                       std::to_string(other)),
                by);
        break;
    case job::Ignition::Sequential:
        for (size_t n = 1; n <= order.size(); ++n)
            ask(numbered("ign", n), Want::Required, phrase("fires cylinder {}{}", std::to_string(n), onBank(brief, n)),
                by);
        break;
    }
}

void switched(const job::Brief& brief, const Ask& ask)
{
    const std::string by = phrase("firing order");
    ask("fuel-pump", Want::Required, phrase("the pump runs when the ECU says so, over a relay"), by);
    for (int n = 1; n <= brief.fans; ++n)
        ask(n == 1 ? "fan" : numbered("fan", static_cast<size_t>(n)), Want::Wanted,
            n == 1 ? phrase("the fan follows the coolant, over a relay")
                   : phrase("a further fan follows when one is not enough: together their surge is on one fuse"),
            n == 1 ? by : phrase("number of fans"));
    const std::string shown = phrase("what the driver is shown");
    if (brief.tachometer)
        ask("tachometer", Want::Preferred, phrase("the driver sees the revolutions"), shown);
    if (brief.warningLamp)
        ask("warning-lamp", Want::Wanted, phrase("it lights before oil, heat or mixture does harm"), shown);
    if (brief.display)
        ask("display", Want::Wanted, phrase("it shows what the ECU knows, over the bus"), shown);
    if (brief.boosted())
        ask("boost-valve", Want::Wanted, phrase("boost is held at its target"), phrase("aspiration"));
    if (brief.idle == job::IdleControl::Valve)
        ask("idle-valve", Want::Wanted, phrase("idle air goes through it"), phrase("idle control"));
    if (brief.idle == job::IdleControl::Stepper)
        ask("idle-stepper", Want::Wanted, phrase("its steps set how much idle air goes by the throttle"),
            phrase("idle control"));
    if (brief.throttle == job::ThrottleKind::ByWire)
        ask("throttle-motor", Want::Required, phrase("it moves the plate"), phrase("throttle"));
}

/// The number behind "inj" or "ign"; 0 for any other function.
int numberOf(const std::string& function, std::string_view group)
{
    int out = 0;
    if (function.starts_with(group))
        std::from_chars(function.data() + group.size(), function.data() + function.size(), out);
    return out;
}

std::string ohms(double ohm)
{
    return units::format(ohm, units::Dimension::Resistance, "Ω", 1);
}

} // namespace

void askDriven(const job::Brief& brief, const Ask& ask)
{
    if (brief.firingOrder.empty())
        return;
    injectors(brief, ask);
    coils(brief, ask);
    switched(brief, ask);
}

std::optional<int> cylinderOf(const job::FunctionId& function, const job::Brief& brief)
{
    const int injector = numberOf(function.value, "inj"), coil = numberOf(function.value, "ign");
    if (injector > 0 && (brief.injectors == 0 || brief.injectors >= brief.cylinders) && brief.cylinders > 0)
        return (injector - 1) % brief.cylinders + 1;
    return coil > 0 && brief.ignition == job::Ignition::Sequential ? std::optional(coil) : std::nullopt;
}

std::string bankOfDriven(const job::FunctionId& function, const job::Brief& brief)
{
    const auto cylinder = cylinderOf(function, brief);
    return cylinder ? bankOf(brief.banks, *cylinder) : std::string();
}

std::string speaksAgainst(const parts::Part& part, const job::Brief& brief)
{
    constexpr double kAnother = 1.3; ///< beyond that it is no tolerance
    const auto ohm = parts::windingOhm(part);
    if (part.kind == parts::PartUse::Injector && ohm &&
        std::abs(std::log(*ohm / brief.injector_ohm)) > std::log(kAnother))
        return phrase("its part has {}, and the brief says {}", ohms(*ohm), ohms(brief.injector_ohm));
    if (part.kind != parts::PartUse::IgnitionCoil)
        return {};
    const bool own = parts::driveOf(part)->driver == parts::DriverKind::IgnitionLogic;
    if (own == brief.coilDriver)
        return {};
    return own ? phrase("its part has a driver of its own, and the brief says bare coils")
               : phrase("its part is a bare coil, and the brief says coils with drivers");
}

} // namespace vicegrip::brief
