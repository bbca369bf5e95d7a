#pragma once

#include "core/bus/bus.h"
#include "core/findings/finding.h"

#include <vector>

/// Checks on a CAN bus: its ends, and what hangs too far from it. Only analysis includes this.
namespace vicegrip::findings {

/// "bus-ends": a terminator is missing, or one too many; "bus-stub": a lead beside the line that is longer than
/// harness::kLongestStub_m.
void checkBuses(std::vector<Finding>& out, const job::Job& job, const std::vector<bus::Bus>& buses);

} // namespace vicegrip::findings
