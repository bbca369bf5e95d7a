#include "core/sheets/print.h"

#include "core/base/phrase.h"
#include "core/sheets/templates.h"

#include <array>
#include <iterator>

namespace vicegrip::sheets {

std::span<const Kind> allKinds()
{
    static constexpr std::array kAll{Kind::Rule, Kind::Labels, Kind::Faces, Kind::Holes, Kind::Strips};
    return kAll;
}

std::string_view kindName(Kind kind)
{
    static constexpr std::array<std::string_view, 5> kNames{"rule", "labels", "faces", "holes", "strips"};
    return kNames.at(static_cast<size_t>(kind));
}

std::string_view kindTitle(Kind kind)
{
    static constexpr std::array<std::string_view, 5> kTitles{key("Rule for the printer"), key("Wire labels"),
                                                             key("Connector faces"), key("Holes to drill"),
                                                             key("Strip lengths")};
    return kTitles.at(static_cast<size_t>(kind));
}

Result<Print> printOf(const job::Job& job, const std::set<Kind>& kinds, const LabelStock& stock,
                      const materials::Habits& habits)
{
    Print out;
    const auto add = [&out](std::vector<drawn::Figure> pages) {
        out.pages.insert(out.pages.end(), std::move_iterator(pages.begin()), std::move_iterator(pages.end()));
    };
    const auto addAll = [&](Pages pages) {
        add(std::move(pages.pages));
        out.refused.insert(out.refused.end(), pages.refused.begin(), pages.refused.end());
    };
    if (kinds.contains(Kind::Rule))
        add({rulerSheet(stock.paper)});
    const auto cuts = materials::cutList(job, habits);
    if (kinds.contains(Kind::Labels)) {
        auto labels = labelSheets(job, cuts, stock);
        if (!labels)
            return tl::unexpected(labels.error());
        add(std::move(labels->pages));
        if (std::string small = tooSmallText(*labels); !small.empty())
            out.refused.push_back(std::move(small));
    }
    if (kinds.contains(Kind::Faces))
        addAll(faceSheets(job, stock.paper));
    if (kinds.contains(Kind::Holes))
        addAll(holeSheets(job, branches::stretches(job), stock.paper));
    if (kinds.contains(Kind::Strips))
        addAll(stripSheets(cuts, stock.paper));
    return out;
}

} // namespace vicegrip::sheets
