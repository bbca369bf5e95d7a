#pragma once

#include "core/base/result.h"
#include "core/drawn/figure.h"

#include <string>
#include <string_view>

/// What the sheets are printed on, by measure.
namespace vicegrip::sheets {

/// Most printers leave an edge of the paper white (common practice, no source).
inline constexpr double kEdge_mm = 6;

struct Size
{
    double wide_mm = 0, tall_mm = 0;
    bool operator==(const Size&) const = default;
};

/// Paper that the rule's 100 mm fit on and a printer of a workshop can take, and what hands can fold.
inline constexpr double kLeastPaper_mm = 140, kMostPaper_mm = 1200, kLeastLabel_mm = 3, kMostLabel_mm = 300;

inline constexpr Size kA4{210, 297}; ///< ISO 216

/// "38 x 21", "1.5 in x 0.75 in", "38*21 mm"; paper also "A4", "A3" (ISO 216) and "letter". A bare number is mm.
/// Errors say what was expected; (Range): outside of `least_mm` to `most_mm`.
[[nodiscard]] Result<Size> sizeTyped(std::string_view typed, double least_mm, double most_mm);

/// "38 x 21 mm", or the name of paper of that size
[[nodiscard]] std::string sizeText(const Size& size);

/// Two rules of 100 mm and more, along and across, and what to do where a tape measure says anything else. It is
/// printed before labels are wasted.
[[nodiscard]] drawn::Figure rulerSheet(const Size& paper);

} // namespace vicegrip::sheets
