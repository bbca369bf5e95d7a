#pragma once

#include "core/electrics/wiring.h"
#include "core/findings/finding.h"

namespace vicegrip::findings {

/// What the ECU drives: whether it has an output, and whether that output can drive it.
void checkDrive(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring);

} // namespace vicegrip::findings
