#pragma once

#include "core/parts/e_series.h"
#include "core/parts/ecu.h"
#include "core/parts/part.h"

#include <optional>
#include <string>
#include <vector>

/// Which resistor makes the best voltage of a sensor that only has resistance.
namespace vicegrip::seating {

/// How many times as much heat moving air carries off an element as still air does (common practice, no source: at an
/// idling engine's intake it is several times; this is the least that is counted on).
inline constexpr double kMovingAir = 4;

/// Pull-ups that tables for thermistors are usually written for, Ohm (common practice, no source).
inline constexpr double kUsualPullUps_ohm[] = {1000, 2490, 2700};

struct PullUpChoice
{
    double ohm = 0;
    double low_v = 0, high_v = 0; ///< at the cold, or low, end of the range and at the other
    double worstPerCount = 0; ///< SI of what is measured, per converter count, where it is coarsest
    double worstAt = 0; ///< SI value where that is
    double lowPerCount = 0, highPerCount = 0; ///< at the two ends
    double still_k = 0; ///< what it warms the sensor by at worst, in still air or in its liquid; 0: no thermistor
    double moving_k = 0; ///< the same as it works: of an air sensor in moving air
    double toleranceError = 0; ///< what the resistor's own tolerance moves the value, at worst, SI
    double heatShare = 0; ///< warming as it works over what the reading may be wrong by there, where that is most
    bool limitedByHeat = false; ///< a smaller value would resolve more, and warm the sensor too much
    std::string
        expectedBy; ///< whose tables are written for it: "as here" of this ECU, "usual" of many; empty: nobody's

    /// Warms the sensor by more than its tolerance, the resistor's and half a count leave in doubt anyway.
    [[nodiscard]] bool tooWarm() const { return heatShare > 1; }
};

/// The sensor's resistance at a value: of a thermistor or a resistive sensor. None for other kinds.
[[nodiscard]] std::optional<double> ohmsAt(const parts::Part& sensor, double value);

/// The one whose coarsest place within the range is finest, among those that do not warm the sensor too much; the one
/// that warms it least where all do. None of none.
[[nodiscard]] std::optional<PullUpChoice> finest(const std::vector<PullUpChoice>& choices);

/// What each pull-up that can be switched on in the input would give. Empty when it has no choice, or the sensor has no
/// resistance to read.
[[nodiscard]] std::vector<PullUpChoice> switchedPullUps(const parts::Part& sensor, double low, double high,
                                                        const parts::EcuInput& input, double supply_v);

/// What a pull-up of `ohm` would give between `low` and `high` (SI). The input loads the divider with its pull-down; a
/// ratiometric input counts shares of `supply_v`.
[[nodiscard]] PullUpChoice withPullUp(const parts::Part& sensor, double low, double high, const parts::EcuInput& input,
                                      double supply_v, double ohm, double tolerance);

/// The finest value of the E24 series. None when the sensor has no resistance to read.
[[nodiscard]] std::optional<PullUpChoice> bestPullUp(const parts::Part& sensor, double low, double high,
                                                     const parts::EcuInput& input, double supply_v, double tolerance);

/// The best, a few values round it, those its unit has on other inputs and those tables are usually written for,
/// rising: what a person weighs. `unit` holds `input`.
[[nodiscard]] std::vector<PullUpChoice> pullUpTable(const parts::Part& sensor, double low, double high,
                                                    const parts::EcuInput& input, const parts::Ecu& unit,
                                                    double tolerance);

/// How fine it resolves where it is coarsest: "0.12 °C a count".
[[nodiscard]] std::string fineness(const PullUpChoice& choice, const parts::Part& sensor);

/// Span, resolution, error and warming in a sentence.
[[nodiscard]] std::string described(const PullUpChoice& choice, const parts::Part& sensor);

} // namespace vicegrip::seating
