#include "core/base/phrase.h"
#include "core/units/dimensions.h"

#include <cmath>
#include <fast_float/fast_float.h>

namespace vicegrip::units {
namespace {

constexpr size_t kLongestText = 64;

std::string expected(std::string_view typed, const DimensionFacts& dimension)
{
    return phrase("\"{}\" is not understood: expected {}", typed, phrase(dimension.expected));
}

/// Trims, and turns the signs that keyboards and word processors put in (U+2212 minus, no-break spaces) into plain
/// ones.
std::string plain(std::string_view text)
{
    std::string out;
    for (size_t i = 0; i < text.size(); ++i) {
        if (text.substr(i, 3) == "\u2212") {
            out += '-';
            i += 2;
        } else if (text.substr(i, 2) == "\u00A0") {
            out += ' ';
            i += 1;
        } else if (text[i] == '\t') {
            out += ' ';
        } else {
            out += text[i];
        }
    }
    const size_t first = out.find_first_not_of(' ');
    if (first == std::string::npos)
        return {};
    return out.substr(first, out.find_last_not_of(' ') - first + 1);
}

/// "1,83" is 1.83: one comma, no point, and not the three digits after it that a thousands mark would have.
std::string withClearComma(std::string text)
{
    const size_t comma = text.find(',');
    if (comma == std::string::npos || comma == 0 || text.find_first_of(",.", comma + 1) != std::string::npos ||
        text.find('.') != std::string::npos)
        return text;
    size_t after = comma + 1;
    while (after < text.size() && std::isdigit(static_cast<unsigned char>(text[after])))
        ++after;
    const size_t digits = after - comma - 1;
    const bool zeroBefore =
        text[comma - 1] == '0' && (comma == 1 || !std::isdigit(static_cast<unsigned char>(text[comma - 2])));
    if (digits > 0 && (digits != 3 || zeroBefore) && std::isdigit(static_cast<unsigned char>(text[comma - 1])))
        text[comma] = '.';
    return text;
}

struct NumberAndRest
{
    double number = 0;
    std::string_view rest;
};

/// The number the text opens with. fast_float takes no leading plus and would take "inf" and "nan": neither is typed
/// on purpose.
Result<NumberAndRest> leadingNumber(std::string_view text, const DimensionFacts& dimension)
{
    std::string_view digits = text;
    if (digits.starts_with('+'))
        digits.remove_prefix(1);
    const size_t sign = digits.starts_with('-') ? 1 : 0;
    if (digits.size() <= sign || !(std::isdigit(static_cast<unsigned char>(digits[sign])) || digits[sign] == '.'))
        return fail(ErrorCode::Malformed, expected(text, dimension));
    double number = 0;
    const auto [end, error] = fast_float::from_chars(digits.data(), digits.data() + digits.size(), number);
    if (error != std::errc() || !std::isfinite(number))
        return fail(ErrorCode::Malformed, expected(text, dimension));
    std::string_view rest = digits.substr(static_cast<size_t>(end - digits.data()));
    if (rest.starts_with(','))
        return fail(
            ErrorCode::Malformed,
            phrase("\"{}\" can be read two ways: write the decimal mark as a point, and no thousands mark", text));
    return NumberAndRest{number, rest};
}

/// IEC 60062 marking: the letter stands for the decimal point ("2k49", "4R7", "1M0").
bool readMarkedResistance(std::string_view text, double& ohms)
{
    const size_t letter = text.find_first_of("RrkKM");
    if (letter == 0 || letter == std::string_view::npos || letter + 1 >= text.size())
        return false;
    std::string digits(text.substr(0, letter));
    const std::string_view after = text.substr(letter + 1);
    for (std::string_view part : {std::string_view(digits), after})
        for (char c : part)
            if (!std::isdigit(static_cast<unsigned char>(c)))
                return false;
    digits += '.';
    digits += after;
    const auto [end, error] = fast_float::from_chars(digits.data(), digits.data() + digits.size(), ohms);
    if (error != std::errc() || end != digits.data() + digits.size())
        return false;
    const char mark = text[letter];
    ohms *= mark == 'M' ? 1e6 : (mark == 'k' || mark == 'K') ? 1e3 : 1;
    return true;
}

bool isGaugeWord(std::string_view unit)
{
    return unit == "AWG" || unit == "awg" || unit == "ga" || unit == "gauge" || unit == "Ga";
}

/// "18 AWG", "AWG 18", "18 ga", "2/0 AWG".
bool readWireGauge(std::string_view text, double& area)
{
    std::string folded = fold(text);
    for (std::string_view front : {"AWG", "awg"})
        if (folded.starts_with(front))
            folded = folded.substr(3) + "AWG";
    const size_t word = folded.find_first_not_of("0123456789/");
    if (word == 0 || word == std::string::npos || !isGaugeWord(std::string_view(folded).substr(word)))
        return false;
    const std::string size = folded.substr(0, word);
    double gauge = 0;
    const auto [end, error] = fast_float::from_chars(size.data(), size.data() + size.size(), gauge);
    if (error != std::errc())
        return false;
    const std::string_view rest(end, static_cast<size_t>(size.data() + size.size() - end));
    if (rest == "/0")
        gauge = 1 - gauge; // 2/0 is gauge number -1
    else if (!rest.empty())
        return false;
    if (gauge < -3 || gauge > 40)
        return false;
    area = areaOfGauge(gauge);
    return true;
}

/// "3 ft 4.5 in", "3' 4.5\"": feet that inches follow. Which digits are the inches is what leadingNumber finds.
bool readFeetAndInches(double feet, std::string_view rest, const DimensionFacts& length, double& m)
{
    const size_t inches = rest.find_first_of("0123456789.");
    if (inches == std::string_view::npos)
        return false;
    const Unit* big = findUnit(length, fold(rest.substr(0, inches)));
    const auto number = leadingNumber(rest.substr(inches), length);
    const Unit* small = number ? findUnit(length, fold(number->rest)) : nullptr;
    const Unit* foot = findUnit(length, "ft");
    const Unit* inch = findUnit(length, "in");
    if (big == nullptr || small == nullptr || big->factor != foot->factor || small->factor != inch->factor)
        return false;
    m = feet * big->factor + number->number * small->factor;
    return true;
}

/// What a pressure unit says of its own zero: "psig", "bar(a)", "kPa abs".
enum class Zero { Unsaid, Gauge, Absolute };

Zero takeZero(std::string& unit, const DimensionFacts& dimension)
{
    static constexpr std::pair<std::string_view, Zero> kEndings[] = {{"(g)", Zero::Gauge},   {"(a)", Zero::Absolute},
                                                                     {"gauge", Zero::Gauge}, {"abs", Zero::Absolute},
                                                                     {"g", Zero::Gauge},     {"a", Zero::Absolute}};
    if (findUnit(dimension, unit) != nullptr)
        return Zero::Unsaid;
    for (const auto& [ending, zero] : kEndings) {
        if (!unit.ends_with(ending))
            continue;
        const std::string stem = unit.substr(0, unit.size() - ending.size());
        if (findUnit(dimension, stem) == nullptr)
            continue;
        unit = stem;
        return zero;
    }
    return Zero::Unsaid;
}

/// What was typed, if it is in range: the sentence quotes it as it stands.
Result<double> sound(double si, Dimension dimension, std::string_view typed)
{
    const DimensionFacts& dim = facts(dimension);
    if (dim.range.low == 0 && si < 0)
        return fail(ErrorCode::Range,
                    phrase("\"{}\" is below zero{}: expected {}", typed,
                           (dimension == Dimension::Temperature ? " kelvin" : ""), phrase(dim.expected)));
    return inRange(si, dimension, dim.everyday);
}

} // namespace

double areaOfGauge(double gauge)
{
    const double diameter_m = 0.127e-3 * std::pow(92.0, (36.0 - gauge) / 39.0);
    return std::acos(-1.0) / 4 * diameter_m * diameter_m;
}

Result<double> parse(std::string_view typed, Dimension dimension, std::string_view assumedUnit)
{
    const DimensionFacts& dim = facts(dimension);
    if (typed.size() > kLongestText)
        return fail(ErrorCode::Malformed, phrase("that is too long for one number: expected {}", phrase(dim.expected)));
    const std::string text = withClearComma(plain(typed));
    if (text.empty())
        return fail(ErrorCode::Malformed, phrase("nothing is typed: expected {}", phrase(dim.expected)));

    double si = 0;
    if (dimension == Dimension::Area && readWireGauge(text, si))
        return sound(si, dimension, text);
    if (dimension == Dimension::Resistance) {
        std::string marked = fold(text);
        if (marked.ends_with("ohm"))
            marked.resize(marked.size() - 3);
        if (readMarkedResistance(marked, si))
            return sound(si, dimension, text);
    }

    const auto number = leadingNumber(text, dim);
    if (!number)
        return tl::make_unexpected(number.error());
    if (dimension == Dimension::Length && number->number >= 0 &&
        readFeetAndInches(number->number, number->rest, dim, si))
        return sound(si, dimension, text);
    std::string unit = fold(number->rest);
    if (unit.empty())
        unit = fold(assumedUnit);
    if (unit.empty() && !dim.bareNumber)
        return fail(ErrorCode::Malformed, phrase("\"{}\" has no unit: expected {}", text, phrase(dim.expected)));

    const bool pressure = dimension == Dimension::AbsolutePressure || dimension == Dimension::GaugePressure;
    const Zero zero = pressure ? takeZero(unit, dim) : Zero::Unsaid;
    if (zero == Zero::Gauge && dimension == Dimension::AbsolutePressure)
        return fail(ErrorCode::Malformed,
                    phrase("\"{}\" is a gauge pressure: an absolute one is wanted here, add the barometer", text));
    if (zero == Zero::Absolute && dimension == Dimension::GaugePressure)
        return fail(ErrorCode::Malformed,
                    phrase("\"{}\" is an absolute pressure: a gauge one is wanted here, take the barometer off", text));

    const Unit* known = findUnit(dim, unit);
    if (known == nullptr)
        return fail(ErrorCode::Malformed, expected(text, dim));
    return sound(number->number * known->factor + known->offset, dimension, text);
}

} // namespace vicegrip::units
