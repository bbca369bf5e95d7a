#include "core/job/check.h"

#include "core/job/named.h"

#include <algorithm>
#include <set>

namespace vicegrip::job {
namespace {

/// A place is named by its owner: a joint cannot be called like a connector.
Result<void> checkOwners(const Job& job)
{
    std::set<std::string_view> connectors;
    for (const Connector& c : job.connectors)
        connectors.insert(c.id);
    for (size_t i = 0; i < job.joints.size(); ++i)
        if (connectors.contains(job.joints[i].id))
            return bad(ErrorCode::Reference, at("joints", i),
                       phrase("a connector is named \"{}\" too", job.joints[i].id));
    return {};
}

Result<void> checkNames(const Job& job)
{
    const auto own = [](const auto& item) -> std::string_view { return item.id.value; };
    const auto plain = [](const auto& item) -> std::string_view { return item.id; };
    return distinct("connectors", job.connectors, plain)
        .and_then([&] { return distinct("joints", job.joints, plain); })
        .and_then([&] { return checkOwners(job); })
        .and_then([&] { return distinct("parts", job.parts, own); })
        .and_then([&] { return distinct("wires", job.wires, own); })
        .and_then([&] { return distinct("devices", job.devices, own); })
        .and_then([&] { return distinct("circuits", job.circuits, own); })
        .and_then([&] { return distinct("switches", job.switches, plain); })
        .and_then([&] { return distinct("resistors", job.resistors, plain); })
        .and_then([&] { return distinct("loads", job.loads, plain); })
        .and_then([&] { return distinct("leads", job.leads, plain); });
}

Result<void> checkParts(const Job& job)
{
    for (size_t i = 0; i < job.parts.size(); ++i)
        if (auto sense = parts::checkPart(job.parts[i]); !sense)
            return bad(sense.error().code, at("parts", i) + sense.error().place.pointer, sense.error().sentence);
    return {};
}

/// A unit's own sense, then that its pins are cavities of the job.
Result<void> checkUnit(const Named& named, const parts::Ecu& unit, const std::string& pointer)
{
    if (auto sense = parts::checkEcu(unit); !sense)
        return bad(sense.error().code, pointer + sense.error().place.pointer, sense.error().sentence);
    for (size_t i = 0; i < unit.pins.size(); ++i) {
        const PointRef point = PointRef::fromText(unit.pins[i].at);
        const std::string at = pointer + "/pins/" + std::to_string(i) + "/at";
        if (auto there = checkPoint(named, point, at); !there)
            return there;
        if (named.connector(point.owner) == nullptr || named.connector(point.owner)->kind != ConnectorKind::Ecu)
            return bad(ErrorCode::Reference, at, phrase("an ECU pin must be in a connector of kind \"ecu\""));
    }
    return {};
}

Result<void> checkUnits(const Job& job, const Named& named)
{
    std::set<std::string> seen;
    std::set<std::string> cavities;
    const auto all = units(job);
    for (size_t u = 0; u < all.size(); ++u) {
        const std::string pointer = u == 0 ? "/ecu" : at("expanders", u - 1);
        if (auto unit = checkUnit(named, *all[u], pointer); !unit)
            return unit;
        for (size_t i = 0; i < all[u]->pins.size(); ++i)
            if (!cavities.insert(all[u]->pins[i].at).second)
                return bad(ErrorCode::Reference, pointer + "/pins/" + std::to_string(i) + "/at",
                           phrase("cavity {} belongs to another unit", all[u]->pins[i].at));
        for (size_t i = 0; i < all[u]->inputs.size(); ++i)
            if (!seen.insert(all[u]->inputs[i].id.value).second)
                return bad(ErrorCode::Reference, pointer + "/inputs/" + std::to_string(i),
                           phrase("another unit has an input \"{}\" already", all[u]->inputs[i].id.value));
        for (size_t i = 0; i < all[u]->outputs.size(); ++i)
            if (!seen.insert(all[u]->outputs[i].id.value).second)
                return bad(ErrorCode::Reference, pointer + "/outputs/" + std::to_string(i),
                           phrase("another unit has \"{}\" already", all[u]->outputs[i].id.value));
    }
    return {};
}

/// The port of a unit is at that unit's plug, at the pins of one of its buses.
Result<void> checkPort(const Job& job, const Device& d, const parts::Part& part, size_t index)
{
    const std::vector<PointRef> pair = {{d.connector, parts::cavityOf(part, parts::PinRole::Signal)},
                                        {d.connector, parts::cavityOf(part, parts::PinRole::Signal2)}};
    for (const parts::EcuOutput* output : outputs(job))
        if (output->isShared() && cavitiesOf(job, output->id) == pair)
            return {};
    return bad(ErrorCode::Reference, at("devices", index, "connector"),
               phrase("no unit of this job has a bus port at {} and {}", pair[0].text(), pair[1].text()));
}

Result<void> checkDevice(const Job& job, const Named& named, size_t index)
{
    const Device& d = job.devices[index];
    const parts::Part* part = named.part(d.part.value);
    if (part == nullptr)
        return bad(ErrorCode::Reference, at("devices", index, "part"),
                   phrase("the job holds no part \"{}\"", d.part.value));
    if (parts::isInside(*part))
        return d.connector.empty() ? Result<void>{}
                                   : bad(ErrorCode::Reference, at("devices", index, "connector"),
                                         phrase("{} is inside a unit: it has no plug", part->name));
    const Connector* connector = named.connector(d.connector);
    if (parts::isPort(*part))
        return checkPort(job, d, *part, index);
    if (connector == nullptr || (connector->kind != ConnectorKind::Sensor && connector->kind != ConnectorKind::Load))
        return bad(ErrorCode::Reference, at("devices", index, "connector"),
                   phrase("there is no sensor plug \"{}\"", d.connector));
    for (const auto& [cavity, role] : part->pins)
        if (std::ranges::find(connector->cavities, cavity) == connector->cavities.end())
            return bad(ErrorCode::Reference, at("devices", index, "connector"),
                       phrase("plug {} has no cavity \"{}\", which the part uses for its {}", connector->id, cavity,
                              fields::enumName(role)));
    return {};
}

/// What the circuit asks of its scaling and says of its rest, in the sensor's terms.
Result<void> checkScaling(const Circuit& c, const parts::Part& sensor, size_t i)
{
    if (!(c.scaling.low < c.scaling.high))
        return bad(ErrorCode::Range, at("circuits", i, "scaling/high"),
                   phrase("the range is empty: high must be above low"));
    if (c.limits && c.limits->closed_v == c.limits->open_v)
        return bad(ErrorCode::Range, at("circuits", i, "limits/open_v"),
                   phrase("closed and open are at the same voltage"));
    for (const auto& [value, member] : {std::pair(c.scaling.low, "scaling/low"), {c.scaling.high, "scaling/high"}})
        if (auto sound = units::inRange(value, sensor.measures, sensor.unit); !sound)
            return bad(ErrorCode::Range, at("circuits", i, member), sound.error().sentence);
    if (!c.scaling.unit.empty() && !units::measures(c.scaling.unit, sensor.measures))
        return bad(ErrorCode::Range, at("circuits", i, "scaling/unit"),
                   phrase("\"{}\" is not a unit of {}", c.scaling.unit, units::name(sensor.measures)));
    if (sensor.measures == units::Dimension::Temperature && c.scaling.low <= 0)
        return bad(ErrorCode::Range, at("circuits", i, "scaling/low"), phrase("the range starts below 0 K"));
    if (c.rest.kind == RestKind::Ambient && sensor.measures != units::Dimension::Temperature)
        return bad(ErrorCode::Range, at("circuits", i, "rest/kind"), phrase("only a temperature rests at ambient"));
    if (c.rest.kind == RestKind::Barometer && sensor.measures != units::Dimension::AbsolutePressure)
        return bad(ErrorCode::Range, at("circuits", i, "rest/kind"),
                   phrase("only an absolute pressure rests at the barometer"));
    return {};
}

/// A sensor sits on an input, what is driven on an output with as many cavities as it has signals.
Result<void> checkSeat(const Job& job, const Named& named, const Circuit& c, const parts::Part& part, size_t i)
{
    const bool driven = parts::isDriven(part);
    if (driven && !c.input.empty())
        return bad(ErrorCode::Reference, at("circuits", i, "input"),
                   phrase("the ECU drives {}: it sits on an output", part.name));
    if (!driven && !c.output.empty())
        return bad(ErrorCode::Reference, at("circuits", i, "output"),
                   phrase("the ECU reads {}: it sits on an input", part.name));
    if (c.input.empty() && c.output.empty() && c.locked)
        return bad(ErrorCode::Reference, at("circuits", i, "locked"), phrase("there is no seat it could be locked to"));
    if (!c.input.empty() && named.input(c.input.value) == nullptr)
        return bad(ErrorCode::Reference, at("circuits", i, "input"),
                   phrase("the ECU has no input \"{}\"", c.input.value));
    if (const parts::EcuInput* input = named.input(c.input.value); input != nullptr &&
                                                                   (parts::isInside(part) || input->inside) &&
                                                                   (!input->inside || input->inside->id != part.id))
        return bad(ErrorCode::Reference, at("circuits", i, "input"),
                   input->inside ? phrase("input {} reads {} inside the unit", c.input.value, input->inside->name)
                                 : phrase("{} is inside a unit, and not on input {}", part.name, c.input.value));
    if (!c.input.empty() && named.seatedOn(c.input.value) != &c)
        return bad(ErrorCode::Reference, at("circuits", i, "input"),
                   phrase("input {} is taken by {}", c.input.value, named.seatedOn(c.input.value)->name));
    if (c.output.empty())
        return {};
    if (named.output(c.output.value) == nullptr)
        return bad(ErrorCode::Reference, at("circuits", i, "output"),
                   phrase("the ECU has no output \"{}\"", c.output.value));
    if (const Circuit* there = named.drivenBy(c.output.value); there != &c && !parts::isOnBus(part))
        return bad(ErrorCode::Reference, at("circuits", i, "output"),
                   phrase("output {} drives {} already", c.output.value, there->name));
    if (parts::isPort(part) && isAtUnitOf(job, c, c.output))
        return bad(ErrorCode::Reference, at("circuits", i, "output"),
                   phrase("{} and output {} are of one unit", c.name, c.output.value));
    const size_t cavities = cavitiesOf(job, c.output).size(), signals = parts::signalRoles(part).size();
    if (cavities != signals)
        return bad(ErrorCode::Reference, at("circuits", i, "output"),
                   phrase("output {} has {} cavities and {} has {} signals", c.output.value, std::to_string(cavities),
                          part.name, std::to_string(signals)));
    return {};
}

Result<void> checkCircuit(const Job& job, const Named& named, size_t i)
{
    const Circuit& c = job.circuits[i];
    const Device* device = named.device(c.device.value);
    if (device == nullptr)
        return bad(ErrorCode::Reference, at("circuits", i, "device"),
                   phrase("there is no device \"{}\"", c.device.value));
    const parts::Part& part = *named.part(device->part.value);
    if (auto seat = checkSeat(job, named, c, part, i); !seat)
        return seat;
    return parts::isDriven(part) ? Result<void>{} : checkScaling(c, part, i);
}

/// What is on record is of circuits that there are.
template <class Record>
Result<void> checkSubjects(const std::vector<Record>& records, const char* list, const Named& named)
{
    for (size_t i = 0; i < records.size(); ++i)
        if (const CircuitId& circuit = records[i].circuit;
            named.circuit(circuit.value) == nullptr && !(circuit.empty() && std::is_same_v<Record, LogColumn>))
            return bad(ErrorCode::Reference, at(list, i, "circuit"),
                       phrase("there is no circuit \"{}\"", circuit.value));
    return {};
}

Result<void> checkCircuits(const Job& job, const Named& named)
{
    std::set<std::string> plugs;
    for (size_t i = 0; i < job.devices.size(); ++i) {
        if (auto device = checkDevice(job, named, i); !device)
            return device;
        if (const std::string& plug = job.devices[i].connector; !plug.empty() && !plugs.insert(plug).second)
            return bad(ErrorCode::Reference, at("devices", i, "connector"),
                       phrase("another device has this plug already"));
    }
    for (size_t i = 0; i < job.circuits.size(); ++i)
        if (auto circuit = checkCircuit(job, named, i); !circuit)
            return circuit;
    for (size_t i = 0; i < job.pinned.size(); ++i)
        if (auto there = checkPoint(named, job.pinned[i].at, at("pinned", i, "at")); !there)
            return there;
    for (auto known : {checkSubjects(job.proofs, "proofs", named), checkSubjects(job.wiggles, "wiggles", named),
                       checkSubjects(job.handTurns, "hand_turns", named), checkSubjects(job.decoded, "decoded", named),
                       checkSubjects(job.logColumns, "log_columns", named)})
        if (!known)
            return known;
    for (size_t i = 0; i < job.clicks.size(); ++i) {
        const Click& c = job.clicks[i];
        if (named.circuit(c.circuit.value) == nullptr)
            return bad(ErrorCode::Reference, at("clicks", i, "circuit"),
                       phrase("there is no circuit \"{}\"", c.circuit.value));
        for (const CircuitId& answered : c.answered)
            if (named.circuit(answered.value) == nullptr)
                return bad(ErrorCode::Reference, at("clicks", i, "answered"),
                           phrase("there is no circuit \"{}\"", answered.value));
    }
    return {};
}

} // namespace

Result<void> check(const Job& job)
{
    const Named named(job);
    return checkNames(job)
        .and_then([&] { return checkParts(job); })
        .and_then([&] { return checkDrawn(job, named); })
        .and_then([&] { return checkUnits(job, named); })
        .and_then([&] { return checkCircuits(job, named); });
}

} // namespace vicegrip::job
