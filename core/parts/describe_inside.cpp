#include "core/parts/lines.h"

/// A pressure sensor inside a unit, on the line of its input: "MAP: inside 20-250 kPa, output 0.4-4.65 V, within 1.5
/// %".
namespace vicegrip::parts {
namespace {

constexpr const char* kUnit = "kPa";

std::string kilopascals(double pa)
{
    return units::shortest(units::toUnit(pa, Dimension::AbsolutePressure, kUnit));
}

} // namespace

bool insideFromWord(PartLines& lines, const Line& line, const std::string& typed, std::optional<Part>& inside)
{
    const std::string word = lower(typed);
    const auto rest = [&](std::string_view start) { return trimmed(std::string_view(typed).substr(start.size())); };
    if (word.starts_with("inside ")) {
        lines.take(line, rangeOf(rest("inside"), Dimension::AbsolutePressure, kUnit), [&](const auto& range) {
            Part& part = inside.emplace();
            part.kind = PartUse::ManifoldPressure;
            part.feed = Feed::Inside;
            part.measures = Dimension::AbsolutePressure;
            part.unit = kUnit;
            part.low = range.first;
            part.high = range.second;
            part.model = RatiometricTransducer{};
            part.id.value = "inside-" + kilopascals(part.high);
            part.name = "Pressure sensor inside, " + kilopascals(part.low) + " to " + kilopascals(part.high) + " kPa";
        });
        return true;
    }
    if (!word.starts_with("output ") && !word.starts_with("within "))
        return false;
    const auto span = inside ? spanOf(*inside) : std::nullopt;
    if (!span) {
        lines.complain(line, phrase("say the range of the sensor inside first: inside 20-250 kPa"));
        return true;
    }
    const auto set = [&](double low_v, double high_v, double share) {
        static_cast<void>(setSpan(*inside, low_v, high_v, share)); // it is one that has a span
    };
    if (word.starts_with("output "))
        lines.take(line, rangeOf(rest("output"), Dimension::Voltage, "V"),
                   [&](const auto& range) { set(range.first, range.second, span->tolerance); });
    else
        lines.take(line, units::parse(rest("within"), Dimension::Ratio, "%"),
                   [&](double share) { set(span->low_v, span->high_v, share); });
    return true;
}

std::string insideWords(const Part& inside)
{
    const auto span = spanOf(inside);
    std::string out = " inside " + kilopascals(inside.low) + "-" + kilopascals(inside.high) + " kPa";
    if (span)
        out += ", output " + units::shortest(span->low_v) + "-" + units::shortest(span->high_v) + " V, within " +
               units::shortest(span->tolerance * 100) + " %";
    return out;
}

} // namespace vicegrip::parts
