#include "core/sheets/wire_labels.h"

#include "core/base/phrase.h"
#include "core/parts/conductor.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace vicegrip::sheets {
namespace {

using drawn::At;
using drawn::Ink;

constexpr double kMostType_mm = 3.2, kLeading = 1.25, kPad_mm = 0.8, kOverlap_mm = 2;

/// What one label has to bear.
struct Said
{
    std::string wire, colour, here, there;
    double around_mm = 0; ///< the wire's girth

    [[nodiscard]] Said fromTheOtherEnd() const { return {wire, colour, there, here, around_mm}; }
    /// In two lines or three: three are narrower.
    [[nodiscard]] std::vector<std::string> lines(bool three) const
    {
        if (three)
            return {wire + " " + colour, here, "> " + there};
        return {wire + " " + colour, here + " > " + there};
    }
};

double widest(const std::vector<std::string>& lines)
{
    double out = 0;
    for (const std::string& line : lines)
        out = std::max(out, drawn::evenWidth(line, 1));
    return out;
}

/// Where words may stand on a label: a flag's half, or all of what is wound round.
Size roomOn(const LabelStock& stock, const Said& said)
{
    const double wide =
        stock.form == LabelForm::Flag ? (stock.label.wide_mm - said.around_mm) / 2 : stock.label.wide_mm;
    return {wide - 2 * kPad_mm, stock.label.tall_mm - 2 * kPad_mm};
}

double typeFor(const std::vector<std::string>& lines, const Size& room)
{
    return std::min(
        {kMostType_mm, room.wide_mm / widest(lines), room.tall_mm / (kLeading * static_cast<double>(lines.size()))});
}

/// Up to whole halves of a mm.
double inHalves(double mm)
{
    return std::ceil(mm * 2 - 1e-9) / 2;
}

struct Laid
{
    std::vector<std::string> lines; ///< in the larger type
    double type_mm = 0;
    Size needed; ///< the least label that bears them
    bool fits = false;
};

Laid laidOut(const LabelStock& stock, const Said& said)
{
    constexpr double kHair = 1e-9;
    const Size room = roomOn(stock, said);
    const auto two = said.lines(false), three = said.lines(true);
    Laid out;
    out.lines = typeFor(two, room) >= typeFor(three, room) ? two : three;
    out.type_mm = typeFor(out.lines, room);
    const bool wraps = stock.form == LabelForm::Wrap;
    // Of what would do, the narrowest that is no taller than it has to be anyway.
    const auto tallOf = [&](const std::vector<std::string>& lines) {
        const double words = kLeading * kLeastType_mm * static_cast<double>(lines.size()) + 2 * kPad_mm;
        return wraps ? std::max(words, said.around_mm + kOverlap_mm) : words;
    };
    const auto& least = tallOf(three) <= std::max(stock.label.tall_mm, inHalves(tallOf(two))) + kHair ? three : two;
    const double wide = kLeastType_mm * widest(least) + 2 * kPad_mm;
    out.needed = {inHalves(wraps ? wide : 2 * wide + said.around_mm), inHalves(tallOf(least))};
    out.fits = out.type_mm >= kLeastType_mm - kHair && stock.label.tall_mm >= tallOf(out.lines) - kHair;
    return out;
}

/// A block of lines about the middle of a room whose upper left corner is there.
void block(drawn::Figure& f, const std::vector<std::string>& lines, double type, At corner, const Size& room,
           const std::string& about)
{
    const double step = type * kLeading;
    double y = corner.y + (room.tall_mm - step * static_cast<double>(lines.size())) / 2 + type * 0.95;
    for (size_t i = 0; i < lines.size(); ++i) {
        drawn::Words& words = f.words({corner.x + room.wide_mm / 2, y}, lines[i], type);
        words.even = true;
        words.bold = i == 0;
        words.align = drawn::Align::Middle;
        f.shapes.back().about = about;
        y += step;
    }
}

void label(drawn::Figure& f, const LabelStock& stock, const Said& said, const Laid& laid, At corner)
{
    const std::string about = "wire " + said.wire;
    const Size room = roomOn(stock, said);
    const auto& [lines, type, needed, fits] = laid;
    const double tall = stock.label.tall_mm, half = room.wide_mm + 2 * kPad_mm;
    if (!stock.margin)
        f.box(corner, stock.label.wide_mm, tall, std::nullopt, Ink::Faint, 0.1);
    if (stock.form == LabelForm::Flag) {
        for (const double left : {corner.x, corner.x + half + said.around_mm}) {
            block(f, lines, type, {left + kPad_mm, corner.y + kPad_mm}, room, about);
            const double fold = left == corner.x ? left + half : left; // the wire lies between the two
            for (const double end : {corner.y, corner.y + tall - 1})
                f.line({{fold, end}, {fold, end + 1}}, Ink::Soft, 0.15);
        }
        return;
    }
    const double high = type * kLeading * static_cast<double>(lines.size());
    const int times = std::max(1, static_cast<int>(room.tall_mm / high));
    for (int i = 0; i < times; ++i) {
        const double each = room.tall_mm / times;
        block(f, lines, type, {corner.x + kPad_mm, corner.y + kPad_mm + i * each}, {room.wide_mm, each}, about);
    }
}

std::string placeName(const job::PointRef& place)
{
    return place.cavity.empty() ? place.owner : place.owner + " " + place.cavity;
}

} // namespace

