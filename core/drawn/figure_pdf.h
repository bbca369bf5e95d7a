#pragma once

#include "core/base/result.h"
#include "core/drawn/figure.h"

#include <string>
#include <vector>

namespace vicegrip::drawn {

/// A PDF with each figure on a page of its own size, 1:1. `asOf` is its date by ISO 8601; empty: it has none. The same
/// figures are the same bytes. Error (Io): the library that writes it gave up.
[[nodiscard]] Result<std::string> pdfOf(const std::vector<Figure>& pages, const std::string& title,
                                        const std::string& asOf);

} // namespace vicegrip::drawn
