#include "core/pulls/pulls.h"

#include <cmath>
#include <gmock/gmock.h>

namespace vicegrip::pulls {
namespace {

using testing::HasSubstr;

/// A drive in pieces of ten seconds: so much throttle, engine speed from one to another, metres a second for a thousand
/// turns a minute.
struct Leg
{
    double throttle = 0, from_rpm = 900, to_rpm = 900, gearing = 8;
};

log::Log drive(const std::vector<Leg>& legs, double oil = 85)
{
    log::Log log;
    log.columns = {{"Time of day", "h", {}},
                   {"RPM", "", {}},
                   {"TPS", "%", {}},
                   {"Oil temp", "°C", {}},
                   {"Vehicle speed", "km/h", {}}};
    for (size_t leg = 0; leg < legs.size(); ++leg)
        for (int i = 0; i < 200; ++i) {
            const double rpm = legs[leg].from_rpm + (legs[leg].to_rpm - legs[leg].from_rpm) * i / 200;
            log.time_s.push_back(static_cast<double>(leg) * 10 + i * 0.05);
            const double values[] = {12, rpm, legs[leg].throttle, oil, rpm / 1000 * legs[leg].gearing * 3.6};
            for (size_t c = 0; c < log.columns.size(); ++c)
                log.columns[c].values.push_back(static_cast<float>(values[c]));
        }
    return log;
}

Pulls of(const log::Log& log)
{
    auto out = pullsOf(log, log_columns::meaningsOf(log, nullptr));
    EXPECT_TRUE(out) << out.error().text();
    return out.value_or(Pulls{});
}

const Leg kIdle{0, 900, 900, 8}, kPull{100, 2500, 6500, 8}, kOtherGear{100, 2500, 6500, 11}, kShort{100, 4000, 6000, 8};

TEST(Pulls, ThoseOfOneGearThatAreAlikeAreSent)
{
    const Pulls p = of(drive({kIdle, kPull, kIdle, kOtherGear, kIdle, kPull, kIdle, kPull, kIdle, kPull, kShort}));
    ASSERT_EQ(p.all.size(), 6U);
    EXPECT_NEAR(p.all[0].from_rpm, 2500, 30);
    EXPECT_NEAR(p.all[0].to_rpm, 6480, 30);
    EXPECT_NEAR(p.all[0].seconds, 9.95, 0.1);
    EXPECT_EQ(std::ranges::count_if(p.all, &Pull::chosen), 3);
    EXPECT_FALSE(p.all[1].chosen);
    EXPECT_NE(p.all[1].gear, p.all[0].gear);
    EXPECT_EQ(p.all[2].gear, p.all[0].gear);
    EXPECT_THAT(p.all[1].why, HasSubstr("another gear"));
    EXPECT_THAT(p.all[5].why, HasSubstr("another range"));
    EXPECT_THAT(p.verdict, HasSubstr("3 of 6 pulls are alike"));
}

TEST(Pulls, AColdEngineIsNotPulled)
{
    const Pulls p = of(drive({kIdle, kPull, kIdle, kPull}, 40));
    EXPECT_EQ(std::ranges::count_if(p.all, &Pull::chosen), 0);
    EXPECT_THAT(p.all[0].why, HasSubstr("not warm"));
    EXPECT_THAT(p.verdict, HasSubstr("No two pulls are alike"));
}

TEST(Pulls, AChangeOfGearEndsOne)
{
    const Pulls p = of(drive({{100, 2500, 6500, 8}, {100, 4300, 6500, 12}, kIdle}));
    ASSERT_EQ(p.all.size(), 2U);
    EXPECT_NE(p.all[0].gear, p.all[1].gear);
}

TEST(Pulls, NoneIsSaid)
{
    EXPECT_THAT(of(drive({kIdle, {40, 1500, 5000, 8}})).verdict, HasSubstr("no pull in it"));
    log::Log log = drive({kIdle});
    log.columns.erase(log.columns.begin() + 2);
    EXPECT_THAT(pullsOf(log, log_columns::meaningsOf(log, nullptr)).error().sentence,
                HasSubstr("no column tells the throttle"));
}

} // namespace
} // namespace vicegrip::pulls
