#include "core/harness/edits.h"

#include "core/base/phrase.h"
#include "core/electrics/wiring.h"
#include "core/harness/missing_wires.h"
#include "core/harness/places.h"
#include "core/harness/resistors.h"
#include "core/wires/leads.h"

#include <algorithm>

namespace vicegrip::harness {
namespace {

using job::PointRef;
using parts::PinRole;

constexpr double kHeater_a = 0.25; ///< from here on a device's ground does not belong on the sensor ground (typical)
constexpr double kBattery_v = 12.6;

Result<void> noCircuit(const job::CircuitId& id)
{
    return fail(ErrorCode::Reference, phrase("there is no circuit \"{}\"", id.value));
}

/// Whether the output has as many cavities as the part has signals.
Result<void> hasCavities(const job::Job& job, const parts::OutputId& output, const parts::Part& part)
{
    const size_t cavities = job::cavitiesOf(job, output).size(), signals = parts::signalRoles(part).size();
    if (cavities == signals)
        return {};
    return fail(ErrorCode::Reference, phrase("output {} has {} cavities and {} has {} signals", output.value,
                                             std::to_string(cavities), part.name, std::to_string(signals)));
}

/// Wires and resistors at these places go; splices that nothing touches any more follow them.
void clearPlaces(job::Job& job, const std::set<PointRef>& places)
{
    const auto touches = [&](const auto& conductor) {
        return places.contains(conductor.from) || places.contains(conductor.to);
    };
    std::erase_if(job.wires, touches);
    std::erase_if(job.resistors, touches);
    std::erase_if(job.joints, [&](const job::Joint& j) {
        const PointRef place{j.id, {}};
        const auto ends = [&](const auto& conductor) { return conductor.from == place || conductor.to == place; };
        return j.kind == job::JointKind::Splice && places.contains(place) && std::ranges::none_of(job.wires, ends) &&
               std::ranges::none_of(job.switches, ends);
    });
    wires::dropLostLeads(job);
}

/// Whether others hang on the same bus.
bool sharesBus(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* part = job::partOf(job, circuit);
    return part != nullptr && parts::isOnBus(*part) &&
           std::ranges::count(job.circuits, circuit.output, &job::Circuit::output) > 1;
}

/// The places that belong to this circuit alone: its plug, and its signal wire up to the ECU. What others share of a
/// bus stays.
std::set<PointRef> ownPlaces(const job::Job& job, const job::Circuit& circuit)
{
    const electrics::Wiring wiring(job);
    std::set<PointRef> places;
    for (const PinRole role : parts::kPinRoles) {
        if (parts::isSignal(role) && !sharesBus(job, circuit))
            places.merge(wiring.signalNet(circuit, role));
        if (const PointRef plug = plugOf(job, circuit, role); !plug.empty())
            places.insert(plug);
    }
    return places;
}

/// To the last digit of the sensor's unit that a file has: a job that is read again is the same.
double differenceAsWritten(const parts::Part& s, double si)
{
    return units::differenceFromUnit(fields::rounded(units::differenceToUnit(si, s.measures, s.unit)), s.measures,
                                     s.unit);
}

double valueAsWritten(const parts::Part& s, double si)
{
    return units::fromUnit(fields::rounded(units::toUnit(si, s.measures, s.unit)), s.measures, s.unit);
}

double shareOfSpan(const parts::Part& s, double share)
{
    return differenceAsWritten(s, share * (s.high - s.low));
}

job::Rest restOf(const parts::Part& s)
{
    using units::Dimension;
    switch (s.measures) {
    case Dimension::Temperature:
        return {job::RestKind::Ambient, 0, 0};
    case Dimension::AbsolutePressure:
        return {job::RestKind::Barometer, 0, 0};
    case Dimension::Lambda:
        return {job::RestKind::Value, s.high, 0}; // a probe in air reads the end of its range
    case Dimension::GaugePressure:
        return {job::RestKind::Value, 0, shareOfSpan(s, 0.01)};
    default:
        break;
    }
    if (s.kind == parts::PartUse::Level) // nobody knows what is in the tank
        return {job::RestKind::Value, (s.low + s.high) / 2, shareOfSpan(s, 0.5)};
    return {job::RestKind::Value, s.low, shareOfSpan(s, 0.005)};
}

job::ScalingSpec scalingOf(const parts::Part& s)
{
    job::ScalingSpec out;
    out.points = parts::isBent(s) ? 16 : 2;
    out.low = s.low;
    out.high = s.high;
    const double span = units::toUnit(s.high, s.measures, s.unit) - units::toUnit(s.low, s.measures, s.unit);
    if (parts::countsValue(s))
        out.inputStep = 0.1; // Hz
    out.outputStep = span > 50 ? 0.1 : span > 5 ? 0.01 : 0.001;
    return out;
}

/// What the user set stays where the new sensor can follow: a range that was the old sensor's becomes the new one's,
/// any other is cut to what the new one reads.
void carryOver(job::Circuit& circuit, const parts::Part& before, const parts::Part& now)
{
    if (before.measures != now.measures || parts::countsValue(before) != parts::countsValue(now)) {
        circuit.rest = restOf(now);
        circuit.scaling = scalingOf(now);
        return;
    }
    job::ScalingSpec& s = circuit.scaling;
    s.low = s.low == before.low ? now.low : std::max(s.low, now.low);
    s.high = s.high == before.high ? now.high : std::min(s.high, now.high);
    if (!(s.low < s.high))
        s = scalingOf(now);
    if (before.unit == now.unit)
        return;
    for (double* value : {&s.low, &s.high})
        *value = valueAsWritten(now, *value);
    if (circuit.rest.kind == job::RestKind::Value) {
        circuit.rest.value = valueAsWritten(now, circuit.rest.value);
        circuit.rest.tolerance = differenceAsWritten(now, circuit.rest.tolerance);
    }
    for (job::Captured& c : circuit.captured) {
        c.value = valueAsWritten(now, c.value);
        c.within = differenceAsWritten(now, c.within);
    }
}

void hold(job::Job& job, const parts::Part& sensor)
{
    const auto same = std::ranges::find(job.parts, sensor.id, &parts::Part::id);
    if (same == job.parts.end())
        job.parts.push_back(sensor);
}

std::string upper(std::string text)
{
    for (char& c : text)
        c = c >= 'a' && c <= 'z' ? static_cast<char>(c - 'a' + 'A') : c;
    return text;
}

void setPlug(job::Job& job, const std::string& id, const std::string& label, const parts::Part& sensor)
{
    std::erase_if(job.connectors, [&](const job::Connector& c) { return c.id == id; });
    const auto kind = parts::isDriven(sensor) ? job::ConnectorKind::Load : job::ConnectorKind::Sensor;
    job::Connector plug{id, label + " plug", kind, {}, {}, {}, false, {}};
    for (const auto& [cavity, role] : sensor.pins)
        plug.cavities.push_back(cavity);
    job.connectors.push_back(std::move(plug));
}

void dropUnusedParts(job::Job& job)
{
    std::erase_if(job.parts, [&](const parts::Part& s) {
        return std::ranges::find(job.devices, s.id, &job::Device::part) == job.devices.end();
    });
}

} // namespace

bool onSensorGround(const parts::Part& sensor)
{
    const bool heater = sensor.feed == parts::Feed::Battery && parts::supplyAmps(sensor, kBattery_v) > kHeater_a;
    return !heater && !parts::cavityOf(sensor, PinRole::Ground).empty();
}

std::optional<double> suitingPullUp(const parts::EcuInput& input, bool needed)
{
    if (input.pullUpFixed)
        return input.pull_up_ohm;
    if (!needed)
        return std::nullopt;
    if (input.pull_up_ohm || input.pullUpChoices_ohm.empty())
        return input.pull_up_ohm;
    return input.pullUpChoices_ohm.front();
}

job::CircuitId addCircuit(job::Job& job, const job::FunctionId& function, const std::string& name, job::Want want,
                          const parts::Part& sensor)
{
    std::string id = function.value;
    for (int n = 2; job::find(job, job::CircuitId{id}) != nullptr || job::find(job, job::DeviceId{id}) != nullptr ||
                    job::findConnector(job, upper(id)) != nullptr || job::findJoint(job, upper(id)) != nullptr;
         ++n)
        id = function.value + "-" + std::to_string(n);
    hold(job, sensor);
    job.devices.push_back({{id}, sensor.id, parts::isInside(sensor) ? std::string() : upper(id)});
    if (!parts::isInside(sensor))
        setPlug(job, upper(id), name, sensor);
    job::Circuit circuit;
    circuit.id = {id};
    circuit.name = name;
    circuit.function = function;
    circuit.want = want;
    circuit.device = {id};
    if (!parts::isDriven(sensor)) {
        circuit.rest = restOf(sensor);
        circuit.scaling = scalingOf(sensor);
    }
    job.circuits.push_back(std::move(circuit));
    return {id};
}

Result<void> removeCircuit(job::Job& job, const job::CircuitId& id)
{
    const job::Circuit* found = job::find(job, id);
    if (found == nullptr)
        return noCircuit(id);
    const job::Circuit circuit = *found;
    clearPlaces(job, ownPlaces(job, circuit));
    const job::Device* device = job::find(job, circuit.device);
    const std::string plug = device == nullptr ? std::string() : device->connector;
    std::erase_if(job.circuits, [&](const job::Circuit& c) { return c.id == id; });
    std::erase_if(job.devices, [&](const job::Device& d) { return d.id == circuit.device; });
    std::erase_if(job.connectors, [&](const job::Connector& c) { // a unit's plug stays
        return c.id == plug && c.kind != job::ConnectorKind::Ecu;
    });
    std::erase_if(job.proofs, [&](const job::Proof& p) { return p.circuit == id; });
    std::erase_if(job.wiggles, [&](const job::Wiggle& w) { return w.circuit == id; });
    std::erase_if(job.handTurns, [&](const job::HandTurn& t) { return t.circuit == id; });
    std::erase_if(job.decoded, [&](const job::Decoded& d) { return d.circuit == id; });
    std::erase_if(job.logColumns, [&](const job::LogColumn& c) { return c.circuit == id; });
    std::erase_if(job.clicks, [&](const job::Click& c) {
        return c.circuit == id || std::ranges::find(c.answered, id) != c.answered.end();
    });
    dropLost(job);
    dropUnusedParts(job);
    return {};
}

Result<void> setSensor(job::Job& job, const job::CircuitId& id, const parts::Part& sensor)
{
    job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr)
        return noCircuit(id);
    const parts::Part* old = job::partOf(job, *circuit);
    const auto device = std::ranges::find(job.devices, circuit->device, &job::Device::id);
    if (old == nullptr || device == job.devices.end())
        return fail(ErrorCode::Reference,
                    phrase("\"{}\" has no sensor that another could stand in for", circuit->name));
    if (*old == sensor)
        return {};
    if (parts::isDriven(*old) != parts::isDriven(sensor))
        return fail(ErrorCode::Reference, phrase("{} is read or driven otherwise than {}", sensor.name, old->name));
    if (parts::isPort(*old) || parts::isPort(sensor))
        return fail(ErrorCode::Reference, phrase("{} is the port of a unit, and no other part", circuit->name));
    if (const auto held = hasCavities(job, circuit->output, sensor); !circuit->output.empty() && !held)
        return held;
    const parts::Part before = *old;
    if (old->id == sensor.id) // the same part, described anew: a curve that was measured a second time
        *std::ranges::find(job.parts, sensor.id, &parts::Part::id) = sensor;
    const bool samePlug = before.pins == sensor.pins && before.feed == sensor.feed;
    if (!samePlug)
        clearPlaces(job, ownPlaces(job, *circuit));
    if (parts::isInside(before) || parts::isInside(sensor)) {
        if (auto freed = unseat(job, id); !freed) // another input reads it
            return freed;
        std::erase_if(job.connectors, [&](const job::Connector& c) { return c.id == device->connector; });
        device->connector = parts::isInside(sensor) ? std::string() : upper(id.value);
    }
    hold(job, sensor);
    device->part = sensor.id;
    if (!parts::isDriven(sensor))
        carryOver(*circuit, before, sensor);
    if (!samePlug && !parts::isInside(sensor))
        setPlug(job, device->connector, circuit->name, sensor);
    dropLost(job);
    dropUnusedParts(job);
    if (!circuit->output.empty())
        return seat(job, id, parts::OutputId(circuit->output));
    if (parts::isInside(sensor)) // there is one input that reads it
        for (const parts::EcuInput* input : job::inputs(job))
            if (input->inside && input->inside->id == sensor.id)
                return seat(job, id, parts::InputId(input->id));
    return circuit->input.empty() ? Result<void>{} : seat(job, id, circuit->input);
}

