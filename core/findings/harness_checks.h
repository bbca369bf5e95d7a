#pragma once

#include "core/findings/finding.h"
#include "core/wires/area.h"

#include <map>
#include <vector>

/// Checks on the wires themselves: they need the drawing alone, so an analysis asks them beside the network.
namespace vicegrip::findings {

/// Wires too thin for their current, drop or fuse; shorter than their way; of no use; and colours that are mixed up.
void checkHarness(std::vector<Finding>& out, const job::Job& job, const electrics::Wiring& wiring,
                  const std::map<job::WireId, wires::AreaChoice>& areas);

} // namespace vicegrip::findings
