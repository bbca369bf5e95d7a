#pragma once

#include "core/job/job.h"
#include "core/log/log.h"
#include "core/log_columns/quantity.h"

#include <optional>
#include <vector>

/// What is each column of a log? The circuit whose value it holds, as far as a job has it, and what it is to an engine.
///
///     const auto meant = log_columns::meaningsOf(log, &job);
///     meant[3].quantity            // Quantity::Manifold
///     meant[3].circuit             // "map"
///     meant[3].toSi(251.5)         // 251500: the column is in kPa
///
/// In this room too: quantity.h (what a column can be, and its names).
namespace vicegrip::log_columns {

struct Meaning
{
    Quantity quantity = Quantity::Other;
    std::optional<job::CircuitId> circuit; ///< whose input it is
    job::Tells tells = job::Tells::Value; ///< of the circuit
    units::Dimension measures = units::Dimension::Ratio;
    std::string unit; ///< of its numbers, as the log or a hand says it; empty: nobody does
    double scale = 1, offset = 0; ///< SI = value * scale + offset
    bool gauge = false; ///< a pressure above the air outside, which the offset holds
    bool byHand = false; ///< somebody said what it is

    [[nodiscard]] double toSi(double value) const { return value * scale + offset; }
    [[nodiscard]] double fromSi(double si) const { return (si - offset) / scale; }
};

/// Of each column. Circuits are matched by words and units as the signals of a stream are (stream::Matcher); what is
/// asked for, corrected or switched is no circuit. A pressure without a zero is taken as above the air outside where it
/// was below a tenth of it; what is asked for counts from where the reading of the same unit does. What a hand said of
/// a column goes before all that (job::LogColumn). Without a job, words alone tell.
[[nodiscard]] std::vector<Meaning> meaningsOf(const log::Log& log, const job::Job* job);

/// What a hand said of this column; null: nothing.
[[nodiscard]] const job::LogColumn* saidOf(const job::Job& job, const log::Column& column);
/// Keeps what a hand says of columns with this name and unit; what says nothing is forgotten again.
void say(job::Job& job, job::LogColumn said);

/// Places that somebody marked in the log of this file, in order of time; files are told apart by their names without
/// the folders.
[[nodiscard]] std::vector<job::LogMark> marksOf(const job::Job& job, const std::string& file);

/// The first column of this quantity, one that a hand named before the others; none when there is none.
[[nodiscard]] std::optional<std::size_t> columnOf(const std::vector<Meaning>& meanings, Quantity quantity);

/// A value of the column as people read it: "251.5 kPa abs", "6,500 rpm".
[[nodiscard]] std::string valueText(const Meaning& meaning, double value);
/// A difference of two pressures, Pa: "1.2 kPa".
[[nodiscard]] std::string pressureDifferenceText(double pa);
/// A difference of two values.
[[nodiscard]] std::string differenceText(const Meaning& meaning, double difference);

} // namespace vicegrip::log_columns
