#include "core/electrics/builder.h"
#include "core/job/facts.h"
#include "core/parts/conductor.h"
#include "core/parts/transceiver.h"

/// Units as they appear from their plugs: inputs, outputs, ports, what feeds sensors.
namespace vicegrip::electrics {
namespace {

constexpr double kKeyFeedOhms = 10e3; ///< what senses the key (typical)

} // namespace

using parts::EcuPinRole;

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
    if (input.inside)
        m_inside[input.id] = {{parts::PinRole::Signal, pin},
                              {parts::PinRole::Supply, unit.supply},
                              {parts::PinRole::Ground, unit.ground}};
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
    const bool turns = m_turns && (driven == nullptr || !m_situation.off.contains(driven->id));
    if (clicked && logic) {
        const Node high = m_net.addNode();
        m_net.addVoltageSource(high, ground, output.high_v, {}, label);
        m_net.addResistor(pin, high, output.on_ohm, {output.on_ohm * 0.5}, label);
    } else if ((turns || clicked) && part != nullptr && !logic) {
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

} // namespace vicegrip::electrics
