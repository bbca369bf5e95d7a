#include "core/thermocouple/thermocouple.h"

#include "core/base/phrase.h"
#include "core/base/root.h"
#include "core/units/units.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

namespace vicegrip::thermocouple {
namespace {

constexpr double kZero_k = 273.15, kMilli = 1e-3;
constexpr double kLeastInverse_k = kZero_k - 200;

/// mV over °C, lowest power first (NIST Monograph 175, table 7.3.1 of the ITS-90 functions; from memory, checked
/// against the published table in the tests).
constexpr std::array kBelowZero = {0.0,
                                   0.394501280250e-1,
                                   0.236223735980e-4,
                                   -0.328589067840e-6,
                                   -0.499048287770e-8,
                                   -0.675090591730e-10,
                                   -0.574103274280e-12,
                                   -0.310888728940e-14,
                                   -0.104516093650e-16,
                                   -0.198892668780e-19,
                                   -0.163226974860e-22};
constexpr std::array kAboveZero = {-0.176004136860e-1, 0.389212049750e-1,   0.185587700320e-4,  -0.994575928740e-7,
                                   0.318409457190e-9,  -0.560728448890e-12, 0.560750590590e-15, -0.320207200030e-18,
                                   0.971511471520e-22, -0.121047212750e-25};
constexpr double kBump_mv = 0.118597600000, kBumpWidth = -0.118343200000e-3, kBumpAt_c = 126.9686;

double polynomial(std::span<const double> coefficients, double x)
{
    double sum = 0;
    for (size_t i = coefficients.size(); i-- > 0;)
        sum = sum * x + coefficients[i];
    return sum;
}

/// hPa over water, °C.
double saturation_hpa(double celsius)
{
    return 6.1121 * std::exp((18.678 - celsius / 234.5) * (celsius / (257.14 + celsius)));
}

} // namespace

double typeK_v(double kelvin)
{
    const double t = kelvin - kZero_k;
    if (t < 0)
        return kMilli * polynomial(kBelowZero, t);
    return kMilli * (polynomial(kAboveZero, t) + kBump_mv * std::exp(kBumpWidth * (t - kBumpAt_c) * (t - kBumpAt_c)));
}

Result<double> typeK_k(double volts)
{
    if (!(volts >= typeK_v(kLeastInverse_k) && volts <= typeK_v(kHottestTip_k)))
        return fail(ErrorCode::Range, phrase("{} mV is outside what type K puts out from -200 °C to 1372 °C",
                                             units::formatNumber(volts / kMilli, 3)));
    return rootBetween([&](double kelvin) { return typeK_v(kelvin) - volts; }, kLeastInverse_k, kHottestTip_k);
}

double shownBy(Hookup hookup, const ProbePlace& p)
{
    const auto shown = [&](double volts) {
        return typeK_k(std::clamp(volts, typeK_v(std::max(p.least_k, kLeastInverse_k)), typeK_v(p.most_k)))
            .value_or(p.least_k);
    };
    const double tip = typeK_v(p.tip_k), joint = typeK_v(p.joint_k), own = typeK_v(p.conditioner_k);
    switch (hookup) {
    case Hookup::Right:
        return shown(tip);
    case Hookup::Reversed:
        return shown(2 * own - tip);
    case Hookup::ReversedTwice:
        return shown(tip - 2 * (joint - own));
    case Hookup::Copper:
        return shown(tip - joint + own);
    case Hookup::Bridged:
        break;
    }
    return std::clamp(p.conditioner_k, p.least_k, p.most_k);
}

std::optional<Hookup> hookupOf(double shown_k, const ProbePlace& place, double tolerance_k)
{
    std::optional<Hookup> found;
    for (Hookup h : {Hookup::Right, Hookup::Reversed, Hookup::ReversedTwice, Hookup::Copper, Hookup::Bridged}) {
        if (std::abs(shownBy(h, place) - shown_k) > tolerance_k)
            continue;
        if (found)
            return std::nullopt;
        found = h;
    }
    return found;
}

std::string hookupSentence(Hookup hookup)
{
    switch (hookup) {
    case Hookup::Right:
        return phrase("The probe is wired right.");
    case Hookup::Reversed:
        return phrase("The probe's two wires are exchanged: exchange them at one place.");
    case Hookup::ReversedTwice:
        return phrase("The extension is turned round at both ends: exchange its wires at both.");
    case Hookup::Copper:
        return phrase(
            "The way from the probe's joint to the conditioner is copper: use extension wire of the same kind.");
    case Hookup::Bridged:
        break;
    }
    return phrase(
        "The conditioner shows its own temperature: the probe is shorted, or its wires touch before the tip.");
}

Result<double> boilingPoint_k(double pascal)
{
    constexpr double kLeast_c = 60, kMost_c = 101;
    const double hpa = pascal / 100;
    if (!(hpa >= saturation_hpa(kLeast_c) && hpa <= saturation_hpa(kMost_c)))
        return fail(ErrorCode::Range, phrase("no engine is worked on where the barometer shows {}",
                                             units::format(pascal, units::Dimension::AbsolutePressure, "kPa", 1)));
    return kZero_k + rootBetween([&](double celsius) { return saturation_hpa(celsius) - hpa; }, kLeast_c, kMost_c);
}

} // namespace vicegrip::thermocouple
