#include "core/fuel/flex.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::fuel {
namespace {

constexpr double kShortest_s = 1e-3, kLongest_s = 5e-3, kColdest_k = 233.15, kHottest_k = 398.15;
constexpr double kSlack_hz = 2; ///< what a good sensor may be beside its ends (typical)

std::string hertz(double hz)
{
    return units::format(hz, units::Dimension::Frequency, "Hz", 1);
}

} // namespace

double contentAt(double hz)
{
    return std::clamp((hz - kNoEthanol_hz) / (kAllEthanol_hz - kNoEthanol_hz), 0.0, 1.0);
}

double frequencyAt(double content)
{
    return std::lerp(kNoEthanol_hz, kAllEthanol_hz, content);
}

double temperatureAt(double pulse_s)
{
    return kColdest_k + (pulse_s - kShortest_s) / (kLongest_s - kShortest_s) * (kHottest_k - kColdest_k);
}

double pulseAt(double kelvin)
{
    return kShortest_s + (kelvin - kColdest_k) / (kHottest_k - kColdest_k) * (kLongest_s - kShortest_s);
}

Result<Signal> readSignal(double hz, double pulse_s)
{
    if (!std::isfinite(hz) || !std::isfinite(pulse_s) || hz < 0 || pulse_s < 0)
        return fail(ErrorCode::Range, phrase("expected a frequency and a pulse width, not below 0"));
    Signal s;
    s.content = contentAt(hz);
    s.fuel_k = pulse_s > 0 ? temperatureAt(pulse_s) : 0;
    const std::string content = units::format(s.content, units::Dimension::Ratio, "%", 1);
    if (hz < 1)
        s.verdict = phrase("No pulses: no 12 V, no ground, no pull-up at the input, or the signal wire is open. "
                           "Measure the sensor's supply first.");
    else if (hz < kNoEthanol_hz - kSlack_hz)
        s.verdict = phrase("{} is below 50 Hz, which no fuel gives: air in the sensor, or another kind of sensor. "
                           "Bleed the line, then read again.",
                           hertz(hz));
    else if (hz > kFailed_hz)
        s.verdict = phrase("{} is above 170 Hz: the fuel is contaminated (water, methanol), or the sensor failed. Do "
                           "not fuel by it; drain a sample and look.",
                           hertz(hz));
    else if (hz > kAllEthanol_hz + kSlack_hz)
        s.verdict = phrase("{} is above 150 Hz, which pure ethanol gives: some water in the fuel. Take a sample before "
                           "it is driven hard.",
                           hertz(hz));
    else if (pulse_s > 0 && (pulse_s < kShortest_s * 0.95 || pulse_s > kLongest_s * 1.05))
        s.verdict = phrase("A pulse of {} ms is outside 1 to 5 ms: no fuel temperature can be taken from it. Check "
                           "that the input counts the low time.",
                           units::formatNumber(pulse_s * 1e3, 2));
    else {
        s.usable = true;
        s.verdict = pulse_s > 0 ? phrase("{} ethanol, fuel at {}", content,
                                         units::format(s.fuel_k, units::Dimension::Temperature, "°C", 1))
                                : phrase("{} ethanol", content);
    }
    return s;
}

} // namespace vicegrip::fuel
