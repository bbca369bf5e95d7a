#include "core/base/phrase.h"
#include "core/units/dimensions.h"

#include <array>
#include <charconv>
#include <cmath>

namespace vicegrip::units {
namespace {

/// The unit in the table, or SI where the name does not fit.
Unit unitOrSi(Dimension dimension, std::string_view unit)
{
    const Unit* known = findUnit(facts(dimension), fold(unit));
    return known != nullptr ? *known : Unit{};
}

/// "λ" and "counts" follow a number like any unit; a bare ratio has nothing to show.
std::string withUnit(std::string number, std::string_view unit)
{
    if (!unit.empty()) {
        number += ' ';
        number += unit;
    }
    return number;
}

} // namespace

double toUnit(double si, Dimension dimension, std::string_view unit)
{
    const Unit u = unitOrSi(dimension, unit);
    return (si - u.offset) / u.factor;
}

double differenceToUnit(double si, Dimension dimension, std::string_view unit)
{
    return si / unitOrSi(dimension, unit).factor;
}

double differenceFromUnit(double value, Dimension dimension, std::string_view unit)
{
    return value * unitOrSi(dimension, unit).factor;
}

double fromUnit(double value, Dimension dimension, std::string_view unit)
{
    const Unit u = unitOrSi(dimension, unit);
    return value * u.factor + u.offset;
}

bool measures(std::string_view unit, Dimension dimension)
{
    return findUnit(facts(dimension), fold(unit)) != nullptr;
}

std::string_view everydayUnit(Dimension dimension)
{
    return facts(dimension).everyday;
}

std::string_view name(Dimension dimension)
{
    return facts(dimension).name;
}

Result<Dimension> dimensionFromName(std::string_view name)
{
    for (const auto& f : allFacts())
        if (f.name == name)
            return f.dimension;
    return fail(ErrorCode::Malformed, phrase("\"{}\" is not a kind of quantity", name));
}

std::string formatNumber(double value, int decimals)
{
    if (!std::isfinite(value))
        return "–";
    std::array<char, 400> buffer{};
    const auto [end, error] =
        std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::fixed, decimals);
    if (error != std::errc())
        return "–";
    std::string out(buffer.data(), end);
    if (out.starts_with('-') && out.find_first_not_of("-0.") == std::string::npos)
        out.erase(0, 1); // no "-0.00"
    return out;
}

std::string rangeText(std::string low, const std::string& high)
{
    if (low == high)
        return low;
    const size_t unit = low.find(' '), other = high.find(' ');
    if (unit != std::string::npos && other != std::string::npos && low.substr(unit) == high.substr(other))
        low.resize(unit);
    return phrase("{} to {}", low, high);
}

std::string formatRange(double low, double high, Dimension dimension, std::string_view unit, int decimals)
{
    return rangeText(format(low, dimension, unit, decimals), format(high, dimension, unit, decimals));
}

std::string shortest(double value)
{
    std::array<char, 32> buffer{};
    const auto [end, error] = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value);
    return error == std::errc() ? std::string(buffer.data(), end) : std::string("–");
}

std::string formatExact(double si, Dimension dimension)
{
    if (dimension == Dimension::Resistance && si >= 1000)
        return formatOhms(si) + " Ω";
    const std::string_view unit = everydayUnit(dimension);
    // Rounded to 12 significant digits, so that 0.5 mm² does not read as 0.49999999999999994.
    const double value = toUnit(si, dimension, unit);
    std::array<char, 48> buffer{};
    const auto [end, error] =
        std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::general, 12);
    return withUnit(error == std::errc() ? std::string(buffer.data(), end) : "–", unit);
}

std::string formatOhms(double ohms)
{
    if (!std::isfinite(ohms))
        return "–";
    const double size = std::abs(ohms);
    const double scale = size >= 1e6 ? 1e6 : size >= 1e3 ? 1e3 : 1;
    const char letter = size >= 1e6 ? 'M' : size >= 1e3 ? 'k' : 'R';
    std::array<char, 48> buffer{};
    const auto [end, error] =
        std::to_chars(buffer.data(), buffer.data() + buffer.size(), ohms / scale, std::chars_format::general, 10);
    std::string out = error == std::errc() ? std::string(buffer.data(), end) : "–";
    const size_t point = out.find('.');
    if (out.find('e') != std::string::npos)
        return out;
    if (point == std::string::npos)
        return out + letter;
    out[point] = letter;
    return out;
}

} // namespace vicegrip::units
