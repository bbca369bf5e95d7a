#pragma once

#include "core/findings/finding.h"
#include "core/job/job.h"

#include <vector>

namespace vicegrip::findings {

/// "brief-facts": facts of the brief that cannot be, as of a file that somebody wrote by hand.
void checkBrief(std::vector<Finding>& out, const job::Job& job);

} // namespace vicegrip::findings
