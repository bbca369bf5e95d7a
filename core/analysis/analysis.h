#pragma once

#include "core/clicks/clicks.h"
#include "core/decoded/decoded.h"
#include "core/findings/finding.h"
#include "core/hand_test/standing.h"
#include "core/job/job.h"
#include "core/pinning/pinning.h"
#include "core/proof/circuit_view.h"
#include "core/scaling/transfer.h"
#include "core/wiggle/kept.h"
#include "core/wires/area.h"

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

/// Everything that follows from a job: tables, states, findings, what to do next, and what must be read where. A pure
/// function of the job; views draw from (job, analysis) and nothing else. States and findings come for all circuits at
/// once; promises are nine tenths of the work, and are worked out for the circuits they are asked of.
/// In this room: tasks.h (what to do, most urgent first), judging.h (what was read, taken over from edit to edit).
namespace vicegrip::analysis {

/// The stages a circuit can be in work at; the Board's columns.
enum class Stage { Board, Brief, Inputs, Pins, Meter, Scale, Trigger, Start, Handover };
inline constexpr int kStageCount = 9;

/// A key: `phrase` says it.
[[nodiscard]] std::string_view stageName(Stage stage);

/// One thing to do, with where it is done.
struct Task
{
    Stage stage = Stage::Meter;
    job::CircuitId circuit;
    std::string station; ///< key; may be empty
    std::string title; ///< "Coolant temp: measure again"
    std::string detail; ///< one or two sentences
    std::optional<job::Condition> condition = {}; ///< the station is read under; none: any
};

struct Drawn;
struct Worth;

/// What the next analysis can go on with: what one drawing is worth, and each circuit of it.
struct Kept
{
    std::shared_ptr<const Drawn> drawn;
    std::vector<std::shared_ptr<const Worth>> circuits; ///< in the job's order
    std::vector<findings::Finding> pinned; ///< of what is in the cavities
};

struct Analysis
{
    std::shared_ptr<const job::Job> job; ///< what was analysed; Standing::last points into it
    std::vector<proof::CircuitView> circuits; ///< in the job's order
    pinning::Pins pins; ///< by connector
    std::vector<clicks::Standing> clicks; ///< of what the ECU drives, in the order it is clicked
    std::vector<wiggle::Standing> wiggles; ///< of the circuits that were watched while hands moved their wires
    std::vector<hand_test::Standing> handTurns; ///< of the circuits that read a wheel
    std::vector<decoded::Standing> decoded; ///< the same
    std::vector<findings::Finding> findings;
    std::vector<Task> tasks; ///< most urgent first
    job::Facts facts; ///< as proofs keep them
    std::string networkTrouble; ///< why nothing can be promised at all
    std::shared_ptr<const Kept> kept; ///< what the next analysis can go on with
};

/// Never fails: what cannot be worked out is said in the view it belongs to. `before` is an analysis of any job, best
/// of this one before its last edit: what the edit did not touch is taken over from it, and the result is the same
/// without.
[[nodiscard]] Analysis analyse(std::shared_ptr<const job::Job> job, const Analysis* before = nullptr);

[[nodiscard]] const proof::CircuitView* find(const Analysis& analysis, const job::CircuitId& id);

/// The conductor each wire of the job needs, as wires::chooseAreas says.
[[nodiscard]] const std::map<job::WireId, wires::AreaChoice>& areas(const Analysis& analysis);

/// What the input reads over the circuit's range, to be drawn; empty where there is no reading.
[[nodiscard]] std::vector<scaling::CurvePoint> curve(const Analysis& analysis, const job::CircuitId& id);

/// What must be read at each of a circuit's places, in the order of its stations: worked out when it is first asked for
/// and kept while drawing and circuit stay as they are, for later analyses too. It stays as long as the analysis does.
/// Any thread may ask; who asks while another works it out waits. Empty where there are no places.
[[nodiscard]] const std::vector<proof::Expectation>& promises(const Analysis& analysis, const job::CircuitId& id,
                                                              job::Condition condition);

/// A circuit's places under a condition, with what was read there.
[[nodiscard]] std::vector<proof::Standing> standings(const Analysis& analysis, const job::CircuitId& id,
                                                     job::Condition condition);

/// What must be read at them, with what was.
[[nodiscard]] std::vector<proof::Judged> promised(const Analysis& analysis, const job::CircuitId& id,
                                                  job::Condition condition);

/// Whether `promises` has its answer at once.
[[nodiscard]] bool isPromised(const Analysis& analysis, const job::CircuitId& id, job::Condition condition);

} // namespace vicegrip::analysis
