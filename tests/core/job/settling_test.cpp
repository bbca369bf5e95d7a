#include "core/job/settling.h"

#include <gtest/gtest.h>

namespace vicegrip::job {
namespace {

bool settles(const std::vector<double>& volts)
{
    std::vector<Reading> readings;
    for (const double v : volts)
        readings.push_back(Reading::of(v, units::Dimension::Voltage, Condition::KeyOn));
    return isSettled(readings, Meter{});
}

/// A meter of 0.5 % and 3 mV: at 5 V three may span 28 mV.
TEST(Settling, ThreeInARowWithinTheMetersOwnError)
{
    EXPECT_FALSE(settles({}));
    EXPECT_FALSE(settles({5, 5}));
    EXPECT_TRUE(settles({5, 5, 5}));
    EXPECT_TRUE(settles({5, 5.010, 5.027}));
    EXPECT_FALSE(settles({5, 5.010, 5.030}));
    EXPECT_TRUE(settles({2, 3, 4, 5, 5, 5})) << "what came before is over";
    EXPECT_FALSE(settles({5, 5, 5, 4}));
    EXPECT_TRUE(settles({-5, -5.010, -5.027}));
    EXPECT_TRUE(settles({0, 0.002, -0.001}));
}

TEST(Settling, BeyondTheRangeIsSettledWhereAllThreeAre)
{
    const Reading open = Reading::beyond(units::Dimension::Resistance, Condition::BatteryOff);
    const Reading some = Reading::of(1e6, units::Dimension::Resistance, Condition::BatteryOff);
    EXPECT_TRUE(isSettled(std::vector{some, open, open, open}, Meter{}));
    EXPECT_FALSE(isSettled(std::vector{open, open, some}, Meter{}));
    EXPECT_FALSE(isSettled(std::vector{some, some, open}, Meter{}));
}

} // namespace
} // namespace vicegrip::job
