#include "core/road_speed/road_speed.h"

#include <gmock/gmock.h>
#include <limits>

namespace vicegrip::road_speed {
namespace {

using testing::HasSubstr;

// Worked by hand: 16 in are 406.4 mm, two sides of 55 % of 205 mm are 225.5 mm: 631.9 mm across. Common practice, no
// source: such a tyre rolls a little under 1.95 m in a turn.
TEST(Speed, ATyreAsItsSideSays)
{
    for (const char* said : {"205/55 R16", "205/55R16", " 205 / 55 R 16 91V", "205/55-16", "205/55 zr16"}) {
        const auto tyre = parseTyre(said);
        ASSERT_TRUE(tyre) << said;
        EXPECT_NEAR(tyre->diameter_m(), 0.6319, 1e-4);
        EXPECT_NEAR(tyre->rolling_m(), 1.927, 1e-3);
    }
    for (const char* said :
         {"", "205", "205/55", "205/55 R99", "999/55 R16", "2054/55 R16", "205/5 R16", "R16 205/55"}) {
        const auto tyre = parseTyre(said);
        ASSERT_FALSE(tyre) << said;
        EXPECT_FALSE(tyre.error().sentence.empty());
    }
    EXPECT_FALSE(parseTyre(std::string(100000, '1')));
}

TEST(Speed, PulsesToADistance)
{
    // Eight magnets on a propeller shaft before a 4:1 axle, 2 m a turn: 8 * 4 / 2 m = 16 a metre.
    const SpeedPlace shaft{.pulsesPerTurn = 8, .turnsPerWheelTurn = 4, .rolling_m = 2};
    EXPECT_DOUBLE_EQ(shaft.pulsesPerMetre(), 16);
    const auto good = compareRun(shaft, {.pulses = 16150, .distance_m = 1000, .distanceError_m = 5});
    ASSERT_TRUE(good);
    EXPECT_TRUE(good->agrees) << good->sentence;
    EXPECT_NEAR(good->off, 0.0094, 1e-3);
    EXPECT_NEAR(good->error, 16.15 * (2 / 16150.0 + 0.005), 1e-9);
}

TEST(Speed, ARunThatDisagreesSaysWhatElseFits)
{
    const SpeedPlace shaft{.pulsesPerTurn = 8, .turnsPerWheelTurn = 4, .rolling_m = 2};
    for (const auto& [pulses, says] : {std::pair(32000.0, "both edges"),
                                       {8000.0, "every second"},
                                       {4000.0, "without the final drive"},
                                       {14000.0, "7 teeth in place of 8"},
                                       {17000.0, "The tyre would have to roll 1.882 m"}}) {
        const auto v = compareRun(shaft, {.pulses = pulses, .distance_m = 1000, .distanceError_m = 2});
        ASSERT_TRUE(v);
        EXPECT_FALSE(v->agrees);
        EXPECT_THAT(v->sentence, HasSubstr(says));
    }
}

TEST(Speed, ARunThatTellsNothingIsRefused)
{
    const SpeedPlace shaft{.pulsesPerTurn = 8, .turnsPerWheelTurn = 4, .rolling_m = 2};
    EXPECT_THAT(compareRun(shaft, {20, 1, 0}).error().sentence, HasSubstr("too short"));
    EXPECT_THAT(compareRun(shaft, {1600, 100, 10}).error().sentence, HasSubstr("too short"));
    EXPECT_FALSE(compareRun(shaft, {0, 100, 1}));
    EXPECT_FALSE(compareRun(shaft, {1600, 0, 1}));
    EXPECT_FALSE(compareRun({8, 4, 0}, {1600, 100, 0}));
    EXPECT_FALSE(compareRun(shaft, {std::numeric_limits<double>::quiet_NaN(), 100, 0}));
}

} // namespace
} // namespace vicegrip::road_speed
