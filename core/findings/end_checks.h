#pragma once

#include "core/electrics/wiring.h"
#include "core/findings/finding.h"

#include <vector>

/// Checks on where a circuit's conductors end. Only checks.cpp includes this.
namespace vicegrip::findings {

/// Supply, ground and signal exchanged between the two ends; a signal at a cavity the ECU does not read for it; a
/// sensor ground on metal instead of the ECU's sensor ground; a conductor that leads nowhere.
void checkEnds(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
               const electrics::Wiring& wiring, const std::vector<electrics::Path>& paths);

} // namespace vicegrip::findings
