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

/// Rules that look at one circuit: its seat and range, open conductors, failing and stale readings, scaling.
void judgeCircuit(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                  const std::vector<electrics::Path>& paths, const analysis::CircuitView& view);

/// Rules that look at the whole car: the sensor supply's budget, ground offsets. `car` is null when it has no answer.
void judgeJob(std::vector<Finding>& out, const job::Job& job, const electrics::Electrics* car,
              const analysis::Analysis& analysis);

} // namespace vicegrip::findings
