#include "core/parts/sensor.h"

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

template <class A> void listFields(A& a, Resistive::Point& p)
{
    a("value", p.value);
    a("ohm", p.ohm);
}

template <class A> void listFields(A& a, Resistive& s)
{
    a("points", s.points);
    a("tolerance", s.tolerance);
    a.rest(s.extra);
}

template <class A> void listFields(A& a, OpenCollector::Point& p)
{
    a("value", p.value);
    a("hz", p.hz);
}

template <class A> void listFields(A& a, OpenCollector& o)
{
    a("points", o.points);
    a("low_hz", o.low_hz);
    a("high_hz", o.high_hz);
    a("tolerance", o.tolerance);
    a("on_ohm", o.on_ohm);
    a("off_ohm", o.off_ohm);
    a("supply_ohm", o.supply_ohm);
    a("least_supply_v", o.least_supply_v);
    a.rest(o.extra);
}

template <class A> void listFields(A& a, VariableReluctance& r)
{
    a("coil_ohm", r.coil_ohm);
    a("coil_h", r.coil_h);
    a("peak_v", r.peak_v);
    a.rest(r.extra);
}

template <class A> void listFields(A& a, Contact& c)
{
    a("on_ohm", c.on_ohm);
    a("closed_at_rest", c.closedAtRest);
    a.rest(c.extra);
}

template <class A> void listFields(A& a, VoltageDevice::Point& p)
{
    a("value", p.value);
    a("volts", p.volts);
}

template <class A> void listFields(A& a, VoltageDevice& d)
{
    a("points", d.points);
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
constexpr std::string_view kModelNames[] = {"thermistor", "potentiometer",  "ratiometric",         "voltage",
                                            "resistive",  "open_collector", "variable_reluctance", "contact"};

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
    a("dissipation_w_per_k", t.dissipation_w_per_k);
    readAlternative(a, t.curve, kCurveNames);
    a.rest(t.extra);
}

void listFields(fields::Writer& a, Thermistor& t)
{
    a("tolerance", t.tolerance);
    a("dissipation_w_per_k", t.dissipation_w_per_k);
    writeAlternative(a, t.curve, kCurveNames);
    a.rest(t.extra);
}

namespace {

/// Range members carry the shown unit in the file, so that a person can read them: "low": 0, "unit": "°C".
template <class A> void commonFields(A& a, Sensor& s)
{
    a("id", s.id);
    a("name", s.name);
    a("kind", s.kind);
    a("feed", s.feed);
    a("conditioned", s.conditioned);
}

/// Values of points carry the shown unit in the file, as the range does.
template <class Convert> void convertPoints(Sensor& s, Convert convert)
{
    if (auto* resistive = std::get_if<Resistive>(&s.model))
        for (Resistive::Point& p : resistive->points)
            p.value = convert(p.value);
    if (auto* device = std::get_if<VoltageDevice>(&s.model))
        for (VoltageDevice::Point& p : device->points)
            p.value = convert(p.value);
    if (auto* collector = std::get_if<OpenCollector>(&s.model))
        for (OpenCollector::Point& p : collector->points)
            p.value = convert(p.value);
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
    convertPoints(s, [&](double v) { return units::fromUnit(v, s.measures, s.unit); });
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
    Sensor shown = s;
    convertPoints(shown, [&](double v) { return fields::rounded(units::toUnit(v, s.measures, s.unit)); });
    writeAlternative(a, shown.model, kModelNames);
    a.rest(s.extra);
}

std::string cavityOf(const Sensor& sensor, PinRole role)
{
    for (const auto& [cavity, does] : sensor.pins)
        if (does == role)
            return cavity;
    return {};
}

bool isPassive(const Sensor& sensor)
{
    return std::holds_alternative<Thermistor>(sensor.model) || std::holds_alternative<Potentiometer>(sensor.model) ||
           std::holds_alternative<Resistive>(sensor.model) || std::holds_alternative<VariableReluctance>(sensor.model);
}

SignalKind signalOf(const Sensor& sensor)
{
    if (std::holds_alternative<OpenCollector>(sensor.model) || std::holds_alternative<VariableReluctance>(sensor.model))
        return SignalKind::Frequency;
    return std::holds_alternative<Contact>(sensor.model) ? SignalKind::OnOff : SignalKind::Voltage;
}

bool countsValue(const Sensor& sensor)
{
    return std::holds_alternative<OpenCollector>(sensor.model) && sensor.kind != SensorKind::CrankTrigger &&
           sensor.kind != SensorKind::CamTrigger && sensor.measures != units::Dimension::Frequency;
}

double hertzAt(const Sensor& sensor, double value)
{
    const auto& o = std::get<OpenCollector>(sensor.model);
    if (!o.points.empty())
        return alongPoints(o.points, &OpenCollector::Point::hz, value);
    return std::max(0.0, std::lerp(o.low_hz, o.high_hz, (value - sensor.low) / (sensor.high - sensor.low)));
}

bool needsPullUp(const Sensor& sensor)
{
    return std::holds_alternative<Thermistor>(sensor.model) || std::holds_alternative<Resistive>(sensor.model) ||
           std::holds_alternative<OpenCollector>(sensor.model) ||
           (std::holds_alternative<Contact>(sensor.model) && !cavityOf(sensor, PinRole::Ground).empty());
}

double mostVolts(const Sensor& sensor)
{
    constexpr double kBattery_v = 14.4; // charging (typical)
    if (const auto* d = std::get_if<VoltageDevice>(&sensor.model)) {
        double most = d->points.empty() ? std::max(d->low_v, d->high_v) : 0;
        for (const auto& p : d->points) // a bent one puts out what its points say
            most = std::max(most, p.volts);
        return most;
    }
    if (const auto* r = std::get_if<RatiometricTransducer>(&sensor.model))
        return std::max(r->low_v, r->high_v);
    if (const auto* p = std::get_if<Potentiometer>(&sensor.model); p != nullptr && p->track_ohm > 0)
        return 5;
    if (const auto* r = std::get_if<VariableReluctance>(&sensor.model))
        return r->peak_v;
    if (std::holds_alternative<Contact>(sensor.model) && cavityOf(sensor, PinRole::Ground).empty())
        return kBattery_v;
    return 0;
}

double usualDissipation(SensorKind kind)
{
    return kind == SensorKind::FluidTemperature ? 10e-3 : kind == SensorKind::AirTemperature ? 1e-3 : 2e-3;
}

double supplyAmps(const Sensor& sensor, double volts)
{
    if (const auto* p = std::get_if<Potentiometer>(&sensor.model))
        return volts / p->track_ohm;
    if (const auto* r = std::get_if<RatiometricTransducer>(&sensor.model))
        return volts / r->supply_ohm;
    if (const auto* d = std::get_if<VoltageDevice>(&sensor.model))
        return volts / d->supply_ohm;
    if (const auto* o = std::get_if<OpenCollector>(&sensor.model))
        return volts / o->supply_ohm;
    return 0;
}

std::string_view modelName(const SensorModel& model)
{
    return kModelNames[model.index()];
}

} // namespace vicegrip::parts
