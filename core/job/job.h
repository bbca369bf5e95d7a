#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/job/brief_facts.h"
#include "core/job/record.h"
#include "core/parts/ecu.h"
#include "core/parts/part.h"

#include <optional>
#include <string>
#include <vector>

/// The job: everything known about one installation, as a plain value. Lengths in m, areas in m², temperatures in K,
/// pressures in Pa; json.h has the names and units of the file.
/// In this room: brief_facts.h (what is on the engine and wanted of it), drawing.h (plugs, joints, wires), reading.h
/// (what an instrument shows), record.h (proofs, steps and the logbook), facts.h (what a proof rests on: what makes it
/// stale), settling.h (whether a meter's readings stand still), surroundings.h (ambient and barometer as typed),
/// check.h and named.h (what a schema cannot say), json.h (the file), listing.h, record_listing.h and brief_listing.h
/// (its members, in order).
namespace vicegrip::job {

using DeviceId = Id<struct DeviceTag>;

struct Device
{
    DeviceId id;
    parts::PartId part;
    std::string connector;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Device&) const = default;
};

/// The measurand with the engine stopped.
enum class RestKind { Ambient, Barometer, Value };

struct Rest
{
    RestKind kind = RestKind::Ambient;
    double value = 0; ///< for Value: in the circuit's unit in the file, SI here
    double tolerance = 0; ///< for Value
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Rest&) const = default;
};

/// How the points of a table are chosen.
enum class Breakpoints {
    Even, ///< evenly over the input's volts
    Fixed, ///< where the ECU has them
    Best, ///< on the curve, where the worst error is least
    Free ///< where the worst error is least, beside the curve too
};

/// What the ECU takes an input's scaling as.
enum class Takes {
    Points, ///< what the input reads, V or Hz, against value
    Counts, ///< the same with converter counts for volts
    Polynomial, ///< value = c0 + c1 x + c2 x^2 ..., x what the input reads; of degree 1: offset and slope
    SteinhartHart ///< 1/T = A + B ln R + C (ln R)^3, for an ECU that works the resistance out of its pull-up
};

/// The table the ECU wants for this input, or the formula.
struct ScalingSpec
{
    Takes takes = Takes::Points;
    int degree = 1; ///< of the polynomial
    int points = 2;
    double low = 0, high = 0; ///< range of the value, SI
    std::string unit; ///< the ECU's own unit of the value; empty: the sensor's
    double outputStep = 0; ///< resolution of the value, in that unit
    double inputStep = 0.001; ///< resolution of what the input reads, V or Hz
    Breakpoints breakpoints = Breakpoints::Even;
    std::vector<double> fixed; ///< for Fixed, V or Hz, rising; `points` is then their number
    bool valueFirst = false; ///< the ECU's columns: value, then what the input reads
    bool falling = false; ///< its rows: from the highest reading down
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const ScalingSpec&) const = default;

    /// Whether the ECU works the value out of coefficients and holds no points.
    [[nodiscard]] bool asFormula() const { return takes == Takes::Polynomial || takes == Takes::SteinhartHart; }
};

/// Where road speed is counted, and the run it was checked by.
struct RoadSpeed
{
    std::string tyre; ///< as its side says: "205/55 R16"
    double pulsesPerTurn = 0; ///< teeth, magnets or windows; 0: not said
    double turnsPerWheelTurn = 1;
    double runPulses = 0; ///< 0: no run yet
    double runDistance_m = 1000, runDistanceError_m = 5;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const RoadSpeed&) const = default;
};

/// What was commanded, and what a light showed at the wheel, in degrees before top dead centre.
struct LightReading
{
    double rpm = 0;
    double commanded_deg = 0, seen_deg = 0;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const LightReading&) const = default;
};

