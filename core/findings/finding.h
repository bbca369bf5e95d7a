#pragma once

#include "core/job/job.h"

#include <string>
#include <vector>

/// A finding says what, where, how much, why it matters, and what to do.
namespace vicegrip::findings {

enum class Severity {
    Stop, ///< do not go on
    Fix, ///< mend before the job is handed over
    Note ///< know it
};

[[nodiscard]] std::string_view severityName(Severity severity);

struct Finding
{
    std::string rule; ///< stable name, for scripts: "ground-offset"
    Severity severity = Severity::Fix;
    job::CircuitId circuit; ///< empty: the whole job
    std::string what; ///< what and where, with the number
    std::string why;
    std::string todo;
};

/// Worst first, otherwise in the order found.
void sort(std::vector<Finding>& findings);

} // namespace vicegrip::findings
