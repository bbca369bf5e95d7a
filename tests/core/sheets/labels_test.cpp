#include "core/base/write_file.h"
#include "core/drawn/figure_pdf.h"
#include "core/drawn/svg.h"
#include "core/parts/conductor.h"
#include "core/sheets/print.h"
#include "core/sheets/templates.h"
#include "tests/support/petrel.h"
#include "tests/support/tool.h"

#include <cmath>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <numbers>
#include <sstream>

namespace vicegrip {
namespace {

using sheets::Kind;
using sheets::LabelForm;
using sheets::LabelStock;

/// A page as grey values, by another program: a PGM of so many dots to the inch.
struct Grey
{
    int wide = 0, tall = 0;
    std::string dots;

    [[nodiscard]] bool dark(int x, int y) const
    {
        return static_cast<unsigned char>(dots[static_cast<size_t>(y * wide + x)]) < 128;
    }
};

constexpr int kDpi = 300;

int pixels(double mm)
{
    return static_cast<int>(std::lround(mm / 25.4 * kDpi));
}

Grey rendered(const std::vector<drawn::Figure>& pages)
{
    const auto pdf = drawn::pdfOf(pages, "sheets", "");
    EXPECT_TRUE(pdf);
    const test::Written file("sheets.pdf", *pdf);
    const test::Said said =
        test::tool("pdftoppm -r " + std::to_string(kDpi) + " -gray -singlefile " + file.path() + " | cat");
    std::istringstream in(said.out);
    std::string magic;
    int most = 0;
    Grey out;
    in >> magic >> out.wide >> out.tall >> most;
    in.get();
    EXPECT_EQ(magic, "P5");
    out.dots.assign(std::istreambuf_iterator<char>(in), {});
    EXPECT_EQ(out.dots.size(), static_cast<size_t>(out.wide * out.tall));
    return out;
}

std::vector<materials::Cut> petrelCuts()
{
    return materials::cutList(test::petrel());
}

/// Words that are about a wire, page by page.
std::vector<const drawn::Words*> wordsAbout(const sheets::Labels& labels, const std::string& about)
{
    std::vector<const drawn::Words*> out;
    for (const drawn::Figure& page : labels.pages)
        for (const drawn::Shape& s : page.shapes)
            if (s.about == about)
                out.push_back(&std::get<drawn::Words>(s.what));
    return out;
}

TEST(Rule, IsAHundredMillimetresBothWaysOnPaper)
{
    const Grey page = rendered({sheets::rulerSheet(sheets::kA4)});
    EXPECT_NEAR(page.wide, pixels(210), 1);
    EXPECT_NEAR(page.tall, pixels(297), 1);
    // So far off the rule only the two heavy marks go: the middles of what is dark there.
    const auto marks = [&](bool along) {
        std::vector<double> out;
        const int across = pixels(22 - 5.5);
        int from = -1;
        for (int at = pixels(18); at < pixels(135); ++at) {
            const bool dark = along ? page.dark(at, across) : page.dark(across, at);
            if (dark && from < 0)
                from = at;
            if (!dark && from >= 0) {
                out.push_back((from + at - 1) / 2.0);
                from = -1;
            }
        }
        return out;
    };
    for (const bool along : {true, false}) {
        const auto found = marks(along);
        ASSERT_EQ(found.size(), 2U);
        EXPECT_NEAR(found[1] - found[0], 100 / 25.4 * kDpi, 1.0);
    }
}

TEST(Holes, AreAsWideAsTheDrill)
{
    job::Job job = test::petrel();
    ASSERT_FALSE(job.branches.empty());
    for (job::Branch& b : job.branches)
        b.wall = false;
    auto stretches = branches::stretches(job);
    const auto thick =
        std::ranges::max_element(stretches, {}, [](const branches::Stretch& s) { return s.dressing.bundle_m; });
    const auto at = static_cast<size_t>(thick - stretches.begin());
    job.branches[at].wall = true;
    const sheets::Pages pages = sheets::holeSheets(job, stretches, sheets::kA4);
    ASSERT_EQ(pages.pages.size(), 1U);
    EXPECT_THAT(pages.refused, testing::IsEmpty());
    // By rendering: the outermost dark dots to both sides of the ring's centre, on its own line of dots a little off
    // it.
    const drawn::Stroke* ring = nullptr;
    for (const drawn::Shape& s : pages.pages[0].shapes)
        if (s.about.starts_with("hole "))
            ring = &std::get<drawn::Stroke>(s.what);
    ASSERT_NE(ring, nullptr);
    double left = 1e9, right = 0, y = 0;
    for (const drawn::At& p : ring->points) {
        left = std::min(left, p.x);
        right = std::max(right, p.x);
        y += p.y / static_cast<double>(ring->points.size());
    }
    const double drilled = stretches[at].dressing.wall_m * 1e3;
    EXPECT_NEAR(right - left, drilled, 1e-6);
    const Grey page = rendered(pages.pages);
    const int line = pixels(y + 1); // beside the cross
    int first = -1, last = -1;
    for (int x = pixels(left) - 20; x < pixels(right) + 20; ++x)
        if (page.dark(x, line)) {
            first = first < 0 ? x : first;
            last = x;
        }
    const double chord = 2 * std::sqrt(drilled * drilled / 4 - 1);
    EXPECT_NEAR((last - first + 1) / static_cast<double>(kDpi) * 25.4, chord + 0.2, 0.2);
}

/// Two for each wire, in the order it is cut, on both halves of a flag.
TEST(Labels, AreThoseOfTheCutListInItsOrder)
{
    const job::Job job = test::petrel();
    const auto cuts = petrelCuts();
    const LabelStock stock{.label = {100, 12}};
    const auto labels = sheets::labelSheets(job, cuts, stock);
    ASSERT_TRUE(labels);
    EXPECT_THAT(labels->tooSmallFor, testing::IsEmpty());
    EXPECT_EQ(labels->count, static_cast<int>(2 * job.wires.size()));
    std::vector<std::string> order;
    for (const drawn::Figure& page : labels->pages)
        for (const drawn::Shape& s : page.shapes)
            if (s.about.starts_with("wire ") && (order.empty() || order.back() != s.about))
                order.push_back(s.about);
    ASSERT_EQ(order.size(), cuts.size());
    for (size_t i = 0; i < cuts.size(); ++i)
        EXPECT_EQ(order[i], "wire " + cuts[i].wire.value);
    for (const job::Wire& w : job.wires) {
        const auto words = wordsAbout(*labels, "wire " + w.id.value);
        ASSERT_EQ(words.size() % 4, 0U) << w.id.value; // two ends, two halves
        EXPECT_EQ(words.front()->text, w.id.value + " " + w.colour);
        std::string all;
        for (size_t i = 0; i < words.size() / 4; ++i)
            all += words[i]->text + "|";
        EXPECT_LT(all.find(w.from.owner), all.find(">")) << all; // this end first, then where it goes
        EXPECT_THAT(all.substr(all.find('>')), testing::HasSubstr(w.to.owner));
    }
}

/// No word leaves its label, none lies on the wire in a flag's fold, and none is smaller than can be read.
TEST(Labels, WordsStayOnTheirLabel)
{
    const job::Job job = test::petrel();
    const auto cuts = petrelCuts();
    for (const LabelForm form : {LabelForm::Flag, LabelForm::Wrap})
        for (const sheets::Size size : {sheets::Size{50, 9}, {38, 21}, {25, 25}, {70, 12}}) {
            LabelStock stock{.form = form, .label = size};
            const auto grid = sheets::gridOf(stock);
            ASSERT_TRUE(grid);
            const auto labels = sheets::labelSheets(job, cuts, stock);
            ASSERT_TRUE(labels);
            EXPECT_EQ(labels->count + 2 * static_cast<int>(labels->tooSmallFor.size()),
                      static_cast<int>(2 * cuts.size()));
            std::map<std::string, double> areas;
            for (const job::Wire& w : job.wires)
                areas["wire " + w.id.value] = w.area_m2;
            for (const drawn::Figure& page : labels->pages)
                for (const drawn::Shape& s : page.shapes) {
                    if (s.about.empty())
                        continue;
                    const auto& w = std::get<drawn::Words>(s.what);
                    EXPECT_GE(w.size_mm, sheets::kLeastType_mm - 1e-9);
                    const double half = drawn::evenWidth(w.text, w.size_mm) / 2;
                    const double inLabel = std::fmod(w.at.x - grid->left_mm, size.wide_mm);
                    EXPECT_GE(inLabel - half, 0) << w.text;
                    EXPECT_LE(inLabel + half, size.wide_mm) << w.text;
                    if (form == LabelForm::Flag) {
                        const double girth = std::numbers::pi * parts::outerDiameter(areas.at(s.about)) * 1e3;
                        EXPECT_GE(std::abs(inLabel - size.wide_mm / 2) - half, girth / 2) << w.text;
                    }
                    EXPECT_GE(w.at.x - half, sheets::kEdge_mm - 1e-9);
                    EXPECT_LE(w.at.x + half, 210 - sheets::kEdge_mm + 1e-9);
                    EXPECT_LE(w.at.y, 297 - sheets::kEdge_mm + 1e-9);
                }
        }
}

TEST(Labels, WhatIsTooSmallIsNamedWithWhatWouldDo)
{
    const job::Job job = test::petrel();
    const auto cuts = petrelCuts();
    for (const LabelForm form : {LabelForm::Flag, LabelForm::Wrap}) {
        LabelStock stock{.form = form, .label = {20, 6}};
        const auto labels = sheets::labelSheets(job, cuts, stock);
        ASSERT_TRUE(labels);
        ASSERT_FALSE(labels->tooSmallFor.empty());
        const std::string sentence = sheets::tooSmallText(*labels);
        EXPECT_THAT(sentence, testing::HasSubstr("w39")); // 25 mm² to the battery
        // What it names does do for each alone, and half a mm less does not.
        for (const sheets::TooSmall& t : labels->tooSmallFor) {
            const auto only = std::ranges::find(cuts, t.wire, &materials::Cut::wire);
            stock.label = t.needed;
            EXPECT_THAT(sheets::labelSheets(job, {*only}, stock)->tooSmallFor, testing::IsEmpty()) << t.wire.value;
            stock.label = {t.needed.wide_mm - 1, t.needed.tall_mm};
            EXPECT_THAT(sheets::labelSheets(job, {*only}, stock)->tooSmallFor, testing::SizeIs(1)) << t.wire.value;
        }
    }
}

/// A sheet of 65 labels of 38.1 x 21.2 mm on A4, five across and thirteen down: measured on one (no source).
TEST(Labels, ABoughtSheetHasAsManyAsItHas)
{
    LabelStock stock{.label = {38.1, 21.2}, .gap = {2.5, 0}, .margin = sheets::Size{4.75, 10.7}};
    const auto grid = sheets::gridOf(stock);
    ASSERT_TRUE(grid);
    EXPECT_EQ(grid->across, 5);
    EXPECT_EQ(grid->down, 13);
    // Those that are gone from the first sheet are left out.
    stock.used = 60;
    const auto labels = sheets::labelSheets(test::petrel(), petrelCuts(), stock);
    ASSERT_TRUE(labels);
    const size_t all = static_cast<size_t>(labels->count) + 60;
    EXPECT_EQ(labels->pages.size(), (all + 64) / 65);
    stock.used = 65;
    EXPECT_FALSE(sheets::labelSheets(test::petrel(), petrelCuts(), stock));
    stock.label = {250, 20};
    EXPECT_FALSE(sheets::gridOf(stock));
}

TEST(PaperSize, IsReadAsPeopleTypeIt)
{
    using sheets::Size;
    EXPECT_EQ(*sheets::sizeTyped("A4", 50, 1200), (Size{210, 297}));
    EXPECT_EQ(*sheets::sizeTyped("38 x 21", 3, 300), (Size{38, 21}));
    EXPECT_EQ(*sheets::sizeTyped("38*21 mm", 3, 300), (Size{38, 21}));
    EXPECT_EQ(*sheets::sizeTyped("38,1\u00d721,2", 3, 300), (Size{38.1, 21.2}));
    EXPECT_NEAR(sheets::sizeTyped("1.5 in x 0.75 in", 3, 300)->wide_mm, 38.1, 1e-9);
    for (const char* bad :
         {"", "x", "38", "38 x", "a x b", "38 x 21 x 4", "38 V x 21", "1e9 x 5", "-5 x 20", "nan x 4"})
        EXPECT_FALSE(sheets::sizeTyped(bad, 3, 300)) << bad;
}

TEST(FaceSheets, HoldEveryKnownFaceAndAreAsLargeAsThePart)
{
    const job::Job job = test::petrel();
    const sheets::Pages pages = sheets::faceSheets(job, sheets::kA4);
    EXPECT_THAT(pages.refused, testing::IsEmpty());
    std::map<std::string, int> places;
    for (const drawn::Figure& page : pages.pages)
        for (const drawn::Shape& s : page.shapes)
            if (s.about.starts_with("place ")) {
                ++places[s.about];
                for (const drawn::At& p : std::get<drawn::Stroke>(s.what).points) {
                    EXPECT_GE(p.x, sheets::kEdge_mm);
                    EXPECT_LE(p.x, page.width_mm - sheets::kEdge_mm);
                    EXPECT_LE(p.y, page.height_mm - sheets::kEdge_mm);
                }
            }
    for (const job::Connector& c : job.connectors)
        if (c.layout) {
            for (const std::string& cavity : c.cavities)
                EXPECT_EQ(places["place " + c.id + "." + cavity], 2) << c.id << " " << cavity; // both sides
        }
    // Paper that is too small says so and keeps the rest.
    const sheets::Pages small = sheets::faceSheets(job, {60, 60});
    EXPECT_FALSE(small.refused.empty());
    EXPECT_THAT(small.refused.front(), testing::HasSubstr("takes paper of"));
}

TEST(StripBars, AreAsLongAsTheyAreNamed)
{
    const auto cuts = petrelCuts();
    const sheets::Pages pages = sheets::stripSheets(cuts, sheets::kA4);
    std::set<std::string> expected, found;
    for (const materials::Cut& c : cuts)
        for (const double strip : {c.stripFrom_m, c.stripTo_m})
            expected.insert("strip " + units::formatNumber(strip * 1e3, 1));
    for (const drawn::Figure& page : pages.pages)
        for (const drawn::Shape& s : page.shapes)
            if (s.about.starts_with("strip ")) {
                found.insert(s.about);
                const auto& bar = std::get<drawn::Stroke>(s.what).points;
                EXPECT_NEAR(bar[1].x - bar[0].x, std::stod(s.about.substr(6)), 1e-9);
            }
    EXPECT_EQ(found, expected);
}

/// A second renderer of the SVG finds a bar of the rule as long as the PDF's.
TEST(Sheets, AreTheSameAsSvg)
{
    const std::string svg = drawn::svgOf(sheets::rulerSheet({120, 150}));
    const test::Written file("rule.svg", svg);
    const test::Said said = test::tool("rsvg-convert -d 300 -p 300 " + file.path() + " | head -c 24 | od -An -tx1");
    // The header of a PNG bears its size (ISO/IEC 15948): 120 mm by 150 mm at 300 dots to the inch.
    std::istringstream in(said.out);
    std::vector<int> bytes;
    for (std::string hex; in >> hex;)
        bytes.push_back(std::stoi(hex, nullptr, 16));
    ASSERT_GE(bytes.size(), 24U);
    EXPECT_NEAR(bytes[18] * 256 + bytes[19], pixels(120), 1);
    EXPECT_NEAR(bytes[22] * 256 + bytes[23], pixels(150), 1);
}

} // namespace
} // namespace vicegrip
