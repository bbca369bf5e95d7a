#pragma once

#include "core/book/content.h"

#include <string>
#include <vector>

namespace vicegrip::book {

/// The book as one page of HTML5 that fetches nothing: its drawings are SVG within it, its style stands at its head,
/// and it prints with a chapter on each new sheet.
[[nodiscard]] std::string htmlOf(const Book& book);

/// A page of its own in the same dress: what stands first, then its sections, listed where there are several.
[[nodiscard]] std::string pageOf(const std::string& title, const std::vector<Block>& first,
                                 const std::vector<Section>& sections);

} // namespace vicegrip::book