namespace {

/// Wires and resistors that ended at the old seat end at the new one, cavity by cavity.
void moveEnds(job::Job& job, const std::vector<PointRef>& before, const std::vector<PointRef>& after)
{
    const auto move = [&](auto& conductor) {
        for (PointRef* end : {&conductor.from, &conductor.to})
            for (size_t i = 0; i < std::min(before.size(), after.size()); ++i)
                if (*end == before[i]) {
                    *end = after[i];
                    break;
                }
    };
    if (before == after)
        return;
    std::ranges::for_each(job.wires, move);
    std::ranges::for_each(job.resistors, move);
}

} // namespace

Result<void> seat(job::Job& job, const job::CircuitId& id, const parts::InputId& input)
{
    job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr)
        return noCircuit(id);
    parts::EcuInput* to = job::findInput(job, input);
    if (to == nullptr)
        return fail(ErrorCode::Reference, phrase("no unit of this job has an input \"{}\"", input.value));
    const parts::Part* sensor = job::sensorOf(job, *circuit);
    if (sensor == nullptr)
        return fail(ErrorCode::Reference, phrase("\"{}\" has no sensor that could be seated", circuit->name));
    if ((to->inside || parts::isInside(*sensor)) && !(to->inside && to->inside->id == sensor->id))
        return fail(ErrorCode::Reference,
                    to->inside ? phrase("input {} reads {} and nothing else", input.value, to->inside->name)
                               : phrase("{} is inside a unit, and not on input {}", sensor->name, input.value));
    if (const job::Circuit* there = job::seatedOn(job, input); there != nullptr && there->id != id)
        if (auto freed = unseat(job, job::CircuitId(there->id)); !freed)
            return freed;
    moveEnds(job, job::seatCavities(job, *circuit), {job::cavityOf(job, input)});
    circuit->input = input;
    to->setTo = parts::suitingMode(*to, *sensor);
    to->pull_up_ohm =
        suitingPullUp(*to, parts::needsPullUp(*sensor) && electrics::Wiring(job).pullUp(*circuit) == nullptr);
    drawMissing(job, id);
    return {};
}

