#pragma once

#include "core/job/job.h"

/// The wires a circuit still lacks, drawn from its plug to where each conductor must end.
namespace vicegrip::harness {

/// The cavity of the circuit's own plug that has this role; empty when it has none.
[[nodiscard]] job::PointRef plugOf(const job::Job& job, const job::Circuit& circuit, parts::PinRole role);

/// Draws what is missing of a circuit that has a seat: a signal to its cavity, a supply and a ground to the splices and
/// studs that its part asks for. What leads where it must already stays.
void drawMissing(job::Job& job, const job::CircuitId& id);

} // namespace vicegrip::harness
