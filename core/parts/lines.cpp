#include "core/parts/lines.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cctype>
#include <iterator>
#include <sstream>

namespace vicegrip::parts {
namespace {

bool isDigit(char c)
{
    return std::isdigit(static_cast<unsigned char>(c)) != 0;
}

bool isSpace(char c)
{
    return c == ' ' || c == '\t' || c == '\r';
}

/// Where the key of a line ends; npos when it has none. A table's line starts with a number and has no colon.
size_t colonOf(std::string_view line)
{
    return line.find(':');
}

} // namespace

std::vector<Line> linesOf(std::string_view text)
{
    std::vector<Line> out;
    if (text.starts_with("\xEF\xBB\xBF")) // a byte-order mark, as some editors leave it
        text.remove_prefix(3);
    int number = 0;
    while (!text.empty()) {
        const size_t end = text.find('\n');
        const std::string line = trimmed(text.substr(0, end));
        text = end == std::string_view::npos ? std::string_view{} : text.substr(end + 1);
        ++number;
        if (line.empty() || line.front() == '#')
            continue;
        const size_t colon = colonOf(line);
        if (colon == std::string::npos) {
            out.push_back({number, {}, {}, line});
            continue;
        }
        const std::string key = trimmed(std::string_view(line).substr(0, colon));
        out.push_back({number, lower(key), key, trimmed(std::string_view(line).substr(colon + 1))});
    }
    return out;
}

std::vector<std::string> listOf(std::string_view value)
{
    std::vector<std::string> out;
    std::string now;
    for (size_t i = 0; i < value.size(); ++i) {
        const bool decimal =
            i > 0 && i + 1 < value.size() && value[i] == ',' && isDigit(value[i - 1]) && isDigit(value[i + 1]);
        if (value[i] != ',' || decimal) {
            now += value[i];
            continue;
        }
        out.push_back(trimmed(now));
        now.clear();
    }
    out.push_back(trimmed(now));
    std::erase(out, "");
    return out;
}

Result<std::pair<double, double>> twoNumbers(std::string_view line, units::Dimension first, std::string_view firstUnit,
                                             units::Dimension second, std::string_view secondUnit)
{
    const size_t separator = line.find_first_of("\t;");
    std::string a, b;
    if (separator != std::string_view::npos) {
        a = typed::withPoints(trimmed(line.substr(0, separator)));
        b = typed::withPoints(trimmed(line.substr(separator + 1)));
    } else {
        // Spaces: the first number ends where the second begins, so that "25 °C 2k2" is two.
        const std::string plain = typed::withPoints(std::string(line));
        size_t split = std::string::npos;
        for (size_t i = 1; i + 1 < plain.size(); ++i)
            if (isSpace(plain[i]) && (isDigit(plain[i + 1]) || plain[i + 1] == '-' || plain[i + 1] == '.'))
                split = i;
        if (split == std::string::npos)
            return fail(ErrorCode::Malformed,
                        phrase("expected two numbers with a space, a tab or a semicolon between them"));
        a = trimmed(std::string_view(plain).substr(0, split));
        b = trimmed(std::string_view(plain).substr(split + 1));
    }
    return units::parse(a, first, firstUnit).and_then([&](double x) {
        return units::parse(b, second, secondUnit).map([&](double y) { return std::pair(x, y); });
    });
}

std::string unitAtEnd(std::string_view text)
{
    size_t start = text.size();
    while (start > 0 && !isDigit(text[start - 1]) && !isSpace(text[start - 1]))
        --start;
    return std::string(text.substr(start));
}

Result<std::pair<double, double>> rangeOf(std::string_view text, units::Dimension dimension,
                                          std::string_view assumedUnit)
{
    const std::string plain = typed::withPoints(std::string(text));
    std::string unit = unitAtEnd(plain);
    if (unit.empty())
        unit = assumedUnit;
    size_t split = plain.find(" to ");
    size_t after = 4;
    if (split == std::string::npos) {
        split = plain.find('-', 1); // not a sign at the start
        after = 1;
    }
    if (split == std::string::npos)
        return fail(ErrorCode::Malformed, phrase("expected a range such as -40 to 150 °C or 0-5 V"));
    return units::parse(trimmed(std::string_view(plain).substr(0, split)), dimension, unit).and_then([&](double low) {
        return units::parse(trimmed(std::string_view(plain).substr(split + after)), dimension, unit)
            .map([&](double high) { return std::pair(low, high); });
    });
}

std::string idFrom(std::string_view name)
{
    constexpr size_t kLongest = 40;
    std::string out;
    for (char c : lower(std::string(name))) {
        const bool plain = isDigit(c) || (c >= 'a' && c <= 'z');
        if (plain)
            out += c;
        else if (!out.empty() && out.back() != '-')
            out += '-';
    }
    out.resize(std::min(out.size(), kLongest));
    while (!out.empty() && out.back() == '-')
        out.pop_back();
    return out;
}

units::Dimension usualDimension(PartUse kind)
{
    switch (kind) {
    case PartUse::ManifoldPressure:
        return units::Dimension::AbsolutePressure;
    case PartUse::FluidPressure:
        return units::Dimension::GaugePressure;
    case PartUse::FluidTemperature:
    case PartUse::AirTemperature:
    case PartUse::ExhaustTemperature:
        return units::Dimension::Temperature;
    case PartUse::AirMass:
        return units::Dimension::MassFlow;
    case PartUse::Wideband:
        return units::Dimension::Lambda;
    case PartUse::CrankTrigger:
    case PartUse::CamTrigger:
        return units::Dimension::Frequency;
    case PartUse::Speed:
        return units::Dimension::Speed;
    default:
        return units::Dimension::Ratio;
    }
}

std::vector<std::string> wordsOf(const std::string& typed)
{
    std::istringstream in(typed);
    return {std::istream_iterator<std::string>(in), {}};
}

std::string shortOhms(double ohm)
{
    const std::string text = units::formatOhms(ohm);
    const auto back = units::parse(text, units::Dimension::Resistance);
    return back && *back == ohm ? text : units::shortest(ohm) + "ohm";
}

std::string spaced(std::string_view name)
{
    std::string out(name);
    std::ranges::replace(out, '-', ' ');
    return out;
}

} // namespace vicegrip::parts
