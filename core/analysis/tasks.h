#pragma once

#include "core/analysis/analysis.h"

namespace vicegrip::analysis {

/// What to do, most urgent first: wires in wrong cavities, failing readings, then what went stale, seats, pins, then
/// what was never measured, then scaling.
[[nodiscard]] std::vector<Task> tasksOf(const Analysis& analysis);

} // namespace vicegrip::analysis
