#pragma once

#include "core/base/result.h"
#include "core/scaling/formula.h"
#include "core/scaling/transfer.h"

#include <optional>
#include <string>
#include <vector>

/// The table an ECU holds for an input: what it reads (volts, or Hz where it counts pulses) against value, straight
/// lines between points, flat beyond the ends; or the formula it has in their place.
namespace vicegrip::scaling {

struct TablePoint
{
    double reading = 0; ///< V or Hz, as Table::axis
    double value = 0; ///< SI
    bool operator==(const TablePoint&) const = default;
};

struct Table
{
    std::vector<TablePoint> points; ///< by rising reading
    units::Dimension axis = units::Dimension::Voltage; ///< or Frequency
    std::string unit; ///< what the ECU has its values in
    double worstError = 0; ///< largest |table - truth| over the whole range, in the value's SI unit
    double worstAt = 0; ///< the value (SI) where it lies
    double worstAtReading = 0;
    bool leastThereIs = false; ///< proved: no other placing on the curve and the input's steps is better by over 2 %
    double evenError = 0; ///< what as many evenly spaced points would leave, for comparison; equal where they are
    std::optional<Formula> formula; ///< what the ECU works by; the points are then places along it, for the eye
};

/// Points over the input's readings between the ends of `spec`'s range, chosen as `spec.breakpoints` says, on its input
/// grid (whole counts for an ECU that takes those), each with the value that the loaded circuit puts there (beside it
/// for Breakpoints::Free), rounded to `spec`'s value grid. The table inverts the circuit, not the data sheet. The worst
/// error is that of the rounded table over the whole range (worst_error.h); chosen points are never worse than evenly
/// spaced ones (place_points.h). Errors (Range): the reading does not move over the range, turns back, or the grid is
/// too coarse for N points; fixed points are fewer than two, do not rise, or all lie beyond the range. For an ECU that
/// takes a formula: makeFormula.
[[nodiscard]] Result<Table> makeTable(const Transfer& transfer, const parts::Part& sensor,
                                      const job::ScalingSpec& spec);

/// The ECU's own arithmetic: the value at this reading.
[[nodiscard]] double lookUp(const Table& table, double reading);

/// The least and the most it shows while the reading is anywhere between these.
struct ValueRange
{
    double least = 0, most = 0;
};
[[nodiscard]] ValueRange valuesBetween(const Table& table, double low, double high);

/// A reading with its unit: "2.520 V", "1840 Hz".
[[nodiscard]] std::string readingText(double reading, units::Dimension axis);
/// What its input reads: Voltage, or Frequency where pulses stand for the value.
[[nodiscard]] units::Dimension axisOf(const parts::Part& sensor);
/// The unit the ECU has this input's values in.
[[nodiscard]] std::string unitOf(const parts::Part& sensor, const job::ScalingSpec& spec);
/// One step of the ECU's values, SI.
[[nodiscard]] double outputStep(const parts::Part& sensor, const job::ScalingSpec& spec);

/// The grid the table's readings lie on: whole counts of the converter for an ECU that takes counts, else the spec's.
[[nodiscard]] double gridStep(const Transfer& transfer, const job::ScalingSpec& spec);

/// One step of what the input reads: volts of a converter's count, or the Hz it is counted in.
[[nodiscard]] double readingStep(const job::Job& job, const job::Circuit& circuit);

/// "V" or "Hz".
[[nodiscard]] std::string readingUnit(units::Dimension axis);

/// Readings that no value in range puts out: half the way from the range's ends to the converter's. None where there is
/// less than 0.1 V (0.1 Hz) to halve, nor above for a frequency: a line that is open or shorted has no pulses. An input
/// beyond them has an open, a short or another sensor on it.
struct Thresholds
{
    std::optional<double> below, above;
};
[[nodiscard]] Thresholds faultThresholds(const Transfer& transfer, const job::ScalingSpec& spec);

/// Decimals that show a step: 0.1 -> 1, 0.05 -> 2, 1 -> 0; 3 when there is no step.
[[nodiscard]] int decimalsOf(double step);

} // namespace vicegrip::scaling
