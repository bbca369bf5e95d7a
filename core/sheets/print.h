#pragma once

#include "core/materials/habits.h"
#include "core/sheets/wire_labels.h"

#include <set>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace vicegrip::sheets {

/// What a print is of.
enum class Kind { Rule, Labels, Faces, Holes, Strips };

[[nodiscard]] std::span<const Kind> allKinds();
/// "rule", "labels", "faces", "holes", "strips".
[[nodiscard]] std::string_view kindName(Kind kind);
/// What each is, in words: a key of phrases.
[[nodiscard]] std::string_view kindTitle(Kind kind);

struct Print
{
    std::vector<drawn::Figure> pages;
    std::vector<std::string> refused; ///< what found no room on this paper, a sentence each
};

/// The pages of these kinds, in the order of the kinds. Paper and labels are the stock's. Error (Range): no label of
/// that stock fits on its paper.
[[nodiscard]] Result<Print> printOf(const job::Job& job, const std::set<Kind>& kinds, const LabelStock& stock,
                                    const materials::Habits& habits);

} // namespace vicegrip::sheets
