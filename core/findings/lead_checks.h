#pragma once

#include "core/findings/finding.h"
#include "core/job/job.h"

#include <vector>

namespace vicegrip::findings {

/// "shield-both-ends" and "shield-open": where the drain of a shielded lead lands.
void checkLeads(std::vector<Finding>& out, const job::Job& job);

} // namespace vicegrip::findings
