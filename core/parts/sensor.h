#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/result.h"
#include "core/parts/resistance_curve.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
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
    double dissipation_w_per_k = 2e-3; ///< power that warms it by 1 K where it sits
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

/// A resistance that follows something other than temperature, between signal and ground: a level, a pressure.
/// Straight lines between its points.
struct Resistive
{
    struct Point
    {
        double value = 0; ///< SI of what is measured
        double ohm = 0;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points; ///< by rising value, at least two
    double tolerance = 0.05; ///< of the resistance
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Resistive&) const = default;
};

/// A transistor that pulls the signal to ground, at a rate that follows the value: low_hz..high_hz for low..high. It
/// puts out nothing without a pull-up.
struct OpenCollector
{
    struct Point
    {
        double value = 0; ///< SI of what is measured
        double hz = 0;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points; ///< a bent output; empty: a straight line from low_hz to high_hz
    double low_hz = 0, high_hz = 0;
    double tolerance = 0.01; ///< of the rate
    double on_ohm = 40, off_ohm = 1e6;
    double supply_ohm = 1000;
    double least_supply_v = 4.5;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const OpenCollector&) const = default;
};

/// A coil that a passing tooth makes an alternating voltage in; its frequency is the value.
struct VariableReluctance
{
    double coil_ohm = 0, coil_h = 0;
    double peak_v = 0; ///< at the top of its range
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const VariableReluctance&) const = default;
};

/// A switch: from the signal to ground, or from the supply to the signal when it has no ground pin.
struct Contact
{
    double on_ohm = 0.5;
    bool closedAtRest = false;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Contact&) const = default;
};

/// A conditioner with its own supply that puts out volts above its own ground.
struct VoltageDevice
{
    struct Point
    {
        double value = 0; ///< SI of what is measured
        double volts = 0;
        bool operator==(const Point&) const = default;
    };
    std::vector<Point> points; ///< a bent output; empty: a straight line from low_v to high_v
    double low_v = 0, high_v = 5;
    double tolerance_v = 0.02;
    double out_ohm = 100;
    double supply_ohm = 1000; ///< heater and electronics together
    double least_supply_v = 8.0; ///< below this it puts out nothing
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const VoltageDevice&) const = default;
};

using SensorModel = std::variant<Thermistor, Potentiometer, RatiometricTransducer, VoltageDevice, Resistive,
                                 OpenCollector, VariableReluctance, Contact>;

/// What a sensor is sold for.
enum class SensorKind {
    Other,
    ManifoldPressure,
    FluidPressure,
    FluidTemperature,
    AirTemperature,
    ExhaustTemperature,
    Throttle,
    Pedal,
    FlexFuel,
    AirMass,
    Wideband,
    CrankTrigger,
    CamTrigger,
    Speed,
    Level,
    GearPosition,
    Switch
};

/// Where a sensor's supply pin is fed from.
enum class Feed { SensorSupply, Battery };

enum class PinRole { Signal, Supply, Ground };

struct Sensor
{
    PartId id;
    std::string name;
    SensorKind kind = SensorKind::Other;
    Feed feed = Feed::SensorSupply;
    bool conditioned = false; ///< a box of its own, between a bare sensor and the ECU, makes the signal
    units::Dimension measures = units::Dimension::Temperature;
    std::string unit; ///< shown, and used in tables
    double low = 0, high = 0; ///< range, SI; the ends of a straight-line output
    SensorModel model;
    std::map<std::string, PinRole> pins; ///< by cavity of its plug
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Sensor&) const = default;
};

/// The cavity of the sensor's own plug that has this role; empty when it has none.
[[nodiscard]] std::string cavityOf(const Sensor& sensor, PinRole role);

/// Whether the sensor makes no voltage of its own, so that it can be measured in Ohm.
[[nodiscard]] bool isPassive(const Sensor& sensor);

/// How the ECU must take its signal: as a voltage, a frequency, or on and off.
enum class SignalKind { Voltage, Frequency, OnOff };
[[nodiscard]] SignalKind signalOf(const Sensor& sensor);

/// Whether its pulses stand for a value, as those of an air-mass or flex sensor do. Teeth of a crank or cam do not.
[[nodiscard]] bool countsValue(const Sensor& sensor);

/// Pulses a second at a value (SI), for a sensor that counts one.
[[nodiscard]] double hertzAt(const Sensor& sensor, double value);

/// The height at x of straight lines between points by rising `value`, flat beyond their ends.
template <class Point>
[[nodiscard]] double alongPoints(const std::vector<Point>& points, double Point::*height, double x)
{
    const auto upper = std::ranges::upper_bound(points, x, {}, &Point::value);
    if (upper == points.begin())
        return points.front().*height;
    if (upper == points.end())
        return points.back().*height;
    const Point &a = *(upper - 1), &b = *upper;
    return std::lerp(a.*height, b.*height, (x - a.value) / (b.value - a.value));
}

/// Whether the signal needs a pull-up to become a voltage.
[[nodiscard]] bool needsPullUp(const Sensor& sensor);

/// The highest voltage the sensor itself can put on its signal wire, V; 0 when it makes none.
[[nodiscard]] double mostVolts(const Sensor& sensor);

/// What a thermistor of this kind is warmed 1 K by, W (typical): 10 mW where liquid flows round its metal body, 1 mW
/// for a bare bead in still air, 2 mW otherwise.
[[nodiscard]] double usualDissipation(SensorKind kind);

/// What it draws from a supply of `volts`, A.
[[nodiscard]] double supplyAmps(const Sensor& sensor, double volts);

/// The model's name in files: "thermistor", "open_collector".
[[nodiscard]] std::string_view modelName(const SensorModel& model);

/// A sensor from a library file: checked against data/schema/part.schema.json, then for sense (range not empty, curve
/// monotone, all pins that the model needs). The error has the pointer.
[[nodiscard]] Result<Sensor> readSensor(const nlohmann::json& json);

/// The checks for sense alone, for a document whose schema has been checked.
[[nodiscard]] Result<void> checkSensor(const Sensor& sensor);

void listFields(fields::Reader& a, Sensor& s);
void listFields(fields::Writer& a, Sensor& s);

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::SensorKind>
{
    using enum vicegrip::parts::SensorKind;
    static constexpr std::pair<vicegrip::parts::SensorKind, std::string_view> kNames[] = {
        {Other, "other"},
        {ManifoldPressure, "manifold-pressure"},
        {FluidPressure, "fluid-pressure"},
        {FluidTemperature, "fluid-temperature"},
        {AirTemperature, "air-temperature"},
        {ExhaustTemperature, "exhaust-temperature"},
        {Throttle, "throttle"},
        {Pedal, "pedal"},
        {FlexFuel, "flex-fuel"},
        {AirMass, "air-mass"},
        {Wideband, "wideband"},
        {CrankTrigger, "crank-trigger"},
        {CamTrigger, "cam-trigger"},
        {Speed, "speed"},
        {Level, "level"},
        {GearPosition, "gear-position"},
        {Switch, "switch"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::Feed>
{
    static constexpr std::pair<vicegrip::parts::Feed, std::string_view> kNames[] = {
        {vicegrip::parts::Feed::SensorSupply, "sensor-supply"}, {vicegrip::parts::Feed::Battery, "battery"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::PinRole>
{
    static constexpr std::pair<vicegrip::parts::PinRole, std::string_view> kNames[] = {
        {vicegrip::parts::PinRole::Signal, "signal"},
        {vicegrip::parts::PinRole::Supply, "supply"},
        {vicegrip::parts::PinRole::Ground, "ground"}};
};
