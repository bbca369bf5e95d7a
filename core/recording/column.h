#pragma once

#include "core/job/job.h"

#include <string>
#include <vector>

namespace vicegrip::recording {

/// What one column is of.
struct Column
{
    int input = 0; ///< by job::inputs
    parts::InputId name; ///< of the input
    job::Tells tells = job::Tells::Value;
    units::Dimension measures = units::Dimension::Ratio; ///< of a value
    std::string unit; ///< as written; empty: a plain number
    bool operator==(const Column&) const = default;
};

/// Everything that can be told of the job's inputs: value and volts of each that has a sensor, counts, and pulses where
/// they are counted.
[[nodiscard]] std::vector<Column> columnsOf(const job::Job& job);

/// "AN1 value (kPa)".
[[nodiscard]] std::string heading(const Column& column);

/// A number of `stream::Heard` in the column's unit, and back.
[[nodiscard]] double toColumn(const Column& column, double si);
[[nodiscard]] double fromColumn(const Column& column, double value);

} // namespace vicegrip::recording
