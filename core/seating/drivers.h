#pragma once

#include "core/electrics/wiring.h"
#include "core/seating/compatibility.h"

/// Whether an output can drive an actuator, and if not, why not.
namespace vicegrip::seating {

/// Looks at function, kind of driver, cavities, current, frequency, what a logic signal must reach and who takes a
/// coil's kick; not at who is driven from there already.
[[nodiscard]] Compatibility compatibility(const job::Circuit& circuit, const parts::Part& part,
                                          const parts::EcuOutput& output, size_t cavities);

/// The same of an output of the job: a port does not hang on a bus of its own unit, and nothing on a port that hangs on
/// another unit's bus itself.
[[nodiscard]] Compatibility compatibility(const job::Job& job, const job::Circuit& circuit, const parts::Part& part,
                                          const parts::EcuOutput& output);

/// What an output sees of a circuit's part: with the resistor that the harness has in series. Null where nothing is
/// driven.
[[nodiscard]] std::optional<parts::Part> asDriven(const electrics::Wiring& wiring, const job::Circuit& circuit);

/// How far the output is from one made for the part: 0 where it is just that, more where another kind will do as well.
[[nodiscard]] int detour(const parts::Part& part, const parts::EcuOutput& output);

/// What an output can do, for the plan: "low side 2 A", "to 250 Hz", "unclamped".
[[nodiscard]] std::vector<std::string> capabilities(const parts::EcuOutput& output);

/// What an actuator needs, in the same words.
[[nodiscard]] std::vector<std::string> demandsOf(const parts::Drive& drive);

} // namespace vicegrip::seating
