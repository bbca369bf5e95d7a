#include "core/parts/sensor.h"

#include "core/base/document.h"
#include "core/base/schema_text.h"

#include <span>

namespace vicegrip::parts {
// The listings are found by argument, so they stand beside their types.

template <class A> void listFields(A& a, BetaCurve& c)
{
    a("r25_ohm", c.r25_ohm);
    a("beta_k", c.beta_k);
}

template <class A> void listFields(A& a, SteinhartHartCurve& c)
{
    a("a", c.a);
    a("b", c.b);
    a("c", c.c);
}

template <class A> void listFields(A& a, TableCurve::Point& p)
{
    a.scaled("celsius", p.kelvin, 1, 273.15);
    a("ohm", p.ohm);
}

template <class A> void listFields(A& a, TableCurve& c)
{
    a("points", c.points);
}

template <class A> void listFields(A& a, Potentiometer& p)
{
    a("track_ohm", p.track_ohm);
    a("tolerance", p.tolerance);
    a("wiper_ohm", p.wiper_ohm);
    a("end_gap", p.endGap);
    a.rest(p.extra);
}

template <class A> void listFields(A& a, RatiometricTransducer& t)
{
    a("low_v", t.low_v);
    a("high_v", t.high_v);
    a("at_supply_v", t.at_supply_v);
    a("tolerance", t.tolerance);
    a("out_ohm", t.out_ohm);
    a("supply_ohm", t.supply_ohm);
    a.rest(t.extra);
}

template <class A> void listFields(A& a, VoltageDevice& d)
{
    a("low_v", d.low_v);
    a("high_v", d.high_v);
    a("tolerance_v", d.tolerance_v);
    a("out_ohm", d.out_ohm);
    a("supply_ohm", d.supply_ohm);
    a("least_supply_v", d.least_supply_v);
    a.rest(d.extra);
}

namespace {

constexpr std::string_view kCurveNames[] = {"beta", "steinhart_hart", "table"};
constexpr std::string_view kModelNames[] = {"thermistor", "potentiometer", "ratiometric", "voltage"};

template <class Variant, size_t I = 0> Variant alternative(size_t index)
{
    if constexpr (I + 1 < std::variant_size_v<Variant>)
        return index == I ? Variant(std::in_place_index<I>) : alternative<Variant, I + 1>(index);
    else
        return Variant(std::in_place_index<I>);
}

/// A variant in a file is one member named after the alternative: "thermistor": {...}.
template <class Variant> void readAlternative(fields::Reader& a, Variant& v, std::span<const std::string_view> names)
{
    for (size_t i = 0; i < names.size(); ++i) {
        Variant candidate = alternative<Variant>(i);
        bool present = false;
        std::visit(
            [&](auto& alternativeValue) {
                std::optional<std::decay_t<decltype(alternativeValue)>> found;
                a(names[i].data(), found);
                present = found.has_value();
                if (present)
                    alternativeValue = *found;
            },
            candidate);
        if (present)
            v = candidate;
    }
}

template <class Variant> void writeAlternative(fields::Writer& a, Variant& v, std::span<const std::string_view> names)
{
    std::visit([&](auto& value) { a(names[v.index()].data(), value); }, v);
}

} // namespace

void listFields(fields::Reader& a, Thermistor& t)
{
    a("tolerance", t.tolerance);
    readAlternative(a, t.curve, kCurveNames);
    a.rest(t.extra);
}

void listFields(fields::Writer& a, Thermistor& t)
{
    a("tolerance", t.tolerance);
    writeAlternative(a, t.curve, kCurveNames);
    a.rest(t.extra);
}

namespace {

/// Range members carry the shown unit in the file, so that a person can read them: "low": 0, "unit": "°C".
template <class A> void commonFields(A& a, Sensor& s)
{
    a("id", s.id);
    a("name", s.name);
}

Result<void> bad(std::string pointer, std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence), {{}, std::move(pointer), 0, 0});
}

