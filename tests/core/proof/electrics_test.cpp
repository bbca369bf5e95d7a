#include "core/electrics/electrics.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace vicegrip::electrics {
namespace {

using job::Condition;
using job::PointRef;

Electrics carOf(const job::Job& job, Condition condition = Condition::KeyOn)
{
    auto car = build(job, {.condition = condition, .surroundings = job.surroundings});
    EXPECT_TRUE(car) << car.error().text();
    return std::move(*car);
}

double between(const Electrics& car, const char* red, const char* black)
{
    return car.voltmeter(PointRef::fromText(red), PointRef::fromText(black), job::Meter{})->value;
}

// Ohm's law by hand: the wideband's heater takes 12.5 V / 11 ohm through 2.2 m of 0.75 mm² to the floor stud.
TEST(Electrics, HeaterCurrentLiftsItsGroundByHand)
{
    const job::Job job = test::petrel();
    const Electrics car = carOf(job);
    const double heater = between(car, "WB.1", "WB.2") / (11 + 0.01); // its two contacts lie inside the probes
    const double wire = 1.7241e-8 * (1 + 0.00393 * 2) * 1.02 * 2.2 / 0.75e-6 + 0.002;
    const double others = between(car, "GT.1", "GT.3") / 1500; // the gearbox conditioner shares it
    EXPECT_NEAR(between(car, "S4", "G2"), (heater + others) * wire, 2e-4);
}

// Kirchhoff: what the sensor supply delivers is what its consumers take.
TEST(Electrics, SupplyCurrentIsTheSumOfItsConsumers)
{
    const job::Job job = test::petrel();
    const Electrics car = carOf(job);
    const double transducers = 3 * 5.0 / 900, throttle = 5.0 / 10000;
    EXPECT_NEAR(car.supplyCurrent(0), transducers + throttle, 0.0005);
}

TEST(Electrics, BatteryOffHasNoVoltsAndNoEcu)
{
    const job::Job job = test::petrel();
    const Electrics car = carOf(job, Condition::BatteryOff);
    for (const char* place : {"BAT+", "A.4", "A.7", "S3"})
        EXPECT_NEAR(between(car, place, "BAT-"), 0, 1e-9) << place;
    EXPECT_TRUE(car.units.empty());
    EXPECT_FALSE(car.inputVolts(job, job.circuits.front()));
    EXPECT_EQ(car.supplyCurrent(0), 0);
}

TEST(Electrics, TheRelayIsOpenWithoutTheKey)
{
    const job::Job job = test::petrel();
    const Electrics off = carOf(job, Condition::BatteryOff);
    EXPECT_GT(off.ohmmeter(PointRef::fromText("S3"), PointRef::fromText("BAT+"))->value, 1e6);
    EXPECT_LT(off.ohmmeter(PointRef::fromText("F1"), PointRef::fromText("BAT+"))->value, 0.01) << "the fuse is not";
    EXPECT_NEAR(between(carOf(job), "S3", "BAT-"), 12.5, 0.2);
}

TEST(Electrics, StudsOnOneBodyAreJoined)
{
    const job::Job job = test::petrel();
    const Electrics off = carOf(job, Condition::BatteryOff);
    const auto ohms = [&](const char* a, const char* b) {
        return off.ohmmeter(PointRef::fromText(a), PointRef::fromText(b))->value;
    };
    EXPECT_NEAR(ohms("G1", "G3"), 0.002, 1e-6) << "two studs of 1 mohm on the block";
    EXPECT_LT(ohms("G1", "G2"), 0.02) << "block to chassis, over both straps";
}

TEST(Electrics, TheMeasurandOverridesTheRest)
{
    const job::Job job = test::petrel();
    const auto hot = build(job, {.surroundings = job.surroundings, .measurands = {{{"clt"}, 363.15}}});
    ASSERT_TRUE(hot);
    EXPECT_LT(hot->inputVolts(job, *job::find(job, job::CircuitId{"clt"}))->value, 0.7);
    EXPECT_NEAR(hot->inputVolts(job, *job::find(job, job::CircuitId{"iat"}))->value, 4.093, 0.01) << "and nothing else";
}

TEST(Electrics, ARatiometricInputForgivesTheSupply)
{
    job::Job low = test::petrel();
    low.ecu.supply.volts = 4.9;
    const job::Job nominal = test::petrel();
    const auto seen = [](const job::Job& job, const char* id, const job::Job& ecu) {
        const Electrics car = carOf(job);
        const double full = fullScaleVolts(ecu, *job::findInput(ecu, job::find(ecu, job::CircuitId{id})->input));
        return car.inputVolts(job, *job::find(job, job::CircuitId{id}))->value /
               fullScaleVolts(job, *job::findInput(job, job::find(job, job::CircuitId{id})->input)) * full;
    };
    EXPECT_NEAR(seen(low, "map", nominal), seen(nominal, "map", nominal), 1e-3);
    EXPECT_NEAR(seen(low, "clt", nominal), seen(nominal, "clt", nominal), 1e-3);
}

TEST(Electrics, NoPlaceNoReading)
{
    const job::Job job = test::petrel();
    const Electrics car = carOf(job);
    EXPECT_FALSE(car.voltmeter(PointRef::fromText("X.1"), PointRef::fromText("BAT-"), job.meter));
    EXPECT_FALSE(car.ohmmeter(PointRef::fromText("A.7"), PointRef::fromText("nowhere")));
    EXPECT_FALSE(car.node(PointRef{}));
}

TEST(Electrics, AskingTwiceAnswersTheSame)
{
    const job::Job job = test::petrel();
    const Electrics car = carOf(job, Condition::BatteryOff);
    const auto place = PointRef::fromText("A.7"), black = PointRef::fromText("A.10");
    const double volts = car.voltmeter(place, black, job.meter)->value;
    const double ohms = car.ohmmeter(place, black)->value;
    EXPECT_NEAR(volts, 0, 1e-9);
    EXPECT_NEAR(ohms, 2479, 5) << "what was kept for volts is not what is kept for ohm";
    EXPECT_DOUBLE_EQ(car.ohmmeter(place, black)->value, ohms);
}

TEST(Electrics, AnEmptyJobHasAnAnswer)
{
    const auto a = test::analysed(job::Job{});
    EXPECT_TRUE(a.circuits.empty());
    ASSERT_EQ(a.tasks.size(), 1U);
    EXPECT_EQ(a.tasks.front().stage, analysis::Stage::Brief) << "and the first thing to do";
    EXPECT_TRUE(a.networkTrouble.empty()) << a.networkTrouble;
}

TEST(Electrics, ABatteryShortedOnItselfIsAnAnswerNotACrash)
{
    job::Job job = test::petrel();
    job.wires.push_back({{"short"}, PointRef::fromText("BAT+"), PointRef::fromText("BAT-"), 0.1, 25e-6, "BK", {}});
    const auto a = test::analysed(job);
    EXPECT_EQ(a.circuits.size(), 23U);
    EXPECT_LT(test::at(a, "wb", "WB.1").expectation.due.si(), 9) << "the battery sags into the short";
}

TEST(Subjects, NameWhatMovesAReading)
{
    const job::Job job = test::petrel();
    const Electrics car = carOf(job);
    const auto reading = car.voltmeter(PointRef::fromText("A.7"), PointRef::fromText("BAT-"), job.meter);
    EXPECT_THAT(reading->subjects, testing::IsSupersetOf({"input AN3", "sensor clt", "supply"}));
    EXPECT_THAT(reading->subjects, testing::Not(testing::Contains("sensor tps")));
}

} // namespace
} // namespace vicegrip::electrics
