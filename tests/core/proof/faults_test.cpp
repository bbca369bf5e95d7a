#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace vicegrip::electrics {
namespace {

using job::PointRef;

double volts(const char* place, const FaultList& faults = {})
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
    const FaultList swapped{SwappedCavities{"A", {"7", "8"}}};
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

TEST(FaultList, ReadsAndRefuses)
{
    const job::Job job = test::petrel();
    const auto list =
        readFaults(R"({"faults": [{"kind": "open", "wire": "w5"}, {"kind": "resistance", "wire": "w22", "ohm": 25},
        {"kind": "swap", "connector": "A", "cavities": ["7", "8"]}, {"kind": "short", "point": "A.7", "to": "BAT-"}]})",
                   job);
    ASSERT_TRUE(list) << list.error().text();
    EXPECT_EQ(list->size(), 4U);
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

TEST(FaultList, WhatTheEcuWasLeftHolding)
{
    const job::Job job = test::petrel();
    const auto list = readFaults(
        R"({"faults": [{"kind": "held-table", "input": "AN1", "points": [[0.5, -101.3], [4.5, 198.7]]}]})", job);
    ASSERT_TRUE(list) << list.error().text();
    const auto& held = std::get<HeldTable>(list->front());
    EXPECT_EQ(held.input.value, "AN1");
    ASSERT_EQ(held.points.size(), 2U);
    EXPECT_EQ(held.points[0].value, -101.3);
    EXPECT_EQ(asWired(job, *list), job) << "it changes no wire";
    for (const auto& [text, said] :
         {std::pair(R"({"faults": [{"kind": "held-table", "input": "AN99", "points": [[0, 0], [1, 1]]}]})", "AN99"),
          {R"({"faults": [{"kind": "held-table", "input": "AN1", "points": [[1, 0], [1, 1]]}]})", "do not rise"},
          {R"({"faults": [{"kind": "held-table", "input": "AN1", "points": [[1, 0]]}]})", ""}}) {
        const auto refused = readFaults(text, job);
        ASSERT_FALSE(refused) << text;
        EXPECT_THAT(refused.error().sentence, testing::HasSubstr(said));
    }
}

TEST(Pulses, LevelsComeFromTheWiring)
{
    const job::Job job = test::petrel();
    const job::Circuit& crank = *job::find(job, job::CircuitId{"crank"});
    const auto output = *parts::pulsesOf(*job::sensorOf(job, crank));
    const auto levels = [&](const job::Job& wired, const FaultList& faults = {}) {
        const auto car = build(wired, {.surroundings = wired.surroundings, .faults = faults});
        EXPECT_TRUE(car);
        return pulseLevels(*car, crank, output);
    };
    // Common practice, no source: a Hall sensor on its pull-up shows the supply in a gap, below 0.25 V on a tooth.
    const auto good = levels(job);
    ASSERT_TRUE(good);
    EXPECT_NEAR(good->high_v, 5, 0.1);
    EXPECT_LT(good->low_v, 0.25);
    EXPECT_TRUE(good->swings());
    job::Job bare = job;
    job::findInput(bare, crank.input)->pull_up_ohm.reset();
    EXPECT_FALSE(levels(bare)->swings()) << "without a pull-up nothing lifts the line";
    const job::Device& device = *job::find(job, crank.device);
    for (const parts::PinRole role : {parts::PinRole::Signal, parts::PinRole::Supply, parts::PinRole::Ground}) {
        const PointRef pin{device.connector, parts::cavityOf(*job::sensorOf(job, crank), role)};
        FaultList faults;
        for (const job::Wire& w : job.wires)
            if (w.from == pin || w.to == pin)
                faults.push_back(OpenWire{w.id});
        ASSERT_FALSE(faults.empty());
        EXPECT_FALSE(levels(job, faults)->swings()) << static_cast<int>(role);
    }
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
