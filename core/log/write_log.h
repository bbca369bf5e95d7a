#pragma once

#include "core/log/logged.h"

#include <string>

namespace vicegrip::log {

/// Rows from `first` on, before `last`, as CSV with units in the header: "time (s),Throttle (%)". Times count from the
/// first of them. Of `columns`, by their places in the log; all where none is named.
[[nodiscard]] std::string csvOf(const Log& log, std::size_t first, std::size_t last,
                                const std::vector<std::size_t>& columns = {});

} // namespace vicegrip::log
