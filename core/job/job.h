#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/job/brief.h"
#include "core/parts/ecu.h"
#include "core/parts/sensor.h"

#include <compare>
#include <map>
#include <optional>
#include <string>
#include <vector>

/// The job: everything known about one installation, as a plain value. Lengths in m, areas in m², temperatures in K,
/// pressures in Pa; json.h has the names and units of the file.
namespace vicegrip::job {

using CircuitId = Id<struct CircuitTag>;
using DeviceId = Id<struct DeviceTag>;
using WireId = Id<struct WireTag>;

/// A place a wire can end: a connector's cavity ("CLT.1") or a joint ("S2", "G1", "BAT-").
struct PointRef
{
    std::string owner;
    std::string cavity; ///< empty for a joint

    [[nodiscard]] std::string text() const { return cavity.empty() ? owner : owner + "." + cavity; }
    [[nodiscard]] bool empty() const { return owner.empty(); }
    [[nodiscard]] static PointRef fromText(std::string_view text);
    auto operator<=>(const PointRef&) const = default;
};

enum class Condition {
    BatteryOff, ///< battery lead off, ECU plugs off: Ohm
    KeyOn ///< key on, engine off: V
};

enum class ConnectorKind {
    Sensor, ///< harness plug of a device
    Inline, ///< one half of a bulkhead or inline pair
    Ecu ///< harness plug of the ECU
};

struct Connector
{
    std::string id;
    std::string label;
    ConnectorKind kind = ConnectorKind::Sensor;
    std::string mates; ///< Inline: the other half
    std::vector<std::string> cavities;
    std::optional<parts::Layout> layout; ///< its face; none: nobody has described it
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Connector&) const = default;
};

enum class JointKind { Splice, Stud, BatteryPositive, BatteryNegative };

struct Joint
{
    std::string id;
    std::string label;
    JointKind kind = JointKind::Splice;
    std::string body; ///< Stud: the metal it is on; studs on one body are joined by it
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Joint&) const = default;
};

struct Wire
{
    WireId id;
    PointRef from, to;
    double length_m = 0;
    double area_m2 = 0;
    std::string colour; ///< IEC 60757, tracer after a slash: "BU/WH"
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Wire&) const = default;
};

/// A fuse or relay contact.
struct Switch
{
    std::string id;
    std::string label;
    PointRef from, to;
    double ohm = 0.01;
    bool needsKey = false; ///< closed only with the key on
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Switch&) const = default;
};

enum class ResistorKind {
    PullUp, ///< from a supply to a signal
    Series, ///< in the signal wire
    ToGround ///< from a signal to ground
};

/// A resistor the installer fits into the harness.
struct Resistor
{
    std::string id;
    std::string label;
    ResistorKind kind = ResistorKind::PullUp;
    PointRef from, to;
    double ohm = 0;
    double tolerance = 0.01;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Resistor&) const = default;
};

struct Device
{
    DeviceId id;
    parts::PartId part;
    std::string connector;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Device&) const = default;
};

/// What the sensor feels with the engine stopped.
enum class RestKind { Ambient, Barometer, Value };

struct Rest
{
    RestKind kind = RestKind::Ambient;
    double value = 0; ///< for Value: in the circuit's unit in the file, SI here
    double tolerance = 0; ///< for Value
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Rest&) const = default;
};

/// The table the ECU wants for this input.
struct ScalingSpec
{
    int points = 2;
    double low = 0, high = 0; ///< range of the value, SI
    double outputStep = 0; ///< resolution of the value, in the shown unit
    double inputStep_v = 0.001; ///< resolution of the voltage axis
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const ScalingSpec&) const = default;
};

/// How much a circuit is wanted when inputs are short.
enum class Want { Required, Wanted, Preferred };

struct Circuit
{
    CircuitId id;
    std::string name;
    FunctionId function; ///< empty: something the brief does not know
    Want want = Want::Required;
    DeviceId device;
    parts::InputId input; ///< empty: not seated
    bool locked = false; ///< seating all leaves its input alone
    Rest rest;
    ScalingSpec scaling;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Circuit&) const = default;
};

struct Battery
{
    double volts = 12.6;
    double tolerance_v = 0.4;
    double ohm = 0.015;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Battery&) const = default;
};

struct Surroundings
{
    double ambient_k = 293.15;
    double ambientTolerance_k = 1;
    double barometer_pa = 101325;
    double barometerTolerance_pa = 300;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Surroundings&) const = default;
};

/// The installer's multimeter.
struct Meter
{
    double input_ohm = 10e6;
    double voltsShare = 0.005; ///< of the reading
    double volts_v = 0.003; ///< and as many counts
    double ohmsShare = 0.01;
    double ohms_ohm = 0.2;
    double lead_ohm = 0.2; ///< both leads together, not zeroed
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Meter&) const = default;
};

