#pragma once

#include "core/diagnosis/suspect.h"

namespace vicegrip::diagnosis {

/// What is kept when a suspect has been put right: what its mend touches, and each circuit whose ways, or those of its
/// unit's feeds and grounds, go through that. Their readings must be taken again.
[[nodiscard]] job::Mend mendOf(const job::Job& job, const Suspect& suspect, std::string when);

} // namespace vicegrip::diagnosis
