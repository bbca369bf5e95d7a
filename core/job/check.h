#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

/// What a schema cannot say: that every name leads to something, no name is borne twice, and numbers make sense.
namespace vicegrip::job {

/// The first thing wrong, with the JSON pointer of its place; nothing when the job holds together.
[[nodiscard]] Result<void> check(const Job& job);

} // namespace vicegrip::job
