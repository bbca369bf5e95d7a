#pragma once

#include "core/base/result.h"
#include "core/book/content.h"

#include <stop_token>
#include <string>

namespace vicegrip::book {

/// The book as a PDF, A4: contents with page numbers, bookmarks for chapters and what is in them, drawings as lines.
/// Wide drawings lie on pages of their own. The same book is the same bytes. Error (Io): the library that writes it
/// gave up; (Stopped): `stop` asked for that.
[[nodiscard]] Result<std::string> pdfOf(const Book& book, const std::stop_token& stop = {});

} // namespace vicegrip::book
