#include "core/electrics/electrics.h"
#include "core/switches/switch_levels.h"
#include "tests/support/petrel.h"

#include <algorithm>

#include <gmock/gmock.h>

namespace vicegrip::switches {
namespace {

using testing::HasSubstr;

job::Job curlewWith(const char* input, std::optional<double> pullUp_ohm)
{
    job::Job job = *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
    parts::EcuInput& i = *job::findInput(job, parts::InputId{input});
    i.pull_up_ohm = pullUp_ohm;
    i.pull_down_ohm = 1e6;
    i.series_ohm = 0;
    return job;
}

const job::Circuit& circuit(const job::Job& job, const char* id)
{
    return *job::find(job, job::CircuitId{id});
}

// Worked by hand for 4.7 kOhm to 5 V: a third of the way is 1.67 V, where the contact has 2.35 kOhm; two thirds are
// 3.33 V, where a leak has 9.4 kOhm.
TEST(SwitchLevels, ASwitchToGroundOnAPullUp)
{
    const job::Job job = curlewWith("CLU", 4700);
    const auto l = switchLevels(job, circuit(job, "clutch"));
    ASSERT_TRUE(l) << l.error().text();
    EXPECT_TRUE(l->apart);
    EXPECT_TRUE(l->closedIsLow);
    EXPECT_NEAR(l->open_v, 5, 0.05);
    EXPECT_NEAR(l->closed_v, 0, 0.05);
    EXPECT_NEAR(l->low_v, 5 / 3.0, 0.1);
    EXPECT_NEAR(l->high_v, 10 / 3.0, 0.1);
    EXPECT_NEAR(l->contact_ohm, 2350, 200);
    EXPECT_NEAR(l->leak_ohm, 9400, 900);
    EXPECT_THAT(l->sentence, HasSubstr("Closed pulls it low"));
}

/// With the contact at what the limits say, the network stands at the threshold: whatever the closed one has itself.
TEST(SwitchLevels, LimitsAreWhereTheNetworkStandsAtTheThreshold)
{
    for (const double closed_ohm : {0.05, 5.0, 40.0, 200.0}) {
        job::Job job = curlewWith("CLU", 4700);
        const auto part = circuit(job, "clutch").device;
        parts::Part& sensor = *std::ranges::find(
            job.parts, std::ranges::find(job.devices, part, &job::Device::id)->part, &parts::Part::id);
        auto& contact = std::get<parts::Contact>(sensor.model);
        contact.on_ohm = closed_ohm;
        const auto l = switchLevels(job, circuit(job, "clutch"));
        ASSERT_TRUE(l) << l.error().text();
        for (const auto& [ohm, threshold] : {std::pair(l->contact_ohm, l->low_v), {l->leak_ohm, l->high_v}}) {
            contact.on_ohm = ohm;
            contact.closedAtRest = true;
            const auto car = electrics::build(job, {.surroundings = job.surroundings});
            ASSERT_TRUE(car);
            EXPECT_NEAR(car->inputVolts(job, circuit(job, "clutch"))->value, threshold, 1e-6) << closed_ohm;
        }
    }
}

TEST(SwitchLevels, WithoutAPullUpNothingLiftsIt)
{
    const job::Job job = curlewWith("CLU", {});
    const auto l = switchLevels(job, circuit(job, "clutch"));
    ASSERT_TRUE(l) << l.error().text();
    EXPECT_FALSE(l->apart);
    EXPECT_THAT(l->sentence, HasSubstr("no pull-up"));
}

TEST(SwitchLevels, ASwitchToTheBatteryLiftsIt)
{
    job::Job job = curlewWith("BRK", {});
    job::findInput(job, parts::InputId{"BRK"})->pull_down_ohm = 10e3;
    const auto l = switchLevels(job, circuit(job, "brake"));
    ASSERT_TRUE(l) << l.error().text();
    EXPECT_TRUE(l->apart) << l->sentence;
    EXPECT_FALSE(l->closedIsLow);
    EXPECT_LT(l->open_v, 0.1);
    EXPECT_GT(l->closed_v, l->high_v);
    EXPECT_GT(l->leak_ohm, l->contact_ohm);
    EXPECT_THAT(l->sentence, HasSubstr("lifts it high"));
    EXPECT_THAT(l->sentence, testing::Not(HasSubstr("damp")));
    job::findInput(job, parts::InputId{"BRK"})->pull_down_ohm = 1e6;
    EXPECT_THAT(switchLevels(job, circuit(job, "brake"))->sentence, HasSubstr("damp plug looks closed"));
}

TEST(SwitchLevels, WhatIsNoSwitchIsRefused)
{
    const job::Job job = curlewWith("CLU", 4700);
    EXPECT_THAT(switchLevels(job, circuit(job, "clt")).error().sentence, HasSubstr("no switch"));
}

} // namespace
} // namespace vicegrip::switches
