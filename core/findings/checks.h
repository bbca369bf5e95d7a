#pragma once

#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "core/findings/finding.h"

#include <vector>

namespace vicegrip::analysis {
struct Analysis;
struct CircuitView;
} // namespace vicegrip::analysis

/// Every rule that judges a job.
namespace vicegrip::findings {

/// Rules that look at one circuit: where its conductors end, its seat and range, failing and stale readings, scaling.
void judgeCircuit(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                  const electrics::Wiring& wiring, const std::vector<electrics::Path>& paths,
                  const analysis::CircuitView& view);

/// Rules that look at the whole car: plugs, feeds and grounds, the loom, the sensor supply's budget, ground offsets.
/// `car` is null when it has no answer.
void judgeJob(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring,
              const electrics::Electrics* car, const analysis::Analysis& analysis);

} // namespace vicegrip::findings
