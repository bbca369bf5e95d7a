#include "core/parts/lines.h"

#include <cmath>

namespace vicegrip::parts {
namespace {

std::string number(double v)
{
    return units::shortest(fields::rounded(v));
}

struct ModelLines
{
    const Sensor& s;

    [[nodiscard]] std::string shown(double si) const { return number(units::toUnit(si, s.measures, s.unit)); }
    static std::string percent(double share) { return "tolerance: " + number(share * 100) + " %\n"; }

    std::string operator()(const Thermistor& t) const
    {
        std::string out;
        if (const auto* b = std::get_if<BetaCurve>(&t.curve))
            out = "beta: " + number(b->r25_ohm) + " ohm, " + number(b->beta_k) + " K\n";
        else if (const auto* c = std::get_if<SteinhartHartCurve>(&t.curve))
            out = "steinhart-hart: " + units::shortest(c->a) + ", " + units::shortest(c->b) + ", " +
                  units::shortest(c->c) + "\n";
        else if (const auto* table = std::get_if<TableCurve>(&t.curve)) {
            out = "table:\n";
            for (const auto& p : table->points)
                out += number(p.kelvin - 273.15) + "\t" + number(p.ohm) + "\n";
        }
        return percent(t.tolerance) + out;
    }
    std::string operator()(const Potentiometer& p) const
    {
        return percent(p.tolerance) + "track: " + number(p.track_ohm) + " ohm\n";
    }
    std::string operator()(const RatiometricTransducer& r) const
    {
        return percent(r.tolerance) + "draws: " + number(r.at_supply_v / r.supply_ohm * 1e3) +
               " mA\nratiometric: " + number(r.low_v) + " V, " + number(r.high_v) + " V\n";
    }
    std::string operator()(const VoltageDevice& d) const
    {
        std::string out = percent(d.tolerance_v / std::abs(d.high_v - d.low_v)) +
                          "draws: " + number(12 / d.supply_ohm * 1e3) + " mA\n";
        if (d.points.empty())
            return out + "volts: " + number(d.low_v) + " V, " + number(d.high_v) + " V\n";
        out += "volts:\n";
        for (const auto& p : d.points)
            out += shown(p.value) + "\t" + number(p.volts) + "\n";
        return out;
    }
    std::string operator()(const Resistive& r) const
    {
        std::string out = percent(r.tolerance) + "ohms:\n";
        for (const auto& p : r.points)
            out += shown(p.value) + "\t" + number(p.ohm) + "\n";
        return out;
    }
    std::string operator()(const OpenCollector& o) const
    {
        std::string out = percent(o.tolerance) +
                          "draws: " + number((s.feed == Feed::Battery ? 12 : 5) / o.supply_ohm * 1e3) + " mA\n";
        if (o.points.empty())
            return out + "hertz: " + number(o.low_hz) + " Hz, " + number(o.high_hz) + " Hz\n";
        out += "hertz:\n";
        for (const auto& p : o.points)
            out += shown(p.value) + "\t" + number(p.hz) + "\n";
        return out;
    }
    std::string operator()(const VariableReluctance& r) const
    {
        return "coil: " + number(r.coil_ohm) + " ohm, " + number(r.peak_v) + " V\n";
    }
    std::string operator()(const Contact& c) const
    {
        return std::string("switch: ") + (c.closedAtRest ? "closed" : "open") + "\n";
    }
};

} // namespace

std::string textOf(const Sensor& s)
{
    std::string out = "name: " + s.name + "\nid: " + s.id.value + "\nkind: " + spaced(fields::enumName(s.kind)) + "\n";
    if (s.measures != usualDimension(s.kind))
        out += "measures: " + spaced(units::name(s.measures)) + "\n";
    out += "range: " + number(units::toUnit(s.low, s.measures, s.unit)) + " to " +
           number(units::toUnit(s.high, s.measures, s.unit)) + " " + s.unit + "\npins: ";
    for (bool first = true; const auto& [cavity, role] : s.pins) {
        out += (first ? "" : ", ") + cavity + " " + std::string(fields::enumName(role));
        first = false;
    }
    out += "\nfeed: " + std::string(s.feed == Feed::Battery ? "battery" : "sensor supply") + "\n";
    if (s.conditioned)
        out += "conditioner: yes\n";
    return out + std::visit(ModelLines{s}, s.model);
}

} // namespace vicegrip::parts
