#pragma once

#include "core/parts/e_series.h"
#include "core/parts/ecu.h"
#include "core/parts/sensor.h"

#include <optional>
#include <vector>

/// Which resistor makes the best voltage of a sensor that only has resistance.
namespace vicegrip::seating {

/// How much a sensor may be warmed by the current through it before its reading is worth less than the resolution won
/// (typical).
inline constexpr double kMostSelfHeating_k = 0.5;

struct PullUpChoice
{
    double ohm = 0;
    double low_v = 0, high_v = 0; ///< at the cold, or low, end of the range and at the other
    double worstPerCount = 0; ///< SI of what is measured, per converter count, where it is coarsest
    double worstAt = 0; ///< SI value where that is
    double selfHeating_k = 0; ///< at worst; 0 where the sensor is no thermistor
    double toleranceError = 0; ///< what the resistor's own tolerance moves the value, at worst, SI
    bool limitedByHeat = false; ///< a smaller value would resolve more, and warm the sensor too much
};

/// The sensor's resistance at a value: of a thermistor or a sender. None for other kinds.
[[nodiscard]] std::optional<double> ohmsAt(const parts::Sensor& sensor, double value);

/// The one whose coarsest place within the range is finest, among those that warm the sensor by no more than
/// kMostSelfHeating_k; none when all do.
[[nodiscard]] std::optional<PullUpChoice> finest(const std::vector<PullUpChoice>& choices);

/// What each pull-up that can be switched on in the input would give. Empty when it has no choice, or the sensor has no
/// resistance to read.
[[nodiscard]] std::vector<PullUpChoice> switchedPullUps(const parts::Sensor& sensor, double low, double high,
                                                        const parts::EcuInput& input, double supply_v);

/// What a pull-up of `ohm` would give between `low` and `high` (SI). The input loads the divider with its pull-down; a
/// ratiometric input counts shares of `supply_v`.
[[nodiscard]] PullUpChoice withPullUp(const parts::Sensor& sensor, double low, double high,
                                      const parts::EcuInput& input, double supply_v, double ohm, double tolerance);

/// The finest value of the series. None when the sensor has no resistance to read, or every value warms it too much.
[[nodiscard]] std::optional<PullUpChoice> bestPullUp(const parts::Sensor& sensor, double low, double high,
                                                     const parts::EcuInput& input, double supply_v,
                                                     parts::ESeries series);

/// How fine it resolves where it is coarsest: "0.12 °C a count".
[[nodiscard]] std::string fineness(const PullUpChoice& choice, const parts::Sensor& sensor);

/// Span, resolution, error and warming in a sentence.
[[nodiscard]] std::string described(const PullUpChoice& choice, const parts::Sensor& sensor);

} // namespace vicegrip::seating
