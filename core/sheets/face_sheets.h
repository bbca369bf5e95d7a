#pragma once

#include "core/job/job.h"
#include "core/sheets/paper.h"

#include <string>
#include <vector>

namespace vicegrip::sheets {

/// Pages of a kind, and what found no room on them.
struct Pages
{
    std::vector<drawn::Figure> pages;
    std::vector<std::string> refused; ///< a sentence each
};

/// Every plug whose face is known, both sides at 1:1, and what is in each cavity in letters below. A plug that is wider
/// than the paper lies on it; one that is longer is refused.
[[nodiscard]] Pages faceSheets(const job::Job& job, const Size& paper);

} // namespace vicegrip::sheets
