#include "core/job/check.h"
#include "core/pasted/pasted_list.h"
#include "core/pasted/pasted_wires.h"
#include "core/units/shown.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <random>

/// Wires from a list that somebody has.
namespace vicegrip::pasted {
namespace {

using testing::HasSubstr;

TEST(PasteWires, TabsSemicolonsBarsAndGapsAreUnderstood)
{
    const job::Job job = test::petrel();
    for (const char* text :
         {"CLT.1\tB5\tbu/wh\t0.5\t1.2", "CLT 1; B5; BU-WH; 0,5; 120 cm", "clt-1 | b.5 | blue white | 20 AWG | 1,2 m",
          "Plug CLT 1   cavity B 5   BU/WH   0.5 mm²   1200 mm", "| CLT.1 | B5 | BU/WH | 0.5 | 1.2 |"}) {
        const auto read = pasteWires(job, text);
        ASSERT_TRUE(read) << text;
        ASSERT_EQ(read->size(), 1U) << text;
        ASSERT_TRUE(read->front().wire) << text << ": " << read->front().trouble;
        const job::Wire& w = *read->front().wire;
        EXPECT_EQ(w.from.text(), "CLT.1") << text;
        EXPECT_EQ(w.to.text(), "B.5") << text;
        EXPECT_EQ(w.colour, "BU/WH") << text;
        EXPECT_NEAR(w.area_m2 * 1e6, 0.5, 0.02) << text; // 20 AWG is 0.518 mm² (ASTM B258)
        EXPECT_NEAR(w.length_m, 1.2, 1e-9) << text;
    }
}

TEST(PasteWires, AHeadingNamesColumnsAndUnits)
{
    const job::Job job = test::petrel();
    const auto read =
        pasteWires(job, "\"Length [cm]\";To;From;\"Size (AWG)\";Remark;Color\n85;B6;\"TPS.2\";20;spare;GN\n");
    ASSERT_TRUE(read);
    ASSERT_EQ(read->size(), 1U);
    ASSERT_TRUE(read->front().wire) << read->front().trouble;
    EXPECT_EQ(read->front().line, 2);
    EXPECT_NEAR(read->front().wire->length_m, 0.85, 1e-9);
    EXPECT_EQ(read->front().wire->from.text(), "TPS.2");
    EXPECT_EQ(read->front().wire->colour, "GN");
}

/// Where people read feet and gauges a list from elsewhere must say what it has.
TEST(PasteWires, ABareNumberIsRefusedWhereItCouldBeEither)
{
    const job::Job job = test::petrel();
    ASSERT_TRUE(units::setShown({units::System::US, {}}));
    const auto bare = pasteWires(job, "CLT.1\tB5\tbu/wh\t0.5\t1.2\n");
    const auto said = pasteWires(job, "CLT.1\tB5\tbu/wh\t20 AWG\t3 ft 4 in\n");
    const auto headed = pasteWires(job, "From;To;Colour;Size (AWG);Length [cm]\nCLT.1;B5;BU/WH;20;85\n");
    ASSERT_TRUE(units::setShown({}));
    EXPECT_FALSE(bare->front().wire);
    EXPECT_THAT(bare->front().trouble, HasSubstr("has no unit"));
    ASSERT_TRUE(said->front().wire) << said->front().trouble;
    EXPECT_NEAR(said->front().wire->length_m, 40 * 0.0254, 1e-9);
    ASSERT_TRUE(headed->front().wire) << headed->front().trouble;
    EXPECT_NEAR(headed->front().wire->length_m, 0.85, 1e-9);
}

TEST(PasteWires, AHeadingThatIsAUnitIsOne)
{
    const job::Job job = test::petrel();
    const auto read = pasteWires(job, "from;to;gauge;cm\nTPS.2;B6;20;40\n");
    ASSERT_TRUE(read);
    ASSERT_TRUE(read->front().wire) << read->front().trouble;
    EXPECT_NEAR(read->front().wire->length_m, 0.4, 1e-9) << "not 40 m";
    EXPECT_NEAR(read->front().wire->area_m2 * 1e6, 0.518, 1e-3) << "20 AWG (ASTM B258), not 20 mm²";
}

TEST(PasteWires, ABadLineSaysWhyAndTheRestIsKept)
{
    const job::Job job = test::petrel();
    const auto read = pasteWires(job, "# somebody's list\n"
                                      "CLT.1;B5;BU;0.5;1.2\n"
                                      "CLT.9;B6;BU;0.5;1.2\n" // no such cavity
                                      "XYZ.1;B6;BU;0.5;1.2\n" // no such plug
                                      "S2;S2;BU;0.5;1.2\n" // both ends in one place
                                      "TPS.2;B6;mauve;0.5;1.2\n"
                                      "TPS.2;B6;BU;0.5;0\n" // no length
                                      "TPS.2;B6;BU;0.5;3 bar\n" // a stray unit
                                      "B5;CLT.1;GN;0.5;2\n" // the same wire, the other way round
                                      "MAP.2;BE.2;GN;0.5;1\n" // drawn already
                                      "IAT;B7;GN;0.5;1\n" // which cavity?
                                      "TPS.3;B7\n"); // nothing else said
    ASSERT_TRUE(read);
    ASSERT_EQ(read->size(), 11U);
    const std::vector<std::string> said = {
        "",   "CLT has no cavity 9", "no plug or joint", "both ends", "colour", "1 cm", "", "line 2",
        "w1", "which cavity",        "no colour"};
    for (size_t i = 0; i < said.size(); ++i) {
        EXPECT_THAT((*read)[i].trouble, HasSubstr(said[i])) << (*read)[i].text;
        EXPECT_EQ((*read)[i].wire.has_value(), i == 0 || i == 10) << (*read)[i].text << ": " << (*read)[i].trouble;
    }
    EXPECT_THAT((*read)[6].trouble, testing::Not(testing::IsEmpty()));
    job::Job drawn = job;
    EXPECT_EQ(drawPasted(drawn, *read), 2);
    EXPECT_EQ(drawn.wires.size(), job.wires.size() + 2);
    EXPECT_TRUE(job::check(drawn));
}

TEST(PasteWires, TooMuchIsRefused)
{
    const job::Job job = test::petrel();
    EXPECT_FALSE(pasteWires(job, std::string(2 << 20, 'x')));
    std::string lines;
    for (int i = 0; i < 6000; ++i)
        lines += "a;b\n";
    EXPECT_FALSE(pasteWires(job, lines));
    EXPECT_TRUE(pasteWires(job, "")->empty());
}

TEST(PasteWires, WhateverIsPastedLeavesADrawingThatHolds)
{
    const job::Job job = test::petrel();
    std::mt19937 random(11);
    static constexpr const char* kBits[] = {"CLT.1", "B5",    "\t",   ";",  "|",      "  ",   "\n",   "BU/WH",
                                            "0,5",   "1.2 m", "-",    "S2", "A7",     "BE.",  "é",    "\xff",
                                            "\"",    "9e9",   "from", "to", "length", "\r\n", "BAT-", "12"};
    for (int trial = 0; trial < 400; ++trial) {
        std::string text;
        for (int i = 0; i < 40; ++i)
            text += kBits[random() % std::size(kBits)];
        const auto read = pasteWires(job, text);
        ASSERT_TRUE(read);
        job::Job drawn = job;
        (void)drawPasted(drawn, *read);
        EXPECT_TRUE(job::check(drawn)) << text;
    }
}

} // namespace
} // namespace vicegrip::pasted
