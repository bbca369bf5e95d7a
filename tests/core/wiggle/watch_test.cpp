#include "core/wiggle/wiggle.h"

#include <gtest/gtest.h>

#include <random>

namespace vicegrip::wiggle {
namespace {

constexpr double kPeriod = 0.02, kGrain = 0.02;

/// An ECU that sends fifty times a second, with noise of 2 mV.
class Stream
{
  public:
    void say(double reading, double seconds)
    {
        for (int i = 0; i < static_cast<int>(seconds / kPeriod + 0.5); ++i)
            watch.hear(now += kPeriod, reading + 0.002 * std::normal_distribution<double>()(m_random));
    }

    Watch watch{kGrain};
    double now = 100;

  private:
    std::mt19937 m_random{7};
};

TEST(Watch, HearsNothingInNoiseAndInWhatDriftsSlowly)
{
    Stream s;
    for (int i = 0; i < 600; ++i)
        s.say(1.0 + i * 0.001, 0.1); // a sensor that warms by 10 mV a second
    EXPECT_TRUE(s.watch.dropOuts().empty());
    EXPECT_NEAR(s.watch.seconds(), 59.5, 0.2) << "all but the first half second";
    EXPECT_NEAR(*s.watch.least(), 1.0, 0.01);
    EXPECT_NEAR(*s.watch.most(), 1.6, 0.01);
    EXPECT_LT(s.watch.trace().size(), 3010U) << "a minute of it";
}

TEST(Watch, CountsDropOutsWithDepthLengthAndWhereHandsWere)
{
    Stream s;
    s.say(1.0, 2);
    s.watch.handsAt(s.now, 3);
    s.say(1.0, 1);
    s.say(4.99, 0.06);
    s.say(1.0, 1);
    s.watch.handsAt(s.now, 5);
    s.say(2.5, 0.02);
    EXPECT_TRUE(s.watch.outSince().has_value());
    s.say(4.99, 0.2);
    s.say(1.0, 1);
    s.watch.handsAt(s.now, {});
    s.say(1.0, 1);
    ASSERT_EQ(s.watch.dropOuts().size(), 2U);
    const DropOut &first = s.watch.dropOuts()[0], &second = s.watch.dropOuts()[1];
    EXPECT_EQ(first.hold, 3U);
    EXPECT_NEAR(first.to_s - first.from_s, 0.06, 1e-9);
    EXPECT_NEAR(*first.deepest, 4.99, 0.01);
    EXPECT_EQ(second.hold, 5U);
    EXPECT_NEAR(second.to_s - second.from_s, 0.22, 1e-9) << "one, though it went in two steps";
    EXPECT_NEAR(*second.deepest, 4.99, 0.01);
    EXPECT_NEAR(s.watch.seconds(3), 2.0, 0.05) << "while it is out it cannot let go";
    EXPECT_NEAR(s.watch.seconds(5), 1.0, 0.05);
    EXPECT_NEAR(s.watch.seconds(std::nullopt), 2.5, 0.05);
    EXPECT_FALSE(s.watch.outSince().has_value());
}

TEST(Watch, WhatLetsGoAsHandsLeaveIsOfWhereTheyWere)
{
    Stream s;
    s.say(1.0, 2);
    s.watch.handsAt(s.now, 3);
    s.say(1.0, 2);
    s.watch.handsAt(s.now, {});
    s.say(1.0, 0.2);
    s.say(4.99, 0.1);
    s.say(1.0, 1);
    s.say(4.99, 0.1); // nobody is there any more
    s.say(1.0, 1);
    ASSERT_EQ(s.watch.dropOuts().size(), 2U);
    EXPECT_EQ(s.watch.dropOuts()[0].hold, 3U);
    EXPECT_EQ(s.watch.dropOuts()[1].hold, std::nullopt);
}

TEST(Watch, AnEcuThatSaysNothingForAMomentLostItsPower)
{
    Stream s;
    s.say(1.0, 2);
    s.watch.handsAt(s.now, 0);
    s.say(1.0, 1);
    s.now += 0.3; // a bus that was busy
    s.say(1.0, 1);
    EXPECT_TRUE(s.watch.dropOuts().empty());
    s.now += 0.7;
    s.say(1.0, 1);
    ASSERT_EQ(s.watch.dropOuts().size(), 1U);
    EXPECT_FALSE(s.watch.dropOuts()[0].deepest.has_value());
    EXPECT_EQ(s.watch.dropOuts()[0].hold, 0U);
}

TEST(Watch, AWindowThatStalledIsNoDropOut)
{
    Stream s;
    s.say(1.0, 2);
    s.now += 0.8;
    for (int i = 0; i < 40; ++i)
        s.watch.hear(s.now + 0.0001 * i, 1.0); // all that waited
    s.say(1.0, 1);
    EXPECT_TRUE(s.watch.dropOuts().empty());
    s.watch.pause();
    s.now += 30; // on another page
    s.say(1.0, 1);
    EXPECT_TRUE(s.watch.dropOuts().empty());
    EXPECT_LT(s.watch.seconds(), 4.0) << "nobody watched meanwhile";
}

TEST(Watch, AnotherLevelIsNoDropOut)
{
    Stream s;
    s.say(4.99, 3); // it was open when all began
    s.say(1.0, 11);
    EXPECT_TRUE(s.watch.dropOuts().empty());
    EXPECT_NEAR(*s.watch.steady(), 1.0, 0.01);
    s.say(4.99, 0.1);
    s.say(1.0, 1);
    EXPECT_EQ(s.watch.dropOuts().size(), 1U);
}

} // namespace
} // namespace vicegrip::wiggle
