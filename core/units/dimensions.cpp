#include "core/units/dimensions.h"

#include "core/base/phrase.h"

#include <array>

namespace vicegrip::units {
namespace {

// NIST SP 811, appendix B.8 and B.9. Defined: inch 0.0254 m, pound-force 4.4482216152605 N, conventional millimetre of
// mercury 13595.1 kg/m3 * 9.80665 m/s2 * 1 mm, standard atmosphere 101325 Pa.
constexpr double kInch = 0.0254;
constexpr double kPsi = 4.4482216152605 / (kInch * kInch);
constexpr double kMmHg = 13595.1 * 9.80665 * 0.001;

constexpr std::array kResistance = {Unit{"ohm"},        Unit{"ohms"},       Unit{"R"},         Unit{"r"},
                                    Unit{"mohm", 1e-3}, Unit{"kohm", 1e3},  Unit{"Kohm", 1e3}, Unit{"k", 1e3},
                                    Unit{"K", 1e3},     Unit{"kohms", 1e3}, Unit{"Mohm", 1e6}, Unit{"M", 1e6},
                                    Unit{"Mohms", 1e6}, Unit{"meg", 1e6},   Unit{"Gohm", 1e9}};
constexpr std::array kVoltage = {Unit{"V"},       Unit{"v"},    Unit{"mV", 1e-3}, Unit{"mv", 1e-3}, Unit{"uV", 1e-6},
                                 Unit{"kV", 1e3}, Unit{"volt"}, Unit{"volts"},    Unit{"Vdc"},      Unit{"VDC"}};
constexpr std::array kCurrent = {Unit{"A"}, Unit{"a"}, Unit{"mA", 1e-3}, Unit{"uA", 1e-6}, Unit{"amp"}, Unit{"amps"}};
constexpr std::array kLength = {Unit{"m"},
                                Unit{"mm", 1e-3},
                                Unit{"cm", 1e-2},
                                Unit{"km", 1e3},
                                Unit{"um", 1e-6},
                                Unit{"in", kInch},
                                Unit{"\"", kInch},
                                Unit{"inch", kInch},
                                Unit{"inches", kInch},
                                Unit{"ft", 12 * kInch},
                                Unit{"foot", 12 * kInch},
                                Unit{"feet", 12 * kInch},
                                Unit{"'", 12 * kInch}};
constexpr std::array kArea = {Unit{"mm2", 1e-6}, Unit{"mm^2", 1e-6}, Unit{"sqmm", 1e-6}, Unit{"cm2", 1e-4}, Unit{"m2"}};
constexpr std::array kTemperature = {Unit{"C", 1, 273.15}, Unit{"c", 1, 273.15}, Unit{"K"},
                                     Unit{"F", 5.0 / 9.0, 459.67 * 5.0 / 9.0},
                                     Unit{"f", 5.0 / 9.0, 459.67 * 5.0 / 9.0}};
constexpr std::array kTemperatureDifference = {Unit{"K"}, Unit{"C"}, Unit{"F", 5.0 / 9.0}};
constexpr std::array kFrequency = {Unit{"Hz"}, Unit{"hz"}, Unit{"kHz", 1e3}, Unit{"MHz", 1e6}, Unit{"rpm", 1.0 / 60}};
constexpr std::array kPressure = {
    Unit{"kPa", 1e3},           Unit{"kpa", 1e3},    Unit{"Pa"},         Unit{"hPa", 1e2},  Unit{"MPa", 1e6},
    Unit{"bar", 1e5},           Unit{"mbar", 1e2},   Unit{"psi", kPsi},  Unit{"PSI", kPsi}, Unit{"inHg", 25.4 * kMmHg},
    Unit{"inhg", 25.4 * kMmHg}, Unit{"mmHg", kMmHg}, Unit{"atm", 101325}};
constexpr std::array kSpeed = {Unit{"km/h", 1 / 3.6}, Unit{"m/s"}, Unit{"mph", 1609.344 / 3600}, Unit{"kph", 1 / 3.6}};
constexpr double kPound = 0.45359237;
constexpr std::array kMassFlow = {Unit{"kg/h", 1.0 / 3600}, Unit{"g/s", 1e-3}, Unit{"kg/s"},
                                  Unit{"lb/min", kPound / 60}};
constexpr double kGallon = 231 * kInch * kInch * kInch;
constexpr std::array kVolume = {Unit{"l", 1e-3},
                                Unit{"L", 1e-3},
                                Unit{"litre", 1e-3},
                                Unit{"litres", 1e-3},
                                Unit{"liter", 1e-3},
                                Unit{"liters", 1e-3},
                                Unit{"cc", 1e-6},
                                Unit{"cm3", 1e-6},
                                Unit{"ml", 1e-6},
                                Unit{"m3"},
                                Unit{"ci", kInch* kInch* kInch},
                                Unit{"gal", kGallon},
                                Unit{"USgal", kGallon},
                                Unit{"gallon", kGallon},
                                Unit{"gallons", kGallon}};
constexpr std::array kRatio = {Unit{"%", 1e-2}, Unit{"percent", 1e-2}, Unit{""}};
constexpr std::array kLambda = {Unit{""}, Unit{"λ"}, Unit{"lambda"}};
constexpr std::array kCounts = {Unit{""}, Unit{"counts"}, Unit{"count"}};

const std::array kFacts = {
    DimensionFacts{Dimension::Resistance,
                   "resistance",
                   "Ω",
                   key("a resistance such as 2k49, 10 kΩ or 0.3 ohm"),
                   {0, 1e10, 1e-6},
                   kResistance},
    DimensionFacts{
        Dimension::Voltage, "voltage", "V", key("a voltage such as 2.52 V or 120 mV"), {-1000, 1000, 0}, kVoltage},
    DimensionFacts{
        Dimension::Current, "current", "A", key("a current such as 1.2 A or 350 mA"), {-2000, 2000, 0}, kCurrent},
    DimensionFacts{Dimension::Length,
                   "length",
                   "m",
                   key("a length such as 1.2 m, 450 mm, 6 ft or 3 ft 4.5 in"),
                   {0, 1e6, 0},
                   kLength},
    DimensionFacts{
        Dimension::Area, "area", "mm²", key("a conductor size such as 0.75 mm² or 18 AWG"), {1e-9, 5e-4, 0}, kArea},
    DimensionFacts{Dimension::Temperature,
                   "temperature",
                   "°C",
                   key("a temperature such as 22 °C, 72 °F or 295 K"),
                   {0, 2273.15, 0},
                   kTemperature},
    DimensionFacts{Dimension::TemperatureDifference,
                   "temperature-difference",
                   "K",
                   key("a temperature difference such as 2 K or 3 °F"),
                   {-2e4, 2e4, 0},
                   kTemperatureDifference},
    DimensionFacts{
        Dimension::Frequency, "frequency", "Hz", key("a frequency such as 150 Hz or 1.2 kHz"), {0, 1e7, 0}, kFrequency},
    DimensionFacts{Dimension::AbsolutePressure,
                   "absolute-pressure",
                   "kPa",
                   key("an absolute pressure such as 101 kPa, 3.2 bar or 29.9 inHg"),
                   {0, 5e8, 0},
                   kPressure},
    DimensionFacts{Dimension::GaugePressure,
                   "gauge-pressure",
                   "bar",
                   key("a gauge pressure such as 3.2 bar, 45 psi or 300 kPa"),
                   {-1.2e5, 5e8, 0},
                   kPressure},
    DimensionFacts{Dimension::Ratio, "ratio", "%", key("a share such as 35 % or 0.35"), {-100, 100, 0}, kRatio, true},
    DimensionFacts{Dimension::Speed, "speed", "km/h", key("a speed such as 90 km/h or 55 mph"), {0, 500, 0}, kSpeed},
    DimensionFacts{Dimension::MassFlow,
                   "mass-flow",
                   "kg/h",
                   key("a mass flow such as 240 kg/h or 65 g/s"),
                   {-10, 10, 0},
                   kMassFlow},
    DimensionFacts{Dimension::Volume,
                   "volume",
                   "l",
                   key("a volume such as 2.2 l, 1598 cc, 350 ci or 6.5 gal"),
                   {0, 10, 0},
                   kVolume},
    DimensionFacts{Dimension::Lambda, "lambda", "λ", key("a lambda value such as 0.95"), {0, 1000, 0}, kLambda, true},
    DimensionFacts{
        Dimension::Counts, "counts", "counts", key("a number of counts such as 2064"), {0, 1e9, 0}, kCounts, true},
};

/// Replaces every `from` in `text`.
void replaceAll(std::string& text, std::string_view from, std::string_view to)
{
    for (size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
        text.replace(at, from.size(), to);
}

} // namespace

std::span<const DimensionFacts> allFacts()
{
    return kFacts;
}

const DimensionFacts& facts(Dimension dimension)
{
    for (const auto& f : kFacts)
        if (f.dimension == dimension)
            return f;
    return kFacts.front();
}

std::string fold(std::string_view unit)
{
    std::string out(unit);
    replaceAll(out, "\u2126", "ohm"); // ohm sign
    replaceAll(out, "\u03A9", "ohm"); // Greek capital omega
    replaceAll(out, "\u00B5", "u"); // micro sign
    replaceAll(out, "\u03BC", "u"); // Greek small mu
    replaceAll(out, "\u00B0", ""); // degree sign
    replaceAll(out, "\u00B2", "2"); // superscript two
    replaceAll(out, "\u00B3", "3"); // superscript three
    replaceAll(out, "\u2033", "\""); // double prime
    replaceAll(out, "deg", "");
    replaceAll(out, "Ohm", "ohm");
    replaceAll(out, "OHM", "ohm");
    replaceAll(out, " ", "");
    return out;
}

const Unit* findUnit(const DimensionFacts& dimension, std::string_view foldedName)
{
    for (const auto& unit : dimension.units)
        if (unit.name == foldedName)
            return &unit;
    return nullptr;
}

} // namespace vicegrip::units
