#include "core/scaling/formula.h"

#include "core/base/phrase.h"
#include "core/parts/resistance_curve.h"
#include "core/scaling/polynomial.h"

#include <algorithm>
#include <array>
#include <charconv>

namespace vicegrip::scaling {
namespace {

std::string nineDigits(double number)
{
    constexpr int kDigits = 9;
    std::array<char, 32> digits{};
    const auto end =
        std::to_chars(digits.data(), digits.data() + digits.size(), number, std::chars_format::general, kDigits);
    return {digits.data(), end.ptr};
}

} // namespace

double ohmsOf(double reading_v, double pullUp_ohm, double supply_v)
{
    constexpr double kLeast = 1e-6; // of the supply: a shorted or open line has some resistance too
    const double v = std::clamp(reading_v, kLeast * supply_v, (1 - kLeast) * supply_v);
    return pullUp_ohm * v / (supply_v - v);
}

double valueOf(const Formula& formula, double reading)
{
    if (formula.takes == job::Takes::SteinhartHart)
        return parts::kelvin(parts::SteinhartHartCurve{formula.terms[0], formula.terms[1], formula.terms[2]},
                             ohmsOf(reading, formula.pullUp_ohm, formula.supply_v));
    return units::fromUnit(Polynomial{formula.terms, 0}.at(reading), formula.measures, formula.unit);
}

std::vector<std::pair<std::string, std::string>> termsOf(const Formula& formula)
{
    std::vector<std::pair<std::string, std::string>> out;
    for (size_t i = 0; i < formula.terms.size(); ++i)
        out.emplace_back(formula.takes == job::Takes::SteinhartHart ? std::string(1, "ABC"[i])
                                                                    : "c" + std::to_string(i),
                         nineDigits(formula.terms[i]));
    return out;
}

std::string formulaText(const Formula& formula)
{
    if (formula.takes == job::Takes::SteinhartHart)
        return phrase("1/T = A + B ln R + C (ln R)³, K and Ω");
    std::string out = phrase("value ({}) of x ({}): c0 + c1 x", formula.unit, readingUnit(formula.axis));
    if (formula.terms.size() > 2)
        out += formula.terms.size() > 3 ? " + c2 x² + …" : " + c2 x²";
    return out;
}

std::string needsOf(const Formula& formula)
{
    return formula.takes == job::Takes::SteinhartHart
               ? phrase("The ECU must know the pull-up: {} to {}.", units::formatOhms(formula.pullUp_ohm),
                        units::format(formula.supply_v, units::Dimension::Voltage, "V", 1))
               : std::string();
}

} // namespace vicegrip::scaling
