#include "core/electrics/battery.h"
#include "core/electrics/electrics.h"
#include "core/electrics/part_in_network.h"
#include "core/electrics/powered.h"
#include "core/electrics/sensor_model.h"
#include "core/electrics/wiring.h"
#include "core/job/facts.h"
#include "core/parts/conductor.h"
#include "core/parts/transceiver.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::electrics {
namespace {

using circuit::ElementIndex;
using circuit::kReference;
using circuit::Network;
using circuit::Node;
using parts::EcuPinRole;

constexpr double kKeyFeedOhms = 10e3; ///< what senses the key (typical)

class Builder
{
  public:
    Builder(const job::Job& job, const Situation& situation)
        : m_faulted(situation.faults.empty() ? std::nullopt : std::optional(asWired(job, situation.faults))),
          m_job(m_faulted ? *m_faulted : job),
          m_situation(situation),
          m_keyOn(job::isLive(situation.condition)),
          m_turns(job::engineTurns(situation.condition))
    {
        if (std::ranges::count(job.resistors, job::ResistorKind::PullUp, &job::Resistor::kind) > 0)
            m_drawn.emplace(job);
    }

    Result<Electrics> build();

  private:
    Node at(const job::PointRef& point);
    Node body(const std::string& name);
    Node behind(const job::PointRef& point);
    void addJoints();
    void addInlinePairs();
    void addConductors();
    void addFaults();
    void addResistors();
    void addUnits();
    void addUnit(const parts::Ecu& unit);
    void addInput(const parts::EcuInput& input, Node pin);
    void addPort(const parts::EcuOutput& port, const std::vector<Node>& pair);
    void addOutput(const parts::EcuOutput& output, size_t leg, Node pin, Node feed);
    void addDevices();
    void addSensor(const job::Device& device, const parts::Part& sensor, const job::Circuit* circuit);
    void causeOf(const job::Circuit* circuit, const parts::Part& sensor, const std::vector<ElementIndex>& elements,
                 double x);
    void boundsOf(const parts::Laid& laid, const parts::Part& sensor, const Measurand& measurand,
                  const std::string& device);
    [[nodiscard]] const job::Circuit* circuitOf(const job::Device& device) const;
    [[nodiscard]] Measurand measurandOf(const parts::Part& sensor, const job::Circuit* circuit) const;

