#include "core/sheets/templates.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace vicegrip::sheets {
namespace {

using drawn::At;
using drawn::Ink;

std::string mm(double value)
{
    return units::formatNumber(value, 1) + " mm";
}

/// A ring, as many straight pieces as leave no corner to see: 0.02 mm from the circle at 60 mm across.
void ring(drawn::Figure& f, At centre, double diameter_mm, bool dashed, double width_mm)
{
    constexpr int kPieces = 120;
    drawn::Stroke out;
    for (int i = 0; i < kPieces; ++i) {
        const double turn = 2 * std::numbers::pi * i / kPieces;
        out.points.push_back(
            {centre.x + diameter_mm / 2 * std::cos(turn), centre.y + diameter_mm / 2 * std::sin(turn)});
    }
    out.closed = true;
    out.dashed = dashed;
    out.width_mm = width_mm;
    f.shapes.push_back({std::move(out)});
}

drawn::Figure holeFigure(const job::Branch& branch, const branches::Dressing& dressing)
{
    constexpr double kRoom_mm = 92;
    const double drilled = dressing.wall_m * 1e3, inner = dressing.hole_m * 1e3;
    drawn::Figure f{std::max(kRoom_mm, drilled + 12), drilled + 34, phrase("{} to {}", branch.from, branch.to), {}};
    const At centre{drilled / 2 + 6, drilled / 2 + 6};
    ring(f, centre, drilled, false, 0.2);
    f.shapes.back().about = "hole " + branch.from + " to " + branch.to;
    ring(f, centre, inner, true, 0.15);
    const double arm = drilled / 2 + 4;
    f.line({{centre.x - arm, centre.y}, {centre.x + arm, centre.y}}, Ink::Soft, 0.15);
    f.line({{centre.x, centre.y - arm}, {centre.x, centre.y + arm}}, Ink::Soft, 0.15);
    double y = drilled + 15;
    f.words({0, y}, f.title, 3.4).bold = true;
    for (const std::string& line : {phrase("Wall: a hole of {}. Grommet: {} inside.", mm(drilled), mm(inner)),
                                    phrase("The bundle there is {} thick.", mm(dressing.bundle_m * 1e3)),
                                    phrase("Drilled once what lies behind the wall is seen.")})
        f.words({0, y += 4.4}, line, 2.8);
    return f;
}

drawn::Figure blank(const Size& paper, const std::string& title)
{
    return {paper.wide_mm, paper.tall_mm, title, title};
}

} // namespace

Pages holeSheets(const job::Job& job, const std::vector<branches::Stretch>& stretches, const Size& paper)
{
    constexpr double kTop_mm = 24, kApart_mm = 4;
    Pages out;
    double x = 0, y = paper.tall_mm, shelf = 0; // the next place
    const auto nextPage = [&] {
        out.pages.push_back(blank(paper, phrase("Holes to drill")));
        drawn::Figure& f = out.pages.back();
        f.words({kEdge_mm + 2, kEdge_mm + 5}, phrase("Holes to drill"), 4.4).bold = true;
        double line = kEdge_mm + 7;
        for (const std::string& caution :
             {phrase("Look behind the wall first: brake and fuel lines, tank, airbags, looms. Nothing live, no fuel "
                     "vapour."),
              phrase("Eyes covered; a pilot hole, then the hole; deburred and painted, or the grommet's edge is cut "
                     "through."),
              phrase("A firewall is part of what keeps a fire out: close it as the local rules for the vehicle ask.")})
            f.words({kEdge_mm + 2, line += 4.2}, caution, 2.8);
        x = kEdge_mm + 2;
        y = kEdge_mm + kTop_mm;
        shelf = 0;
    };
    for (size_t i = 0; i < job.branches.size(); ++i) {
        const job::Branch& branch = job.branches[i];
        const branches::Dressing& dressing = stretches[i].dressing;
        if (!branch.wall || dressing.bundle_m <= 0)
            continue;
        if (dressing.wall_m <= 0) {
            out.refused.push_back(phrase("{} to {}: no usual grommet takes a bundle of {}.", branch.from, branch.to,
                                         mm(dressing.bundle_m * 1e3)));
            continue;
        }
        const drawn::Figure f = holeFigure(branch, dressing);
        if (f.width_mm + 2 * kEdge_mm + 2 > paper.wide_mm || f.height_mm + kTop_mm + 2 * kEdge_mm > paper.tall_mm) {
            out.refused.push_back(phrase("{} to {}: a hole of {} is larger than the paper.", branch.from, branch.to,
                                         mm(dressing.wall_m * 1e3)));
            continue;
        }
        if (x > kEdge_mm + 2 && x + f.width_mm > paper.wide_mm - kEdge_mm) {
            x = kEdge_mm + 2;
            y += shelf + kApart_mm;
            shelf = 0;
        }
        if (y + f.height_mm > paper.tall_mm - kEdge_mm)
            nextPage();
        out.pages.back().place(f, {x, y});
        x += f.width_mm + kApart_mm;
        shelf = std::max(shelf, f.height_mm);
    }
    return out;
}

Pages stripSheets(const std::vector<materials::Cut>& cuts, const Size& paper)
{
    std::map<int, std::vector<std::string>> ends; // by tenths of a mm
    for (const materials::Cut& cut : cuts)
        for (const auto& [strip, place] : {std::pair{cut.stripFrom_m, cut.from}, {cut.stripTo_m, cut.to}})
            ends[static_cast<int>(std::lround(strip * 1e4))].push_back(place + " (" + cut.wire.value + ")");
    Pages out;
    constexpr double kRow_mm = 16, kBar_mm = 5, kTop_mm = 22;
    double y = paper.tall_mm;
    for (const auto& [tenths, places] : ends) {
        if (y + kRow_mm > paper.tall_mm - kEdge_mm) {
            out.pages.push_back(blank(paper, phrase("Strip lengths")));
            drawn::Figure& f = out.pages.back();
            f.words({kEdge_mm + 2, kEdge_mm + 5}, phrase("Strip lengths"), 4.4).bold = true;
            f.words({kEdge_mm + 2, kEdge_mm + 11},
                    phrase("Lay the wire on the bar, its end at the left: insulation comes off up to the right edge."),
                    2.8);
            y = kEdge_mm + kTop_mm;
        }
        drawn::Figure& f = out.pages.back();
        const double strip = tenths / 10.0, left = kEdge_mm + 2, beside = left + std::max(24.0, strip + 4);
        f.box({left, y}, strip, kBar_mm, Ink::Fill, Ink::Line, 0.15);
        f.shapes.back().about = "strip " + units::formatNumber(strip, 1);
        drawn::Words& length = f.words({beside, y + 4}, mm(strip), 3.6);
        length.bold = true;
        length.even = true;
        f.words({beside + 22, y + 4},
                places.size() == 1 ? phrase("one end") : phrase("{} ends", std::to_string(places.size())), 3.2);
        std::string named;
        for (const std::string& p : places)
            named += (named.empty() ? "" : ", ") + p;
        const auto letters = static_cast<size_t>((paper.wide_mm - 2 * kEdge_mm - 4) / (0.56 * 2.4));
        f.words({left, y + kBar_mm + 4.5}, drawn::shortened(named, letters), 2.4).ink = Ink::Soft;
        y += kRow_mm;
    }
    return out;
}

} // namespace vicegrip::sheets
