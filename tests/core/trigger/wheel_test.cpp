#include "core/trigger/trigger.h"

#include <cmath>
#include <gmock/gmock.h>
#include <numbers>

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
         {AirGap{1, 1, 2, -1, 0}, AirGap{1, 2, 1, 1, 0}, AirGap{-1, 1, 2, 1, 0}, AirGap{1, 1, 2, 1, -1}})
        EXPECT_FALSE(turnFor(wrong));
}

/// One wave over a rectangle, as books have it: sin(x) / x of both sides (from memory); far from the teeth only the
/// first wave is left, a square's, 4 / pi of it.
TEST(Strip, FarFromTheTeethIsTwoSines)
{
    const auto sinc = [](double x) { return x == 0 ? 1 : std::sin(x) / x; };
    constexpr double kPitch_m = 13e-3, kGap_m = 12e-3, kWave = 2 * std::numbers::pi / kPitch_m;
    for (const double lies : {0.0, 17.0, 45.0, 90.0, 118.0, -30.0}) {
        const double a = lies * std::numbers::pi / 180;
        const double first = 4 / std::numbers::pi * std::exp(-kWave * kGap_m) *
                             std::abs(sinc(kWave * 2e-3 / 2 * std::cos(a)) * sinc(kWave * 6e-3 / 2 * std::sin(a)));
        EXPECT_NEAR(sensedSwing({kPitch_m, 2e-3, 6e-3, lies, 0, 0}, kGap_m) / first, 1, 2e-3) << lies;
    }
}

TEST(Strip, AlongTheTeethItSeemsNoFartherAndAcrossThemMost)
{
    for (const double gap : {0.5e-3, 1e-3, 3e-3}) {
        Strip strip{13e-3, 1e-3, 5e-3, 0, 0, 0};
        double before = -1;
        for (int lies = 0; lies <= 90; lies += 15) {
            strip.lies_deg = lies;
            const double more = seemsFarther(strip, gap);
            EXPECT_GT(more, before);
            before = more;
            strip.lies_deg = -lies + 180;
            EXPECT_NEAR(seemsFarther(strip, gap), more, 1e-9) << "half a turn is none, and both ways are alike";
            EXPECT_EQ(foldedLie(strip.lies_deg), lies);
            // By what it seems farther, one along the teeth senses as much.
            EXPECT_NEAR(sensedSwing({13e-3, 1e-3, 5e-3, 0, 0, 0}, gap + more), sensedSwing(strip, gap), 1e-9);
        }
        EXPECT_NEAR(seemsFarther({13e-3, 1e-3, 5e-3, 180, 0, 8e-3}, gap), 0, 1e-9);
    }
}

TEST(Strip, BesideTheWheelSensesLessAndThenNothing)
{
    constexpr double kGap_m = 1.2e-3;
    const Strip over{13e-3, 1e-3, 5e-3, 0, 0, 6e-3};
    EXPECT_EQ(seemsFarther(over, kGap_m), 0);
    Strip half = over;
    half.beside_m = 3e-3; // the wheel's edge is over its middle
    EXPECT_NEAR(sensedSwing(half, kGap_m), sensedSwing(over, kGap_m) / 2, 1e-9);
    Strip off = over;
    off.beside_m = 6e-3;
    EXPECT_TRUE(std::isinf(seemsFarther(off, kGap_m)));
    off.beside_m = 2e-3;
    off.lies_deg = 90; // across: all of it is over the wheel
    EXPECT_NEAR(seemsFarther(off, kGap_m), seemsFarther({13e-3, 1e-3, 5e-3, 90, 0, 0}, kGap_m), 1e-9);
}

/// Against every degree that it may lie.
TEST(Strip, MayLieAsFarAsTheWindowHasRoom)
{
    for (const double pitch : {6e-3, 9e-3, 13e-3})
        for (const double spare : {0.0, 0.05e-3, 0.2e-3, 0.5e-3, 2e-3}) {
            Strip strip{pitch, 1.5e-3, 5e-3, 0, 0, 0};
            const int may = mayLie(strip, 1e-3, spare);
            for (int lies = 0; lies <= 90; ++lies) {
                strip.lies_deg = lies;
                const bool right = seemsFarther(strip, 1e-3) <= spare + 1e-9;
                if (lies <= may + 1) {
                    EXPECT_EQ(right, lies <= may) << pitch << ' ' << spare << ' ' << lies;
                }
            }
        }
    EXPECT_EQ(mayLie({13e-3, 1e-3, 5e-3, 0, 0, 0}, 1e-3, -1e-6), -1) << "too far whatever it does";
    EXPECT_EQ(mayLie({13e-3, 1e-3, 5e-3, 0, 6e-3, 6e-3}, 1e-3, 1e-3), -1) << "it is not over the wheel";
}

