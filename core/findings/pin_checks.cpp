#include "core/findings/pin_checks.h"

#include "core/base/phrase.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"

#include <algorithm>
#include <string_view>
#include <unordered_map>

namespace vicegrip::findings {
namespace {

using pinning::Pin;
using pinning::PinState;

std::string millimetres(double m)
{
    return units::format(m, units::Dimension::Length, "mm", 1);
}

void wireAgainstTerminal(std::vector<Finding>& out, const std::string& where, const job::Wire& wire,
                         const parts::TerminalFamily& t)
{
    constexpr double kSlack = 1e-9; // an area read from a file is not exactly the family's bound
    if (wire.area_m2 < t.leastArea_m2 * (1 - kSlack) || wire.area_m2 > t.mostArea_m2 * (1 + kSlack))
        out.push_back(
            {"terminal-wire",
             Severity::Fix,
             {},
             phrase("{}: wire {} has {}, and its terminal takes {} to {}", where, wire.id.value,
                    parts::areaText(wire.area_m2), parts::areaText(t.leastArea_m2), parts::areaText(t.mostArea_m2)),
             phrase("A crimp that is too wide slips; one that is too narrow cuts strands."),
             phrase("Take another wire, or a terminal of this family made for it.")});
    const double outer = parts::outerDiameter(wire.area_m2);
    if (t.sealed && (outer < t.leastInsulation_m || outer > t.mostInsulation_m))
        out.push_back({"seal-wire",
                       Severity::Fix,
                       {},
                       phrase("{}: wire {} is about {} thick, and its seal takes {} to {}", where, wire.id.value,
                              millimetres(outer), millimetres(t.leastInsulation_m), millimetres(t.mostInsulation_m)),
                       phrase("A loose seal lets water in; a tight one tears or does not go home."),
                       phrase("Measure the wire; take the seal for its diameter.")});
}

using Wires = std::unordered_map<std::string_view, const job::Wire*>; // by name

void checkConnector(std::vector<Finding>& out, const job::Job& job, const job::Connector& connector,
                    const std::vector<Pin>& pins, const Wires& wires)
{
    const std::vector<parts::Cavity> places = // none where no terminal is known to judge by
        connector.layout ? parts::cavities(*connector.layout) : std::vector<parts::Cavity>{};
    int open = 0, left = 0;
    for (const Pin& pin : pins) {
        if (pin.state == PinState::Wrong)
            out.push_back({"pin-wrong",
                           Severity::Stop,
                           {},
                           job::spoken(job, pin.at) + ": " + pin.trouble,
                           phrase("A wire in the wrong cavity puts one circuit's voltage on another."),
                           phrase("Take it out, count again, seat it.")});
        open += pin.state == PinState::BlankDue ? 1 : 0;
        left += !pinning::isDone(pin.state) && pin.state != PinState::BlankDue ? 1 : 0;
        const auto place = std::ranges::find(places, pin.at.cavity, &parts::Cavity::name);
        if (place == places.end() || place->terminal == nullptr)
            continue;
        const std::string where = job::spoken(job, pin.at);
        if (place->terminal->sealed && pin.wires.size() > 1)
            out.push_back({"cavity-shared",
                           Severity::Fix,
                           {},
                           phrase("{} has {} wires, and its seal takes one", where, std::to_string(pin.wires.size())),
                           phrase("Water follows the second wire in."),
                           phrase("Splice before the plug, and bring one wire to the cavity.")});
        double together_m2 = 0;
        for (const job::WireId& id : pin.wires) {
            const job::Wire& w = *wires.at(id.value);
            wireAgainstTerminal(out, where, w, *place->terminal);
            together_m2 += w.area_m2;
        }
        if (!place->terminal->sealed && pin.wires.size() > 1 && together_m2 > place->terminal->mostArea_m2 * (1 + 1e-9))
            out.push_back({"cavity-shared",
                           Severity::Fix,
                           {},
                           phrase("{} has {} wires, together {}, and its crimp takes at most {}", where,
                                  std::to_string(pin.wires.size()), parts::areaText(together_m2),
                                  parts::areaText(place->terminal->mostArea_m2)),
                           phrase("Strands are left out of the crimp."),
                           phrase("Splice before the plug, and bring one wire to the cavity.")});
    }
    if (open > 0 && left == 0 && open < static_cast<int>(pins.size()))
        out.push_back({"blank-missing",
                       Severity::Note,
                       {},
                       phrase("{}: {} unused cavities have no blank plug", connector.label, std::to_string(open)),
                       phrase("An open cavity of a sealed plug lets water in to all the others."),
                       phrase("Push blank plugs in until they are flush.")});
}

} // namespace

void checkPins(std::vector<Finding>& out, const job::Job& job, const pinning::Pins& pins)
{
    Wires wires;
    for (const job::Wire& w : job.wires)
        wires.try_emplace(w.id.value, &w);
    for (const job::Connector& connector : job.connectors)
        checkConnector(out, job, connector, pins.at(connector.id), wires);
}

} // namespace vicegrip::findings
