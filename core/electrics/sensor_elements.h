#pragma once

#include "core/electrics/electrics.h"
#include "core/electrics/sensor_model.h"

/// What a sensor puts between its pins, as elements of a network.
namespace vicegrip::electrics {

/// The inner side of its pins. One without a ground pin returns through whatever it is bolted to; one without a supply
/// pin is fed by nothing.
struct SensorPins
{
    circuit::Node signal = 0, ground = 0, supply = 0;
    bool hasGround = false;
};

struct SensorElements
{
    std::vector<circuit::ElementIndex> varied; ///< as elementValues lists them
    std::optional<double> least_supply_v; ///< of one that puts nothing out below it
    std::optional<circuit::ElementIndex> source; ///< what is 0 then
    std::optional<Cause> track; ///< moves both halves of a potentiometer
};

/// Adds the elements of a sensor at `measurand`, with their tolerances and bounds, under the fact subject
/// "sensor DEVICE". With the key off nothing drives an output.
[[nodiscard]] SensorElements addSensorElements(circuit::Network& net, const parts::Sensor& sensor,
                                               const std::string& device, const SensorPins& pins,
                                               const Measurand& measurand, bool keyOn);

} // namespace vicegrip::electrics
