#include "core/findings/harness_checks.h"

#include "core/base/phrase.h"
#include "core/branches/tree.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"
#include "core/wires/area.h"
#include "core/wires/colour_plan.h"
#include "core/wires/joins.h"

#include <algorithm>

namespace vicegrip::findings {
namespace {

std::string lengthText(double m)
{
    return units::format(m, units::Dimension::Length, "m", 2);
}

void thin(std::vector<Finding>& out, const job::Job& job, const std::map<job::WireId, wires::AreaChoice>& areas)
{
    for (const job::Wire& w : job.wires)
        if (const auto it = areas.find(w.id); it != areas.end() && !it->second.suffices(w.area_m2))
            out.push_back({"wire-thin",
                           Severity::Fix,
                           {},
                           phrase("Wire {} has {} and needs {}: {}", w.id.value, parts::areaText(w.area_m2),
                                  parts::areaText(it->second.area_m2), it->second.why),
                           phrase("A wire that is too thin loses volts, grows hot, or breaks."),
                           phrase("Take the area the wires' list proposes, or shorten it.")});
}

void tooShort(std::vector<Finding>& out, const job::Job& job)
{
    const branches::Tree tree(job);
    for (const job::Wire& w : job.wires)
        if (const auto way = tree.length_m(w); way && w.length_m < *way - branches::kNoticeablyShort_m)
            out.push_back(
                {"wire-short",
                 Severity::Fix,
                 {},
                 phrase("Wire {} is {} long and its way {}", w.id.value, lengthText(w.length_m), lengthText(*way)),
                 phrase("It is cut to what is typed, and then it does not reach."),
                 phrase("Type its length, or measure the stretch again.")});
}

void alike(std::vector<Finding>& out, const job::Job& job)
{
    std::string first;
    int count = 0;
    for (const auto& [wire, advice] : wires::adviseColours(job))
        if (!advice.why.empty() && count++ == 0)
            first = wire.value + ", " + advice.why;
    if (count > 0)
        out.push_back({"colours-alike",
                       Severity::Note,
                       {},
                       phrase("{}{} the colour of another conductor beside it ({})", std::to_string(count),
                              (count == 1 ? phrase(" wire has") : phrase(" wires have")), first),
                       phrase("Two alike side by side are exchanged by the next person who opens the plug."),
                       phrase("The wires' list proposes others.")});
}

void unused(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring)
{
    const auto wires = wires::unusedWires(job, wiring);
    if (wires.empty())
        return;
    std::string names;
    constexpr size_t kNamed = 6;
    for (size_t i = 0; i < std::min(kNamed, wires.size()); ++i)
        names += (names.empty() ? "" : ", ") + wires[i].value;
    out.push_back({"wires-unused",
                   Severity::Note,
                   {},
                   phrase(wires.size() == 1 ? key("{} wire serves nothing: {}") : key("{} wires serve nothing: {}"),
                          std::to_string(wires.size()), names + (wires.size() > kNamed ? ", ..." : "")),
                   phrase("They make the bundle thicker, and a loose end finds a ground."),
                   phrase("Take them out before the harness is laid and its sleeves are shrunk.")});
}

} // namespace

void checkHarness(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring,
                  const std::map<job::WireId, wires::AreaChoice>& areas)
{
    thin(out, job, areas);
    tooShort(out, job);
    alike(out, job);
    unused(out, job, wiring);
}

} // namespace vicegrip::findings
