#pragma once

#include "core/base/fields.h"
#include "core/base/id.h"

#include <optional>
#include <string>
#include <vector>

/// An ECU as its inputs and pins appear from outside.
namespace vicegrip::parts {

using InputId = Id<struct InputTag>;

/// What the converter measures against.
enum class Reference {
    Ratiometric, ///< full scale is the ECU's own sensor supply
    Absolute ///< full scale is `span_v`
};

struct AnalogInput
{
    InputId id;
    std::string name;
    std::optional<double> pull_up_ohm; ///< to the sensor supply; none when absent
    double pull_up_tolerance = 0.01;
    double pull_down_ohm = 1e6; ///< to the ECU's ground
    double series_ohm = 0; ///< between the cavity and the converter
    Reference reference = Reference::Ratiometric;
    double span_v = 5;
    int bits = 12;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const AnalogInput&) const = default;

    /// Counts at full scale: 2^bits - 1.
    [[nodiscard]] int fullScale() const { return (1 << bits) - 1; }
};

enum class EcuPinRole { Input, SensorSupply, SensorGround, PowerFeed, PowerGround };

struct EcuPin
{
    std::string at; ///< connector and cavity in the job: "A.7"
    EcuPinRole role = EcuPinRole::Input;
    InputId input; ///< for Input
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
    SensorSupply supply;
    double feed_ohm = 15; ///< what the battery sees with no outputs on
    double least_supply_v = 6.5; ///< below this the unit is off
    std::vector<AnalogInput> inputs;
    std::vector<EcuPin> pins;
    nlohmann::json extra = nlohmann::json::object();
    bool operator==(const Ecu&) const = default;
};

template <class A> void listFields(A& a, AnalogInput& i)
{
    a("id", i.id);
    a("name", i.name);
    a("pull_up_ohm", i.pull_up_ohm);
    a("pull_up_tolerance", i.pull_up_tolerance);
    a("pull_down_ohm", i.pull_down_ohm);
    a("series_ohm", i.series_ohm);
    a("reference", i.reference);
    a("span_v", i.span_v);
    a("bits", i.bits);
    a.rest(i.extra);
}

template <class A> void listFields(A& a, EcuPin& p)
{
    a("at", p.at);
    a("role", p.role);
    a("input", p.input);
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
    a("supply", e.supply);
    a("feed_ohm", e.feed_ohm);
    a("least_supply_v", e.least_supply_v);
    a("inputs", e.inputs);
    a("pins", e.pins);
    a.rest(e.extra);
}

} // namespace vicegrip::parts

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::Reference>
{
    static constexpr std::pair<vicegrip::parts::Reference, std::string_view> kNames[] = {
        {vicegrip::parts::Reference::Ratiometric, "ratiometric"}, {vicegrip::parts::Reference::Absolute, "absolute"}};
};

template <> struct vicegrip::fields::EnumNames<vicegrip::parts::EcuPinRole>
{
    static constexpr std::pair<vicegrip::parts::EcuPinRole, std::string_view> kNames[] = {
        {vicegrip::parts::EcuPinRole::Input, "input"},
        {vicegrip::parts::EcuPinRole::SensorSupply, "sensor-supply"},
        {vicegrip::parts::EcuPinRole::SensorGround, "sensor-ground"},
        {vicegrip::parts::EcuPinRole::PowerFeed, "power-feed"},
        {vicegrip::parts::EcuPinRole::PowerGround, "power-ground"}};
};
