#pragma once

#include "core/findings/finding.h"
#include "core/job/job.h"
#include "core/pinning/pinning.h"
#include "core/proof/circuit_view.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

/// Everything that follows from a job: expected readings, tables, states, findings, and what to do next. A pure
/// function of the job; views draw from (job, analysis) and nothing else.
/// In this room: tasks.h (what to do, most urgent first).
namespace vicegrip::analysis {

/// The stages a circuit can be in work at; the Board's columns.
enum class Stage { Board, Brief, Inputs, Pins, Meter, Scale, Trigger, Start, Handover };
inline constexpr int kStageCount = 9;

[[nodiscard]] std::string_view stageName(Stage stage);

/// One thing to do, with where it is done.
struct Task
{
    Stage stage = Stage::Meter;
    job::CircuitId circuit;
    std::string station; ///< key; may be empty
    std::string title; ///< "Coolant temp: measure again"
    std::string detail; ///< one or two sentences
};

struct Analysis
{
    std::shared_ptr<const job::Job> job; ///< what was analysed; Judged::last points into it
    std::vector<proof::CircuitView> circuits; ///< in the job's order
    std::map<std::string, std::vector<pinning::Pin>> pins; ///< by connector
    std::vector<findings::Finding> findings;
    std::vector<Task> tasks; ///< most urgent first
    job::Facts facts; ///< as proofs keep them
    std::string networkTrouble; ///< why there are no expected readings at all
};

/// Never fails: what cannot be worked out is said in the view it belongs to.
[[nodiscard]] Analysis analyse(std::shared_ptr<const job::Job> job);

[[nodiscard]] const proof::CircuitView* find(const Analysis& analysis, const job::CircuitId& id);

} // namespace vicegrip::analysis
