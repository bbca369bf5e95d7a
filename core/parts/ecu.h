#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/base/result.h"
#include "core/parts/layout.h"
#include "core/parts/part.h"

#include <algorithm>
#include <optional>
#include <string>
#include <vector>

/// An ECU, or an expander on its CAN bus, as its inputs, outputs and pins appear from outside.
namespace vicegrip::parts {

using InputId = Id<struct InputTag>;
using OutputId = Id<struct OutputTag>;

/// What the converter measures against.
enum class Reference {
    Ratiometric, ///< full scale is the unit's own sensor supply
    Absolute ///< full scale is `span_v`
};

/// What an input can be set to take.
enum class InputMode { Analog, Frequency, Switch };

struct EcuInput
{
    InputId id;
    std::string name;
    std::vector<InputMode> modes = {InputMode::Analog}; ///< what it can be set to
    std::optional<InputMode> setTo; ///< what it is set to in the unit, where it has a choice; none: not said
    std::vector<std::string> functions; ///< what the firmware can use it for; empty: anything
    std::optional<double> pull_up_ohm; ///< to the sensor supply, as set now; none when absent
    std::vector<double> pullUpChoices_ohm; ///< what can be switched on; empty: only what is set
    bool pullUpFixed = false; ///< it cannot be switched off
    double pull_up_tolerance = 0.01;
    double pull_down_ohm = 1e6; ///< to the unit's ground
    double series_ohm = 0; ///< between the cavity and the converter
    Reference reference = Reference::Ratiometric;
    double span_v = 5;
    int bits = 12;
    double withstands_v = 16; ///< above this it is damaged
    double most_hz = 0; ///< highest frequency it counts, for Frequency
    bool variableReluctance = false; ///< reads the alternating voltage of a coil
    std::optional<Part> inside; ///< the sensor inside the unit that it reads; it has no pin then
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const EcuInput&) const = default;

    /// Counts at full scale: 2^bits - 1.
    [[nodiscard]] int fullScale() const { return (1 << bits) - 1; }
    [[nodiscard]] bool takes(InputMode mode) const
    {
        return std::find(modes.begin(), modes.end(), mode) != modes.end();
    }
};

/// The mode the input must be set to for this sensor; none where it has no choice, or not that one.
[[nodiscard]] std::optional<InputMode> suitingMode(const EcuInput& input, const Part& sensor);

/// Whether it is said to be set so that it makes nothing of this sensor. A switch that is read as volts is read.
[[nodiscard]] bool isSetOtherwise(const EcuInput& input, const Part& sensor);

/// What an output can be set to.
enum class OutputKind {
    LowSide, ///< to ground
    HighSide, ///< to the unit's feed
    HalfBridge, ///< to either
    Injector, ///< a low side for high-resistance injectors
    PeakAndHold, ///< for low-resistance ones
    Ignition, ///< a coil's primary
    Logic, ///< volts for somebody else's driver
    Stepper,
    Bus ///< a CAN port: high, then low
};

/// An output. It has as many pins as what it drives: a pair of half bridges two, a stepper group four, a bus port two.
struct EcuOutput
{
    OutputId id;
    std::string name;
    std::vector<OutputKind> drives = {OutputKind::LowSide};
    std::vector<std::string> functions; ///< what the firmware can use it for; empty: anything
    double most_a = 2; ///< continuous
    double most_hz = 0; ///< how often it switches; 0: on and off only
    bool clamped = true; ///< it takes a coil's kick itself
    double on_ohm = 0.2; ///< (typical)
    double off_ohm = 100e3; ///< to ground while it is off: what finds a broken wire (typical)
    double high_v = 0; ///< of a logic output
    std::optional<double> pull_up_ohm; ///< to the feed
    double terminator_ohm = 0; ///< of a bus port, between its pins; 0: none
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const EcuOutput&) const = default;

    [[nodiscard]] bool can(OutputKind kind) const
    {
        return std::find(drives.begin(), drives.end(), kind) != drives.end();
    }
    /// Whether many hang on it: a bus.
    [[nodiscard]] bool isShared() const { return can(OutputKind::Bus); }
};

enum class EcuPinRole {
    Input,
    Output,
    SensorSupply,
    SensorGround,
    PowerFeed,
    KeyFeed, ///< tells the unit that the key is on; it has a power feed of its own besides
    PowerGround
};

struct EcuPin
{
    std::string at; ///< connector and cavity in the job: "A.7"
    EcuPinRole role = EcuPinRole::Input;
    InputId input; ///< for Input
    OutputId output; ///< for Output; the pins of one are in the order of what it drives
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const EcuPin&) const = default;
};

/// The 5 V that feeds sensors.
struct SensorSupply
{
    double volts = 5;
    double tolerance_v = 0.05;
    double ohm = 0.2;
    double limit_a = 0.2;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const SensorSupply&) const = default;
};

struct Ecu
{
    std::string name;
    std::string firmware; ///< a note; proofs rest on it
    bool plugIn = false; ///< it keeps the vehicle's own connectors
    bool expander = false; ///< it hangs on an ECU's bus: it adds inputs and outputs, or leads to another bus
    SensorSupply supply;
    double feed_ohm = 15; ///< what the battery sees with no outputs on
    double least_supply_v = 6.5; ///< below this the unit is off
    std::vector<EcuInput> inputs;
    std::vector<EcuOutput> outputs;
    std::vector<EcuPin> pins;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Ecu&) const = default;
};

/// A plug of an ECU, before it is part of a job.
struct EcuPlug
{
    std::string id;
    std::string label;
    std::vector<std::string> cavities;
    std::optional<Layout> layout; ///< its face; none: nobody has described it
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const EcuPlug&) const = default;
};

