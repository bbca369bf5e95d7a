#pragma once

#include "core/electrics/wiring.h"
#include "core/findings/finding.h"
#include "core/pinning/pinning.h"
#include "core/job/job.h"
#include "core/proof/verdict.h"
#include "core/scaling/table.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

/// Everything that follows from a job: expected readings, tables, states, findings, and what to do next. A pure
/// function of the job; views draw from (job, analysis) and nothing else.
namespace vicegrip::analysis {

/// The stages a circuit can be in work at; the Board's columns.
enum class Stage { Board, Brief, Inputs, Pins, Meter, Scale, Trigger, Start, Handover };
inline constexpr int kStageCount = 9;

[[nodiscard]] std::string_view stageName(Stage stage);

/// A point of the drawn transfer.
struct CurvePoint
{
    double value = 0; ///< SI
    double reading = 0; ///< V or Hz
};

struct CircuitView
{
    job::CircuitId id;
    std::map<job::Condition, std::vector<proof::Judged>>
        stations; ///< signal from sensor to value, then supply, then ground
    std::optional<scaling::Table> table;
    std::string tableTrouble; ///< why there is none
    scaling::Thresholds thresholds; ///< beyond them the ECU should take the input for failed
    std::vector<CurvePoint> curve;
    proof::State pins = proof::State::Untouched; ///< every cavity on its way, from the plug to the ECU
    proof::State meter = proof::State::Untouched;
    proof::State scale = proof::State::Untouched;
};

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
    std::vector<CircuitView> circuits; ///< in the job's order
    std::map<std::string, std::vector<pinning::Pin>> pins; ///< by connector
    std::vector<findings::Finding> findings;
    std::vector<Task> tasks; ///< most urgent first
    job::Facts facts; ///< as proofs keep them
    std::string networkTrouble; ///< why there are no expected readings at all
};

/// Never fails: what cannot be worked out is said in the view it belongs to.
[[nodiscard]] Analysis analyse(std::shared_ptr<const job::Job> job);

[[nodiscard]] const CircuitView* find(const Analysis& analysis, const job::CircuitId& id);

/// What is shown for this circuit under this condition; empty when there is nothing.
[[nodiscard]] const std::vector<proof::Judged>& stations(const CircuitView& view, job::Condition condition);

/// The station to probe next: the first needed one that is not proved, else the first untouched; -1 when all is done.
[[nodiscard]] int nextStation(const std::vector<proof::Judged>& stations);

} // namespace vicegrip::analysis
