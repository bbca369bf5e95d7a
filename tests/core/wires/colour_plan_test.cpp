#include "core/pinning/pinning.h"
#include "core/wires/colour.h"
#include "core/wires/colour_plan.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <random>

/// Colours that nobody mixes up in a plug.
namespace vicegrip::wires {
namespace {

using testing::HasSubstr;

void paint(job::Job& job, const char* wire, const char* colour)
{
    std::ranges::find(job.wires, job::WireId{wire}, &job::Wire::id)->colour = colour;
}

TEST(WireColours, TwoAlikeSideBySideAreSaidOnce)
{
    job::Job job = test::petrel();
    for (const auto& [wire, advice] : adviseColours(job))
        EXPECT_EQ(advice.why, "") << wire.value;
    paint(job, "w6", "GY"); // A7, beside the intake sensor's GY in A8
    const auto advice = adviseColours(job);
    EXPECT_THAT(advice.at({"w6"}).why, HasSubstr("A.8"));
    EXPECT_EQ(advice.at({"w8"}).why, "") << "one of the two gives way";
    EXPECT_NE(advice.at({"w6"}).colour, "GY");
    EXPECT_EQ(advice.at({"w5"}).colour, advice.at({"w6"}).colour) << "one conductor, one colour, through the bulkhead";
}

TEST(WireColours, OneConductorMayLieBesideItself)
{
    const job::Job job = test::petrel();
    EXPECT_EQ(adviseColours(job).at({"w30"}).why, "") << "the two power grounds, BK beside BK, are one conductor";
}

TEST(WireColours, WhatIsProposedClashesNoMore)
{
    std::mt19937 random(7);
    for (int trial = 0; trial < 20; ++trial) {
        job::Job job = test::petrel();
        static constexpr const char* kFew[] = {"BU", "GN", "YE"};
        for (job::Wire& w : job.wires)
            if (!w.colour.starts_with("RD") && !w.colour.starts_with("BK") && !w.colour.starts_with("BN"))
                w.colour = kFew[random() % 3];
        const auto first = adviseColours(job);
        for (job::Wire& w : job.wires)
            w.colour = first.at(w.id).colour;
        for (const auto& [wire, advice] : adviseColours(job))
            EXPECT_EQ(advice.why, "") << wire.value << " in trial " << trial;
        for (const job::Wire& w : job.wires)
            EXPECT_TRUE(parseColour(w.colour)) << w.colour;
    }
}

TEST(WireColours, AClashThatNothingMendsIsSaidAllTheSame)
{
    job::Job job = test::petrel();
    int number = 0;
    for (const char* feed : {"RD", "RD/WH", "RD/BU", "RD/GN", "RD/YE", "RD/BK"}) { // beside A8, every feed there is
        job.wires.push_back(
            {{"x" + std::to_string(number)}, {"A", "9"}, {"B", std::to_string(21 + number)}, 1, 0.5e-6, feed});
        ++number;
    }
    paint(job, "w7", "RD");
    paint(job, "w8", "RD");
    const ColourAdvice advice = adviseColours(job).at({"w8"});
    EXPECT_THAT(advice.why, HasSubstr("no colour is left"));
    EXPECT_EQ(advice.colour, "RD") << "nothing is proposed that clashes as well";
}

TEST(WireColours, ANewWireHasAColourNoOtherInItsPlugsHas)
{
    const job::Job job = test::petrel();
    const std::string colour = freeColour(job, {"MAP", "2"}, {"A", "9"});
    for (const job::Wire& w : job.wires)
        if (w.from.owner == "A" || w.to.owner == "A" || w.from.owner == "MAP" || w.to.owner == "MAP") {
            EXPECT_NE(w.colour, colour) << w.id.value;
        }
}

} // namespace
} // namespace vicegrip::wires
