#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/result.h"
#include "core/parts/models.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <string>

/// Sensors and actuators, as in their data sheets. What a kind of them puts between its terminals and asks of its seat
/// is in kinds/; values are in the SI unit of what is measured.
namespace vicegrip::parts {

using PartId = Id<struct PartTag>;

/// What a part is sold for.
enum class PartUse {
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
    Switch,
    // What the ECU drives.
    Injector,
    IgnitionCoil,
    IgnitionModule,
    Relay,
    BoostValve,
    PurgeValve,
    IdleValve,
    Valve,
    IdleStepper,
    ThrottleMotor,
    Pump,
    Fan,
    Lamp,
    Tachometer,
    BusDevice ///< what has no other use here: a display, the vehicle network
};

/// Whether it is driven by the share of time it is on.
[[nodiscard]] bool isOnPulseWidth(PartUse use);

/// Where a part's supply pin is fed from.
enum class Feed {
    SensorSupply,
    Battery,
    Inside ///< it is inside a unit, on one of its inputs, and has no pins
};

struct Part
{
    PartId id;
    std::string name;
    PartUse kind = PartUse::Other;
    Feed feed = Feed::SensorSupply;
    bool conditioned = false; ///< a box of its own, between a bare sensor and the ECU, makes the signal
    units::Dimension measures = units::Dimension::Temperature; ///< of a sensor, as its unit and range
    std::string unit; ///< shown, and used in tables
    double low = 0, high = 0; ///< range, SI; the ends of a straight-line output
    Model model;
    std::map<std::string, PinRole> pins; ///< by cavity of its plug
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Part&) const = default;
};

/// The cavity of the sensor's own plug that has this role; empty when it has none.
[[nodiscard]] std::string cavityOf(const Part& part, PinRole role);

/// What its kind asks of its seat.
[[nodiscard]] const KindTraits& traitsOf(const Part& part);
/// What an actuator asks of its output; none for a sensor.
[[nodiscard]] std::optional<Drive> driveOf(const Part& part);
/// A winding with a resistor in series, as its output sees it; any other part as it is.
[[nodiscard]] Part behindResistor(Part part, double ohm);
/// The resistance of an actuator's winding, Ohm; none for what has none.
[[nodiscard]] std::optional<double> windingOhm(const Part& part);
/// Whether the ECU drives it and reads nothing.
[[nodiscard]] bool isDriven(const Part& part);
/// Whether it hangs on a bus, on a port that others share.
[[nodiscard]] bool isOnBus(const Part& part);
/// Whether it stands for the bus port of a unit that hangs on another one's bus.
[[nodiscard]] bool isPort(const Part& part);
/// Whether it is a bus with all that hangs on it and lives on power of its own: the vehicle network.
[[nodiscard]] bool isVehicleNetwork(const Part& part);
/// What people call a terminal of it: "signal", "ground"; of a bus "CAN high" and "CAN low".
[[nodiscard]] std::string roleWords(const Part& part, PinRole role);
/// What closes a bus inside the part, Ohm; 0: nothing.
[[nodiscard]] double terminatorOhm(const Part& part);
/// The roles of the terminals that lead to its seat, in the order of the seat's pins.
[[nodiscard]] std::vector<PinRole> signalRoles(const Part& part);

/// The terminal at the other end of the resistance that is measured from this one: of a winding its feed, of a
/// thermistor's signal its ground, of one wire of a bus the other. None where there is no such resistance.
[[nodiscard]] std::optional<PinRole> acrossFrom(const Part& part, PinRole role);

/// Whether it is inside a unit: a hose leads to it, and no wire.
[[nodiscard]] inline bool isInside(const Part& part)
{
    return part.feed == Feed::Inside;
}

/// Whether it makes no voltage of its own, so that it can be measured in Ohm.
[[nodiscard]] bool isPassive(const Part& part);
[[nodiscard]] SignalKind signalOf(const Part& part);
/// What its kind is called: "thermistor", "0.5–4.5 V transducer".
[[nodiscard]] std::string kindWords(const Part& part);

/// Values of a sensor's varied elements at the measurand `x` (SI): {R} for a thermistor, {upper, lower} half of a
/// potentiometer's track, {gain} of a ratiometric transducer, {V} of a voltage device. Outputs stay within what the
/// part can put out.
[[nodiscard]] ElementValues elementValues(const Part& part, double x);

/// The places in the sensor's range where its curve is bent: points of its sheet, ends of what it puts out.
[[nodiscard]] std::vector<double> kinksOf(const Part& part);

/// The least and the most its first varied element may be at any measurand of `low` to `high`, the part's own
/// tolerance included.
[[nodiscard]] ElementRange elementRange(const Part& part, double low, double high);

