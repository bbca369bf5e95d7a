#include "core/lookup/entries.h"

#include "core/base/phrase.h"
#include "core/parts/conductor.h"
#include "core/pinning/pin_use.h"
#include "core/wires/colour.h"

#include <algorithm>
#include <map>

namespace vicegrip::lookup {
namespace {

std::string joined(const std::string& a, const std::string& b, const char* between)
{
    return a.empty() || b.empty() ? a + b : a + between + b;
}

void circuits(std::vector<Entry>& out, const job::Job& job)
{
    for (const job::Circuit& c : job.circuits) {
        const parts::Part* sensor = job::partOf(job, c);
        std::string seat = !c.input.empty()    ? phrase("input {}", c.input.value)
                           : !c.output.empty() ? phrase("output {}", c.output.value)
                                               : phrase("no seat");
        for (const job::PointRef& cavity : job::seatCavities(job, c))
            seat += ", " + job::spoken(job, cavity);
        out.push_back({Kind::Circuit, c.id.value, c.name, joined(seat, sensor == nullptr ? "" : sensor->name, "; "),
                       c.id.value + " " + c.function.value + " " + c.device.value});
    }
}

void cavities(std::vector<Entry>& out, const job::Job& job)
{
    const auto uses = pinning::pinUses(job);
    std::map<job::PointRef, std::string> wires;
    for (const job::Wire& w : job.wires)
        for (const job::PointRef* end : {&w.from, &w.to})
            wires[*end] = joined(wires[*end], w.id.value + " " + wires::colourName(w.colour), ", ");
    for (const job::Connector& c : job.connectors)
        for (const std::string& cavity : c.cavities) {
            const job::PointRef at{c.id, cavity};
            const auto use = uses.find(at);
            const auto wire = wires.find(at);
            const std::string purpose = use == uses.end() ? phrase("nothing belongs here") : use->second.purpose;
            out.push_back({Kind::Cavity, at.text(), job::spoken(job, at),
                           joined(purpose, wire == wires.end() ? "" : wire->second, "; "),
                           c.id + cavity + " " + c.label});
        }
}

void wiresOf(std::vector<Entry>& out, const job::Job& job)
{
    for (const job::Wire& w : job.wires)
        out.push_back({Kind::Wire, w.id.value, phrase("Wire {}", w.id.value),
                       job::spoken(job, w.from) + " to " + job::spoken(job, w.to) + "; " +
                           joined(wires::colourName(w.colour), parts::areaText(w.area_m2), ", "),
                       w.colour});
}

void places(std::vector<Entry>& out, const job::Job& job)
{
    for (const job::Joint& j : job.joints)
        out.push_back({Kind::Place, j.id, job::spoken(job, {j.id, {}}), joined(j.label, j.body, ", "), j.id});
}

void partsOf(std::vector<Entry>& out, const job::Job& job)
{
    for (const parts::Part& s : job.parts) {
        std::string where;
        for (const job::Circuit& c : job.circuits)
            if (job::partOf(job, c) == &s)
                where = joined(where, c.name, ", ");
        out.push_back({Kind::Part, s.id.value, s.name, where, s.id.value});
    }
}

} // namespace

std::string Entry::key() const
{
    constexpr const char* kKinds[] = {"action", "spot", "circuit", "cavity", "wire",
                                      "place",  "part", "library", "term"};
    const auto index = static_cast<size_t>(kind);
    return index < std::size(kKinds) ? std::string(kKinds[index]) + " " + id : std::string();
}

std::vector<Entry> entriesOf(const parts::Library& library, const job::Job& job)
{
    std::vector<Entry> out;
    const auto add = [&](const char* kind, const std::string& what, const std::string& id, const std::string& name) {
        out.push_back({Kind::Library, std::string(kind) + "/" + id, name, what, id});
    };
    for (const parts::Part& s : library.parts)
        if (std::ranges::find(job.parts, s.id, &parts::Part::id) == job.parts.end())
            add("sensor", phrase("sensor of the library"), s.id.value, s.name);
    for (const parts::EcuProfile& e : library.ecus)
        if (e.name != job.ecu.name)
            add("ecu", phrase("ECU of the library"), e.id.value, e.name);
    for (const parts::Layout& l : library.layouts)
        add("connector", phrase("connector of the library"), l.id.value, l.name);
    return out;
}

std::vector<Entry> entriesOf(const analysis::Analysis& analysis)
{
    const job::Job& job = *analysis.job;
    std::vector<Entry> out;
    circuits(out, job);
    cavities(out, job);
    wiresOf(out, job);
    places(out, job);
    partsOf(out, job);
    for (size_t i = 0; i < analysis.findings.size(); ++i) {
        const findings::Finding& f = analysis.findings[i];
        out.push_back({Kind::Finding, std::to_string(i), f.what, f.todo, f.rule});
    }
    for (size_t i = 0; i < job.log.size(); ++i)
        out.push_back({Kind::Log, std::to_string(i), job.log[i].what, job.log[i].when.substr(0, 10), {}}); // the day
    return out;
}

} // namespace vicegrip::lookup
