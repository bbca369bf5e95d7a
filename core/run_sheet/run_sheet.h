#pragma once

#include "core/base/result.h"
#include "core/run_sheet/sheet_line.h"

/// May it be powered, cranked, run? The run sheet that is made for one job: each line with its window, worked out by
/// the same network that promises every reading, what it rests on, and whether it has passed.
///
///     const run_sheet::Sheet s = run_sheet::sheetOf(analysis, now);
///     if (const auto next = run_sheet::nextOf(s)) ...                     // the line in hand
///     run_sheet::pass(job, s, *next, {reading, ReadingSource::Meter}, when)
///
/// In this room too: sheet_line.h (what a line is), off_circuit.h (what a meter shows at the posts and at the unit
/// under each condition), made.h (inside: lines as they are made, a file for each part of the sheet).
namespace vicegrip::run_sheet {

/// How a line stands.
struct Standing
{
    proof::State state = proof::State::Untouched;
    std::string reason; ///< why it is failing or stale, one line
    std::string read; ///< what it was passed with, as it is shown; empty: by eyes, or not at all
    std::string when; ///< ISO 8601, UTC; empty: not yet
    std::vector<size_t> waitsFor; ///< lines that must pass before it, and have not
};

struct Sheet
{
    std::vector<Line> lines; ///< in the order they are worked through
    std::vector<Standing> standings; ///< of each line
    job::Facts facts; ///< of the job, as it was analysed
};

/// The sheet of a job as it stands `now`, ISO 8601, UTC: "2026-11-30T18:20:00Z". What was seen of the place is asked
/// for again after twelve hours.
[[nodiscard]] Sheet sheetOf(const analysis::Analysis& analysis, std::string_view now);

/// The line in hand: the first that has not passed and waits for nothing; none when all have, or all wait.
[[nodiscard]] std::optional<size_t> nextOf(const Sheet& sheet);

/// How many lines of it have passed.
[[nodiscard]] size_t passedOf(const Sheet& sheet);

/// What passes a line, or shows that it does not.
struct Seen
{
    std::optional<job::Reading> reading; ///< none: eyes
    job::ReadingSource source = job::ReadingSource::Typed;
};

/// The window as it is shown: "12.000 to 13.500 V", "at least 1.0 bar gauge"; empty where the line takes no reading.
[[nodiscard]] std::string windowText(const Line& line);

/// Whether this reading is as the line wants it.
[[nodiscard]] bool allows(const Line& line, const job::Reading& reading);

/// Keeps what was seen: as a proof of the circuit where the line is about one of its places, else as a line that was
/// passed. A reading outside its window is kept too, and the line fails. Errors (Range): the line waits for others, is
/// barred, is proved elsewhere, or wants a reading (or none).
[[nodiscard]] Result<void> pass(job::Job& job, const Sheet& sheet, size_t line, const Seen& seen,
                                const std::string& when);

/// What eyes have passed is so no more: a leak that comes back. Errors (Range): the line was not passed here.
[[nodiscard]] Result<void> takeBack(job::Job& job, const Sheet& sheet, size_t line);

} // namespace vicegrip::run_sheet