    std::optional<job::Job> m_faulted; ///< a copy only where something differs: jobs can be large
    const job::Job& m_job; ///< as wired, faults included
    std::optional<Wiring> m_drawn; ///< without them; where the harness has pull-ups
    const Situation& m_situation;
    bool m_keyOn, m_turns;
    Network m_net;
    std::map<job::PointRef, Node> m_nodes;
    std::map<std::string, Node> m_bodies;
    std::map<job::CircuitId, CircuitElements> m_circuits;
    std::map<parts::InputId, InputNodes> m_inputs;
    std::vector<UnitNodes> m_units;
    std::map<job::WireId, ElementIndex> m_wires;
    std::vector<Cause> m_causes;
    Cause m_ambient{"ambient", 0, {}}, m_barometer{"barometer", 0, {}};
    std::vector<Powered> m_powered;
};

Node Builder::at(const job::PointRef& point)
{
    const job::Joint* joint = job::findJoint(m_job, point.owner);
    if (joint != nullptr && joint->kind == job::JointKind::BatteryNegative)
        return m_nodes[point] = kReference;
    const auto [it, added] = m_nodes.try_emplace(point, 0);
    if (added)
        it->second = m_net.addNode();
    return it->second;
}

Node Builder::body(const std::string& name)
{
    const auto [it, added] = m_bodies.try_emplace(name, 0);
    if (added)
        it->second = m_net.addNode();
    return it->second;
}

/// The far side of a mated contact.
Node Builder::behind(const job::PointRef& point)
{
    const Node inner = m_net.addNode();
    m_net.addResistor(at(point), inner, parts::kMatedPairOhms, {parts::kMatedPairOhms}, "contact " + point.text());
    return inner;
}

void Builder::addJoints()
{
    for (const job::Joint& j : m_job.joints) {
        const Node node = at({j.id, {}});
        if (j.kind == job::JointKind::Stud && !j.body.empty())
            m_net.addResistor(node, body(j.body), parts::kStudOhms, {parts::kStudOhms}, "stud " + j.id);
    }
    for (const job::Connector& c : m_job.connectors)
        for (const std::string& cavity : c.cavities)
            at({c.id, cavity});
}

void Builder::addInlinePairs()
{
    for (const job::Connector& c : m_job.connectors) {
        if (c.kind != job::ConnectorKind::Inline || c.id > c.mates)
            continue;
        for (const std::string& cavity : c.cavities)
            if (m_nodes.contains({c.mates, cavity}))
                m_net.addResistor(at({c.id, cavity}), at({c.mates, cavity}), parts::kMatedPairOhms,
                                  {parts::kMatedPairOhms}, "contact " + c.id + "." + cavity);
    }
}

void Builder::addConductors()
{
    std::map<job::WireId, double> added;
    for (const Fault& fault : m_situation.faults)
        if (const auto* f = std::get_if<AddedResistance>(&fault))
            added[f->wire] += f->ohm;
    for (const job::Wire& w : m_job.wires) {
        const double copper = parts::wireOhms(w.length_m, w.area_m2, m_situation.surroundings.ambient_k);
        const double crimps = 2 * parts::kCrimpOhms;
        const auto extra = added.find(w.id);
        m_wires[w.id] =
            m_net.addResistor(at(w.from), at(w.to), copper + crimps + (extra == added.end() ? 0 : extra->second),
                              {copper * parts::kWireTolerance + crimps}, "wire " + w.id.value);
    }
    for (const job::Switch& s : m_job.switches)
        if (isClosed(s, m_situation.condition) && !(m_situation.keyOff && s.needsKey))
            m_net.addResistor(at(s.from), at(s.to), s.ohm, {s.ohm / 2}, "switch " + s.id);
}

void Builder::addFaults()
{
    for (const Fault& fault : m_situation.faults)
        if (const auto* f = std::get_if<Short>(&fault))
            m_net.addResistor(at(f->point), at(f->to), f->ohm);
}

void Builder::addResistors()
{
    for (const job::Resistor& r : m_job.resistors)
        m_net.addResistor(at(r.from), at(r.to), r.ohm, {r.ohm * r.tolerance}, "resistor " + r.id);
}

/// An input of the unit that was added last.
void Builder::addInput(const parts::EcuInput& input, Node pin)
{
    const UnitNodes& unit = m_units.back();
    const std::string label = "input " + input.id.value;
    if (input.pull_up_ohm)
        m_net.addResistor(unit.supply, pin, *input.pull_up_ohm, {*input.pull_up_ohm * input.pull_up_tolerance}, label);
    Node converter = pin;
    if (input.series_ohm > 0) {
        converter = m_net.addNode();
        m_net.addResistor(pin, converter, input.series_ohm, {input.series_ohm * 0.05}, label);
    }
    m_net.addResistor(converter, unit.ground, input.pull_down_ohm, {input.pull_down_ohm * 0.05}, label);
    m_inputs[input.id] = {converter, m_units.size() - 1};
}

/// A pin of an output. Off: what finds a broken wire, and for a logic signal the driver that holds it low. While the
/// engine runs what drives something is on, which any good car may also have off: a bound like any other. Which side
/// it switches to follows from where the part's other end goes.
void Builder::addOutput(const parts::EcuOutput& output, size_t leg, Node pin, Node feed)
{
    const std::string label = "output " + output.id.value;
    const Node ground = m_units.back().ground;
    const job::Circuit* driven = job::drivenBy(m_job, output.id);
    const parts::Part* part = driven != nullptr ? job::actuatorOf(m_job, *driven) : nullptr;
    const bool logic = output.can(parts::OutputKind::Logic) && (part == nullptr || parts::driveOf(*part)->takesLogic());
    const bool clicked = m_situation.clicked == output.id && part != nullptr;
    if (clicked && logic) {
        const Node high = m_net.addNode();
        m_net.addVoltageSource(high, ground, output.high_v, {}, label);
        m_net.addResistor(pin, high, output.on_ohm, {output.on_ohm * 0.5}, label);
    } else if ((m_turns || clicked) && part != nullptr && !logic) {
        const auto far = parts::acrossFrom(*part, parts::signalRoles(*part).at(leg));
        const bool high = far == parts::PinRole::Ground || (far && parts::isSignal(*far) && leg % 2 == 0);
        const ElementIndex on =
            m_net.addResistor(pin, high ? feed : ground, output.on_ohm, {output.on_ohm * 0.5}, label);
        m_net.setBounds(on, output.on_ohm, output.on_ohm * 0.5, output.off_ohm);
    } else {
        const double idle = logic ? output.on_ohm : output.off_ohm;
        m_net.addResistor(pin, ground, idle, {idle * 0.5}, label);
    }
    if (output.pull_up_ohm)
        m_net.addResistor(feed, pin, *output.pull_up_ohm, {*output.pull_up_ohm * 0.2}, label);
}

/// The transceiver of the unit that was added last lives on the unit's own 5 V; the terminator needs nothing.
void Builder::addPort(const parts::EcuOutput& port, const std::vector<Node>& pair)
{
    const std::string label = "output " + port.id.value;
    if (pair.size() == 2 && port.terminator_ohm > 0)
        m_net.addResistor(pair[0], pair[1], port.terminator_ohm, {port.terminator_ohm * parts::kTerminatorTolerance},
                          label);
    if (!m_keyOn)
        return;
    const UnitNodes& unit = m_units.back();
    const double volts = job::units(m_job)[m_units.size() - 1]->supply.volts;
    const Node middle = m_net.addNode();
    m_net.addVoltageControlledVoltage(middle, unit.ground, unit.supply, unit.ground, parts::kQuiet_v / volts,
                                      {parts::kQuietTolerance_v / volts}, label);
    for (const Node wire : pair)
        m_net.addResistor(middle, wire, parts::kBias_ohm, {parts::kBias_ohm * parts::kBiasTolerance}, label);
}

/// With the battery lead off the plugs are off as well: nothing of the units is in the network, but for the pair of a
/// bus, which is measured with all that hangs on it.
void Builder::addUnits()
{
    for (const parts::Ecu* unit : job::units(m_job))
        if (m_keyOn)
            addUnit(*unit);
        else
            for (const parts::EcuOutput& output : unit->outputs)
                if (output.isShared()) {
                    std::vector<Node> pair;
                    for (const std::string& at : parts::cavitiesOf(*unit, output.id))
                        pair.push_back(behind(job::PointRef::fromText(at)));
                    addPort(output, pair);
                }
}

void Builder::addUnit(const parts::Ecu& unit)
{
    const size_t index = m_units.size();
    const std::string name = job::feedSubject(index), supplyName = job::supplySubject(index);
    UnitNodes& nodes = m_units.emplace_back(UnitNodes{m_net.addNode(), m_net.addNode()});
    const Node feed = m_net.addNode(), outlet = m_net.addNode();
    m_net.addResistor(feed, nodes.ground, unit.feed_ohm, {unit.feed_ohm * 0.3}, name);
    const ElementIndex source =
        m_net.addVoltageSource(nodes.supply, nodes.ground, unit.supply.volts, {unit.supply.tolerance_v}, supplyName);
    m_powered.push_back({feed, nodes.ground, unit.least_supply_v, source, {}, index, true});
    nodes.supplySeries = m_net.addResistor(nodes.supply, outlet, unit.supply.ohm, {unit.supply.ohm * 0.5}, supplyName);
    std::map<parts::InputId, Node> inputPins;
    std::map<parts::OutputId, size_t> legs;
    std::map<parts::OutputId, std::vector<Node>> portPins;
    for (const parts::EcuPin& pin : unit.pins) {
        const Node inner = behind(job::PointRef::fromText(pin.at));
        const auto joinTo = [&](Node node) {
            m_net.addResistor(inner, node, parts::kCrimpOhms, {parts::kCrimpOhms}, name);
        };
        switch (pin.role) {
        case EcuPinRole::Input:
            inputPins.try_emplace(pin.input, inner);
            break;
        case EcuPinRole::Output:
            if (const auto* output = parts::findOutput(unit, pin.output); output->isShared())
                portPins[pin.output].push_back(inner);
            else
                addOutput(*output, legs[pin.output]++, inner, feed);
            break;
        case EcuPinRole::SensorSupply:
            joinTo(outlet);
            break;
        case EcuPinRole::SensorGround:
        case EcuPinRole::PowerGround:
            joinTo(nodes.ground);
            break;
        case EcuPinRole::PowerFeed:
            joinTo(feed);
            break;
        case EcuPinRole::KeyFeed:
            m_net.addResistor(inner, nodes.ground, kKeyFeedOhms, {kKeyFeedOhms * 0.5}, name);
            break;
        }
    }
    for (const auto& [port, pair] : portPins)
        addPort(*parts::findOutput(unit, port), pair);
    for (const parts::EcuInput& input : unit.inputs) {
        const auto pin = inputPins.find(input.id);
        addInput(input, pin != inputPins.end() ? pin->second : m_net.addNode());
    }
}

const job::Circuit* Builder::circuitOf(const job::Device& device) const
{
    for (const job::Circuit& c : m_job.circuits)
        if (c.device == device.id)
            return &c;
    return nullptr;
}

/// A value that hands have set is known.
Measurand Builder::measurandOf(const parts::Part& sensor, const job::Circuit* circuit) const
{
    if (circuit == nullptr)
        return {sensor.low, sensor.low, sensor.low};
    if (const auto held = m_situation.measurands.find(circuit->id); held != m_situation.measurands.end())
        return {held->second, held->second, held->second};
    return measurandUnder(m_situation.condition, *circuit, sensor, m_situation.surroundings);
}

void Builder::causeOf(const job::Circuit* circuit, const parts::Part& sensor, const std::vector<ElementIndex>& elements,
                      double x)
{
    if (circuit == nullptr || m_situation.measurands.contains(circuit->id))
        return;
    const double tolerance = measurandOf(sensor, circuit).tolerance();
    const parts::ElementValues slopes = elementSecants(sensor, x, tolerance);
    Cause own{"state of " + circuit->name, tolerance, {}};
    // An engine that turns warms and draws each of them by itself.
    const bool shared = tolerance == atRest(*circuit, m_situation.surroundings).tolerance();
    Cause& cause = shared && circuit->rest.kind == job::RestKind::Ambient     ? m_ambient
                   : shared && circuit->rest.kind == job::RestKind::Barometer ? m_barometer
                                                                              : own;
    cause.tolerance = tolerance;
    for (size_t i = 0; i < elements.size(); ++i)
        cause.shares.push_back({elements[i], slopes[i]});
    if (&cause == &own)
        m_causes.push_back(std::move(own));
}

/// What is varied has the bounds of all that it may measure; what moves together says so.
void Builder::boundsOf(const parts::Laid& laid, const parts::Part& sensor, const Measurand& measurand,
                       const std::string& device)
{
    if (laid.varied.size() == 1) {
        const auto [least, most] = parts::elementRange(sensor, measurand.low, measurand.high);
        m_net.setBounds(laid.varied[0], m_net.element(laid.varied[0]).value, least, most);
    }
    if (laid.jointSettings.empty())
        return;
    m_net.moveTogether({laid.varied, laid.jointSettings});
    Cause track{"track of " + device, laid.jointTolerance, {}};
    for (size_t i = 0; i < laid.varied.size(); ++i)
        track.shares.push_back({laid.varied[i], laid.jointSlopes[i]});
    m_causes.push_back(std::move(track));
}

void Builder::addSensor(const job::Device& device, const parts::Part& sensor, const job::Circuit* circuit)
{
    using parts::PinRole;
    std::map<PinRole, Node> pins;
    for (const auto& [cavity, role] : sensor.pins)
        pins.try_emplace(role, behind({device.connector, cavity}));
    const bool toGround = pins.contains(PinRole::Ground);
    PartInNetwork part(m_net, std::move(pins), job::partSubject(sensor, device.id));
    const Measurand measurand = measurandOf(sensor, circuit);
    parts::Laid added = parts::lay(part, sensor, {measurand.value, measurand.low, measurand.high, m_keyOn, m_turns});
    boundsOf(added, sensor, measurand, device.id.value);
    if (added.least_supply_v && (added.source || circuit != nullptr))
        m_powered.push_back({part.at(PinRole::Supply), part.at(PinRole::Ground), *added.least_supply_v, added.source,
                             circuit != nullptr ? circuit->id : job::CircuitId{device.id.value}, 0, true});
    if (!added.varied.empty())
        causeOf(circuit, sensor, added.varied, measurand.value);
    if (circuit == nullptr)
        return;
    CircuitElements elements;
    elements.varied = std::move(added.varied);
    if (const job::Resistor* fitted = m_drawn && parts::needsPullUp(sensor) ? m_drawn->pullUp(*circuit) : nullptr)
        elements.pullUp_ohm = fitted->ohm;
    if (toGround)
        elements.sensorGround = part.at(PinRole::Ground);
    if (const auto it = m_inputs.find(circuit->input); it != m_inputs.end())
        elements.input = it->second;
    m_circuits[circuit->id] = std::move(elements);
}

void Builder::addDevices()
{
    for (const job::Device& device : m_job.devices)
        if (const parts::Part* sensor = job::findPart(m_job, device.part))
            addSensor(device, *sensor, circuitOf(device));
}

Result<Electrics> Builder::build()
{
    addJoints();
    addInlinePairs();
    addConductors();
    addFaults();
    addResistors();
    addBatteryAndLoads(m_net, m_job, m_situation.condition,
                       m_situation.battery_v.value_or(batteryVolts(m_job.battery, m_situation.condition)),
                       [this](const job::PointRef& place) { return at(place); });
    addUnits();
    addDevices();
    for (Cause* shared : {&m_ambient, &m_barometer})
        if (!shared->shares.empty())
            m_causes.push_back(std::move(*shared));
    return solvePowered(m_net, m_powered, m_situation.bounded).map([&](circuit::Solution&& solution) {
        for (const Powered& p : m_powered) {
            if (const auto it = m_circuits.find(p.circuit); it != m_circuits.end())
                it->second.powered = p.on;
            if (p.circuit.empty())
                m_units[p.unit].powered = p.on;
        }
        Electrics out{.solution = std::move(solution),
                      .nodes = std::move(m_nodes),
                      .circuits = std::move(m_circuits),
                      .inputs = std::move(m_inputs),
                      .units = std::move(m_units),
                      .wires = std::move(m_wires),
                      .causes = std::move(m_causes)};
        return out;
    });
}

} // namespace

Result<Electrics> build(const job::Job& job, const Situation& situation)
{
    return Builder(job, situation).build();
}

} // namespace vicegrip::electrics
