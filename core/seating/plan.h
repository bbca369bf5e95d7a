#pragma once

#include "core/job/job.h"
#include "core/parts/library.h"
#include "core/seating/assignment.h"
#include "core/seating/pull_up.h"

#include <string>
#include <vector>

/// The seating plan of a job: who can sit where, the best assignment, why somebody has no seat, and what would get him
/// one.
namespace vicegrip::seating {

/// Why one input, or one output, does not take one circuit.
struct Refusal
{
    parts::InputId input;
    parts::OutputId output;
    std::string reason;
};

struct Seat
{
    job::CircuitId circuit;
    parts::InputId input; ///< of a sensor
    parts::OutputId output; ///< of what the ECU drives
};

/// The whole job seated, inputs and outputs in one programme, as well as it can be.
struct Plan
{
    std::vector<Seat> seats;
    std::vector<job::CircuitId> unseated;
    int required = 0, wanted = 0, preferred = 0; ///< seated, of each
    int moved = 0; ///< circuits that sit elsewhere now
    double cost = 0;
    bool optimal = false; ///< proved that no other assignment seats more, or as many at less cost
};

/// Seats the most required, then wanted, then preferred circuits. Locked circuits stay. Among equals, those that move
/// the fewest circuits and keep the most versatile inputs free. Respects each unit's sensor supply limit. Ten seconds
/// at most, or until `watch` says no: then with the best found.
[[nodiscard]] Plan bestPlan(const job::Job& job, const Watch& watch = {});

/// Seats one circuit as harness::seat does, and of the input's pull-ups switches on the one that `finest` says.
[[nodiscard]] Result<void> seat(job::Job& job, const job::CircuitId& circuit, const parts::InputId& input);

/// Makes the plan the job's seating.
[[nodiscard]] Result<void> take(job::Job& job, const Plan& plan);

/// Per input of the job, for a sensor, or per output, for what is driven, in order: why it does not take this circuit
/// as things stand. One that would take it is not listed.
[[nodiscard]] std::vector<Refusal> refusals(const job::Job& job, const job::Circuit& circuit);

/// Why the input or output of this name is no seat for the circuit, whoever sits there now; empty when it is.
[[nodiscard]] std::string unfitness(const job::Job& job, const job::Circuit& circuit, const std::string& seat);

/// What a circuit draws from its unit's 5 V, A; nothing when it is fed otherwise.
[[nodiscard]] double supplyDraw(const job::Job& job, const job::Circuit& circuit, const parts::Ecu& unit);

/// A unit's sensor supply: what its seated circuits draw, and what it can give.
struct SupplyBudget
{
    std::string unit;
    double drawn_a = 0, limit_a = 0;
    int circuits = 0; ///< on this supply
    int grounds = 0; ///< sensor ground cavities of the unit
    int groundUsers = 0; ///< circuits that return to them

    /// Whether no sensor could hang on the unit: a gateway.
    [[nodiscard]] bool ofNone() const { return circuits == 0 && grounds == 0 && groundUsers == 0; }
};
[[nodiscard]] std::vector<SupplyBudget> supplyBudgets(const job::Job& job);

} // namespace vicegrip::seating
