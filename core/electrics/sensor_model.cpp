#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::electrics {
namespace {

/// Curves are only followed down to here: an exponential soon leaves what a double holds.
constexpr double kColdest_k = 100;

/// A transducer's output saturates a little short of its rails (typical), but where its sheet says otherwise.
constexpr double kLeastShare = 0.02, kMostShare = 0.98;

std::pair<double, double> railsOf(const parts::RatiometricTransducer& r)
{
    const auto [low, high] = std::minmax({r.low_v / r.at_supply_v, r.high_v / r.at_supply_v});
    return {std::clamp(low, 0.0, kLeastShare), std::clamp(high, kMostShare, 1.0)};
}

double alongRange(const parts::Sensor& s, double x)
{
    return (x - s.low) / (s.high - s.low);
}

double wiperShare(const parts::Potentiometer& p, double position)
{
    return p.endGap + std::clamp(position, 0.0, 1.0) * (1 - 2 * p.endGap);
}

struct Values
{
    const parts::Sensor& sensor;
    double x;

    ElementValues operator()(const parts::Thermistor& t) const
    {
        return {parts::ohms(t.curve, std::max(x, kColdest_k))};
    }
    ElementValues operator()(const parts::Potentiometer& p) const
    {
        const double share = wiperShare(p, alongRange(sensor, x));
        return {p.track_ohm * (1 - share), p.track_ohm * share};
    }
    ElementValues operator()(const parts::RatiometricTransducer& r) const
    {
        const double volts = std::lerp(r.low_v, r.high_v, alongRange(sensor, x));
        const auto [least, most] = railsOf(r);
        return {std::clamp(volts / r.at_supply_v, least, most)};
    }
    ElementValues operator()(const parts::VoltageDevice& d) const
    {
        if (!d.points.empty())
            return {parts::alongPoints(d.points, &parts::VoltageDevice::Point::volts, x)};
        const auto [least, most] = std::minmax(d.low_v, d.high_v);
        return {std::clamp(std::lerp(d.low_v, d.high_v, alongRange(sensor, x)), least, most)};
    }
    ElementValues operator()(const parts::Resistive& s) const
    {
        return {parts::alongPoints(s.points, &parts::Resistive::Point::ohm, x)};
    }
    ElementValues operator()(const parts::OpenCollector& o) const { return {o.off_ohm}; }
    ElementValues operator()(const parts::VariableReluctance&) const { return {}; }
    ElementValues operator()(const parts::Contact&) const { return {}; }
};

} // namespace

ElementValues elementValues(const parts::Sensor& sensor, double x)
{
    return std::visit(Values{sensor, x}, sensor.model);
}

ElementValues elementSlopes(const parts::Sensor& sensor, double x)
{
    const double step = 1e-5 * (sensor.high - sensor.low);
    ElementValues slopes = elementValues(sensor, x + step);
    const ElementValues below = elementValues(sensor, x - step);
    for (size_t i = 0; i < slopes.size(); ++i)
        slopes[i] = (slopes[i] - below[i]) / (2 * step);
    return slopes;
}

ElementValues elementSecants(const parts::Sensor& sensor, double x, double tolerance)
{
    if (!(tolerance > 0))
        return elementSlopes(sensor, x);
    const ElementValues here = elementValues(sensor, x);
    ElementValues most{};
    double farthest = -1;
    for (const double step : {tolerance, -tolerance}) {
        const ElementValues there = elementValues(sensor, x + step);
        ElementValues secant{};
        double moved = 0;
        for (size_t i = 0; i < here.size(); ++i) {
            secant[i] = (there[i] - here[i]) / step;
            moved += std::abs(there[i] - here[i]);
        }
        if (moved > farthest) {
            farthest = moved;
            most = secant;
        }
    }
    return most;
}

namespace {

struct Kinks
{
    const parts::Sensor& sensor;

    std::vector<double> operator()(const parts::Thermistor& t) const
    {
        std::vector<double> out;
        if (const auto* table = std::get_if<parts::TableCurve>(&t.curve))
            for (const auto& p : table->points)
                out.push_back(p.kelvin);
        return out;
    }
    std::vector<double> operator()(const parts::Potentiometer&) const { return {sensor.low, sensor.high}; }
    std::vector<double> operator()(const parts::RatiometricTransducer& r) const
    {
        const auto [least, most] = railsOf(r);
        std::vector<double> out;
        for (const double rail : {least, most})
            if (r.high_v != r.low_v)
                out.push_back(
                    std::lerp(sensor.low, sensor.high, (rail * r.at_supply_v - r.low_v) / (r.high_v - r.low_v)));
        return out;
    }
    std::vector<double> operator()(const parts::VoltageDevice& d) const
    {
        std::vector<double> out = {sensor.low, sensor.high};
        for (const auto& p : d.points)
            out.push_back(p.value);
        return out;
    }
    std::vector<double> operator()(const parts::Resistive& s) const
    {
        std::vector<double> out;
        for (const auto& p : s.points)
            out.push_back(p.value);
        return out;
    }
    std::vector<double> operator()(const auto&) const { return {}; }
};

/// The part's own tolerance round a value of its varied element.
ElementRange around(const parts::Sensor& sensor, double value)
{
    if (const auto* t = std::get_if<parts::Thermistor>(&sensor.model))
        return {value * (1 - t->tolerance), value * (1 + t->tolerance)};
    if (const auto* s = std::get_if<parts::Resistive>(&sensor.model))
        return {value * (1 - s->tolerance), value * (1 + s->tolerance)};
    if (const auto* r = std::get_if<parts::RatiometricTransducer>(&sensor.model)) {
        const double off = r->tolerance * std::abs(r->high_v - r->low_v) / r->at_supply_v;
        return {std::max(value - off, 0.0), std::min(value + off, 1.0)};
    }
    if (const auto* d = std::get_if<parts::VoltageDevice>(&sensor.model))
        return {value - d->tolerance_v, value + d->tolerance_v};
    return {value, value};
}

} // namespace

std::vector<double> kinksOf(const parts::Sensor& sensor)
{
    return std::visit(Kinks{sensor}, sensor.model);
}

ElementRange elementRange(const parts::Sensor& sensor, double low, double high)
{
    std::vector<double> places = {low, high};
    for (const double kink : kinksOf(sensor))
        if (kink > low && kink < high)
            places.push_back(kink);
    ElementRange out = around(sensor, elementValues(sensor, low)[0]);
    for (const double x : places) {
        const ElementRange there = around(sensor, elementValues(sensor, x)[0]);
        out.least = std::min(out.least, there.least);
        out.most = std::max(out.most, there.most);
    }
    return out;
}

Measurand atRest(const job::Circuit& circuit, const job::Surroundings& surroundings)
{
    switch (circuit.rest.kind) {
    case job::RestKind::Ambient:
        return {surroundings.ambient_k, surroundings.ambientTolerance_k};
    case job::RestKind::Barometer:
        return {surroundings.barometer_pa, surroundings.barometerTolerance_pa};
    case job::RestKind::Value:
        break;
    }
    return {circuit.rest.value, circuit.rest.tolerance};
}

} // namespace vicegrip::electrics
