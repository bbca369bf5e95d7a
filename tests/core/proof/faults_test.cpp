#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace vicegrip::electrics {
namespace {

using job::PointRef;

double volts(const char* place, const FaultSheet& faults = {})
{
    const job::Job job = test::petrel();
    const auto car = build(job, {.surroundings = job.surroundings, .faults = faults});
    EXPECT_TRUE(car) << car.error().text();
    return car->voltmeter(PointRef::fromText(place), PointRef::fromText("BAT-"), job.meter)->value;
}

// Common practice, no source: on a pull-up input an open sensor reads near the supply, a shorted one near ground.
TEST(Faults, OpenThermistorReadsTheSupply)
{
    EXPECT_NEAR(volts("A.7", {OpenWire{{"w5"}}}), 5.0, 0.05);
    EXPECT_NEAR(volts("A.7", {Short{PointRef::fromText("A.7"), PointRef::fromText("BAT-"), 0.1}}), 0, 0.01);
}

TEST(Faults, OpenSupplyOfATransducerReadsGround)
{
    EXPECT_NEAR(volts("A.11", {OpenWire{{"w20"}}}), 0.02, 0.02);
    EXPECT_NEAR(volts("FP.3"), 5.0, 0.05);
}

TEST(Faults, BadGroundLiftsWhatReturnsThroughIt)
{
    const double lifted = volts("MAP.1", {AddedResistance{{"w22"}, 25}});
    EXPECT_GT(lifted, volts("MAP.1") + 0.1);
}

TEST(Faults, SwappedCavitiesExchangeTheirReadings)
{
    const FaultSheet swapped{SwappedCavities{"A", {"7", "8"}}};
    // The thermistors now hang on each other's pull-up; both are 2k49, so the readings trade places.
    EXPECT_NEAR(volts("A.7", swapped), volts("A.8"), 0.01);
    EXPECT_NEAR(volts("A.8", swapped), volts("A.7"), 0.01);
}

TEST(Faults, ADeviceWithoutItsFeedPutsOutNothing)
{
    EXPECT_GT(volts("A.14"), 4.9);
    EXPECT_NEAR(volts("A.14", {OpenWire{{"w32"}}}), 0, 0.05);
    const job::Job job = test::petrel();
    const auto car = build(job, {.surroundings = job.surroundings, .faults = {OpenWire{{"w32"}}}});
    EXPECT_FALSE(car->circuits.at({"wb"}).powered);
}

TEST(Faults, AnEcuWithoutPowerReadsNothing)
{
    const job::Job job = test::petrel();
    const auto car = build(job, {.surroundings = job.surroundings, .faults = {OpenWire{{"w29"}}}});
    ASSERT_TRUE(car);
    EXPECT_FALSE(car->units.front().powered);
    EXPECT_FALSE(car->inputVolts(job, job.circuits.front()));
}

TEST(FaultSheet, ReadsAndRefuses)
{
    const job::Job job = test::petrel();
    const auto sheet =
        readFaults(R"({"faults": [{"kind": "open", "wire": "w5"}, {"kind": "resistance", "wire": "w22", "ohm": 25},
        {"kind": "swap", "connector": "A", "cavities": ["7", "8"]}, {"kind": "short", "point": "A.7", "to": "BAT-"}]})",
                   job);
    ASSERT_TRUE(sheet) << sheet.error().text();
    EXPECT_EQ(sheet->size(), 4U);
    for (const char* text :
         {R"({"faults": [{"kind": "open", "wire": "w999"}]})", R"({"faults": [{"kind": "gremlin"}]})",
          R"({"faults": [{"kind": "swap", "connector": "A", "cavities": ["7", "99"]}]})",
          R"({"faults": [{"kind": "resistance", "wire": "w5", "ohm": -1}]})", R"({"fault)", "[]"}) {
        const auto refused = readFaults(text, job);
        ASSERT_FALSE(refused) << text;
        EXPECT_FALSE(refused.error().sentence.empty());
    }
    EXPECT_EQ(readFaults(R"({"faults": [{"kind": "open", "wire": "w999"}]})", job).error().place.pointer, "/faults/0");
}

TEST(Wiring, FollowsSplicesBulkheadAndRelay)
{
    const job::Job job = test::petrel();
    const auto paths = Wiring(job).paths(*job::find(job, job::CircuitId{"map"}));
    ASSERT_EQ(paths.size(), 3U);
    std::vector<std::string> supply;
    for (const PointRef& p : paths[1].points)
        supply.push_back(p.text());
    EXPECT_THAT(supply, testing::ElementsAre("MAP.3", "S1", "BE.1", "BC.1", "A.4"));
    EXPECT_TRUE(paths[1].complete);
    const auto wideband = Wiring(job).paths(*job::find(job, job::CircuitId{"wb"}));
    EXPECT_THAT(wideband[1].subjects, testing::Contains("switch K1")) << "its feed comes through the relay";
    EXPECT_EQ(wideband[2].points.back().text(), "G2");
}

} // namespace
} // namespace vicegrip::electrics
