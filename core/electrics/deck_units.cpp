#include "core/electrics/deck.h"
#include "core/electrics/wiring.h"

#include <algorithm>

namespace vicegrip::electrics {

/// Off, but for those that drive something while the engine runs: to ground what is fed from elsewhere, to the feed
/// what is grounded, and of what hangs between two pins the first to the feed.
void Deck::outputLines(const parts::Ecu& unit, const parts::EcuPin& pin, const std::string& node,
                       const std::string& feed, const std::string& ground, const std::string& supply)
{
    for (const parts::EcuOutput& o : unit.outputs) {
        if (o.id != pin.output)
            continue;
        if (std::ranges::count(o.drives, parts::OutputKind::Bus) > 0) { // held at 2.5 V by 30 kOhm each
            const std::string quiet = fresh();
            line('B', quiet, ground, "V = V(" + supply + "," + ground + ") * 2.5 / " + plain(unit.supply.volts),
                 "bus " + o.id.value);
            resistor(quiet, node, 30e3, "bus " + o.id.value);
            continue;
        }
        const auto circuit = std::ranges::find(m_job.circuits, o.id, &job::Circuit::output);
        const parts::Part* part = circuit == m_job.circuits.end() ? nullptr : job::partOf(m_job, *circuit);
        const bool logic = std::ranges::count(o.drives, parts::OutputKind::Logic) > 0 &&
                           (part == nullptr || parts::driveOf(*part)->least_v > 0);
        const auto has = [&](parts::PinRole role) {
            return part != nullptr && std::ranges::any_of(part->pins, [&](const auto& p) { return p.second == role; });
        };
        const auto first = std::ranges::find(unit.pins, o.id, &parts::EcuPin::output);
        const auto before = std::count_if(first, std::ranges::find(unit.pins, pin.at, &parts::EcuPin::at),
                                          [&](const parts::EcuPin& p) { return p.output == o.id; });
        const bool toFeed = !has(parts::PinRole::Supply) && (has(parts::PinRole::Ground) || before % 2 == 0);
        const std::string what = "output " + o.id.value;
        const bool clicked = m_situation.clicked == o.id;
        if (clicked && logic && part != nullptr) {
            const std::string high = fresh();
            line('V', high, ground, "DC " + plain(o.high_v), what + ", high");
            resistor(node, high, o.on_ohm, what);
        } else if (part != nullptr && !logic && (clicked || (turns() && m_situation.off.count(circuit->id) == 0)))
            resistor(node, toFeed ? feed : ground, o.on_ohm, what + ", on");
        else
            resistor(node, ground, logic ? o.on_ohm : o.off_ohm, what);
        if (o.pull_up_ohm)
            resistor(node, feed, *o.pull_up_ohm, what);
    }
}

/// Between the pins of a bus port, power or not.
void Deck::terminatorLine(const parts::Ecu& unit, const parts::EcuOutput& output)
{
    std::vector<PointRef> pair;
    for (const parts::EcuPin& pin : unit.pins)
        if (pin.output == output.id)
            pair.push_back(PointRef::fromText(pin.at));
    if (output.terminator_ohm > 0 && pair.size() == 2)
        resistor(inside(pair[0]), inside(pair[1]), output.terminator_ohm, "terminator " + output.id.value);
}

void Deck::unitLines(const parts::Ecu& unit)
{
    constexpr double kKeySense_ohm = 10e3;
    const std::string ground = fresh(), supply = fresh(), outlet = fresh(), feed = fresh();
    resistor(feed, ground, unit.feed_ohm, "unit");
    line('B', supply, ground,
         "V = V(" + feed + "," + ground + ") >= " + plain(unit.least_supply_v) + " ? " + plain(unit.supply.volts) +
             " : 0",
         "sensor supply");
    resistor(supply, outlet, unit.supply.ohm, "sensor supply");
    std::map<parts::InputId, std::string> pins;
    for (const parts::EcuPin& pin : unit.pins) {
        const std::string node = inside(PointRef::fromText(pin.at));
        const std::string to = pin.role == parts::EcuPinRole::SensorSupply ? outlet
                               : pin.role == parts::EcuPinRole::PowerFeed  ? feed
                                                                           : ground;
        if (pin.role == parts::EcuPinRole::Input)
            pins.try_emplace(pin.input, node);
        else if (pin.role == parts::EcuPinRole::Output)
            outputLines(unit, pin, node, feed, ground, supply);
        else
            resistor(node, to, pin.role == parts::EcuPinRole::KeyFeed ? kKeySense_ohm : parts::kCrimpOhms,
                     "unit " + pin.at);
    }
    for (const parts::EcuInput& input : unit.inputs) {
        const std::string what = "input " + input.id.value;
        const auto pin = pins.find(input.id);
        const std::string at = pin != pins.end() ? pin->second : fresh();
        std::string converter = at;
        if (input.pull_up_ohm)
            resistor(supply, at, *input.pull_up_ohm, what);
        if (input.series_ohm > 0) {
            converter = fresh();
            resistor(at, converter, input.series_ohm, what);
        }
        resistor(converter, ground, input.pull_down_ohm, what);
        if (input.inside)
            m_sensorInside[input.id] = {
                {parts::PinRole::Signal, at}, {parts::PinRole::Supply, supply}, {parts::PinRole::Ground, ground}};
        m_out.inputs[input.id] = {converter, ground, supply};
    }
}

double Deck::measurand(const job::Device& device, const parts::Part& sensor) const
{
    for (const job::Circuit& c : m_job.circuits) {
        if (c.device != device.id)
            continue;
        const auto held = m_situation.measurands.find(c.id);
        double value = held != m_situation.measurands.end() ? held->second : atRest(c, m_situation.surroundings).value;
        for (const faults::Fault& fault : m_situation.faults)
            if (const auto* f = std::get_if<faults::Drift>(&fault); f != nullptr && f->circuit == c.id)
                value = std::min(std::max(value + f->share * (sensor.high - sensor.low), std::min(value, sensor.low)),
                                 std::max(value, sensor.high));
        return value;
    }
    return sensor.low;
}

void Deck::deviceLines(const job::Device& device, const parts::Part& part)
{
    std::map<parts::PinRole, std::string> pins;
    for (const auto& [cavity, role] : part.pins)
        pins.try_emplace(role, inside({device.connector, cavity}));
    if (part.pins.empty()) { // inside a unit, on the input of the circuit that it is in
        const auto circuit = std::ranges::find(m_job.circuits, device.id, &job::Circuit::device);
        const auto input = circuit != m_job.circuits.end() ? m_sensorInside.find(circuit->input) : m_sensorInside.end();
        if (input == m_sensorInside.end())
            return;
        pins = input->second;
    }
    Pen pen(*this, std::move(pins), "sensor " + device.id.value);
    const double value = measurand(device, part);
    double series = 0;
    bool pulls = false;
    for (const job::Circuit& c : m_job.circuits)
        if (c.device == device.id) {
            pulls = m_situation.pulling.contains(c.id);
            series = parts::isDriven(part) ? Wiring(m_job).seriesOhm(c) : 0;
        }
    parts::write(pen, part, {value, value, value, keyOn(), turns(), series, pulls});
}

} // namespace vicegrip::electrics