/// Puts it into a network, or into a deck for another program.
[[nodiscard]] Laid lay(ElementSink& to, const Part& part, const PartState& state);
void write(DeckPen& to, const Part& part, const PartState& state);

/// Whether its curve is no straight line.
[[nodiscard]] bool isBent(const Part& part);

/// What it puts out over its range; none for one that makes no volts.
[[nodiscard]] std::optional<OutputSpan> spanOf(const Part& part);
/// The part with a straight output between these volts, off by `tolerance` of the span at most. False when its kind has
/// none, or a bent one.
[[nodiscard]] bool setSpan(Part& part, double low_v, double high_v, double tolerance);

/// How far its value may be off by its sheet, SI, where that is a share of its range; 0 for others.
[[nodiscard]] double sheetTolerance(const Part& part);

/// How its resistance follows temperature; null when it does not.
[[nodiscard]] const ResistanceCurve* curveOf(const Part& part);
/// False when it follows none.
[[nodiscard]] bool setCurve(Part& part, const ResistanceCurve& curve, double tolerance);
/// The power that warms it by 1 K, W; none where that does not count.
[[nodiscard]] std::optional<double> dissipationOf(const Part& part);
bool setDissipation(Part& part, double watts);

/// Share that its resistance may be off by; none for one that is no resistance to measure by.
[[nodiscard]] std::optional<double> resistanceTolerance(const Part& part);

/// A resistance that goes in straight lines through these points. False for a kind that does not.
[[nodiscard]] bool setOhms(Part& part, std::vector<Resistive::Point> points, double tolerance);

/// The transistor that pulls its signal down; none for others.
[[nodiscard]] std::optional<PulseOutput> pulsesOf(const Part& part);
/// Gives one that counts a straight line between these rates. False for others.
[[nodiscard]] bool setRates(Part& part, double low_hz, double high_hz);
/// The highest rate its signal has, Hz.
[[nodiscard]] double mostHertz(const Part& part);

/// The resistance of a closed switch; none for others.
[[nodiscard]] std::optional<double> contactOhm(const Part& part);
/// A switch that stands closed with this resistance, or open. False for others.
[[nodiscard]] bool setContact(Part& part, std::optional<double> ohm);

/// Whether its pulses stand for a value, as those of an air-mass or flex sensor do. Teeth of a crank or cam do not.
[[nodiscard]] bool countsValue(const Part& part);

/// Pulses a second at a value (SI), for a sensor that counts one.
[[nodiscard]] double hertzAt(const Part& part, double value);

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
[[nodiscard]] bool needsPullUp(const Part& part);

/// The highest voltage the sensor itself can put on its signal wire, V; 0 when it makes none.
[[nodiscard]] double mostVolts(const Part& part);

/// What a thermistor of this kind is warmed 1 K by, W (typical): 10 mW where liquid flows round its metal body, 1 mW
/// for a bare bead in still air, 2 mW otherwise.
[[nodiscard]] double usualDissipation(PartUse kind);

/// What it draws from a supply of `volts`, A.
[[nodiscard]] double supplyAmps(const Part& part, double volts);

/// A part from a library file: checked against data/schema/part.schema.json, then for sense (range not empty, curve
/// monotone, all pins that the model needs). The error has the pointer.
[[nodiscard]] Result<Part> readPart(const nlohmann::json& json);

/// The checks for sense alone, for a document whose schema has been checked.
[[nodiscard]] Result<void> checkPart(const Part& part);

void listFields(fields::Reader& a, Part& s);
void listFields(fields::Writer& a, Part& s);

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::PartUse>
{
    using enum vicegrip::parts::PartUse;
    static constexpr std::pair<vicegrip::parts::PartUse, std::string_view> kNames[] = {
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
        {Switch, "switch"},
        {Injector, "injector"},
        {IgnitionCoil, "ignition-coil"},
        {IgnitionModule, "ignition-module"},
        {Relay, "relay"},
        {BoostValve, "boost-valve"},
        {PurgeValve, "purge-valve"},
        {IdleValve, "idle-valve"},
        {Valve, "valve"},
        {IdleStepper, "idle-stepper"},
        {ThrottleMotor, "throttle-motor"},
        {Pump, "pump"},
        {Fan, "fan"},
        {Lamp, "lamp"},
        {Tachometer, "tachometer"},
        {BusDevice, "bus-device"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::Feed>
{
    static constexpr std::pair<vicegrip::parts::Feed, std::string_view> kNames[] = {
        {vicegrip::parts::Feed::SensorSupply, "sensor-supply"},
        {vicegrip::parts::Feed::Battery, "battery"},
        {vicegrip::parts::Feed::Inside, "inside"}};
};
