#include "core/units/shown.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/units/dimensions.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>

namespace vicegrip::units {
namespace {

using std::string_view;
using enum Dimension;

constexpr std::array<string_view, 2> kCelsius = {"°C", "K"};
constexpr std::array<string_view, 1> kFahrenheit = {"°F"};
constexpr std::array<string_view, 2> kKelvinSteps = {"K", "°C"};
constexpr std::array<string_view, 6> kMetricPressure = {"kPa", "bar", "hPa", "mbar", "MPa", "Pa"};
constexpr std::array<string_view, 2> kUsPressure = {"psi", "inHg"};
constexpr std::array<string_view, 1> kOnlyKpa = {"kPa"}, kOnlyBar = {"bar"}, kOnlyPsi = {"psi"}, kOnlyInHg = {"inHg"};
constexpr std::array<string_view, 5> kMetres = {"m", "mm", "cm", "km", "um"};
constexpr std::array<string_view, 2> kFeet = {"ft", "in"};
constexpr std::array<string_view, 1> kSquareMillimetres = {"mm²"}, kGauges = {"AWG"};
constexpr std::array<string_view, 4> kLitres = {"l", "L", "cc", "ml"};
constexpr std::array<string_view, 1> kGallons = {"gal"};
constexpr std::array<string_view, 2> kMetricSpeed = {"km/h", "m/s"};
constexpr std::array<string_view, 1> kMilesAnHour = {"mph"};
constexpr std::array<string_view, 3> kMetricFlow = {"kg/h", "g/s", "kg/s"};
constexpr std::array<string_view, 1> kPoundsAMinute = {"lb/min"}, kGramsASecond = {"g/s"};
constexpr std::array<string_view, 3> kLambdas = {"λ", "lambda", ""};
constexpr std::array<string_view, 1> kAirFuel = {"AFR"};

// The first choice of a system is what it means by itself.
constexpr std::array kTemperatures = {Choice{"°C", System::Metric, "°C", kCelsius},
                                      Choice{"°F", System::US, "°F", kFahrenheit}};
constexpr std::array kDifferences = {Choice{"°C", System::Metric, "K", kKelvinSteps},
                                     Choice{"°F", System::US, "°F", kFahrenheit}};
constexpr std::array kAbsolute = {Choice{"kPa or bar", System::Metric, "kPa", kMetricPressure},
                                  Choice{"kPa", System::Metric, "kPa", kOnlyKpa},
                                  Choice{"bar", System::Metric, "bar", kOnlyBar},
                                  Choice{"psi or inHg", System::US, "psi", kUsPressure},
                                  Choice{"psi", System::US, "psi", kOnlyPsi},
                                  Choice{"inHg", System::US, "inHg", kOnlyInHg}};
constexpr std::array kGauge = {
    Choice{"kPa or bar", System::Metric, "bar", kMetricPressure}, Choice{"kPa", System::Metric, "kPa", kOnlyKpa},
    Choice{"bar", System::Metric, "bar", kOnlyBar}, Choice{"psi or inHg", System::US, "psi", kUsPressure},
    Choice{"psi", System::US, "psi", kOnlyPsi}};
constexpr std::array kLengths = {Choice{"m", System::Metric, "m", kMetres},
                                 Choice{"ft and in", System::US, "ft", kFeet}};
constexpr std::array kAreas = {Choice{"mm²", System::Metric, "mm²", kSquareMillimetres},
                               Choice{"AWG", System::US, "AWG", kGauges}};
constexpr std::array kVolumes = {Choice{"l", System::Metric, "l", kLitres},
                                 Choice{"US gal", System::US, "gal", kGallons}};
constexpr std::array kSpeeds = {Choice{"km/h", System::Metric, "km/h", kMetricSpeed},
                                Choice{"mph", System::US, "mph", kMilesAnHour}};
constexpr std::array kFlows = {Choice{"kg/h or g/s", System::Metric, "kg/h", kMetricFlow},
                               Choice{"g/s", System::Metric, "g/s", kGramsASecond},
                               Choice{"lb/min", System::US, "lb/min", kPoundsAMinute}};
// The trade reads lambda on both sides of the ocean, so no system changes it.
constexpr std::array kMixtures = {Choice{"λ", System::Metric, "λ", kLambdas},
                                  Choice{"AFR", System::Metric, "AFR", kAirFuel}};

constexpr std::array kChoosable = {Temperature, AbsolutePressure, GaugePressure, Length, Area, Volume,
                                   Speed,       MassFlow,         Lambda};

constexpr size_t kDimensions = static_cast<size_t>(Counts) + 1;

std::atomic<System> g_system = System::Metric;
std::array<std::atomic<const Choice*>, kDimensions> g_own{}; // into the tables above; null: as the system has it
constexpr double kPetrolAir = 14.7; // common practice, until a job says its fuel
std::atomic<double> g_stoichiometric = kPetrolAir;

const Choice* chosen(Dimension dimension)
{
    const auto all = choices(dimension);
    if (all.empty())
        return nullptr;
    // A difference of temperatures is read as the temperatures are.
    const auto asked = dimension == TemperatureDifference ? Temperature : dimension;
    if (const Choice* own = g_own[static_cast<size_t>(asked)].load()) {
        const auto same = std::ranges::find(all, own->name, &Choice::name);
        return same == all.end() ? nullptr : &*same;
    }
    const System system = g_system.load();
    const auto first = std::ranges::find(all, system, &Choice::system);
    return first == all.end() ? &all.front() : &*first;
}

bool isShort(string_view unit)
{
    static constexpr std::array<string_view, 5> kShort = {"mm", "cm", "um", "in", "\""};
    return std::ranges::find(kShort, unit) != kShort.end();
}

/// What one of the unit is in SI; an air-fuel ratio's depends on the fuel.
double factorOf(Dimension dimension, string_view unit)
{
    if (dimension == Lambda && unit == "AFR")
        return 1 / g_stoichiometric.load();
    return differenceFromUnit(1, dimension, unit);
}

string_view zeroOf(Dimension dimension)
{
    return dimension == AbsolutePressure ? " abs" : dimension == GaugePressure ? " gauge" : "";
}

/// "3 ft 4.5 in", "4.5 in".
std::string feetAndInches(double m, int decimals)
{
    constexpr double kTwelve = 12;
    const double inch = differenceFromUnit(1, Length, "in");
    const double step = std::pow(10, -decimals);
    const double inches = std::round(std::abs(m) / inch / step) * step; // first, so that 11.96 in is a foot
    const double feet = std::floor(inches / kTwelve + step / kTwelve / 2);
    const std::string sign = m < 0 && inches > 0 ? "-" : "";
    const std::string rest = formatNumber(std::max(0.0, inches - feet * kTwelve), decimals) + " in";
    return feet > 0 ? sign + formatNumber(feet, 0) + " ft " + rest : sign + rest;
}

/// A conductor is called by its size, with the digits that has. Where people read gauges, a size of their table by its
/// name and a metric one by its own, with the gauge nearest to it.
std::string sizeText(double m2, bool gauges)
{
    constexpr double kSame = 0.02; // of the area: gauges are 20 % apart, and drawings round
    const std::string metric = shortest(std::round(m2 * 1e9) / 1e3) + " mm²";
    const double diameter_m = 2 * std::sqrt(m2 / std::acos(-1.0));
    const double nearest = std::round(36 - 39 * std::log(diameter_m / 0.127e-3) / std::log(92.0));
    if (!gauges || !(nearest >= -3 && nearest <= 40))
        return metric;
    const std::string name = (nearest < 0 ? formatNumber(1 - nearest, 0) + "/0" : formatNumber(nearest, 0)) + " AWG";
    return std::abs(m2 / areaOfGauge(nearest) - 1) < kSame ? name : metric + " ≈ " + name;
}

/// A number, or a gauge such as "2/0", and nothing else.
bool isBare(string_view text)
{
    return text.find_first_of("0123456789") != string_view::npos &&
           text.find_first_not_of("0123456789.,/+- ") == string_view::npos;
}

} // namespace

std::span<const Choice> choices(Dimension dimension)
{
    switch (dimension) {
    case Temperature:
        return kTemperatures;
    case TemperatureDifference:
        return kDifferences;
    case AbsolutePressure:
        return kAbsolute;
    case GaugePressure:
        return kGauge;
    case Length:
        return kLengths;
    case Area:
        return kAreas;
    case Volume:
        return kVolumes;
    case Speed:
        return kSpeeds;
    case MassFlow:
        return kFlows;
    case Lambda:
        return kMixtures;
    default:
        return {};
    }
}

std::span<const Dimension> choosable()
{
    return kChoosable;
}

Result<void> setShown(const Shown& shown)
{
    std::array<const Choice*, kDimensions> own{};
    for (const auto& [dimension, name] : shown.own) {
        const auto all = choices(dimension);
        const auto found = std::ranges::find(all, name, &Choice::name);
        if (found == all.end()) {
            std::string has;
            for (const Choice& c : all)
                has += (has.empty() ? "" : ", ") + std::string(c.name);
            return fail(ErrorCode::Range,
                        phrase("\"{}\" is no way to show {}{}", name, units::name(dimension),
                               (has.empty() ? phrase(", which is always shown alike") : phrase(": expected {}", has))));
        }
        own[static_cast<size_t>(dimension)] = &*found;
    }
    g_system = shown.system;
    for (size_t i = 0; i < kDimensions; ++i)
        g_own[i] = own[i];
    return {};
}

Shown shown()
{
    Shown out{g_system.load(), {}};
    for (const Dimension d : kChoosable)
        if (const Choice* own = g_own[static_cast<size_t>(d)].load())
            out.own.emplace(d, own->name);
    return out;
}

void setStoichiometric(double ratio)
{
    g_stoichiometric = ratio;
}

double stoichiometricShown()
{
    return g_stoichiometric.load();
}

std::string shownUnit(Dimension dimension, string_view unit)
{
    const Choice* choice = chosen(dimension);
    const std::string folded = fold(unit);
    if (choice == nullptr || std::ranges::any_of(choice->kept, [&](string_view kept) { return fold(kept) == folded; }))
        return std::string(unit);
    if (dimension == Length && isShort(folded))
        return choice->system == System::US ? "in" : "mm";
    return std::string(choice->unit);
}

std::string shownHeading(Dimension dimension, string_view unit)
{
    return shownUnit(dimension, unit) + std::string(zeroOf(dimension));
}

double toShown(double si, Dimension dimension, string_view unit)
{
    const std::string to = shownUnit(dimension, unit);
    return to == "AFR" ? si / factorOf(dimension, to) : toUnit(si, dimension, to == "AWG" ? unit : string_view(to));
}

double differenceToShown(double si, Dimension dimension, string_view unit)
{
    return si / factorOf(dimension, shownUnit(dimension, unit));
}

double differenceFromShown(double value, Dimension dimension, string_view unit)
{
    return value * factorOf(dimension, shownUnit(dimension, unit));
}

int shownDecimals(Dimension dimension, string_view unit, int decimals)
{
    const std::string to = shownUnit(dimension, unit);
    if (to == unit || to == "AWG")
        return decimals;
    // A step of the new unit up to twice the old one still says the same.
    constexpr double kTwice = 0.301;
    const double steps = factorOf(dimension, to) / (factorOf(dimension, unit) * std::pow(10, -decimals));
    return std::clamp(static_cast<int>(std::ceil(std::log10(steps) - kTwice)), 0, 9);
}

std::string format(double si, Dimension dimension, string_view unit, int decimals)
{
    if (!std::isfinite(si))
        return "–";
    const std::string to = shownUnit(dimension, unit);
    if (dimension == Area)
        return sizeText(si, to == "AWG");
    if (to == unit)
        return formatIn(si, dimension, unit, decimals);
    if (to == "ft" && decimals <= 0)
        return formatNumber(toShown(si, dimension, unit), 0) + " ft";
    if (to == "ft") // a centimetre is half an inch, a millimetre a twentieth
        return feetAndInches(si, decimals - 1);
    const int shownDigits = shownDecimals(dimension, unit, decimals);
    return formatNumber(toShown(si, dimension, unit), shownDigits) + " " + to + std::string(zeroOf(dimension));
}

std::string formatIn(double si, Dimension dimension, string_view unit, int decimals)
{
    if (!std::isfinite(si))
        return "–";
    if (dimension == Area && unit == "mm²")
        return sizeText(si, false);
    std::string out = formatNumber(toUnit(si, dimension, unit), decimals);
    if (!unit.empty()) // a bare ratio has nothing to show
        out += " " + std::string(unit) + std::string(zeroOf(dimension));
    return out;
}

std::string formatDifference(double si, Dimension dimension, string_view unit, int decimals)
{
    if (!std::isfinite(si))
        return "–";
    const std::string to = shownUnit(dimension, unit);
    const std::string number =
        formatNumber(differenceToShown(si, dimension, unit), shownDecimals(dimension, unit, decimals));
    return to.empty() ? number : number + " " + to;
}

string_view pastedUnit(Dimension dimension, string_view unit)
{
    return shownUnit(dimension, unit) == unit ? unit : string_view();
}

Result<double> parsePasted(string_view text, Dimension dimension, string_view unit)
{
    if (isBare(text) && pastedUnit(dimension, unit) != unit)
        return fail(ErrorCode::Malformed,
                    phrase("\"{}\" could be {} or {}: write which", text, shownUnit(dimension, unit), unit));
    return parseShown(text, dimension, unit);
}

Result<double> parseShown(string_view text, Dimension dimension, string_view unit)
{
    const std::string to = shownUnit(dimension, unit);
    if (to == "ft") // beside "4.5 in" a bare 5 could be either
        return parse(text, dimension);
    std::string plain = typed::trimmed(text);
    const bool bare = isBare(plain);
    if (to == "AWG")
        return parse(bare ? plain + " AWG" : plain, dimension, unit);
    if (dimension == Lambda) {
        const std::string lower = typed::lower(plain);
        const bool ratio = lower.ends_with("afr");
        if (ratio)
            plain = typed::trimmed(plain.substr(0, plain.size() - 3));
        if (ratio || (bare && to == "AFR"))
            return parse(plain, Counts).and_then([](double afr) {
                return inRange(afr / g_stoichiometric.load(), Lambda, "λ");
            });
    }
    return parse(text, dimension, to);
}

} // namespace vicegrip::units
