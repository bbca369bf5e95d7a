#include "core/fuel/blend.h"
#include "core/fuel/flex.h"

#include <gmock/gmock.h>

namespace vicegrip::fuel {
namespace {

using testing::HasSubstr;

// Common practice, no source: 50 Hz = 0 %, 150 Hz = 100 %; 1 ms = -40 °C, 5 ms = 125 °C; above about 170 Hz the fuel is
// contaminated or the sensor failed.
TEST(Flex, SpeaksAsTheTradeHasIt)
{
    EXPECT_EQ(contentAt(50), 0);
    EXPECT_EQ(contentAt(150), 1);
    EXPECT_NEAR(contentAt(60), 0.10, 1e-12);
    EXPECT_NEAR(temperatureAt(1e-3), 233.15, 1e-9);
    EXPECT_NEAR(temperatureAt(5e-3), 398.15, 1e-9);
    EXPECT_TRUE(readSignal(58.5, 2.5e-3)->usable);
    EXPECT_FALSE(readSignal(175, 2.5e-3)->usable);
    for (double share = 0; share <= 1; share += 0.125)
        EXPECT_NEAR(contentAt(frequencyAt(share)), share, 1e-12);
    for (double kelvin = 240; kelvin < 400; kelvin += 20)
        EXPECT_NEAR(temperatureAt(pulseAt(kelvin)), kelvin, 1e-9);
}

TEST(Flex, SaysWhatASignalIsWorth)
{
    for (const auto& [hz, pulse, said] : {std::tuple(0.0, 0.0, "No pulses"),
                                          {40, 2e-3, "below 50 Hz"},
                                          {160, 2e-3, "some water"},
                                          {185, 2e-3, "contaminated"},
                                          {80, 7e-3, "outside 1 to 5 ms"}}) {
        const auto signal = readSignal(hz, pulse);
        ASSERT_TRUE(signal);
        EXPECT_FALSE(signal->usable) << hz;
        EXPECT_THAT(signal->verdict, HasSubstr(said));
    }
    EXPECT_THAT(readSignal(93, 2.5e-3)->verdict, HasSubstr("43.0 % ethanol, fuel at 21.9 °C"));
    EXPECT_EQ(readSignal(49, 0)->content, 0) << "a hair below its end is its end";
    EXPECT_FALSE(readSignal(-1, 0));
    EXPECT_FALSE(readSignal(std::nan(""), 0));
}

// Heywood, Internal Combustion Engine Fundamentals, 1988, table D.4 (from memory): ethanol 9.00, gasoline 14.6.
TEST(Blend, StoichiometricRatiosOfTheHandbook)
{
    EXPECT_NEAR(stoichiometric(1), 9.00, 0.02);
    EXPECT_NEAR(stoichiometric(0), 14.6, 0.05);
}

// By hand: 20 l of E10 hold 2 l, 25 l of E85 hold 21.25 l: 23.25 l in 45 l.
TEST(Blend, PouringTogetherIsArithmetic)
{
    const auto both = blend({{0.020, 0.10}, {0.025, 0.85}}, 0.055);
    ASSERT_TRUE(both);
    EXPECT_NEAR(both->volume_m3, 0.045, 1e-12);
    EXPECT_NEAR(both->ethanol, 23.25 / 45, 1e-12);
    EXPECT_THAT(blend({{0.020, 0.10}, {0.040, 0.85}}, 0.055).error().sentence, HasSubstr("5.0 l too much"));
    EXPECT_THAT(blend({}, 0).error().sentence, HasSubstr("no fuel"));
    EXPECT_FALSE(blend({{0.02, 1.5}}));
    EXPECT_FALSE(blend({{-0.02, 0.5}}));
}

// Common practice, no source: a little over half a tank of E85 on pump fuel settles near 38-40 %. That holds when what
// is sold as E85 has 51 to 83 % (ASTM D5798, from memory): here 0.55 of the tank at 62 %, the rest at 9 %.
TEST(Blend, HalfATankOfPumpE85)
{
    const auto tank = blend({{0.45, 0.09}, {0.55, 0.62}});
    ASSERT_TRUE(tank);
    EXPECT_GT(tank->ethanol, 0.37);
    EXPECT_LT(tank->ethanol, 0.40);
    const auto pure = blend({{0.45, 0.09}, {0.55, 0.85}});
    EXPECT_GT(pure->ethanol, 0.45) << "with 85 % in it, it would have settled well above";
}

TEST(Blend, AmountReachesTheTarget)
{
    for (const double target : {0.2, 0.4, 0.6}) {
        const Fill in{0.02, 0.08};
        const auto amount = amountToReach(in, 0.85, target, 0);
        ASSERT_TRUE(amount);
        EXPECT_NEAR(blend({in, {*amount, 0.85}})->ethanol, target, 1e-12);
    }
    EXPECT_EQ(*amountToReach({0.02, 0.4}, 0.85, 0.4, 0), 0);
    EXPECT_THAT(amountToReach({0.02, 0.1}, 0.3, 0.4, 0).error().sentence, HasSubstr("E30 cannot bring 10 % to 40 %"));
    EXPECT_THAT(amountToReach({0.02, 0.5}, 0.85, 0.4, 0).error().sentence, HasSubstr("below"));
    EXPECT_THAT(amountToReach({0.02, 0.1}, 0.85, 0.7, 0.055).error().sentence, HasSubstr("do not go into a tank"));
}

TEST(Blend, CorrectionIsOneOnTheBaseline)
{
    for (const double baseline : {0.0, 0.08, 0.1}) {
        EXPECT_NEAR(correction(baseline, baseline).mass, 1, 1e-12);
        EXPECT_NEAR(correction(baseline, baseline).volume, 1, 1e-12);
    }
    // 14.6 / 9.0 by mass, and ethanol is 789 / 745 as dense.
    EXPECT_NEAR(correction(1, 0).mass, 1.62, 0.01);
    EXPECT_NEAR(correction(1, 0).volume, 1.62 * 745 / 789, 0.01);
}

TEST(Blend, FillsAsPeopleTypeThem)
{
    for (const char* typed : {"20L@E10", "20 l E10", " 20l@e10 ", "0.02 m3 @ E10", "20000 cc@E10", "20@E10"}) {
        const auto fill = parseFill(typed);
        ASSERT_TRUE(fill) << typed << fill.error().text();
        EXPECT_NEAR(fill->volume_m3, 0.020, 1e-9) << typed;
        EXPECT_NEAR(fill->ethanol, 0.10, 1e-9) << typed;
    }
    EXPECT_NEAR(parseFill("10 gal@E85")->volume_m3, 0.0378541, 1e-6) << "US gallon, NIST SP 811";
    for (const char* typed : {"", "E85", "20L", "20L@E130", "20L@Ex", "20L@E-5", "-3L@E10", "20 V@E10"})
        EXPECT_FALSE(parseFill(typed)) << typed;
}

TEST(Settling, FirstTheLineThenTheTank)
{
    const auto s = Settling::of(0.09, 0.39, 0.4e-3, 60e-3 / 3600, 120);
    ASSERT_TRUE(s);
    EXPECT_NEAR(s->purge_s(), 24, 1e-9) << "0.4 l at 60 l/h";
    EXPECT_EQ(s->at(20), 0.09);
    // Common practice, no source: it climbs through 15, 17, 30 and settles in some minutes.
    double before = 0;
    for (const double share : {0.15, 0.17, 0.30}) {
        double t = 0;
        while (s->at(t) < share)
            t += 0.1;
        EXPECT_GT(t, before);
        before = t;
    }
    EXPECT_NEAR(s->at(s->settled_s()), 0.385, 1e-9);
    EXPECT_GT(s->settled_s(), 120);
    EXPECT_LT(s->settled_s(), 900);
    EXPECT_EQ(Settling::of(0.1, 0.1, 1e-3, 1e-5)->settled_s(), 0) << "nothing to wait for";
    EXPECT_FALSE(Settling::of(0.1, 0.4, 1e-3, 0));
    EXPECT_FALSE(Settling::of(0.1, 0.4, -1, 1e-5));
}

} // namespace
} // namespace vicegrip::fuel
