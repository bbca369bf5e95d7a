#pragma once

#include "core/electrics/wiring.h"
#include "core/findings/finding.h"

#include <vector>

/// Checks on feeds, grounds, fuses and relays of units and loads. Only checks.cpp includes this.
namespace vicegrip::findings {

/// Units: every power ground wired, feeds fused, straight from the battery or behind a relay of their own, live while
/// cranking. Loads: fused, behind a relay of their own above 10 A, not through the ECU, not on a sensor ground.
void checkPower(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring);

} // namespace vicegrip::findings
