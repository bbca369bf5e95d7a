#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/result.h"
#include "core/parts/resistance_curve.h"
#include "core/units/units.h"

#include <map>
#include <string>
#include <variant>

/// Sensors: what each puts between its pins, as in a data sheet. Values are in the SI unit of what is measured.
namespace vicegrip::parts {

using PartId = Id<struct PartTag>;

/// A resistance that follows temperature, between signal and ground.
struct Thermistor
{
    ResistanceCurve curve;
    double tolerance = 0.02; ///< of the resistance
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Thermistor&) const = default;
};

/// A track between supply and ground with a wiper on the signal pin; position 0 is the ground end.
struct Potentiometer
{
    double track_ohm = 0;
    double tolerance = 0.2; ///< of the track
    double wiper_ohm = 0;
    double endGap = 0; ///< share of the track outside the wiper's travel, at each end
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Potentiometer&) const = default;
};

/// Output a share of its supply: low_v..high_v for low..high at a supply of at_supply_v.
struct RatiometricTransducer
{
    double low_v = 0.5, high_v = 4.5, at_supply_v = 5;
    double tolerance = 0.01; ///< of the span
    double out_ohm = 10;
    double supply_ohm = 1000; ///< what the supply sees
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const RatiometricTransducer&) const = default;
};

/// A conditioner with its own supply that puts out volts above its own ground.
struct VoltageDevice
{
    double low_v = 0, high_v = 5;
    double tolerance_v = 0.02;
    double out_ohm = 100;
    double supply_ohm = 1000; ///< heater and electronics together
    double least_supply_v = 8.0; ///< below this it puts out nothing
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const VoltageDevice&) const = default;
};

using SensorModel = std::variant<Thermistor, Potentiometer, RatiometricTransducer, VoltageDevice>;

enum class PinRole { Signal, Supply, Ground };

struct Sensor
{
    PartId id;
    std::string name;
    units::Dimension measures = units::Dimension::Temperature;
    std::string unit; ///< shown, and used in tables
    double low = 0, high = 0; ///< range, SI; the ends of a straight-line output
    SensorModel model;
    std::map<std::string, std::string> pins; ///< cavity of its plug -> "signal", "supply", "ground"
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Sensor&) const = default;
};

/// The cavity of the sensor's own plug that has this role; empty when it has none.
[[nodiscard]] std::string cavityOf(const Sensor& sensor, PinRole role);

/// Whether the sensor makes no voltage of its own, so that it can be measured in Ohm.
[[nodiscard]] bool isPassive(const Sensor& sensor);

/// "thermistor", "potentiometer", "ratiometric", "voltage": the model's name in files.
[[nodiscard]] std::string_view modelName(const SensorModel& model);

/// A sensor from a library file: checked against data/schema/part.schema.json, then for sense (range not empty, curve
/// monotone, all pins that the model needs). The error has the pointer.
[[nodiscard]] Result<Sensor> readSensor(const nlohmann::json& json);

/// The checks for sense alone, for a document whose schema has been checked.
[[nodiscard]] Result<void> checkSensor(const Sensor& sensor);

void listFields(fields::Reader& a, Sensor& s);
void listFields(fields::Writer& a, Sensor& s);

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::PinRole>
{
    static constexpr std::pair<vicegrip::parts::PinRole, std::string_view> kNames[] = {
        {vicegrip::parts::PinRole::Signal, "signal"},
        {vicegrip::parts::PinRole::Supply, "supply"},
        {vicegrip::parts::PinRole::Ground, "ground"}};
};
