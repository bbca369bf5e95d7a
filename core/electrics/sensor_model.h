#pragma once

#include "core/job/job.h"

#include <array>
#include <vector>

/// A sensor's elements as functions of its measurand: the same numbers build a network and sweep it.
namespace vicegrip::electrics {

/// One number for each of a sensor's varied elements; a sensor has at most two.
using ElementValues = std::array<double, 2>;

/// Values of the sensor's varied elements at the measurand `x` (SI): {R} for a thermistor, {upper, lower} half of a
/// potentiometer's track, {gain} of a ratiometric transducer, {V} of a voltage device. Outputs stay within what the
/// part can put out.
[[nodiscard]] ElementValues elementValues(const parts::Sensor& sensor, double x);

/// d(element value)/dx, one per element.
[[nodiscard]] ElementValues elementSlopes(const parts::Sensor& sensor, double x);

/// Their spread at a measurand of x ± `tolerance`, per unit of it: the secant to the side where the elements move most.
/// A derivative tells half at the end of what a part puts out, and too little where its curve bends.
[[nodiscard]] ElementValues elementSecants(const parts::Sensor& sensor, double x, double tolerance);

/// The places in the sensor's range where its curve is bent: points of its sheet, ends of what it puts out.
[[nodiscard]] std::vector<double> kinksOf(const parts::Sensor& sensor);

/// The least and the most its first varied element may be at any measurand of `low` to `high`, the part's own
/// tolerance included.
struct ElementRange
{
    double least = 0, most = 0;
};
[[nodiscard]] ElementRange elementRange(const parts::Sensor& sensor, double low, double high);

/// What the circuit's sensor measures with the engine stopped, and how well that is known.
struct Measurand
{
    double value = 0;
    double tolerance = 0;
};
[[nodiscard]] Measurand atRest(const job::Circuit& circuit, const job::Surroundings& surroundings);

} // namespace vicegrip::electrics