enum class ReadingSource { Typed, Meter, Ecu };

/// A reading that was taken, with what was promised then and what it rests on. `station` is a PointRef's text, or
/// "input", "counts", "value" for what the ECU reports.
struct Proof
{
    CircuitId circuit;
    std::string station;
    Condition condition = Condition::KeyOn;
    double value = 0; ///< V, Ohm, counts or the circuit's SI unit
    double expected = 0, low = 0, high = 0;
    ReadingSource source = ReadingSource::Typed;
    std::string when; ///< ISO 8601, UTC
    std::map<std::string, std::string> restsOn;
    nlohmann::json extra = nlohmann::json::object();

    [[nodiscard]] bool passes() const { return value >= low && value <= high; }
    bool operator==(const Proof&) const = default;
};

/// How far a cavity is pinned by hand.
struct Pinned
{
    PointRef at;
    std::vector<WireId> wires; ///< what was in hand; none: a blank plug
    int steps = 0; ///< hand steps ticked, of those its terminal family needs
    std::string counted; ///< the cavity a second count led to; empty: not counted again
    std::string when; ///< of the last tick, ISO 8601, UTC
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Pinned&) const = default;
};

/// How far the work of hands is, beyond what the plugs tell.
struct Hands
{
    std::vector<std::string> done; ///< chores ticked, by id: "mount-ecu", "fit-clt"
    std::vector<std::string> closed; ///< what is on already and buries what is behind it: "intake"
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Hands&) const = default;
};

struct Job
{
    int version = 1;
    std::string name;
    std::string title;
    Surroundings surroundings;
    Battery battery;
    Meter meter;
    std::optional<Brief> brief;
    parts::Ecu ecu;
    std::vector<parts::Ecu> expanders;
    std::vector<parts::Sensor> parts;
    std::vector<Connector> connectors;
    std::vector<Joint> joints;
    std::vector<Wire> wires;
    std::vector<Switch> switches;
    std::vector<Resistor> resistors;
    std::vector<Device> devices;
    std::vector<Circuit> circuits;
    std::vector<Proof> proofs;
    std::vector<Pinned> pinned;
    Hands hands;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Job&) const = default;
};

inline constexpr int kVersion = 1;

/// Look-ups; null when there is none.
[[nodiscard]] const Circuit* find(const Job& job, const CircuitId& id);
[[nodiscard]] const Device* find(const Job& job, const DeviceId& id);
[[nodiscard]] const Connector* findConnector(const Job& job, std::string_view id);
[[nodiscard]] const Joint* findJoint(const Job& job, std::string_view id);
[[nodiscard]] const parts::Sensor* findPart(const Job& job, const parts::PartId& id);
[[nodiscard]] const parts::EcuInput* findInput(const Job& job, const parts::InputId& id);
[[nodiscard]] parts::EcuInput* findInput(Job& job, const parts::InputId& id);

/// The ECU and its expanders, in that order.
[[nodiscard]] std::vector<const parts::Ecu*> units(const Job& job);
/// Their inputs, in that order: the place in this list is the input's number on the link.
[[nodiscard]] std::vector<const parts::EcuInput*> inputs(const Job& job);
[[nodiscard]] std::optional<int> inputIndex(const Job& job, const parts::InputId& id);
/// The unit that has this input; null when none has.
[[nodiscard]] const parts::Ecu* unitOf(const Job& job, const parts::InputId& id);
/// Where the input's wire goes; empty when it has no pin.
[[nodiscard]] PointRef cavityOf(const Job& job, const parts::InputId& id);
/// The circuit that sits on this input, or null.
[[nodiscard]] const Circuit* seatedOn(const Job& job, const parts::InputId& id);
[[nodiscard]] Circuit* find(Job& job, const CircuitId& id);

/// The circuit's sensor, or null.
[[nodiscard]] const parts::Sensor* sensorOf(const Job& job, const Circuit& circuit);

/// A place as people say it: "Plug CLT 2", "Cavity A7", "Splice S2".
[[nodiscard]] std::string spoken(const Job& job, const PointRef& point);

} // namespace vicegrip::job

template <> struct vicegrip::fields::EnumNames<vicegrip::job::Condition>
{
    static constexpr std::pair<vicegrip::job::Condition, std::string_view> kNames[] = {
        {vicegrip::job::Condition::BatteryOff, "battery-off"}, {vicegrip::job::Condition::KeyOn, "key-on"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::job::Want>
{
    static constexpr std::pair<vicegrip::job::Want, std::string_view> kNames[] = {
        {vicegrip::job::Want::Required, "required"},
        {vicegrip::job::Want::Wanted, "wanted"},
        {vicegrip::job::Want::Preferred, "preferred"}};
};
