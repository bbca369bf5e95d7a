#pragma once

#include "core/analysis/analysis.h"
#include "core/book/content.h"
#include "core/materials/habits.h"

/// Inside: a function for each chapter. One that has nothing to say of the job says nothing.
namespace vicegrip::book {

using Blocks = std::vector<Block>;

[[nodiscard]] Blocks coverOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks circuitsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks plugsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks wiresOf(const analysis::Analysis& analysis, const materials::Habits& habits);
[[nodiscard]] Blocks harnessOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks diagramsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks scalingOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks triggerOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks runSheetOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks logsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks findingsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks againOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks logbookOf(const analysis::Analysis& analysis);

/// When the last of it was written: the latest line of the logbook, ISO 8601, UTC; empty: none was.
[[nodiscard]] std::string lastOf(const job::Job& job);
/// "2026-11-30 18:20" in UTC, from ISO 8601.
[[nodiscard]] std::string timeText(const std::string& when);
/// What of a circuit's state stands in a cell: "done", "measure again".
[[nodiscard]] std::string stateText(proof::State state);

} // namespace vicegrip::book
