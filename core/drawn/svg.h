#pragma once

#include "core/drawn/figure.h"

#include <string>
#include <string_view>

/// Figures as SVG 1.1: one unit is one mm, and nothing is fetched from anywhere.
namespace vicegrip::drawn {

/// A text within XML: no mark of it can end the place it stands in, and what XML has no letter for is left out.
[[nodiscard]] std::string escaped(std::string_view text);

/// The element alone, as it stands within HTML.
[[nodiscard]] std::string svgElement(const Figure& figure);

/// A file of its own. What a shape is about stands with it: <path data-about="wire w12">.
[[nodiscard]] std::string svgOf(const Figure& figure);

} // namespace vicegrip::drawn