using EcuId = Id<struct EcuTag>;

/// An ECU as the library keeps it.
struct EcuProfile
{
    EcuId id;
    std::string name;
    std::vector<EcuPlug> plugs;
    Ecu ecu;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const EcuProfile&) const = default;
};

/// Null when the unit has none of that name.
[[nodiscard]] const EcuOutput* findOutput(const Ecu& ecu, const OutputId& id);
/// The first bus port: of an expander the one by which it hangs on the ECU's bus. Null when it has none.
[[nodiscard]] const EcuOutput* firstPort(const Ecu& ecu);
/// The cavities an output drives, in order: "A.20", "A.21".
[[nodiscard]] std::vector<std::string> cavitiesOf(const Ecu& ecu, const OutputId& id);

/// The checks for sense of one unit: names used once, pins in a cavity once, spans and limits that can be, every input
/// on a pin. Pointers are relative to the unit.
[[nodiscard]] Result<void> checkEcu(const Ecu& ecu);

/// A profile from a library file: checked against data/schema/ecu.schema.json, then for sense. The error has the
/// pointer.
[[nodiscard]] Result<EcuProfile> readEcu(const nlohmann::json& json);

template <class A> void listFields(A& a, EcuInput& i)
{
    a("id", i.id);
    a("name", i.name);
    a("modes", i.modes);
    a("set_to", i.setTo);
    a("functions", i.functions);
    a("pull_up_ohm", i.pull_up_ohm);
    a("pull_up_choices_ohm", i.pullUpChoices_ohm);
    a("pull_up_fixed", i.pullUpFixed);
    a("pull_up_tolerance", i.pull_up_tolerance);
    a("pull_down_ohm", i.pull_down_ohm);
    a("series_ohm", i.series_ohm);
    a("reference", i.reference);
    a("span_v", i.span_v);
    a("bits", i.bits);
    a("withstands_v", i.withstands_v);
    a("most_hz", i.most_hz);
    a("variable_reluctance", i.variableReluctance);
    a("inside", i.inside);
    a.rest(i.extra);
}

template <class A> void listFields(A& a, EcuOutput& o)
{
    a("id", o.id);
    a("name", o.name);
    a("drives", o.drives);
    a("functions", o.functions);
    a("most_a", o.most_a);
    a("most_hz", o.most_hz);
    a("clamped", o.clamped);
    a("on_ohm", o.on_ohm);
    a("off_ohm", o.off_ohm);
    a("high_v", o.high_v);
    a("pull_up_ohm", o.pull_up_ohm);
    a("terminator_ohm", o.terminator_ohm);
    a.rest(o.extra);
}

template <class A> void listFields(A& a, EcuPin& p)
{
    a("at", p.at);
    a("role", p.role);
    a("input", p.input);
    a("output", p.output);
    a.rest(p.extra);
}

template <class A> void listFields(A& a, SensorSupply& s)
{
    a("volts", s.volts);
    a("tolerance_v", s.tolerance_v);
    a("ohm", s.ohm);
    a("limit_a", s.limit_a);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, Ecu& e)
{
    a("name", e.name);
    a("firmware", e.firmware);
    a("plug_in", e.plugIn);
    a("expander", e.expander);
    a("supply", e.supply);
    a("feed_ohm", e.feed_ohm);
    a("least_supply_v", e.least_supply_v);
    a("inputs", e.inputs);
    a("outputs", e.outputs);
    a("pins", e.pins);
    a.rest(e.extra);
}

template <class A> void listFields(A& a, EcuPlug& p)
{
    a("id", p.id);
    a("label", p.label);
    a("cavities", p.cavities);
    a("layout", p.layout);
    a.rest(p.extra);
}

template <class A> void listFields(A& a, EcuProfile& p)
{
    a("id", p.id);
    a("name", p.name);
    a("plugs", p.plugs);
    a("ecu", p.ecu);
    a.rest(p.extra);
}

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::Reference>
{
    static constexpr std::pair<vicegrip::parts::Reference, std::string_view> kNames[] = {
        {vicegrip::parts::Reference::Ratiometric, "ratiometric"}, {vicegrip::parts::Reference::Absolute, "absolute"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::InputMode>
{
    static constexpr std::pair<vicegrip::parts::InputMode, std::string_view> kNames[] = {
        {vicegrip::parts::InputMode::Analog, "analog"},
        {vicegrip::parts::InputMode::Frequency, "frequency"},
        {vicegrip::parts::InputMode::Switch, "switch"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::EcuPinRole>
{
    static constexpr std::pair<vicegrip::parts::EcuPinRole, std::string_view> kNames[] = {
        {vicegrip::parts::EcuPinRole::Input, "input"},
        {vicegrip::parts::EcuPinRole::Output, "output"},
        {vicegrip::parts::EcuPinRole::SensorSupply, "sensor-supply"},
        {vicegrip::parts::EcuPinRole::SensorGround, "sensor-ground"},
        {vicegrip::parts::EcuPinRole::PowerFeed, "power-feed"},
        {vicegrip::parts::EcuPinRole::KeyFeed, "key-feed"},
        {vicegrip::parts::EcuPinRole::PowerGround, "power-ground"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::OutputKind>
{
    using enum vicegrip::parts::OutputKind;
    static constexpr std::pair<vicegrip::parts::OutputKind, std::string_view> kNames[] = {
        {LowSide, "low-side"},  {HighSide, "high-side"},        {HalfBridge, "half-bridge"},
        {Injector, "injector"}, {PeakAndHold, "peak-and-hold"}, {Ignition, "ignition"},
        {Logic, "logic"},       {Stepper, "stepper"},           {Bus, "bus"}};
};