/// The wheel that a crank or cam sensor reads, and how it stands before it.
struct TriggerSetup
{
    std::string wheel; ///< as trigger::readWheel reads it: "36-1"; empty: not said
    std::optional<CountedEdge> edge; ///< none: not said
    std::string hole; ///< which of its locating holes is used; empty: not said
    std::string side; ///< which of its faces is to the engine; empty: not said
    double gap_m = 0; ///< as measured, in the middle of a turn; 0: not measured
    double gapLeast_m = 0, gapMost_m = 0; ///< where it may stand; 0: as its kind usually does
    double pitch_m = 0; ///< of its thread; 0: it stands in none
    double across_m = 0; ///< the wheel, over its teeth; 0: not said
    double thick_m = 0; ///< the wheel, along the shaft; 0: not said
    double stripWide_m = 0, stripLong_m = 0; ///< what senses in the sensor's face; 0: as usual
    std::optional<double> lies_deg; ///< the strip, clockwise from along the teeth, from behind; none: not said
    std::optional<double> beside_m; ///< from the middle of the face to the wheel's, along the shaft; none: not said
    std::vector<double> feelers_m; ///< the gap at every quarter of a turn, four of them; empty: not measured
    std::vector<LightReading> light;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const TriggerSetup&) const = default;
};

/// How much a circuit is wanted when inputs are short.
enum class Want { Required, Wanted, Preferred };

/// What a signal of the ECU's own stream tells of an input.
enum class Tells {
    Volts, ///< at the input
    Value, ///< what the ECU makes of them
    Counts, ///< of its converter
    Hertz, ///< of an input that counts
    LowTime ///< how long the line is low in each pulse
};

/// A signal of the ECU's stream that stands for a circuit, as a database file names it.
struct Told
{
    Tells tells = Tells::Value;
    std::string message, signal;
    std::string unit; ///< of its numbers, where the database does not say it or says another; empty: as it says
    parts::InputId input; ///< that the circuit sat on when this was chosen: on another, it stands for nothing
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Told&) const = default;
};

struct Circuit
{
    CircuitId id;
    std::string name;
    FunctionId function; ///< empty: something the brief does not know
    Want want = Want::Required;
    DeviceId device;
    parts::InputId input; ///< of a sensor; empty: not seated
    parts::OutputId output; ///< of what the ECU drives; empty: not seated
    bool locked = false; ///< seating all leaves its seat alone
    Rest rest;
    ScalingSpec scaling;
    std::vector<Told> told; ///< by the ECU's own stream
    std::vector<Captured> captured; ///< readings beside another instrument, for a fit
    std::optional<ThrottleLimits> limits; ///< of a throttle or pedal: its closed and open limits
    std::optional<RoadSpeed> roadSpeed; ///< of a speed sensor
    std::optional<TriggerSetup> trigger; ///< of a crank or cam sensor
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Circuit&) const = default;
};

struct Battery
{
    double volts = 12.6; ///< at rest
    double charging_v = 14.2; ///< what the alternator holds while the engine runs (typical: 13.8 V to 14.6 V)
    double tolerance_v = 0.4; ///< of either
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

struct Job
{
    int version = 1;
    std::string name;
    std::string title;
    Surroundings surroundings;
    Battery battery;
    Meter meter;
    std::string stream; ///< the link its ECU is heard over, by its name among the user's; empty: none was chosen
    std::string instrument; ///< the link to the multimeter, the same
    std::optional<Brief> brief;
    parts::Ecu ecu;
    std::vector<parts::Ecu> expanders;
    std::vector<parts::Part> parts;
    std::vector<Connector> connectors;
    std::vector<Joint> joints;
    std::vector<Wire> wires;
    std::vector<Switch> switches;
    std::vector<Resistor> resistors;
    std::vector<Load> loads;
    std::vector<Branch> branches;
    std::vector<Lead> leads;
    std::vector<Device> devices;
    std::vector<Circuit> circuits;
    std::vector<Proof> proofs;
    std::vector<Click> clicks;
    std::vector<Wiggle> wiggles; ///< in the order they were made
    std::vector<HandTurn> handTurns; ///< in the order they were made
    std::vector<Decoded> decoded; ///< in the order they were made
    std::vector<Passed> passed; ///< of the run sheet, in the order they were
    std::vector<Mend> mends; ///< in the order they were made
    std::vector<LogColumn> logColumns; ///< by name and unit, each once
    std::vector<LogMark> logMarks; ///< by log and time
    std::vector<LogReview> logReviews; ///< one of each log, in the order they were made
    std::vector<Photo> photos; ///< in the order they were added
    std::vector<Pinned> pinned;
    WorkSteps workSteps;
    std::vector<OldPlug> oldPlugs;
    std::vector<LogEntry> log;
    std::optional<Tank> tank;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Job&) const = default;
};