Result<Grid> gridOf(const LabelStock& stock)
{
    const auto along = [](double paper, double label, double gap, std::optional<double> margin) {
        constexpr double kHair = 0.5; // a sheet's own measures are rounded
        const double edge = margin.value_or(kEdge_mm);
        const int fit =
            static_cast<int>(std::floor((paper - 2 * edge + gap + (margin ? kHair : 1e-9)) / (label + gap)));
        return std::pair(fit, margin.value_or((paper - fit * (label + gap) + gap) / 2));
    };
    const Size gap = stock.gap, label = stock.label;
    const auto [across, left] = along(stock.paper.wide_mm, label.wide_mm, gap.wide_mm,
                                      stock.margin ? std::optional(stock.margin->wide_mm) : std::nullopt);
    const auto [down, top] = along(stock.paper.tall_mm, label.tall_mm, gap.tall_mm,
                                   stock.margin ? std::optional(stock.margin->tall_mm) : std::nullopt);
    if (across < 1 || down < 1)
        return fail(ErrorCode::Range, phrase("no label of {} fits on paper of {} with these margins", sizeText(label),
                                             sizeText(stock.paper)));
    return Grid{across, down, left, top};
}

Result<Labels> labelSheets(const job::Job& job, const std::vector<materials::Cut>& cuts, const LabelStock& stock)
{
    const auto grid = gridOf(stock);
    if (!grid)
        return tl::unexpected(grid.error());
    const int each = grid->across * grid->down;
    if (stock.used < 0 || stock.used >= each)
        return fail(ErrorCode::Range, phrase("a sheet has {} labels: {} cannot be gone from it", std::to_string(each),
                                             std::to_string(stock.used)));
    std::map<job::WireId, const job::Wire*> wires;
    for (const job::Wire& w : job.wires)
        wires[w.id] = &w;
    Labels out;
    int next = stock.used;
    for (const materials::Cut& cut : cuts) {
        const job::Wire& wire = *wires.at(cut.wire);
        Said said{cut.wire.value, cut.colour, placeName(wire.from), placeName(wire.to)};
        said.around_mm = std::numbers::pi * parts::outerDiameter(cut.area_m2) * 1e3;
        const Laid laid = laidOut(stock, said), farLaid = laidOut(stock, said.fromTheOtherEnd());
        if (!laid.fits || !farLaid.fits) {
            out.tooSmallFor.push_back({cut.wire,
                                       {std::max(laid.needed.wide_mm, farLaid.needed.wide_mm),
                                        std::max(laid.needed.tall_mm, farLaid.needed.tall_mm)}});
            continue;
        }
        for (const bool far : {false, true}) {
            const int place = next++ % each;
            if (place == 0 || out.pages.empty())
                out.pages.push_back({stock.paper.wide_mm, stock.paper.tall_mm, phrase("Wire labels"),
                                     phrase("Labels for both ends of each wire, in the order it is cut")});
            const double column = place % grid->across;
            const int row = place / grid->across;
            const At corner{grid->left_mm + column * (stock.label.wide_mm + stock.gap.wide_mm),
                            grid->top_mm + row * (stock.label.tall_mm + stock.gap.tall_mm)};
            label(out.pages.back(), stock, far ? said.fromTheOtherEnd() : said, far ? farLaid : laid, corner);
            ++out.count;
        }
    }
    return out;
}

std::string tooSmallText(const Labels& labels)
{
    if (labels.tooSmallFor.empty())
        return {};
    Size most;
    std::string names;
    for (const TooSmall& t : labels.tooSmallFor) {
        names += (names.empty() ? "" : ", ") + t.wire.value;
        most = {std::max(most.wide_mm, t.needed.wide_mm), std::max(most.tall_mm, t.needed.tall_mm)};
    }
    return phrase("These labels are too small for {}: {} would do for all of them.", names, sizeText(most));
}

} // namespace vicegrip::sheets
