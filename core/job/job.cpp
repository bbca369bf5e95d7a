#include "core/job/job.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace vicegrip::job {
namespace {

template <class List, class Matches> auto* firstWhere(List& list, Matches matches)
{
    const auto it = std::find_if(list.begin(), list.end(), matches);
    return it == list.end() ? nullptr : &*it;
}

} // namespace

PointRef PointRef::fromText(std::string_view text)
{
    const size_t dot = text.find('.');
    if (dot == std::string_view::npos)
        return {std::string(text), {}};
    return {std::string(text.substr(0, dot)), std::string(text.substr(dot + 1))};
}

const Circuit* find(const Job& job, const CircuitId& id)
{
    return firstWhere(job.circuits, [&](const Circuit& c) { return c.id == id; });
}

Circuit* find(Job& job, const CircuitId& id)
{
    return firstWhere(job.circuits, [&](const Circuit& c) { return c.id == id; });
}

const Device* find(const Job& job, const DeviceId& id)
{
    return firstWhere(job.devices, [&](const Device& d) { return d.id == id; });
}

const Connector* findConnector(const Job& job, std::string_view id)
{
    return firstWhere(job.connectors, [&](const Connector& c) { return c.id == id; });
}

const Joint* findJoint(const Job& job, std::string_view id)
{
    return firstWhere(job.joints, [&](const Joint& j) { return j.id == id; });
}

const parts::Part* findPart(const Job& job, const parts::PartId& id)
{
    return firstWhere(job.parts, [&](const parts::Part& s) { return s.id == id; });
}

const Lead* leadOf(const Job& job, const WireId& wire)
{
    return firstWhere(job.leads, [&](const Lead& l) { return std::ranges::find(l.cores, wire) != l.cores.end(); });
}

double lengthOf(const Job& job, const Lead& lead)
{
    double out = 0;
    for (const Wire& w : job.wires)
        if (std::ranges::find(lead.cores, w.id) != lead.cores.end())
            out = std::max(out, w.length_m);
    return out;
}

std::vector<const parts::Ecu*> units(const Job& job)
{
    std::vector<const parts::Ecu*> out = {&job.ecu};
    for (const parts::Ecu& e : job.expanders)
        out.push_back(&e);
    return out;
}

std::vector<const parts::EcuInput*> inputs(const Job& job)
{
    std::vector<const parts::EcuInput*> out;
    for (const parts::Ecu* unit : units(job))
        for (const parts::EcuInput& i : unit->inputs)
            out.push_back(&i);
    return out;
}

std::optional<int> inputIndex(const Job& job, const parts::InputId& id)
{
    const auto all = inputs(job);
    for (size_t i = 0; i < all.size(); ++i)
        if (all[i]->id == id)
            return static_cast<int>(i);
    return std::nullopt;
}

const parts::Ecu* unitOf(const Job& job, const parts::InputId& id)
{
    for (const parts::Ecu* unit : units(job))
        if (firstWhere(unit->inputs, [&](const parts::EcuInput& i) { return i.id == id; }) != nullptr)
            return unit;
    return nullptr;
}

const parts::EcuInput* findInput(const Job& job, const parts::InputId& id)
{
    const parts::Ecu* unit = unitOf(job, id);
    return unit == nullptr ? nullptr : firstWhere(unit->inputs, [&](const parts::EcuInput& i) { return i.id == id; });
}

parts::EcuInput* findInput(Job& job, const parts::InputId& id)
{
    return const_cast<parts::EcuInput*>(findInput(std::as_const(job), id)); // NOLINT: the job is not const
}

PointRef cavityOf(const Job& job, const parts::InputId& id)
{
    for (const parts::Ecu* unit : units(job))
        for (const parts::EcuPin& p : unit->pins)
            if (p.role == parts::EcuPinRole::Input && p.input == id)
                return PointRef::fromText(p.at);
    return {};
}

const Circuit* seatedOn(const Job& job, const parts::InputId& id)
{
    return id.empty() ? nullptr : firstWhere(job.circuits, [&](const Circuit& c) { return c.input == id; });
}

bool isSeated(const Circuit& circuit)
{
    return !circuit.input.empty() || !circuit.output.empty();
}

std::string seatOf(const Circuit& circuit)
{
    return circuit.output.empty() ? circuit.input.value : circuit.output.value;
}

std::vector<PointRef> seatCavities(const Job& job, const Circuit& circuit)
{
    if (!circuit.output.empty())
        return cavitiesOf(job, circuit.output);
    const PointRef cavity = cavityOf(job, circuit.input);
    return cavity.empty() ? std::vector<PointRef>{} : std::vector{cavity};
}

const parts::Part* partOf(const Job& job, const Circuit& circuit)
{
    const Device* device = find(job, circuit.device);
    return device == nullptr ? nullptr : findPart(job, device->part);
}

PointRef negativePost(const Job& job)
{
    const auto post = std::ranges::find(job.joints, JointKind::BatteryNegative, &Joint::kind);
    return post == job.joints.end() ? PointRef() : PointRef{post->id, {}};
}

bool readsWheel(const Job& job, const Circuit& circuit)
{
    const parts::Part* sensor = sensorOf(job, circuit);
    return sensor != nullptr &&
           (sensor->kind == parts::PartUse::CrankTrigger || sensor->kind == parts::PartUse::CamTrigger);
}

