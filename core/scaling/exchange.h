#pragma once

#include "core/scaling/table.h"

#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

/// A table as text for the tuner's program and back, and one table against another.
namespace vicegrip::scaling {

/// The two columns of the table as the ECU wants them: its unit, resolutions and order; and what stands over them. Of a
/// formula its terms, a name and a number each.
[[nodiscard]] std::vector<std::vector<std::string>> rowsOf(const Table& table, const parts::Part& sensor,
                                                           const job::ScalingSpec& spec);
[[nodiscard]] std::vector<std::string> headings(const Table& table, const job::ScalingSpec& spec);

/// The same points for an ECU that has converter counts in place of volts: whole counts, each with the value the table
/// has there. `volts_per_count` is the input's.
[[nodiscard]] Table inCounts(const Table& table, double volts_per_count);

/// The table as its ECU has it: in counts where the job says so.
[[nodiscard]] Table asTaken(const Table& table, const job::Job& job, const job::Circuit& circuit);

/// The same with their header, RFC 4180.
[[nodiscard]] std::string toCsv(const Table& table, const parts::Part& sensor, const job::ScalingSpec& spec);

/// The two columns between tabs and without a header, as grids of numbers take them from the clipboard.
[[nodiscard]] std::string toColumns(const Table& table, const parts::Part& sensor, const job::ScalingSpec& spec);

/// {"unit": "°C", "points": [{"volts": 0.2, "value": 130}, ...]}; "hertz" where the input counts; of a formula the
/// "formula", its "terms" by name, and what it "needs", with the points along it.
[[nodiscard]] nlohmann::json toJson(const Table& table, const parts::Part& sensor);

/// Reads what the three above write, or any two columns of numbers in the order and unit of the ECU, whole counts of
/// `per_count` volts where it takes those. A JSON text with another unit of the same kind is converted. The points are
/// sorted by reading.
/// Errors: those of readNumbers and of a JSON reader; (Range) coefficients in place of points, fewer than two points,
/// two at one reading, a unit that does not fit the sensor, and (with the line) values that turn back: the ECU would
/// read one value at two readings.
[[nodiscard]] Result<Table> readTable(std::string_view text, const parts::Part& sensor, const job::ScalingSpec& spec,
                                      double per_count);

/// Reads what the ECU holds now for an input whose table should become `now`: where that is a formula, coefficients of
/// its kind by name ("c0<tab>-37.5", or "terms" in JSON), else as readTable. Errors besides its: (Schema) a term that
/// this formula does not have, twice, or missing (a polynomial may have fewer); (Range) no finite value at a place.
[[nodiscard]] Result<Table> readHeld(std::string_view text, const Table& now, const parts::Part& sensor,
                                     const job::ScalingSpec& spec, double per_count);

/// How far one table is from another along the input.
struct Difference
{
    struct Place
    {
        double reading = 0; ///< V or Hz
        double value = 0; ///< new less old, SI
    };
    std::vector<Place> places; ///< every point of both and evenly between, by rising reading
    Place worst;
    double counts = 0; ///< the worst as converter counts: how far the input would have to move for the same
};

/// `per_count` is the step of the input's readings, V or Hz.
[[nodiscard]] Difference difference(const Table& before, const Table& after, double per_count);

} // namespace vicegrip::scaling
