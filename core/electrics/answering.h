#pragma once

#include "core/electrics/electrics.h"

#include <vector>

/// Which parts answer when the ECU switches one output on with the engine stopped: what somebody who stands beside the
/// engine hears click.
namespace vicegrip::electrics {

/// What a coil or a motor must get of the battery's volts to move (typical: relays pull in at 60 % of theirs).
inline constexpr double kMoves = 0.6;

/// Whether the part that a circuit drives gets what moves it, in a car as it is solved.
[[nodiscard]] bool moves(const Electrics& car, const job::Job& job, const job::Circuit& circuit);

/// The circuits whose part moves while `output` is on and did not before, or the other way round, as what is on while a
/// pull-up holds its signal high; in the job's order. Faults of the situation are in the car; an ECU without power
/// switches nothing. A part that takes a logic signal answers above its own threshold; every other one when it gets
/// kMoves of the battery's volts. Errors: those of build.
[[nodiscard]] Result<std::vector<job::CircuitId>> answering(const job::Job& job, Situation situation,
                                                            const parts::OutputId& output);

} // namespace vicegrip::electrics
