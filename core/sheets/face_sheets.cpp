#include "core/sheets/face_sheets.h"

#include "core/base/phrase.h"
#include "core/sheets/face.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace vicegrip::sheets {
namespace {

constexpr double kBetween_mm = 8, kName_mm = 4, kEntry_mm = 2.2, kLine_mm = 3.2;

/// What sits in a plug's cavities, in the order people count them: "7 BU/WH w12".
std::vector<std::string> entries(const job::Job& job, const job::Connector& plug)
{
    std::map<std::string, std::string> in;
    for (const job::Wire& w : job.wires)
        for (const job::PointRef& end : {w.from, w.to})
            if (end.owner == plug.id)
                in[end.cavity] += " " + w.colour + " " + w.id.value;
    std::vector<std::string> out;
    for (const std::string& cavity : plug.cavities)
        if (const auto it = in.find(cavity); it != in.end())
            out.push_back(cavity + it->second);
    return out;
}

/// One plug: its name, its faces beside one another where they fit or else below, and its cavities.
drawn::Figure plugFigure(const job::Job& job, const job::Connector& plug, double room_mm)
{
    const drawn::Figure wire = faceFigure(job, plug, parts::Face::Wire);
    const drawn::Figure mating = faceFigure(job, plug, parts::Face::Mating);
    const double both = wire.width_mm + kBetween_mm + mating.width_mm;
    const bool beside = both <= room_mm;
    drawn::Figure f{beside ? both : std::max(wire.width_mm, mating.width_mm), 0, wire.title, {}};
    f.words({0, kName_mm}, wire.title, kName_mm).bold = true;
    double y = kName_mm + 3;
    f.place(wire, {0, y});
    if (!beside)
        y += wire.height_mm + 2;
    f.place(mating, {beside ? wire.width_mm + kBetween_mm : 0, y});
    y += (beside ? std::max(wire.height_mm, mating.height_mm) : mating.height_mm) + 2;
    const auto all = entries(job, plug);
    double column = 20;
    for (const std::string& e : all)
        column = std::max(column, drawn::evenWidth(e, kEntry_mm) + 4);
    f.width_mm = std::max({f.width_mm, drawn::wordsWidth(wire.title, kName_mm), std::min(room_mm, column)});
    const size_t across = std::max<size_t>(1, static_cast<size_t>(f.width_mm / column));
    const size_t down = (all.size() + across - 1) / across;
    for (size_t i = 0; i < all.size(); ++i) {
        const size_t at = i / down, line = i % down + 1;
        f.words({static_cast<double>(at) * column, y + kLine_mm * static_cast<double>(line)}, all[i], kEntry_mm).even =
            true;
    }
    f.height_mm = y + kLine_mm * static_cast<double>(down) + 1;
    return f;
}

} // namespace

Pages faceSheets(const job::Job& job, const Size& paper)
{
    Pages out;
    const auto blank = [&](bool lying) {
        out.pages.push_back({lying ? paper.tall_mm : paper.wide_mm, lying ? paper.wide_mm : paper.tall_mm,
                             phrase("Connector faces"), phrase("Connector faces at their own size, both sides")});
    };
    double x = 0, y = 0, shelf = 0; // the next place on the last upright page
    bool open = false;
    for (const job::Connector& plug : job.connectors) {
        if (!plug.layout)
            continue;
        const Size room{paper.wide_mm - 2 * kEdge_mm, paper.tall_mm - 2 * kEdge_mm};
        drawn::Figure f = plugFigure(job, plug, room.wide_mm);
        if (f.width_mm > room.wide_mm || f.height_mm > room.tall_mm) {
            f = plugFigure(job, plug, room.tall_mm);
            if (f.width_mm > room.tall_mm || f.height_mm > room.wide_mm) {
                out.refused.push_back(
                    phrase("{} takes paper of {}.", f.title,
                           sizeText({std::ceil(f.width_mm + 2 * kEdge_mm), std::ceil(f.height_mm + 2 * kEdge_mm)})));
                continue;
            }
            blank(true);
            out.pages.back().place(f, {kEdge_mm, kEdge_mm});
            open = false;
            continue;
        }
        if (open && x > 0 && x + f.width_mm > room.wide_mm) { // the next shelf
            x = 0;
            y += shelf + kBetween_mm;
            shelf = 0;
        }
        if (!open || y + f.height_mm > room.tall_mm) {
            blank(false);
            open = true;
            x = y = shelf = 0;
        }
        out.pages.back().place(f, {kEdge_mm + x, kEdge_mm + y});
        x += f.width_mm + 2 * kBetween_mm;
        shelf = std::max(shelf, f.height_mm);
    }
    return out;
}

} // namespace vicegrip::sheets