/// 36-1 over 150 mm: pi * 150 / 36 = 13.09 mm (arithmetic).
TEST(Strip, ThePitchIsThatOfTheRim)
{
    EXPECT_NEAR(toothPitch(*readWheel("36-1"), 0.15), 13.0900e-3, 1e-7);
    EXPECT_NEAR(toothPitch(*readWheel("60-2"), 0.2), 10.4720e-3, 1e-7);
    EXPECT_NEAR(toothPitch(*readWheel("24+1"), 0.24), std::numbers::pi * 0.24 / 48, 1e-7)
        << "the one in the gap is near";
    EXPECT_NEAR(toothPitch(*readWheel("24 with 12 and 3 degrees"), 0.12), std::numbers::pi * 0.12 * 6 / 360, 1e-7)
        << "twice its narrow tooth, 3 degrees";
    EXPECT_NEAR(toothPitch(*readWheel("cam 4"), 0.1), std::numbers::pi * 0.1 / 4, 1e-7) << "its turn is 720 degrees";
    EXPECT_EQ(toothPitch({}, 0.1), 0);
}

/// No sixth of a turn leaves more room to both ends of the window than the one that is said.
TEST(Strip, ItsLieIsReckonedWithInTheTurn)
{
    const auto room = [](const AirGap& gap, int sixths) {
        const double there = gap.now_m - sixths / 6.0 * gap.pitch_m;
        Strip strip = *gap.strip;
        strip.lies_deg += sixths * 60;
        return there < 0
                   ? -1
                   : std::min(there - gap.least_m, gap.most_m - there - seemsFarther(strip, there)) - gap.runOut_m / 2;
    };
    int found = 0;
    for (const double lies : {0.0, 20.0, 55.0, 90.0})
        for (const double now : {0.4e-3, 1.2e-3, 1.9e-3, 3.5e-3})
            for (const double pitch : {0.75e-3, 1e-3, 1.5e-3})
                for (const double runOut : {0.0, 0.15e-3}) {
                    const AirGap gap{now, 1.0e-3, 1.6e-3, pitch, runOut, Strip{10e-3, 1e-3, 6e-3, lies, 0, 0}};
                    const auto turn = turnFor(gap);
                    ASSERT_TRUE(turn);
                    double best = -1;
                    for (int sixths = -30; sixths <= 30; ++sixths)
                        best = std::max(best, room(gap, sixths));
                    if (best < 0)
                        continue;
                    ++found;
                    EXPECT_TRUE(turn->fits);
                    EXPECT_NEAR(room(gap, static_cast<int>(std::lround(turn->turns * 6))), best, 1e-6)
                        << lies << ' ' << now << ' ' << pitch;
                    EXPECT_EQ(turn->isInside, room(gap, 0) >= -1e-9);
                }
    EXPECT_GT(found, 60);
    const AirGap along{1.9e-3, 1.0e-3, 1.5e-3, 1e-3, 0, Strip{13.09e-3, 1e-3, 5e-3, 0, 0, 0}};
    EXPECT_NEAR(turnFor(along)->turns, 0.5, 1e-9) << "two thirds would lie 60 degrees off";
    AirGap beside = along;
    beside.strip->beside_m = beside.strip->thick_m = 6e-3;
    EXPECT_FALSE(turnFor(beside)->fits);
}

/// In a plain seat it is shimmed, and does not turn.
TEST(AirGap, APlainSeatIsShimmed)
{
    const auto shim = turnFor({1.9e-3, 1.0e-3, 1.5e-3, 0, 0});
    ASSERT_TRUE(shim);
    EXPECT_EQ(shim->turns, 0);
    EXPECT_NEAR(shim->after_m, 1.25e-3, 1e-9);
    EXPECT_TRUE(shim->fits && !shim->isInside);
    EXPECT_FALSE(turnFor({1.9e-3, 1.0e-3, 1.5e-3, 0, 0.6e-3})->fits);
}

} // namespace
} // namespace vicegrip::trigger
