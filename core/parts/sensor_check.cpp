#include "core/base/document.h"
#include "core/base/phrase.h"
#include "core/base/schema_text.h"
#include "core/parts/sensor.h"
#include "core/units/document_range.h"

#include <cmath>

namespace vicegrip::parts {
namespace {

Result<void> outOfRange(std::string pointer, std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence), {{}, std::move(pointer), 0, 0});
}

/// The curve has a resistance above 0 at every temperature of the range, and goes one way.
Result<void> checkOver(const ResistanceCurve& curve, double low, double high)
{
    constexpr int kPlaces = 64;
    double before = 0;
    bool falls = false;
    for (int i = 0; i <= kPlaces; ++i) {
        const double at = std::lerp(low, high, static_cast<double>(i) / kPlaces);
        const double ohm = at > 0 ? ohms(curve, at) : 1;
        const std::string where = units::format(at, units::Dimension::Temperature, "°C", 0);
        if (!std::isfinite(ohm) || !(ohm > 0))
            return outOfRange("/thermistor", phrase("the curve has no resistance at {}", where));
        if (i == 1)
            falls = ohm < before;
        if (i > 0 && (ohm == before || (ohm < before) != falls))
            return outOfRange("/thermistor", phrase("the curve turns back at {}", where));
        before = ohm;
    }
    return {};
}

Result<void> checkCurve(const ResistanceCurve& curve)
{
    const auto* steinhart = std::get_if<SteinhartHartCurve>(&curve);
    if (steinhart != nullptr && (!(steinhart->b > 0) || !(steinhart->c >= 0)))
        return outOfRange("/thermistor/steinhart_hart",
                          phrase("b must be above 0 and c not below it: else the curve turns back"));
    const auto* table = std::get_if<TableCurve>(&curve);
    if (table == nullptr)
        return {};
    for (size_t i = 1; i < table->points.size(); ++i) {
        const std::string at = "/thermistor/table/points/" + std::to_string(i);
        if (table->points[i].kelvin <= table->points[i - 1].kelvin)
            return outOfRange(at, phrase("temperatures must rise from point to point"));
        const bool falls = table->points[1].ohm < table->points[0].ohm;
        if (table->points[i].ohm == table->points[i - 1].ohm ||
            (table->points[i].ohm < table->points[i - 1].ohm) != falls)
            return outOfRange(at, phrase("the resistance must keep falling, or keep rising, from point to point"));
    }
    return {};
}

Result<void> checkRising(const std::vector<double>& values, const std::vector<double>& outputs,
                         const std::string& pointer, const std::string& output)
{
    for (size_t i = 1; i < values.size(); ++i) {
        if (values[i] <= values[i - 1])
            return outOfRange(pointer + "/" + std::to_string(i), phrase("values must rise from point to point"));
        if (outputs[i] == outputs[i - 1] || (outputs[i] < outputs[i - 1]) != (outputs[1] < outputs[0]))
            return outOfRange(pointer + "/" + std::to_string(i),
                              phrase("the {} must keep falling, or keep rising, from point to point", output));
    }
    return {};
}

struct CheckModel
{
    const Sensor& s;

    Result<void> operator()(const Thermistor& t) const
    {
        if (s.measures != units::Dimension::Temperature)
            return outOfRange("/measures", phrase("a thermistor measures temperature"));
        if (auto sound = checkCurve(t.curve); !sound)
            return sound;
        return checkOver(t.curve, s.low, s.high);
    }
    Result<void> operator()(const Potentiometer&) const { return {}; }
    Result<void> operator()(const RatiometricTransducer& r) const
    {
        if (r.low_v == r.high_v)
            return outOfRange("/ratiometric/high_v", phrase("the output does not move: high_v equals low_v"));
        return {};
    }
    Result<void> operator()(const VoltageDevice& d) const
    {
        if (d.low_v == d.high_v)
            return outOfRange("/voltage/high_v", phrase("the output does not move: high_v equals low_v"));
        std::vector<double> values, volts;
        for (const auto& p : d.points) {
            values.push_back(p.value);
            volts.push_back(p.volts);
        }
        return checkRising(values, volts, "/voltage/points", "voltage");
    }
    Result<void> operator()(const Resistive& r) const
    {
        std::vector<double> values, ohms;
        for (const auto& p : r.points) {
            values.push_back(p.value);
            ohms.push_back(p.ohm);
        }
        return checkRising(values, ohms, "/resistor/points", "resistance");
    }
    Result<void> operator()(const OpenCollector& o) const
    {
        if (!(o.low_hz < o.high_hz))
            return outOfRange("/open_collector/high_hz",
                              phrase("the frequency does not rise: high_hz must be above low_hz"));
        if (o.on_ohm >= o.off_ohm)
            return outOfRange("/open_collector/off_ohm",
                              phrase("the output does not switch: off_ohm must be above on_ohm"));
        std::vector<double> values, hertz;
        for (const auto& p : o.points) {
            values.push_back(p.value);
            hertz.push_back(p.hz);
        }
        return checkRising(values, hertz, "/open_collector/points", "frequency");
    }
    Result<void> operator()(const VariableReluctance&) const
    {
        if (s.measures != units::Dimension::Frequency)
            return outOfRange("/measures", phrase("a variable-reluctance sensor measures frequency"));
        return {};
    }
    Result<void> operator()(const Contact&) const { return {}; }
};

Result<void> checkModel(const Sensor& s)
{
    return std::visit(CheckModel{s}, s.model);
}

} // namespace

Result<void> checkSensor(const Sensor& s)
{
    if (!units::measures(s.unit, s.measures))
        return outOfRange("/unit", phrase("\"{}\" is not a unit of {}", s.unit, units::name(s.measures)));
    if (!(s.low < s.high))
        return outOfRange("/high", phrase("the range is empty: high must be above low"));
    for (const auto& [value, member] : {std::pair(s.low, "/low"), {s.high, "/high"}})
        if (auto sound = units::inRange(value, s.measures, s.unit); !sound)
            return outOfRange(member, sound.error().sentence);
    const bool contact = std::holds_alternative<Contact>(s.model);
    const bool supply = !cavityOf(s, PinRole::Supply).empty(), ground = !cavityOf(s, PinRole::Ground).empty();
    if (cavityOf(s, PinRole::Signal).empty() || (!ground && !contact))
        return outOfRange("/pins", phrase("a signal pin and a ground pin are needed"));
    if (contact && ground == supply)
        return outOfRange("/pins", phrase("a switch joins its signal pin to either a ground pin or a supply pin"));
    const bool twoWires = std::holds_alternative<Thermistor>(s.model) || std::holds_alternative<Resistive>(s.model) ||
                          std::holds_alternative<VariableReluctance>(s.model);
    if (!twoWires && !contact && !supply)
        return outOfRange("/pins", phrase("this kind of sensor needs a supply pin"));
    return checkModel(s);
}

Result<Sensor> readSensor(const nlohmann::json& json)
{
    if (auto valid = units::validate(json, kPartSchema); !valid)
        return tl::make_unexpected(valid.error());
    auto sensor = fields::fromJson<Sensor>(json);
    if (auto sense = checkSensor(sensor); !sense)
        return tl::make_unexpected(sense.error());
    return sensor;
}

} // namespace vicegrip::parts
