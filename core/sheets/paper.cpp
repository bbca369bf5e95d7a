#include "core/sheets/paper.h"

#include "core/base/phrase.h"
#include "core/units/shown.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

namespace vicegrip::sheets {
namespace {

using drawn::At;
using drawn::Ink;

struct Named
{
    std::string_view name;
    Size size;
};
constexpr std::array<Named, 3> kNamed = {{{"A4", kA4}, {"A3", {297, 420}}, {"letter", {215.9, 279.4}}}};

/// Ticks for each mm from the start on, towards `along`, their feet at the rule's line.
void rule(drawn::Figure& f, At start, At along, At out, int length_mm)
{
    const auto at = [&](double mm, double off) {
        return At{start.x + along.x * mm + out.x * off, start.y + along.y * mm + out.y * off};
    };
    f.line({at(0, 0), at(length_mm, 0)}, Ink::Line, 0.2);
    for (int mm = 0; mm <= length_mm; ++mm) {
        const bool end = mm == 0 || mm == 100;
        f.line({at(mm, 0), at(mm, end ? 9 : mm % 10 == 0 ? 5 : mm % 5 == 0 ? 3.5 : 2)}, Ink::Line, end ? 0.5 : 0.15);
        if (end)
            f.shapes.back().about = "mark " + std::to_string(mm);
        if (mm % 10 == 0) {
            const At number = at(mm, end ? 12 : 8);
            drawn::Words& words = f.words({number.x, number.y + 1}, std::to_string(mm), end ? 3.2 : 2.4);
            words.even = true;
            words.bold = end;
            words.align = drawn::Align::Middle;
        }
    }
}

} // namespace

Result<Size> sizeTyped(std::string_view typed, double least_mm, double most_mm)
{
    std::string text(typed);
    std::ranges::transform(text, text.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    std::erase(text, ' ');
    Size out;
    const auto named = std::ranges::find_if(kNamed, [&](const Named& n) {
        return text.size() == n.name.size() && std::ranges::equal(text, n.name, {}, {}, [](unsigned char c) {
                   return static_cast<char>(std::tolower(c));
               });
    });
    if (named != kNamed.end()) {
        out = named->size;
    } else {
        for (const std::string_view sign : {"\u00d7", "*"})
            if (const auto at = text.find(sign); at != std::string::npos)
                text.replace(at, sign.size(), "x");
        const auto by = text.find('x');
        if (by == std::string::npos)
            return fail(ErrorCode::Malformed, phrase("\"{}\" is no size: type width x height, as 38 x 21 mm", typed));
        for (auto [side, part] : {std::pair{&out.wide_mm, text.substr(0, by)}, {&out.tall_mm, text.substr(by + 1)}}) {
            const auto read = units::parse(part, units::Dimension::Length, "mm");
            if (!read)
                return tl::unexpected(read.error());
            *side = *read * 1e3;
        }
    }
    for (const double side : {out.wide_mm, out.tall_mm})
        if (!(side >= least_mm && side <= most_mm))
            return fail(ErrorCode::Range,
                        phrase("each side must be {} to {} mm; one here is {} mm", units::formatNumber(least_mm, 1),
                               units::formatNumber(most_mm, 0), units::formatNumber(side, 1)));
    return out;
}

std::string sizeText(const Size& size)
{
    if (const auto named = std::ranges::find(kNamed, size, &Named::size); named != kNamed.end())
        return std::string(named->name);
    return units::formatNumber(size.wide_mm, 1) + " x " + units::formatNumber(size.tall_mm, 1) + " mm";
}

drawn::Figure rulerSheet(const Size& paper)
{
    drawn::Figure f{paper.wide_mm, paper.tall_mm, phrase("Rule for the printer"),
                    phrase("Two rules of millimetres, along and across the paper")};
    constexpr double kCorner = 22;
    const auto fits = [](double side) { return std::max(100, static_cast<int>((side - kCorner - 16) / 10) * 10); };
    rule(f, {kCorner, kCorner}, {1, 0}, {0, -1}, std::min(fits(paper.wide_mm), 200));
    rule(f, {kCorner, kCorner}, {0, 1}, {-1, 0}, std::min(fits(paper.tall_mm), 250));
    double y = kCorner + 14;
    f.words({kCorner + 8, y}, phrase("Measure before you print on labels"), 5).bold = true;
    for (const std::string& line :
         {phrase("From the heavy mark 0 to the heavy mark 100 are 100 mm, both ways."),
          phrase("A steel rule that says 99 or 101 mm: the printer has shrunk or stretched the page."),
          phrase("Print again at 100 %, without \"fit to page\", and measure again."),
          phrase("Faces, holes and labels of this print are right by as much as these rules are.")})
        f.words({kCorner + 8, y += 6.5}, line, 3.1);
    return f;
}

} // namespace vicegrip::sheets
