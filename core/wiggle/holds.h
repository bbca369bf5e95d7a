#pragma once

#include "core/faults/fault_list.h"
#include "core/job/job.h"

#include <optional>
#include <string>
#include <vector>

namespace vicegrip::wiggle {

/// One end of a wire, or its middle, and what the input reads while it does not touch.
struct MayLetGo
{
    faults::Loose what;
    std::optional<double> reads; ///< V, or Hz where pulses stand for a value; none: the ECU says nothing
};

/// What hands hold and move together: a plug, a splice, a stud, or the wires between two of them.
struct Hold
{
    std::string name; ///< "Plug FP", "Wires FP to S1"
    std::vector<std::string> keys; ///< as faults::Loose::heldAs; a mated pair has two
    std::vector<MayLetGo> may;
    bool between = false; ///< along wires
};

/// All along a circuit's ways, from its part to where they end, and those of its unit's feeds and grounds: what the
/// input sees. One of two wires that share a current is not. Empty where the ECU does not read the circuit.
[[nodiscard]] std::vector<Hold> holds(const job::Job& job, const job::CircuitId& circuit, job::Condition condition);

/// The place where the first of these is moved by hand; none: none of these places.
[[nodiscard]] std::optional<size_t> holdOf(const std::vector<Hold>& holds, const std::vector<faults::Loose>& what);

/// What the circuit's input reads with these faults, as MayLetGo has it.
[[nodiscard]] std::optional<double> readsWith(const job::Job& job, const job::Circuit& circuit,
                                              job::Condition condition, const faults::FaultList& faults);

/// The smallest change that is told from noise, in what the input reads: four counts, or a fiftieth of its pulses.
[[nodiscard]] double grainOf(const job::Job& job, const job::Circuit& circuit);

} // namespace vicegrip::wiggle
