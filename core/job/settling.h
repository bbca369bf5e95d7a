#pragma once

#include "core/job/job.h"

#include <span>

namespace vicegrip::job {

/// How many readings in a row must agree.
inline constexpr size_t kSettled = 3;

/// Whether the last readings of a place stand still: three within the meter's own error of each other, or three beyond
/// its range.
[[nodiscard]] bool isSettled(std::span<const Reading> readings, const Meter& meter);

} // namespace vicegrip::job