std::optional<CountedEdge> sharpEdge(const parts::Part& sensor)
{
    const bool wheel = sensor.kind == parts::PartUse::CrankTrigger || sensor.kind == parts::PartUse::CamTrigger;
    const bool bare = parts::traitsOf(sensor).alternating || parts::pulsesOf(sensor).has_value();
    return wheel && bare && !sensor.conditioned ? std::optional(CountedEdge::Falling) : std::nullopt;
}

std::string_view weightWord(LogWeight weight)
{
    return weight == LogWeight::Wrong ? key("wrong") : weight == LogWeight::Doubtful ? key("look") : key("fine");
}

std::string saidText(const LogReview& review)
{
    const auto wrong = std::ranges::count(review.said, LogWeight::Wrong, &LogSaid::weight),
               doubtful = std::ranges::count(review.said, LogWeight::Doubtful, &LogSaid::weight);
    return wrong + doubtful == 0 ? phrase("nothing against it")
                                 : phrase("{} wrong, {} to look at", std::to_string(wrong), std::to_string(doubtful));
}

const parts::Part* sensorOf(const Job& job, const Circuit& circuit)
{
    const parts::Part* part = partOf(job, circuit);
    return part == nullptr || parts::isDriven(*part) ? nullptr : part;
}

const parts::Part* actuatorOf(const Job& job, const Circuit& circuit)
{
    const parts::Part* part = partOf(job, circuit);
    return part != nullptr && parts::isDriven(*part) ? part : nullptr;
}

std::vector<const parts::EcuOutput*> outputs(const Job& job)
{
    std::vector<const parts::EcuOutput*> out;
    for (const parts::Ecu* unit : units(job))
        for (const parts::EcuOutput& output : unit->outputs)
            out.push_back(&output);
    return out;
}

const parts::Ecu* unitOf(const Job& job, const parts::OutputId& id)
{
    for (const parts::Ecu* unit : units(job))
        if (parts::findOutput(*unit, id) != nullptr)
            return unit;
    return nullptr;
}

bool isAtUnitOf(const Job& job, const Circuit& circuit, const parts::OutputId& id)
{
    const Device* device = find(job, circuit.device);
    const parts::Ecu* unit = unitOf(job, id);
    return device != nullptr && unit != nullptr && std::ranges::any_of(unit->pins, [&](const parts::EcuPin& pin) {
               return PointRef::fromText(pin.at).owner == device->connector;
           });
}

const parts::EcuOutput* findOutput(const Job& job, const parts::OutputId& id)
{
    const parts::Ecu* unit = unitOf(job, id);
    return unit == nullptr ? nullptr : parts::findOutput(*unit, id);
}

std::vector<PointRef> cavitiesOf(const Job& job, const parts::OutputId& id)
{
    std::vector<PointRef> out;
    if (const parts::Ecu* unit = unitOf(job, id))
        for (const std::string& at : parts::cavitiesOf(*unit, id))
            out.push_back(PointRef::fromText(at));
    return out;
}

const Circuit* drivenBy(const Job& job, const parts::OutputId& id)
{
    return id.empty() ? nullptr : firstWhere(job.circuits, [&](const Circuit& c) { return c.output == id; });
}

void note(Job& job, const std::string& when, const std::string& about, const std::string& what)
{
    job.log.push_back({when, about, what});
}

std::string spoken(const Job& job, const PointRef& point)
{
    if (const Connector* c = findConnector(job, point.owner); c != nullptr && point.cavity.empty())
        return c->kind == ConnectorKind::Ecu      ? phrase("ECU plug {}", c->id)
               : c->kind == ConnectorKind::Inline ? phrase("Bulkhead {}", c->id)
                                                  : phrase("Plug {}", c->id);
    if (const Connector* c = findConnector(job, point.owner)) {
        switch (c->kind) {
        case ConnectorKind::Sensor:
        case ConnectorKind::Load:
            return phrase("Plug {} {}", c->id, point.cavity);
        case ConnectorKind::Inline:
            return phrase("Bulkhead {} {}", c->id, point.cavity);
        case ConnectorKind::Ecu:
            return phrase("Cavity {}{}", c->id, point.cavity);
        }
    }
    if (const Joint* j = findJoint(job, point.owner)) {
        switch (j->kind) {
        case JointKind::Splice:
            return phrase("Splice {}", j->id);
        case JointKind::Stud:
            return phrase("Stud {}", j->id);
        case JointKind::BatteryPositive:
            return phrase("Battery +");
        case JointKind::BatteryNegative:
            return phrase("Battery –");
        }
    }
    const std::string named = point.text(); // what lies behind an input has no contact of its own
    for (const char* behind : {key("input"), key("counts"), key("value")})
        if (named == behind)
            return phrase(behind);
    return named;
}

std::string spokenEnds(const Job& job, const std::vector<WireId>& wires, const std::string& at)
{
    std::string names;
    for (const WireId& id : wires)
        names = names.empty() ? id.value : phrase("{} or {}", names, id.value);
    if (at.empty())
        return phrase("wire {}, along its way", names);
    PointRef place{at, {}};
    for (const Wire& w : job.wires)
        if (wires.size() == 1 && w.id == wires.front())
            place = w.from.owner == at ? w.from : w.to.owner == at ? w.to : place;
    return phrase("wire {} at {}", names, spoken(job, place));
}

parts::Layout faceOf(const Connector& connector)
{
    return connector.layout ? *connector.layout : parts::plainRow(connector.cavities);
}

bool isFixture(const Joint* joint)
{
    return joint != nullptr && joint->kind != JointKind::Splice;
}

} // namespace vicegrip::job