Result<void> seat(job::Job& job, const job::CircuitId& id, const parts::OutputId& output)
{
    job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr)
        return noCircuit(id);
    if (job::findOutput(job, output) == nullptr)
        return fail(ErrorCode::Reference, phrase("no unit of this job has an output \"{}\"", output.value));
    const parts::Part* part = job::actuatorOf(job, *circuit);
    if (part == nullptr)
        return fail(ErrorCode::Reference, phrase("\"{}\" is nothing that an output could drive", circuit->name));
    if (auto held = hasCavities(job, output, *part); !held)
        return held;
    if (const job::Circuit* there = job::drivenBy(job, output);
        there != nullptr && there->id != id && !parts::isOnBus(*part))
        if (auto freed = unseat(job, job::CircuitId(there->id)); !freed)
            return freed;
    const bool locked = circuit->locked;
    if (parts::isOnBus(*part) && !circuit->output.empty() && circuit->output != output)
        if (auto left = unseat(job, id); !left) // what others share stays, and there its leads are drawn anew
            return left;
    moveEnds(job, job::seatCavities(job, *circuit), job::cavitiesOf(job, output));
    circuit->output = output;
    circuit->locked = locked;
    drawMissing(job, id);
    return {};
}

Result<void> unseat(job::Job& job, const job::CircuitId& id)
{
    job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr)
        return noCircuit(id);
    auto cavities = job::seatCavities(job, *circuit);
    if (sharesBus(job, *circuit))
        cavities = {plugOf(job, *circuit, PinRole::Signal), plugOf(job, *circuit, PinRole::Signal2)};
    clearPlaces(job, {cavities.begin(), cavities.end()});
    circuit->input = {};
    circuit->output = {};
    circuit->locked = false;
    return {};
}

} // namespace vicegrip::harness
