#include "core/parts/lines.h"

namespace vicegrip::parts {
std::string plainNumber(double v)
{
    return units::shortest(fields::rounded(v));
}

std::string percentLine(double share)
{
    return "tolerance: " + plainNumber(share * 100) + " %\n";
}

std::string textOf(const Part& s)
{
    std::string out = "name: " + s.name + "\nid: " + s.id.value + "\nkind: " + spaced(fields::enumName(s.kind)) + "\n";
    if (!isDriven(s)) {
        if (s.measures != usualDimension(s.kind))
            out += "measures: " + spaced(units::name(s.measures)) + "\n";
        out += "range: " + plainNumber(units::toUnit(s.low, s.measures, s.unit)) + " to " +
               plainNumber(units::toUnit(s.high, s.measures, s.unit)) + " " + s.unit + "\n";
    }
    out += "pins: ";
    for (bool first = true; const auto& [cavity, role] : s.pins) {
        out += (first ? "" : ", ") + cavity + " " + std::string(fields::enumName(role));
        first = false;
    }
    out += "\nfeed: " + std::string(s.feed == Feed::Battery ? "battery" : "sensor supply") + "\n";
    if (s.conditioned)
        out += "conditioner: yes\n";
    return out + std::visit([&](const auto& m) { return m.lines(s); }, s.model);
}

} // namespace vicegrip::parts