inline constexpr int kVersion = 1;

/// Look-ups; null when there is none.
[[nodiscard]] const Circuit* find(const Job& job, const CircuitId& id);
[[nodiscard]] const Device* find(const Job& job, const DeviceId& id);
[[nodiscard]] const Connector* findConnector(const Job& job, std::string_view id);
[[nodiscard]] const Joint* findJoint(const Job& job, std::string_view id);
[[nodiscard]] const parts::Part* findPart(const Job& job, const parts::PartId& id);
/// The lead that this wire is a core of; null when it lies alone.
[[nodiscard]] const Lead* leadOf(const Job& job, const WireId& wire);
/// How long a lead is: its longest core, m.
[[nodiscard]] double lengthOf(const Job& job, const Lead& lead);
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
/// The battery's negative post, where a voltmeter's black lead goes; empty where none is drawn.
[[nodiscard]] PointRef negativePost(const Job& job);
/// The circuit that sits on this input, or null.
[[nodiscard]] const Circuit* seatedOn(const Job& job, const parts::InputId& id);
[[nodiscard]] Circuit* find(Job& job, const CircuitId& id);

/// Whether the circuit has a seat on the ECU, and the seat's name: an input's or an output's.
[[nodiscard]] bool isSeated(const Circuit& circuit);
[[nodiscard]] std::string seatOf(const Circuit& circuit);
/// Where its signals go: the cavity of its input, or those of its output in order. Empty without a seat.
[[nodiscard]] std::vector<PointRef> seatCavities(const Job& job, const Circuit& circuit);

/// What the circuit leads to, or null.
[[nodiscard]] const parts::Part* partOf(const Job& job, const Circuit& circuit);
/// The circuit's sensor; null also where the ECU drives what it leads to.
[[nodiscard]] const parts::Part* sensorOf(const Job& job, const Circuit& circuit);
/// Whether its sensor reads a wheel: of the crank or the cam.
[[nodiscard]] bool readsWheel(const Job& job, const Circuit& circuit);

/// The sharp edge of a wheel sensor's signal (common practice, no source): a transistor pulls an open collector low at
/// once, and it rises only as its pull-up fills the cable; a coil's volts fall through zero in the middle of a tooth,
/// and its other edge lies in the gap and is smeared beside a missing tooth. None: it reads no wheel, or a box between
/// makes edges of its own.
[[nodiscard]] std::optional<CountedEdge> sharpEdge(const parts::Part& sensor);

/// A key: `phrase` says it.
[[nodiscard]] std::string_view weightWord(LogWeight weight);
/// "2 wrong, 1 to look at".
[[nodiscard]] std::string saidText(const LogReview& review);
/// What the ECU drives over the circuit; null for a sensor's.
[[nodiscard]] const parts::Part* actuatorOf(const Job& job, const Circuit& circuit);

