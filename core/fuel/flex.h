#pragma once

#include "core/base/result.h"

#include <string>

/// The flex-fuel sensor's own language: frequency for ethanol content, pulse width for fuel temperature. Common
/// practice, no source: 50 Hz = 0 %, 150 Hz = 100 %; 1 ms = -40 °C, 5 ms = 125 °C.
namespace vicegrip::fuel {

inline constexpr double kNoEthanol_hz = 50, kAllEthanol_hz = 150;
inline constexpr double kFailed_hz = 170; ///< above: contaminated or failed (common practice)

/// Ethanol, share by volume, at this frequency; held to 0..1.
[[nodiscard]] double contentAt(double hz);
[[nodiscard]] double frequencyAt(double content);

/// Fuel temperature in K from the width of the low pulse in s, and back.
[[nodiscard]] double temperatureAt(double pulse_s);
[[nodiscard]] double pulseAt(double kelvin);

/// What a signal is worth.
struct Signal
{
    double content = 0;
    double fuel_k = 0;
    bool usable = false; ///< the ECU may fuel by it
    std::string verdict; ///< a sentence, with what to do where it is not usable
};

/// `pulse_s` of 0: not measured, and nothing is said of the fuel's temperature. Errors (Range): no number, or below 0.
[[nodiscard]] Result<Signal> readSignal(double hz, double pulse_s);

} // namespace vicegrip::fuel
