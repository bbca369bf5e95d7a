#include "core/electrics/builder.h"
#include "core/electrics/part_in_network.h"
#include "core/job/facts.h"

#include <algorithm>

/// Devices at their plugs, or inside a unit, with what they measure and how far that may be off.
namespace vicegrip::electrics {

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
        return drifted({held->second, held->second, held->second}, sensor, circuit->id);
    return drifted(measurandUnder(m_situation.condition, *circuit, sensor, m_situation.surroundings), sensor,
                   circuit->id);
}

/// What a sensor that is off takes its measurand for: within its range, as far as it is off.
Measurand Builder::drifted(const Measurand& is, const parts::Part& sensor, const job::CircuitId& circuit) const
{
    const auto off = m_edits.drift.find(circuit);
    if (off == m_edits.drift.end() || parts::isDriven(sensor))
        return is;
    const auto seen = [&](double value) {
        return std::clamp(value + off->second * (sensor.high - sensor.low), std::min(sensor.low, value),
                          std::max(sensor.high, value));
    };
    return {seen(is.value), seen(is.low), seen(is.high)};
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
    if (parts::isInside(sensor)) {
        const auto input = circuit != nullptr ? m_inside.find(circuit->input) : m_inside.end();
        if (input == m_inside.end())
            return; // its unit is not in the network, or it is on none
        pins = input->second;
    }
    const bool toGround = pins.contains(PinRole::Ground);
    PartInNetwork part(m_net, std::move(pins), job::partSubject(sensor, device.id));
    const Measurand measurand = measurandOf(sensor, circuit);
    const double series = m_drawn && circuit != nullptr && parts::isDriven(sensor) ? m_drawn->seriesOhm(*circuit) : 0;
    const bool pulls = circuit != nullptr && m_situation.pulling.contains(circuit->id);
    parts::Laid added =
        parts::lay(part, sensor, {measurand.value, measurand.low, measurand.high, m_keyOn, m_turns, series, pulls});
    if (!pulls) // what it measures moves nothing then
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

} // namespace vicegrip::electrics
