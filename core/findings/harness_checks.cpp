#include "core/findings/harness_checks.h"

#include "core/branches/tree.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"
#include "core/wires/area.h"
#include "core/wires/colour_plan.h"
#include "core/wires/joins.h"

#include <algorithm>

namespace vicegrip::findings {
namespace {

std::string metres(double m)
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
                           "Wire " + w.id.value + " has " + parts::areaText(w.area_m2) + " and needs " +
                               parts::areaText(it->second.area_m2) + ": " + it->second.why,
                           "A wire that is too thin loses volts, grows hot, or breaks.",
                           "Take the area the wires' list proposes, or shorten it."});
}

void tooShort(std::vector<Finding>& out, const job::Job& job)
{
    const branches::Tree tree(job);
    for (const job::Wire& w : job.wires)
        if (const auto way = tree.length_m(w); way && w.length_m < *way - branches::kNoticeablyShort_m)
            out.push_back({"wire-short",
                           Severity::Fix,
                           {},
                           "Wire " + w.id.value + " is " + metres(w.length_m) + " long and its way " + metres(*way),
                           "It is cut to what is typed, and then it does not reach.",
                           "Type its length, or measure the stretch again."});
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
                       std::to_string(count) + (count == 1 ? " wire has" : " wires have") +
                           " the colour of another conductor beside it (" + first + ")",
                       "Two alike side by side are exchanged by the next person who opens the plug.",
                       "The wires' list proposes others."});
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
                   std::to_string(wires.size()) + (wires.size() == 1 ? " wire serves" : " wires serve") +
                       " nothing: " + names + (wires.size() > kNamed ? ", ..." : ""),
                   "They make the bundle thicker, and a loose end finds a ground.",
                   "Take them out before the harness is laid and its sleeves are shrunk."});
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