/// Outputs of the units, in their order; one by its name, or null; its unit's cavities, in the order of what it drives.
[[nodiscard]] std::vector<const parts::EcuOutput*> outputs(const Job& job);
[[nodiscard]] const parts::EcuOutput* findOutput(const Job& job, const parts::OutputId& id);
[[nodiscard]] std::vector<PointRef> cavitiesOf(const Job& job, const parts::OutputId& id);
[[nodiscard]] const parts::Ecu* unitOf(const Job& job, const parts::OutputId& id);
/// Whether the circuit's device is in a plug of the unit that has this output: a port cannot hang on its own bus.
[[nodiscard]] bool isAtUnitOf(const Job& job, const Circuit& circuit, const parts::OutputId& id);
/// The circuit that this output drives, or null.
[[nodiscard]] const Circuit* drivenBy(const Job& job, const parts::OutputId& id);

/// Writes a line into the logbook.
void note(Job& job, const std::string& when, const std::string& about, const std::string& what);

/// A place as people say it: "Plug CLT 2", "Cavity A7", "Splice S2".
[[nodiscard]] std::string spoken(const Job& job, const PointRef& point);
/// Wires at one end of them: "wire w20 at Plug FP 3", "wire w20 or w8 at Plug FP"; between their ends where `at` is
/// empty: "wire w20 or w8, along its way".
[[nodiscard]] std::string spokenEnds(const Job& job, const std::vector<WireId>& wires, const std::string& at);

} // namespace vicegrip::job

template <> struct vicegrip::fields::EnumNames<vicegrip::job::Want>
{
    static constexpr std::pair<vicegrip::job::Want, std::string_view> kNames[] = {
        {vicegrip::job::Want::Required, "required"},
        {vicegrip::job::Want::Wanted, "wanted"},
        {vicegrip::job::Want::Preferred, "preferred"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::job::LogWeight>
{
    static constexpr std::pair<vicegrip::job::LogWeight, std::string_view> kNames[] = {
        {vicegrip::job::LogWeight::Wrong, "wrong"},
        {vicegrip::job::LogWeight::Doubtful, "doubtful"},
        {vicegrip::job::LogWeight::Fine, "fine"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::job::PhotoOf>
{
    static constexpr std::pair<vicegrip::job::PhotoOf, std::string_view> kNames[] = {
        {vicegrip::job::PhotoOf::Circuit, "circuit"},
        {vicegrip::job::PhotoOf::Plug, "plug"},
        {vicegrip::job::PhotoOf::Part, "part"},
        {vicegrip::job::PhotoOf::Log, "log"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::job::CountedEdge>
{
    static constexpr std::pair<vicegrip::job::CountedEdge, std::string_view> kNames[] = {
        {vicegrip::job::CountedEdge::Falling, "falling"}, {vicegrip::job::CountedEdge::Rising, "rising"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::job::Takes>
{
    static constexpr std::pair<vicegrip::job::Takes, std::string_view> kNames[] = {
        {vicegrip::job::Takes::Points, "points"},
        {vicegrip::job::Takes::Counts, "counts"},
        {vicegrip::job::Takes::Polynomial, "polynomial"},
        {vicegrip::job::Takes::SteinhartHart, "steinhart-hart"}};
};
template <> struct vicegrip::fields::EnumNames<vicegrip::job::Tells>
{
    static constexpr std::pair<vicegrip::job::Tells, std::string_view> kNames[] = {
        {vicegrip::job::Tells::Volts, "volts"},
        {vicegrip::job::Tells::Value, "value"},
        {vicegrip::job::Tells::Counts, "counts"},
        {vicegrip::job::Tells::Hertz, "hertz"},
        {vicegrip::job::Tells::LowTime, "low-time"}};
};
template <> struct vicegrip::fields::EnumNames<vicegrip::job::Breakpoints>
{
    static constexpr std::pair<vicegrip::job::Breakpoints, std::string_view> kNames[] = {
        {vicegrip::job::Breakpoints::Even, "even"},
        {vicegrip::job::Breakpoints::Fixed, "fixed"},
        {vicegrip::job::Breakpoints::Best, "best"},
        {vicegrip::job::Breakpoints::Free, "free"}};
};
