#pragma once

#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "core/findings/finding.h"
#include "core/proof/circuit_view.h"

#include <vector>

/// Every check of a job.
namespace vicegrip::findings {

/// What the drawing alone says of a circuit: where its conductors end, its seat, and where its ground goes.
void checkDrawn(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                const electrics::Wiring& wiring, const std::vector<electrics::Path>& paths);

/// What else is said of it: range, failing and stale readings, scaling.
void checkCircuit(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                  const proof::CircuitView& view);

/// A difference between the sensor's ground and the ECU's is read as signal. `car` with the key on.
void checkGroundOffset(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                       const electrics::Electrics& car, const proof::CircuitView& view);

/// What the drawing alone says of the whole car: feeds and grounds, the sensor supply's budget, places that nothing
/// ties down. `car` with the key on; null when it has no answer, with the reason in `trouble`.
void checkDrawing(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring,
                  const electrics::Electrics* car, const std::string& trouble);

} // namespace vicegrip::findings
