#pragma once

#include "core/job/job.h"

#include <string>

/// Changes of a job's drawing that belong together: a circuit with its plug and wires, a seat with the wire that leads
/// to it, a resistor in the harness. Each leaves a drawing that job::check accepts. Wires drawn here are as short as
/// they can be said before anybody has measured: `kPlannedLength_m`, until the user types what is there.
namespace vicegrip::harness {

inline constexpr double kPlannedLength_m = 1.5; ///< from a sensor to the ECU (typical)
inline constexpr double kPlannedArea_m2 = 0.5e-6; ///< mechanical minimum of a sensor wire (common practice)

/// Adds a circuit with its sensor and plug, without a seat and without wires. The id is the function's, with a number
/// behind it where that is taken; range and rest are what the sensor's kind suggests.
job::CircuitId addCircuit(job::Job& job, const job::FunctionId& function, const std::string& name, job::Want want,
                          const parts::Part& sensor);

/// The changes below say what is in their way (Reference: no such circuit, sensor or input) and then leave the job as
/// it was.

/// Takes out the circuit, its device and plug, every wire and resistor that served nothing else, its proofs, and
/// the clicks it answered.
[[nodiscard]] Result<void> removeCircuit(job::Job& job, const job::CircuitId& id);

/// Another sensor in the same place; its wires are drawn anew when the plug differs.
[[nodiscard]] Result<void> setSensor(job::Job& job, const job::CircuitId& id, const parts::Part& sensor);

/// Seats the circuit: the wire that led to another input moves, what is missing is drawn, whoever sat there is
/// unseated, and the input's mode and pull-up are set as the sensor needs them where they can be.
[[nodiscard]] Result<void> seat(job::Job& job, const job::CircuitId& id, const parts::InputId& input);
/// The same for what the ECU drives; the output must have as many cavities as the part has signals.
[[nodiscard]] Result<void> seat(job::Job& job, const job::CircuitId& id, const parts::OutputId& output);
/// One that has no seat is fine as it is.
[[nodiscard]] Result<void> unseat(job::Job& job, const job::CircuitId& id);

/// Whether a sensor returns to its unit's sensor ground: all do that have a ground pin, but for heaters, whose current
/// would be read as signal.
[[nodiscard]] bool onSensorGround(const parts::Part& sensor);

/// Gives each plug whose face nobody has described the first of these that has just its cavities: a proposal, which the
/// part in hand may correct.
void proposeFaces(job::Job& job, const std::vector<parts::Layout>& layouts);

/// The input's pull-up that suits the sensor: none for one that drives its volts; for the others what is set, else the
/// first choice. What cannot be switched stays.
[[nodiscard]] std::optional<double> suitingPullUp(const parts::EcuInput& input, bool needed);

} // namespace vicegrip::harness
