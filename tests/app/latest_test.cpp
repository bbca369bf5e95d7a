#include "app/live/latest.h"

#include <gtest/gtest.h>
#include <limits>

/// What is told is now for a second, each kind of it by itself.
namespace vicegrip::app {
namespace {

using job::Tells;

TEST(Latest, IsNowForASecondAndStaleAfterIt)
{
    Latest latest;
    EXPECT_FALSE(latest.sample(3, 0));
    EXPECT_FALSE(latest.staleFor_s(3, {Tells::Volts}, 0)) << "nobody told it ever";
    latest.hear({3, Tells::Volts, 10, 2.5});
    EXPECT_EQ(latest.sample(3, 10)->volts, 2.5);
    EXPECT_EQ(latest.sample(3, 11)->volts, 2.5) << "a second is not over";
    EXPECT_FALSE(latest.staleFor_s(3, {Tells::Volts}, 11));
    EXPECT_FALSE(latest.sample(3, 11.001));
    EXPECT_NEAR(*latest.staleFor_s(3, {Tells::Volts}, 13), 3, 1e-9);
    EXPECT_FALSE(latest.sample(4, 10)) << "another input";
    latest.hear({3, Tells::Volts, 14, 2.6});
    EXPECT_EQ(latest.sample(3, 14)->volts, 2.6);
    latest.clear();
    EXPECT_FALSE(latest.sample(3, 14));
    EXPECT_FALSE(latest.staleFor_s(3, {Tells::Volts}, 20)) << "of a link that is no more nothing is stale";
}

TEST(Latest, OneKindIsStaleWhileAnotherComes)
{
    Latest latest;
    latest.hear({0, Tells::Value, 0, 293});
    latest.hear({0, Tells::Volts, 0, 2.5});
    latest.hear({0, Tells::Volts, 5, 2.6});
    const auto now = latest.sample(0, 5);
    EXPECT_EQ(now->volts, 2.6);
    EXPECT_FALSE(now->value);
    EXPECT_NEAR(*latest.staleFor_s(0, {Tells::Value}, 5), 5, 1e-9);
    EXPECT_FALSE(latest.staleFor_s(0, {Tells::Volts, Tells::Counts, Tells::Hertz}, 5)) << "one of them is fresh";
    latest.hear({0, Tells::LowTime, 5, 0.003});
    EXPECT_EQ(latest.sample(0, 5)->low_s, 0.003);
}

/// The bench's ECU has no value before it has a table: that is not a number, and takes the old one away.
TEST(Latest, NoNumberTakesTheOldOneAway)
{
    Latest latest;
    latest.hear({0, Tells::Value, 1, 293});
    latest.hear({0, Tells::Volts, 1, 2.5});
    latest.hear({0, Tells::Value, 1.1, std::numeric_limits<double>::quiet_NaN()});
    EXPECT_FALSE(latest.sample(0, 1.2)->value);
    EXPECT_FALSE(latest.staleFor_s(0, {Tells::Value}, 3));
}

} // namespace
} // namespace vicegrip::app
