#include "core/electrics/sensor_elements.h"

#include <cmath>

namespace vicegrip::electrics {
namespace {

using circuit::Node;

constexpr double kCoilTolerance = 0.1; ///< of a coil's resistance (typical)

/// One model each; they share what they are put into.
struct AddElements
{
    circuit::Network& net;
    const parts::Sensor& sensor;
    const std::string& device;
    const SensorPins& pins;
    const Measurand& measurand;
    bool keyOn;
    std::string label = "sensor " + device;
    ElementValues values = elementValues(sensor, measurand.value);
    SensorElements out = {};

    void operator()(const parts::Thermistor& t)
    {
        out.varied = {net.addResistor(pins.signal, pins.ground, values[0], {values[0] * t.tolerance}, label)};
    }
    void operator()(const parts::Potentiometer& p)
    {
        const Node wiper = net.addNode();
        out.varied = {net.addResistor(pins.supply, wiper, values[0], {}, label),
                      net.addResistor(wiper, pins.ground, values[1], {}, label)};
        net.addResistor(wiper, pins.signal, p.wiper_ohm, {p.wiper_ohm * 0.5}, label);
        out.track = Cause{"track of " + device,
                          p.tolerance * p.track_ohm,
                          {{out.varied[0], values[0] / p.track_ohm}, {out.varied[1], values[1] / p.track_ohm}}};
        circuit::Together halves{out.varied, {}};
        for (const double track : {1 - p.tolerance, 1 + p.tolerance})
            for (const double at : {measurand.value - measurand.tolerance, measurand.value + measurand.tolerance}) {
                const ElementValues there = elementValues(sensor, at);
                halves.settings.push_back({track * there[0], track * there[1]});
            }
        net.moveTogether(std::move(halves));
    }
    void operator()(const parts::RatiometricTransducer& r)
    {
        net.addResistor(pins.supply, pins.ground, r.supply_ohm, {r.supply_ohm * 0.3}, label);
        if (!keyOn) // unpowered, its output has no resistance to promise
            return;
        const Node inside = net.addNode();
        const double span = std::abs(r.high_v - r.low_v) / r.at_supply_v;
        out.varied = {net.addVoltageControlledVoltage(inside, pins.ground, pins.supply, pins.ground, values[0],
                                                      {r.tolerance * span}, label)};
        net.addResistor(inside, pins.signal, r.out_ohm, {r.out_ohm * 0.2}, label);
    }
    void operator()(const parts::VoltageDevice& d)
    {
        net.addResistor(pins.supply, pins.ground, d.supply_ohm, {d.supply_ohm * 0.15}, label);
        if (!keyOn)
            return;
        const Node inside = net.addNode();
        out.varied = {net.addVoltageSource(inside, pins.ground, values[0], {d.tolerance_v}, label)};
        net.addResistor(inside, pins.signal, d.out_ohm, {d.out_ohm * 0.2}, label);
        out.least_supply_v = d.least_supply_v;
        out.source = out.varied[0];
    }
    void operator()(const parts::Resistive& s)
    {
        out.varied = {net.addResistor(pins.signal, pins.ground, values[0], {values[0] * s.tolerance}, label)};
    }
    void operator()(const parts::OpenCollector& o)
    {
        net.addResistor(pins.supply, pins.ground, o.supply_ohm, {o.supply_ohm * 0.3}, label);
        out.varied = {net.addResistor(pins.signal, pins.ground, o.off_ohm, {}, label)}; // at rest, off
        if (keyOn)
            out.least_supply_v = o.least_supply_v;
    }
    void operator()(const parts::VariableReluctance& coil)
    {
        net.addResistor(pins.signal, pins.ground, coil.coil_ohm, {coil.coil_ohm * kCoilTolerance}, label);
    }
    void operator()(const parts::Contact& contact)
    {
        if (contact.closedAtRest)
            net.addResistor(pins.signal, pins.hasGround ? pins.ground : pins.supply, contact.on_ohm, {contact.on_ohm},
                            label);
    }
};

} // namespace

SensorElements addSensorElements(circuit::Network& net, const parts::Sensor& sensor, const std::string& device,
                                 const SensorPins& pins, const Measurand& measurand, bool keyOn)
{
    AddElements add{net, sensor, device, pins, measurand, keyOn};
    std::visit(add, sensor.model);
    if (add.out.varied.size() == 1) {
        const auto [least, most] =
            elementRange(sensor, measurand.value - measurand.tolerance, measurand.value + measurand.tolerance);
        net.setBounds(add.out.varied[0], add.values[0], least, most);
    }
    return std::move(add.out);
}

} // namespace vicegrip::electrics
