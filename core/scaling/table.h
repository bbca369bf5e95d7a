#pragma once

#include "core/base/result.h"
#include "core/scaling/transfer.h"

#include <string>
#include <vector>

/// The table an ECU holds for an input: volts against value, straight lines between points, flat beyond the ends.
namespace vicegrip::scaling {

struct TablePoint
{
    double volts = 0;
    double value = 0; ///< SI
    bool operator==(const TablePoint&) const = default;
};

struct Table
{
    std::vector<TablePoint> points; ///< by rising volts
    double worstError = 0; ///< largest |table - truth| between the points, in the value's SI unit
    double worstAt = 0; ///< the value (SI) where it lies
    double worstAtVolts = 0;
};

/// N points evenly spaced over the input's volts between the ends of `spec`'s range, on its voltage grid, each with the
/// value that the loaded circuit puts there, rounded to `spec`'s value grid. The table inverts the circuit, not the
/// data sheet. The worst error is searched at 32 places of every segment, rounding included.
/// Errors (Range): the voltage does not move over the range, turns back, or the grid is too coarse for N points.
[[nodiscard]] Result<Table> makeTable(const Transfer& transfer, const parts::Sensor& sensor,
                                      const job::ScalingSpec& spec);

/// The ECU's own arithmetic: the value at these volts.
[[nodiscard]] double lookUp(const Table& table, double volts);

/// Two columns with a header, RFC 4180, in the sensor's shown unit and the spec's resolutions.
[[nodiscard]] std::string toCsv(const Table& table, const parts::Sensor& sensor, const job::ScalingSpec& spec);

/// Decimals that show a step: 0.1 -> 1, 0.05 -> 2, 1 -> 0; 3 when there is no step.
[[nodiscard]] int decimalsOf(double step);

} // namespace vicegrip::scaling
