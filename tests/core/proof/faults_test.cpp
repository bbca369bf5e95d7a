#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace vicegrip::electrics {
namespace {

using namespace faults;

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

/// Every kind of the catalogue, as a file says it, and back.
TEST(FaultList, EveryKindIsWrittenAndReadAgain)
{
    const job::Job job = test::petrel();
    FaultList all = {OpenWire{{"w5"}},
                     AddedResistance{{"w22"}, 25},
                     BadContact{PointRef::fromText("CLT.1"), {}},
                     BadContact{PointRef::fromText("A.7"), 10},
                     BadStud{"G1", 40},
                     Short{PointRef::fromText("A.7"), PointRef::fromText("BAT-"), 0.5},
                     SwappedCavities{"A", {"7", "8"}},
                     Miscounted{"A", Count::Mirrored},
                     MovedEnd{{"w5"}, PointRef::fromText("A.7"), PointRef::fromText("A.8")},
                     InputSetting{{"AN3"}, 1000},
                     InputSetting{{"AN3"}, {}},
                     WrongMode{{"AN3"}, parts::InputMode::Analog},
                     ExchangedPlugs{{"INJ1", "INJ2"}},
                     DeadCranking{"K1"},
                     NoCharge{},
                     OtherPart{{"map"}, *job::partOf(job, *job::find(job, job::CircuitId{"map"}))},
                     Drift{{"clt"}, -0.05},
                     HeldTable{{"AN1"}, {{0.5, -101.3}, {4.5, 198.7}}},
                     Loose{{"w20"}, PointRef::fromText("FP.3")},
                     Loose{{"w20"}, {}},
                     WheelOff{{"crank"}, 2.8e-3, 0.8e-3, {17}},
                     NoisySignal{{"crank"}, 0.2, 3, 5},
                     SlackBelt{{"cam"}, 3, 1.5},
                     WrongEdge{{"crank"}}};
    for (const job::Wire& w : job.wires) // whichever wire is there: an end of it is
        if (w.id.value == "w5")
            std::get<MovedEnd>(all[8]).at = w.from;
    const std::string text = writeFaults(all);
    const auto read = readFaults(text, job);
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(read->size(), all.size());
    EXPECT_EQ(writeFaults(*read), text);
    std::set<size_t> kinds;
    for (const Fault& f : *read)
        kinds.insert(f.index());
    EXPECT_EQ(kinds.size(), std::variant_size_v<Fault>) << "a kind that this test does not know";
}

TEST(FaultList, EachRefusalNamesItsPlace)
{
    const job::Job job = test::petrel();
    const auto refused = [&](const std::string& one) {
        const auto read = readFaults(R"({"faults": [{"kind": "open", "wire": "w5"}, )" + one + "]}", job);
        return read ? std::string() : read.error().place.pointer + ": " + read.error().sentence;
    };
    using testing::HasSubstr;
    EXPECT_THAT(refused(R"({"kind": "contact", "at": "CLT.9"})"), HasSubstr("/faults/1: the job has no cavity"));
    EXPECT_THAT(refused(R"({"kind": "contact", "at": "G1"})"), HasSubstr("no cavity")) << "a stud has no contact";
    EXPECT_THAT(refused(R"({"kind": "stud", "joint": "S2", "ohm": 4})"), HasSubstr("no stud")) << "a splice is none";
    EXPECT_THAT(refused(R"({"kind": "stud", "joint": "G1", "ohm": 0})"), HasSubstr("/faults/1"));
    EXPECT_THAT(refused(R"({"kind": "miscounted", "connector": "A", "how": "twice"})"), HasSubstr("/faults/1"));
    EXPECT_THAT(refused(R"({"kind": "moved-end", "wire": "w5", "at": "G2", "to": "G1"})"), HasSubstr("end of wire w5"));
    EXPECT_THAT(refused(R"({"kind": "setting", "input": "AN77"})"), HasSubstr("AN77"));
    EXPECT_THAT(refused(R"({"kind": "drift", "circuit": "inj1", "share": 0.1})"), HasSubstr("with a sensor"));
    EXPECT_THAT(refused(R"({"kind": "drift", "circuit": "clt", "share": 2})"), HasSubstr("/faults/1"));
    EXPECT_THAT(refused(R"({"kind": "other-part", "device": "map", "part": {"id": 4}})"), HasSubstr("/faults/1/part"));
}

/// What a terminal that is not home, paint, a wrong count and another part do to the readings (common practice, no
/// source): behind the terminal the wire is as good as ever, and the input sees nothing of it.
TEST(Faults, OfTheCatalogueShowWhereTheyShould)
{
    const FaultList notHome{BadContact{PointRef::fromText("CLT.1"), {}}};
    EXPECT_NEAR(volts("CLT.1", notHome), 5, 0.05) << "the sensor is off, the pull-up has nobody";
    const FaultList atEcu{BadContact{PointRef::fromText("A.7"), {}}};
    EXPECT_NEAR(volts("A.7", atEcu), 0, 0.05) << "from behind one reads the sensor, which nothing pulls up";
    const double lift = volts("MAP.1", {BadStud{"G1", 1}}) - volts("MAP.1");
    EXPECT_GT(lift, 0.1) << "the ECU's own current over an ohm of paint";
    EXPECT_NEAR(volts("A.7", {Miscounted{"CLT", Count::Mirrored}}), volts("A.7"), 0.01)
        << "a thermistor does not mind which way round it is";
    EXPECT_LT(volts("A.7", {InputSetting{{"AN3"}, {}}}), 0.2) << "nothing pulls it up";
    const double off = volts("A.5", {Drift{{"map"}, 0.1}}) - volts("A.5");
    EXPECT_NEAR(off, 0.4, 0.02) << "a tenth of 0.5 to 4.5 V";
    const job::Job job = test::petrel();
    parts::Part twice = *job::partOf(job, *job::find(job, job::CircuitId{"map"}));
    const double range = twice.high - twice.low;
    twice.high = twice.low + 2 * range;
    const double rises = volts("A.5") - 0.5;
    EXPECT_NEAR(volts("A.5", {OtherPart{{"map"}, twice}}) - 0.5, rises / 2, 0.05);
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
