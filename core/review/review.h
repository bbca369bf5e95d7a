#pragma once

#include "core/analysis/analysis.h"
#include "core/log/log.h"
#include "core/log_columns/log_columns.h"

#include <optional>
#include <string>
#include <vector>

/// What does a log say about the sensors and the wiring it came through? Rules that know this job: the ends of its
/// sensors and tables, who shares whose ground, what a consumer may move.
///
///     const review::Review seen = review::review(log, log_columns::meaningsOf(log, &job), analysis);
///     seen.findings[0].what        // "Manifold pressure stands still at 251.0 kPa abs while 262.0 was asked ..."
///     seen.findings[0].stretches   // the rows that show it
///
/// In this room: before_after.h (two logs, and whether a change did what it was for), kept_review.h (what the job keeps
/// of it), rows.h (inside: columns row by row), rules.h (inside: the rules, a file of rules/ each), steps.h (where a
/// signal steps).
namespace vicegrip::review {

enum class Rule {
    End, ///< a reading stops at an end of its sensor or table, or below what was asked
    Beyond, ///< it goes beyond its sensor's range
    Frozen,
    DropOut,
    Spikes,
    SharedGround, ///< several step together
    Sag, ///< battery or sensor supply
    IntakeAir,
    ThrottleEnds,
    TracksPart,
    Trend,
    EthanolSettles,
    CorrectionFollows
};

/// In files.
[[nodiscard]] std::string_view ruleName(Rule rule);

using Weight = job::LogWeight;

/// Rows from the first to the last.
struct Stretch
{
    std::size_t first = 0, last = 0;
    bool operator==(const Stretch&) const = default;
};

struct Finding
{
    Rule rule = Rule::End;
    Weight weight = Weight::Doubtful;
    std::vector<std::size_t> columns; ///< it is about, the first above all
    std::vector<Stretch> stretches; ///< that show it, the most telling first, kMostShown at the most
    std::size_t times = 0; ///< of all stretches there are
    std::string what; ///< with its figures
    std::string todo; ///< what to do about it; empty for nothing
    std::string place; ///< of the drawing, where one is named: "S2"
};

inline constexpr std::size_t kMostShown = 40;

/// Lines to draw across a column's plot, in its own numbers.
struct Ends
{
    std::optional<double> low, high; ///< of what can be shown: the sensor's span or the table's, the nearer
};

struct Review
{
    std::vector<Finding> findings; ///< the heaviest first
    std::vector<Ends> ends; ///< of each column
};

/// All rules. Never fails: a rule whose columns the log has not says nothing.
[[nodiscard]] Review review(const log::Log& log, const std::vector<log_columns::Meaning>& meanings,
                            const analysis::Analysis& analysis);

} // namespace vicegrip::review
