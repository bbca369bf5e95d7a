#pragma once

#include "core/electrics/wiring.h"
#include "core/findings/finding.h"

/// Checks of the Inputs stage. Only findings/ includes this.
namespace vicegrip::findings {

/// No seat, or one that cannot read the sensor; pull-ups missing, unwanted or doubled.
void checkSeat(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring);

/// A pressure the engine will reach lies outside the sensor's range.
void checkRange(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit);

/// A wideband that returns to another body than the ECU does.
void checkGroundPlace(std::vector<Finding>& out, const job::Circuit& circuit, const electrics::Wiring& wiring,
                      const std::vector<electrics::Path>& paths);

} // namespace vicegrip::findings
