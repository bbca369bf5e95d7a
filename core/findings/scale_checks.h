#pragma once

#include "core/analysis/analysis.h"
#include "core/findings/finding.h"

#include <optional>
#include <span>

/// Rules about numbers: limits that were never taught, values in another unit or against another zero.
namespace vicegrip::findings {

/// Limits of throttles and pedals: not taught, stale, or not where the sensor's travel is.
void judgeStops(std::vector<Finding>& out, const job::Job& job, const job::Facts& facts, const job::Circuit& circuit);

/// How a value that is wrong came to be: gauge for absolute, another unit, the line of one of `others` left in; the
/// likeliest, where several would do. Words for a sentence that begins with the circuit's name.
struct MixUp
{
    std::string what, todo;
};
[[nodiscard]] std::optional<MixUp> mixUpOf(const job::Job& job, const parts::Sensor& sensor,
                                           const proof::Expectation& expected, double read,
                                           std::span<const parts::Sensor> others);

/// What the line of another sensor makes of what this one puts out at a value; none where they are no kin.
[[nodiscard]] std::optional<double> takenFor(const parts::Sensor& other, const parts::Sensor& fitted, double value);

/// A sensor's supply that was measured and is not what it should be, with what that does to the value: an input that
/// divides by the same supply forgives it, another does not.
void judgeSupply(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                 const analysis::CircuitView& view);

/// Readings beside another instrument that the sensor's sheet does not explain: a constant, another span, another
/// sensor, one that the others contradict; in the words of scaling::judgeCaptured.
void judgeReadings(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                   const analysis::CircuitView& view);

/// A value the ECU returned that is wrong in a way that tells how: gauge for absolute, another unit, an offset that is
/// the same at every reading.
void judgeValues(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                 const analysis::CircuitView& view);

} // namespace vicegrip::findings
