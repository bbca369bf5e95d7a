#pragma once

#include "core/book/content.h"

#include <string>

namespace vicegrip::book {

/// The book as one page of HTML5 that fetches nothing: its drawings are SVG within it, its style stands at its head,
/// and it prints with a chapter on each new sheet.
[[nodiscard]] std::string htmlOf(const Book& book);

} // namespace vicegrip::book
