#pragma once

#include "core/analysis/analysis.h"
#include "core/book/content.h"
#include "core/electrics/wiring.h"
#include "core/materials/habits.h"
#include "core/scaling/budget.h"

#include <optional>
#include <stop_token>

/// Inside: a function for each chapter. One that has nothing to say of the job says nothing.
namespace vicegrip::book {

using Blocks = std::vector<Block>;

[[nodiscard]] Blocks coverOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks circuitsOf(const analysis::Analysis& analysis, const std::stop_token& stop);
[[nodiscard]] Blocks plugsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks wiresOf(const analysis::Analysis& analysis, const materials::Habits& habits);
[[nodiscard]] Blocks harnessOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks diagramsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks scalingOf(const analysis::Analysis& analysis, const std::stop_token& stop);
[[nodiscard]] Blocks triggerOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks runSheetOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks logsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks sinceOf(const analysis::Analysis& analysis, const std::optional<job::Job>& last);
[[nodiscard]] Blocks findingsOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks againOf(const analysis::Analysis& analysis);
[[nodiscard]] Blocks photosOf(const analysis::Analysis& analysis, const photos::Album& album);
[[nodiscard]] Blocks logbookOf(const analysis::Analysis& analysis);

/// What stands of one circuit, by its place in the job, in the chapters of the circuits, of scaling and of the trigger;
/// without its name.
[[nodiscard]] Blocks circuitOf(const analysis::Analysis& analysis, size_t circuit,
                               const std::vector<electrics::Path>& paths);
[[nodiscard]] Blocks scaleOf(const analysis::Analysis& analysis, size_t circuit,
                             const std::vector<scaling::Budget>& budgets);
[[nodiscard]] Blocks wheelOf(const analysis::Analysis& analysis, size_t circuit);

/// "2026-11-30 18:20" in UTC, from ISO 8601.
[[nodiscard]] std::string timeText(const std::string& when);
/// The cavities of its seat, in words: "Cavity A7, Cavity A10".
[[nodiscard]] std::string cavitiesText(const job::Job& job, const job::Circuit& circuit);
/// What of a circuit's state stands in a cell: "done", "measure again".
[[nodiscard]] std::string stateText(proof::State state);

} // namespace vicegrip::book