Result<void> checkCurve(const ResistanceCurve& curve)
{
    const auto* table = std::get_if<TableCurve>(&curve);
    if (table == nullptr)
        return {};
    for (size_t i = 1; i < table->points.size(); ++i) {
        const std::string at = "/thermistor/table/points/" + std::to_string(i);
        if (table->points[i].kelvin <= table->points[i - 1].kelvin)
            return bad(at, "temperatures must rise from point to point");
        const bool falls = table->points[1].ohm < table->points[0].ohm;
        if (table->points[i].ohm == table->points[i - 1].ohm ||
            (table->points[i].ohm < table->points[i - 1].ohm) != falls)
            return bad(at, "the resistance must keep falling, or keep rising, from point to point");
    }
    return {};
}

} // namespace

void listFields(fields::Reader& a, Sensor& s)
{
    commonFields(a, s);
    std::string measures;
    a("measures", measures);
    s.measures = units::dimensionFromName(measures).value_or(units::Dimension::Temperature);
    a("unit", s.unit);
    a("low", s.low);
    a("high", s.high);
    s.low = units::fromUnit(s.low, s.measures, s.unit);
    s.high = units::fromUnit(s.high, s.measures, s.unit);
    a("pins", s.pins);
    readAlternative(a, s.model, kModelNames);
    a.rest(s.extra);
}

void listFields(fields::Writer& a, Sensor& s)
{
    commonFields(a, s);
    std::string measures(units::name(s.measures));
    a("measures", measures);
    a("unit", s.unit);
    double low = fields::rounded(units::toUnit(s.low, s.measures, s.unit));
    double high = fields::rounded(units::toUnit(s.high, s.measures, s.unit));
    a("low", low);
    a("high", high);
    a("pins", s.pins);
    writeAlternative(a, s.model, kModelNames);
    a.rest(s.extra);
}

std::string cavityOf(const Sensor& sensor, PinRole role)
{
    for (const auto& [cavity, name] : sensor.pins)
        if (name == fields::enumName(role))
            return cavity;
    return {};
}

bool isPassive(const Sensor& sensor)
{
    return std::holds_alternative<Thermistor>(sensor.model) || std::holds_alternative<Potentiometer>(sensor.model);
}

std::string_view modelName(const SensorModel& model)
{
    return kModelNames[model.index()];
}

Result<void> checkSensor(const Sensor& s)
{
    if (!units::fits(s.unit, s.measures))
        return bad("/unit", "\"" + s.unit + "\" is not a unit of " + std::string(units::name(s.measures)));
    if (!(s.low < s.high))
        return bad("/high", "the range is empty: high must be above low");
    if (cavityOf(s, PinRole::Signal).empty() || cavityOf(s, PinRole::Ground).empty())
        return bad("/pins", "a signal pin and a ground pin are needed");
    if (!std::holds_alternative<Thermistor>(s.model) && cavityOf(s, PinRole::Supply).empty())
        return bad("/pins", "this kind of sensor needs a supply pin");
    if (const auto* t = std::get_if<Thermistor>(&s.model)) {
        if (s.measures != units::Dimension::Temperature)
            return bad("/measures", "a thermistor measures temperature");
        return checkCurve(t->curve);
    }
    if (const auto* r = std::get_if<RatiometricTransducer>(&s.model); r != nullptr && r->low_v == r->high_v)
        return bad("/ratiometric/high_v", "the output does not move: high_v equals low_v");
    if (const auto* d = std::get_if<VoltageDevice>(&s.model); d != nullptr && d->low_v == d->high_v)
        return bad("/voltage/high_v", "the output does not move: high_v equals low_v");
    return {};
}

Result<Sensor> readSensor(const nlohmann::json& json)
{
    if (auto valid = document::validate(json, kPartSchema); !valid)
        return tl::make_unexpected(valid.error());
    auto sensor = fields::fromJson<Sensor>(json);
    if (auto sense = checkSensor(sensor); !sense)
        return tl::make_unexpected(sense.error());
    return sensor;
}

} // namespace vicegrip::parts
