#pragma once

#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "core/findings/finding.h"
#include "core/job/facts.h"
#include "core/pinning/pinning.h"
#include "core/proof/circuit_view.h"

#include <vector>

/// Every check of a job.
namespace vicegrip::findings {

/// Checks that look at one circuit: where its conductors end, its seat and range, failing and stale readings, scaling.
void checkCircuit(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                  const electrics::Wiring& wiring, const std::vector<electrics::Path>& paths,
                  const proof::CircuitView& view);

/// What the checks of a whole car look at.
struct Car
{
    const job::Job& job;
    const electrics::Wiring& wiring;
    const electrics::Electrics* solved; ///< key on; null when it has no answer
    const std::string& trouble; ///< why it has none
    const std::vector<proof::CircuitView>& circuits; ///< in the job's order
    const std::map<std::string, std::vector<pinning::Pin>>& pins; ///< by connector
    const job::Facts& facts;
};

/// Checks that look at the whole car: plugs, feeds and grounds, the sensor supply's budget, ground offsets.
void checkJob(std::vector<Finding>& out, const Car& car);

} // namespace vicegrip::findings
