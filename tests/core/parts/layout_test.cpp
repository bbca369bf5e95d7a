#include "core/parts/describe.h"
#include "core/parts/library.h"
#include "tests/support/library.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

/// Connector faces: numbering, both sides of one layout, and how a person counts.
namespace vicegrip::parts {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;

const Layout& layout(const char* id)
{
    const Layout* found = find(test::library(), LayoutId{id});
    EXPECT_NE(found, nullptr) << id;
    static const Layout kNone;
    return found == nullptr ? kNone : *found;
}

Layout described(const std::string& rows)
{
    const auto read =
        layoutFromText("name: Test\nterminal: blade-1.5\nrows: " + rows + "\n", test::library().terminals);
    EXPECT_TRUE(read.part) << (read.complaints.empty() ? "" : read.complaints.front().sentence);
    return read.part.value_or(Layout{});
}

/// Common practice, no source: rows that start at 1 and 17, at 1 and 33, and a plug printed 1/13 and 14/21.
TEST(Face, NumbersFallWhereInstallersCountThem)
{
    EXPECT_EQ(countedTo(layout("block-60"), Face::Wire, 2, 4), "20");
    EXPECT_EQ(countedTo(layout("wide-64"), Face::Wire, 2, 6), "38");
    std::vector<std::string> printed;
    for (const Cavity& c : cavities(layout("block-21")))
        if (c.printed)
            printed.push_back(c.name);
    EXPECT_THAT(printed, ElementsAre("1", "13", "14", "21"));
}

TEST(Face, TheMatingFaceIsTheMirrorOfTheWireSide)
{
    for (const Layout& l : test::library().layouts) {
        const FaceSize size = sizeOf(l);
        for (const Cavity& c : cavities(l)) {
            const auto wire = countOf(l, c.name, Face::Wire), mating = countOf(l, c.name, Face::Mating);
            ASSERT_TRUE(wire && mating) << l.id.value << " " << c.name;
            EXPECT_EQ(wire->fromLeft, mating->fromRight);
            EXPECT_EQ(wire->row, mating->row);
            EXPECT_EQ(wire->leftmost, mating->rightmost);
            EXPECT_EQ(countedTo(l, Face::Wire, wire->row, wire->fromLeft), c.name);
            EXPECT_EQ(countedTo(l, Face::Mating, mating->row, mating->fromLeft), c.name);
            EXPECT_NEAR(onFace(c.x_m, size, Face::Wire) + onFace(c.x_m, size, Face::Mating), size.width_m, 1e-12);
        }
    }
}

TEST(Face, ACountIsSpokenFromTheNearerEnd)
{
    const Layout l = described("1-15; 16-26; 27-38 staggered");
    EXPECT_EQ(spoken(*countOf(l, "21", Face::Wire)), "second row, 6th from the left; the row starts at 16");
    EXPECT_EQ(spoken(*countOf(l, "14", Face::Wire)), "first row, 2nd from the right; the row ends at 15");
    EXPECT_EQ(spoken(*countOf(l, "14", Face::Mating)), "first row, 2nd from the left; the row starts at 15");
    const auto count = countOf(l, "21", Face::Wire);
    EXPECT_EQ(count->printed, "16");
    EXPECT_EQ(count->steps, 5);
    EXPECT_FALSE(countOf(l, "39", Face::Wire));
    EXPECT_EQ(countedTo(l, Face::Wire, 2, 12), "");
}

TEST(Face, RowsAreReadAsTheyAreSpoken)
{
    const Layout l = described("1-15; 16-26; 27-38 staggered; print all");
    ASSERT_EQ(l.rows.size(), 3U);
    EXPECT_EQ(l.rows[2].offset, 0.5);
    EXPECT_EQ(l.printed, Printed::All);
    EXPECT_EQ(cavities(l).size(), 38U);
    EXPECT_EQ(l.id.value, "test");

    const Layout back = described("6-1; 7-9 gap 1, 10-11 of blade-2.8 pitch 7 mm");
    EXPECT_EQ(cavities(back).front().name, "6") << "numbers that run from right to left";
    const auto all = cavities(back);
    const auto at = [&](const char* name) { return *std::ranges::find(all, name, &Cavity::name); };
    EXPECT_NEAR(at("7").x_m, 1.5 * 4e-3, 1e-12) << "behind a gap of one pitch";
    EXPECT_NEAR(at("10").x_m, 4 * 4e-3 + 3.5e-3, 1e-12);
    EXPECT_EQ(at("10").terminal->blade_m, 2.8e-3);
    EXPECT_EQ(at("7").terminal->blade_m, 1.5e-3);
}

TEST(Face, LettersCountAsNumbersDo)
{
    const auto read = layoutFromText("name: L\nletters: yes\nterminal: blade-1.5\nrows: A-K; L-W\nmissing: D",
                                     test::library().terminals);
    ASSERT_TRUE(read.part) << read.complaints.front().sentence;
    EXPECT_EQ(cavities(*read.part).size(), 22U);
    EXPECT_EQ(countedTo(*read.part, Face::Wire, 1, 4), "E") << "D is missing";
    EXPECT_EQ(cavityName(*read.part, 27), "AA");
    EXPECT_EQ(cavityNumber(true, "AA"), 27);
    const Layout plain = plainRow({"A", "B", "C"});
    EXPECT_EQ(countedTo(plain, Face::Mating, 1, 1), "C");
}

TEST(Face, NonsenseIsSaidBesideItsLineAndTheRestIsKept)
{
    const auto complaint = [](const std::string& lines) {
        const auto read = layoutFromText(lines, test::library().terminals);
        EXPECT_FALSE(read.part) << lines;
        return read.complaints.empty() ? std::string()
                                       : std::to_string(read.complaints[0].line) + " " + read.complaints[0].sentence;
    };
    const std::string head = "name: T\nterminal: blade-1.5\n";
    EXPECT_THAT(complaint(head + "rows: 1-6; 6-12"), HasSubstr("cavity 6 is there twice"));
    EXPECT_THAT(complaint(head + "rows: 1-6; 7-x"), HasSubstr("3 \"x\" is no cavity"));
    EXPECT_THAT(complaint(head + "rows: 1-6 sideways"), HasSubstr("3 \"sideways\" is not understood"));
    EXPECT_THAT(complaint(head + "rows: 1-6\nmissing: 9"), HasSubstr("no row has a place 9"));
    EXPECT_THAT(complaint(head + "rows: 1-6\npitch: 0"), HasSubstr("above 0 mm"));
    EXPECT_THAT(complaint("name: T\nterminal: gold\nrows: 1-6"), HasSubstr("2 no terminal family is called \"gold\""));
    EXPECT_THAT(complaint(head + "rows: 1-999"), HasSubstr("300"));
    EXPECT_THAT(complaint(head), HasSubstr("needs rows"));
    EXPECT_THAT(complaint(head + "rows: 1-4 pitch 0.5 mm, 5-6 of blade-6.3-sealed"), HasSubstr("on top of each other"));
}

TEST(Face, EveryShippedOneGoesToLinesAndBack)
{
    EXPECT_GE(test::library().layouts.size(), 12U);
    size_t least = 300, most = 0;
    for (const Layout& l : test::library().layouts) {
        const auto back = layoutFromText(textOf(l), test::library().terminals);
        ASSERT_TRUE(back.part) << l.id.value << ": " << back.complaints.front().sentence;
        EXPECT_EQ(fields::toJson(*back.part), fields::toJson(l)) << l.id.value;
        least = std::min(least, cavities(l).size());
        most = std::max(most, cavities(l).size());
    }
    EXPECT_EQ(least, 2U);
    EXPECT_EQ(most, 80U);
}

TEST(Face, APlugWithOtherCavitiesThanItsFaceIsRefused)
{
    const Layout& l = layout("row-3");
    EXPECT_TRUE(checkCavities(l, {"1", "2", "3"}));
    EXPECT_EQ(checkCavities(l, {"1", "2", "4"}).error().place.pointer, "/cavities/2");
    EXPECT_THAT(checkCavities(l, {"1", "2"}).error().sentence, HasSubstr("has 3 cavities, and 2 are listed"));
}

/// Faces of any shape: every cavity is counted to from both faces and both ends, and the lines give the face back.
TEST(Face, AnyFaceIsCountedAndWrittenAsItIs)
{
    std::mt19937 random(4); // NOLINT(bugprone-random-generator-seed)
    const auto& families = test::library().terminals;
    for (int round = 0; round < 200; ++round) {
        Layout l;
        l.name = "Any";
        l.id.value = "any";
        l.letters = random() % 4 == 0;
        l.pitch_m = 7e-3;
        l.rowPitch_m = 7e-3;
        l.printed = static_cast<Printed>(random() % 3);
        l.key = static_cast<KeySide>(random() % 5);
        l.terminals = {families[random() % families.size()]};
        int next = 1;
        for (unsigned row = 0; row < 1 + random() % 4; ++row) {
            Row r;
            r.offset = random() % 3 == 0 ? 0.5 : 0;
            for (unsigned run = 0; run < 1 + random() % 3; ++run) {
                const int many = 1 + static_cast<int>(random() % 9);
                parts::Run each;
                each.first = next;
                each.last = next + many - 1;
                next += many;
                if (random() % 3 == 0)
                    std::swap(each.first, each.last);
                each.gap = random() % 4 == 0 ? 1 : 0;
                r.runs.push_back(each);
            }
            l.rows.push_back(std::move(r));
        }
        if (next > 4 && random() % 2 == 0)
            l.missing = {2};
        ASSERT_TRUE(checkLayout(l)) << checkLayout(l).error().text();
        const auto back = layoutFromText(textOf(l), families);
        ASSERT_TRUE(back.part) << textOf(l) << back.complaints.front().sentence;
        EXPECT_EQ(fields::toJson(*back.part), fields::toJson(l)) << textOf(l);
        EXPECT_TRUE(checkCavities(l, cavityNames(l)));
        for (const std::string& name : cavityNames(l))
            for (Face face : {Face::Wire, Face::Mating}) {
                const auto count = countOf(l, name, face);
                ASSERT_TRUE(count) << name;
                EXPECT_EQ(countedTo(l, face, count->row, count->fromLeft), name);
                EXPECT_EQ(count->fromLeft + count->fromRight, count->inRow + 1);
                EXPECT_EQ(count->printed.empty(), l.printed == Printed::None);
                if (l.printed == Printed::All) {
                    EXPECT_EQ(count->steps, 0) << "it is moulded beside it";
                }
            }
    }
}

TEST(TerminalFile, EmptyRangesAreRefused)
{
    auto json = nlohmann::json(fields::toJson(test::library().terminals.front()));
    EXPECT_TRUE(readTerminal(json));
    json["most_mm2"] = json["least_mm2"];
    EXPECT_EQ(readTerminal(json).error().place.pointer, "/most_mm2");
    json["most_mm2"] = "thick";
    EXPECT_EQ(readTerminal(json).error().code, ErrorCode::Schema);
}

} // namespace
} // namespace vicegrip::parts
