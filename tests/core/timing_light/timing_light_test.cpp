#include "core/timing_light/timing_light.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

/// Seen = commanded + offset - 6 n delay.
namespace vicegrip::timing_light {
namespace {

using testing::HasSubstr;

Seen at(double rpm, double commanded, double offset, double delay_s)
{
    return {rpm, commanded, commanded + offset - 6 * rpm * delay_s};
}

/// 100 microseconds at 6000 rpm are 3.6 degrees (arithmetic: 36,000 degrees a second).
TEST(TimingLight, TwoReadingsPartOffsetAndDelay)
{
    EXPECT_NEAR(at(6000, 10, 0, 100e-6).seen_deg, 6.4, 1e-9);
    const auto lock = lockOf(std::vector{at(900, 10, 5, 100e-6), at(4000, 15, 5, 100e-6)});
    ASSERT_TRUE(lock) << lock.error().text();
    EXPECT_NEAR(lock->offset_deg, 5, 1e-9);
    EXPECT_NEAR(lock->delay_s, 100e-6, 1e-12);
    EXPECT_THAT(todo(*lock, 200e-6), HasSubstr("5.0° earlier"));
    EXPECT_THAT(todo(*lock, 200e-6), HasSubstr("that is the delay to set"));
    EXPECT_THAT(todo(*lock, 50e-6), HasSubstr("more than the 50 µs"));
}

/// Reference: 2,000 cars whose light and tachometer are off by chance. The truth lies within the bounds (two standard
/// deviations) as often as a normal distribution says, 95 of 100.
TEST(TimingLight, ItsBoundsHoldAsOftenAsTheySay)
{
    std::mt19937 random(3);
    std::normal_distribution<double> unit(0, 1);
    for (const std::vector<double>& speeds : {std::vector<double>{900, 3500}, {900, 1500, 2500, 3500, 5000}}) {
        int offsets = 0, delays = 0;
        constexpr int kCars = 2000;
        for (int car = 0; car < kCars; ++car) {
            std::vector<Seen> readings;
            for (const double rpm : speeds) {
                Seen s = at(rpm, 12, -2, 80e-6);
                s.seen_deg += 0.5 * unit(random);
                s.rpm *= 1 + 0.01 * unit(random);
                readings.push_back(s);
            }
            const auto lock = lockOf(readings);
            ASSERT_TRUE(lock);
            offsets += std::abs(lock->offset_deg + 2) <= lock->offsetWithin_deg ? 1 : 0;
            delays += std::abs(lock->delay_s - 80e-6) <= lock->delayWithin_s ? 1 : 0;
        }
        EXPECT_NEAR(offsets, 0.954 * kCars, 0.025 * kCars) << speeds.size();
        EXPECT_NEAR(delays, 0.954 * kCars, 0.025 * kCars) << speeds.size();
    }
}

TEST(TimingLight, WhatCannotBeToldIsSaid)
{
    EXPECT_THAT(lockOf({}).error().sentence, HasSubstr("two"));
    EXPECT_THAT(lockOf(std::vector{at(900, 10, 0, 0)}).error().sentence, HasSubstr("two"));
    EXPECT_THAT(lockOf(std::vector{at(900, 10, 0, 0), at(1000, 10, 0, 0)}).error().sentence, HasSubstr("close"));
    EXPECT_FALSE(lockOf(std::vector{at(0, 10, 0, 0), at(1000, 10, 0, 0)}));
    EXPECT_FALSE(lockOf(std::vector{Seen{900, NAN, 1}, at(2000, 10, 0, 0)}));
    auto bent = std::vector{at(900, 10, 0, 0), at(2000, 10, 0, 0), at(4000, 10, 0, 0)};
    bent[1].seen_deg += 8;
    const auto lock = lockOf(bent);
    ASSERT_TRUE(lock);
    EXPECT_FALSE(lock->agrees);
    EXPECT_THAT(todo(*lock, 1e-3), HasSubstr("no line"));
}

TEST(TimingLight, EarlierTheFasterIsTooMuchMadeUp)
{
    const auto lock = lockOf(std::vector{at(900, 10, 0, -150e-6), at(5000, 10, 0, -150e-6)});
    ASSERT_TRUE(lock);
    EXPECT_THAT(todo(*lock, 1e-3), HasSubstr("makes up for more delay"));
    const auto right = lockOf(std::vector{at(900, 10, 0, 0), at(5000, 10, 0, 0)});
    EXPECT_THAT(todo(*right, 1e-3), HasSubstr("offset stands"));
    EXPECT_THAT(todo(*right, 1e-3), HasSubstr("No delay"));
}

} // namespace
} // namespace vicegrip::timing_light
