#pragma once

#include "core/base/result.h"
#include "core/book/content.h"

#include <string>

namespace vicegrip::book {

/// The book as a PDF, A4: contents with page numbers, bookmarks for chapters and what is in them, drawings as lines.
/// Wide drawings lie on pages of their own. The same book is the same bytes. Error (Io): the library that writes it
/// gave up.
[[nodiscard]] Result<std::string> pdfOf(const Book& book);

} // namespace vicegrip::book
