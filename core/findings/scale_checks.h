#pragma once

#include "core/findings/finding.h"
#include "core/job/facts.h"
#include "core/proof/circuit_view.h"

#include <optional>
#include <span>

/// Checks about numbers: limits that were never calibrated, values in another unit or against another zero.
namespace vicegrip::findings {

/// Limits of throttles and pedals: not calibrated, stale, or not where the sensor's travel is.
void checkLimits(std::vector<Finding>& out, const job::Job& job, const job::Facts& facts, const job::Circuit& circuit);

/// How a value that is wrong came to be: gauge for absolute, another unit, the line of one of `others` left in; the
/// likeliest, where several would do. Words for a sentence that begins with the circuit's name.
struct MixUp
{
    std::string what, todo;
};
[[nodiscard]] std::optional<MixUp> mixUpOf(const job::Job& job, const parts::Part& sensor,
                                           const proof::Expectation& expected, double read,
                                           std::span<const parts::Part> others);

/// What the line of another sensor makes of what this one puts out at a value; none where they are no kin.
[[nodiscard]] std::optional<double> takenFor(const parts::Part& other, const parts::Part& fitted, double value);

/// A sensor's supply that was measured and is not what it should be, with what that does to the value: an input that
/// divides by the same supply forgives it, another does not.
void checkSupply(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                 const proof::CircuitView& view);

/// Readings beside another instrument that the sensor's sheet does not explain: a constant, another span, another
/// sensor, one that the others contradict; in the words of scaling::compareCaptured.
void checkReadings(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                   const proof::CircuitView& view);

/// A value the ECU returned that is wrong in a way that tells how: gauge for absolute, another unit, an offset that is
/// the same at every reading.
void checkValues(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                 const proof::CircuitView& view);

} // namespace vicegrip::findings
