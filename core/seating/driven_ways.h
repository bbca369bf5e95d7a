#pragma once

#include "core/seating/ways_out.h"

/// Ways out for what the ECU drives. Inside seating/: ways_out.h asks for them.
namespace vicegrip::seating {

/// Those of a circuit without a seat, whose part this is; least trouble first.
[[nodiscard]] std::vector<WayOut> drivenWaysOut(const job::Job& job, const job::Circuit& circuit,
                                                const parts::Part& part, const parts::Library& library);

/// Does what the measure says, for the circuit.
[[nodiscard]] Result<void> apply(job::Job& job, const job::CircuitId& id, const OtherPart& measure);
[[nodiscard]] Result<void> apply(job::Job& job, const job::CircuitId& id, const OutputExpander& measure);
[[nodiscard]] Result<void> apply(job::Job& job, const job::CircuitId& id, const GiveWayOutput& measure);
[[nodiscard]] Result<void> apply(job::Job& job, const job::CircuitId& id, const SeriesResistor& measure);

} // namespace vicegrip::seating
