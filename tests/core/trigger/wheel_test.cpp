#include "core/trigger/trigger.h"

#include <gmock/gmock.h>

namespace vicegrip::trigger {
namespace {

using testing::DoubleNear;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::Pointwise;

Wheel wheelOf(const char* line)
{
    const auto read = readWheel(line);
    EXPECT_TRUE(read) << line << ": " << (read ? "" : read.error().text());
    return read.value_or(Wheel{});
}

TEST(Wheel, ThirtySixMinusOne)
{
    const Wheel w = wheelOf("36-1");
    ASSERT_EQ(w.teeth.size(), 35U);
    EXPECT_EQ(w.turn_deg, 360);
    EXPECT_EQ(w.teeth[1], (Tooth{10, 15})) << "as wide as its gap";
    const auto steps = stepsOf(w, false);
    EXPECT_DOUBLE_EQ(steps.front(), 10);
    EXPECT_DOUBLE_EQ(steps.back(), 20) << "the gap is at the end";
    EXPECT_THAT(stepsOf(w, true), Pointwise(DoubleNear(1e-9), steps)) << "equal widths: the same from trailing edges";
}

/// 60 places at 6000 turns a minute are 6 kHz (arithmetic).
TEST(Wheel, SixtyMinusTwoIsSixKilohertzAtSixThousand)
{
    const Wheel w = wheelOf("60-2");
    EXPECT_EQ(w.teeth.size(), 58U);
    EXPECT_NEAR(stepsOf(w, false).back(), 18, 1e-9);
    const double turn_s = 60.0 / 6000;
    EXPECT_NEAR(1 / (turn_s * stepsOf(w, false).front() / 360), 6000, 1e-6);
}

TEST(Wheel, LinesAsPeopleSayThem)
{
    EXPECT_EQ(wheelOf("4").teeth, wheelOf("4 teeth").teeth);
    EXPECT_EQ(wheelOf(" 36 - 1 "), wheelOf("36-1"));
    EXPECT_EQ(wheelOf("36-0"), wheelOf("36"));
    const Wheel cam = wheelOf("cam 1");
    EXPECT_TRUE(cam.onCam());
    EXPECT_THAT(cam.teeth, ElementsAre(Tooth{0, 360})) << "half a turn of it: a whole one of the crank";
    EXPECT_THAT(wheelOf("cam 1 with 60 degrees").teeth, ElementsAre(Tooth{0, 60}));
    const Wheel extra = wheelOf("12+1");
    ASSERT_EQ(extra.teeth.size(), 13U);
    EXPECT_DOUBLE_EQ(extra.teeth.back().from_deg, 345);
    const Wheel uneven = wheelOf("24 with 12 and 3 degrees");
    ASSERT_EQ(uneven.teeth.size(), 24U);
    EXPECT_EQ(uneven.teeth[0], (Tooth{0, 12}));
    EXPECT_EQ(uneven.teeth[1], (Tooth{15, 18}));
    EXPECT_DOUBLE_EQ(stepsOf(uneven, false)[0], 15);
    EXPECT_DOUBLE_EQ(stepsOf(uneven, true)[0], 6) << "12 to 18";
    const Wheel angles = wheelOf("3 at 240, 0, 110,5 degrees with 10 degrees");
    EXPECT_THAT(edgesOf(angles, false), ElementsAre(0, 110.5, 240));
    EXPECT_THAT(edgesOf(wheelOf("2 at -90 and 90°"), false), ElementsAre(90, 270));
}

/// Several gaps lie evenly, or where the line says; 36-2-2-2 is the uneven one that everybody calls so (common
/// practice, no source).
TEST(Wheel, MayHaveSeveralGaps)
{
    const auto steps = [](const char* line) { return stepsOf(wheelOf(line), false); };
    const auto even = steps("36-1-1");
    ASSERT_EQ(even.size(), 34U);
    EXPECT_NEAR(even[16], 20, 1e-9) << "17 teeth, then a gap";
    EXPECT_NEAR(even[33], 20, 1e-9);
    EXPECT_EQ(std::ranges::count_if(even, [](double s) { return s > 15; }), 2);
    EXPECT_EQ(steps("60-2-2").size(), 56U);
    EXPECT_EQ(steps("36 without 18, 36"), even);
    const auto uneven = steps("36-2-2-2");
    ASSERT_EQ(uneven.size(), 30U);
    for (size_t i = 0; i < uneven.size(); ++i)
        EXPECT_NEAR(uneven[i], i == 15 || i == 16 || i == 29 ? 30 : 10, 1e-9) << i;
    for (const std::string_view usual : usualWheels())
        EXPECT_TRUE(readWheel(usual)) << usual;
}

TEST(Wheel, SlotsAreTheGapsOfAWheel)
{
    const Wheel w = wheelOf("4 slots with 10 degrees");
    EXPECT_THAT(w.teeth, ElementsAre(Tooth{10, 90}, Tooth{100, 180}, Tooth{190, 270}, Tooth{280, 360}));
    EXPECT_THAT(edgesOf(w, true), ElementsAre(0, 90, 180, 270));
}

TEST(Wheel, WhatCannotBeIsSaidWithItsPlace)
{
    const auto wrong = [](const char* line) {
        const auto read = readWheel(line);
        EXPECT_FALSE(read) << line;
        return read ? std::string() : read.error().text();
    };
    EXPECT_THAT(wrong(""), HasSubstr("how many teeth"));
    EXPECT_THAT(wrong("many"), HasSubstr("how many teeth"));
    EXPECT_THAT(wrong("36-"), HasSubstr("how many of them are missing"));
    EXPECT_THAT(wrong("36-x"), HasSubstr("1:4"));
    EXPECT_THAT(wrong("12+2"), HasSubstr("one extra"));
    EXPECT_THAT(wrong("36-1 about"), HasSubstr("1:6"));
    EXPECT_THAT(wrong("24 with"), HasSubstr("expected degrees"));
    EXPECT_THAT(wrong("0"), HasSubstr("at least one"));
    EXPECT_THAT(wrong("-3"), HasSubstr("at least one"));
    EXPECT_THAT(wrong("10000"), HasSubstr("at most 2000"));
    EXPECT_THAT(wrong("36-36"), HasSubstr("all teeth are missing"));
    EXPECT_THAT(wrong("36-18-18"), HasSubstr("all teeth are missing"));
    EXPECT_THAT(wrong("36-1-1-1-1-1"), HasSubstr("do not lie evenly"));
    EXPECT_THAT(wrong("36 without"), HasSubstr("expected the empty places"));
    EXPECT_THAT(wrong("36 without 37"), HasSubstr("no place 37"));
    EXPECT_THAT(wrong("36-1 without 3"), HasSubstr("else is missing"));
    EXPECT_THAT(wrong("2 without 1, 2"), HasSubstr("all teeth are missing"));
    EXPECT_THAT(wrong("3 at 0, 120"), HasSubstr("2 leading edges"));
    EXPECT_THAT(wrong("3 at 0,110, 240"), HasSubstr("a blank goes after each comma")) << "0,110 is a tenth";
    EXPECT_THAT(wrong("4 at 0,90,180,270"), HasSubstr("1:10"));
    EXPECT_THAT(wrong("36-1 at 1"), HasSubstr("leading edges"));
    EXPECT_THAT(wrong("12 with 30 degrees"), HasSubstr("reaches into the next"));
    EXPECT_THAT(wrong("12 with 0 degrees"), HasSubstr("above 0"));
    EXPECT_THAT(wrong("2 at 10, 10"), HasSubstr("reaches into the next"));
}

TEST(AirGap, IsTurnedToTheMiddleOfItsWindow)
{
    const auto turned = turnFor({1.9e-3, 1.0e-3, 1.5e-3, 1e-3, 0});
    ASSERT_TRUE(turned);
    EXPECT_FALSE(turned->isInside);
    EXPECT_NEAR(turned->turns, 4.0 / 6, 1e-9);
    EXPECT_NEAR(turned->after_m, 1.2333e-3, 1e-6);
    EXPECT_TRUE(turned->fits);
    EXPECT_LT(turnFor({0.5e-3, 1.0e-3, 1.5e-3, 1e-3, 0})->turns, 0) << "out";
    EXPECT_TRUE(turnFor({1.2e-3, 1.0e-3, 1.5e-3, 1e-3, 0.3e-3})->isInside);
    EXPECT_FALSE(turnFor({1.2e-3, 1.0e-3, 1.5e-3, 1e-3, 0.5e-3})->isInside) << "its run-out reaches below 1.0";
    const auto coarse = turnFor({1.0e-3, 1.2e-3, 1.22e-3, 1.5e-3, 0});
    EXPECT_TRUE(coarse->fits) << "sixths of 0.25 mm miss a window of 0.02 mm";
    EXPECT_NEAR(coarse->after_m, 1.21e-3, 1e-9);
    EXPECT_FALSE(turnFor({1.9e-3, 1.0e-3, 1.5e-3, 1e-3, 0.6e-3})->fits) << "no place for such a run-out";
    for (const AirGap& wrong :
         {AirGap{1, 1, 2, 0, 0}, AirGap{1, 2, 1, 1, 0}, AirGap{-1, 1, 2, 1, 0}, AirGap{1, 1, 2, 1, -1}})
        EXPECT_FALSE(turnFor(wrong));
}

} // namespace
} // namespace vicegrip::trigger
