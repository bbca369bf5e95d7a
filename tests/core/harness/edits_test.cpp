#include "core/electrics/wiring.h"
#include "core/harness/resistors.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

namespace vicegrip::harness {
namespace {

using job::CircuitId;
using parts::InputId;

TEST(StartJob, StandsOnEveryEcuOfTheLibraryAndIsPowered)
{
    for (const parts::EcuProfile& profile : test::library().ecus) {
        const job::Job job = startJob("Test", profile);
        ASSERT_TRUE(job::check(job)) << profile.name << ": " << job::check(job).error().text();
        const auto car = electrics::build(job, {.surroundings = job.surroundings});
        ASSERT_TRUE(car) << car.error().text();
        EXPECT_TRUE(car->units.front().powered) << profile.name;
    }
}

/// What is drawn for every part of the library is the same after it was written and read, to the last bit.
TEST(Drawing, EveryPartIsReadAsItWasDrawn)
{
    for (const parts::Part& part : test::library().parts) {
        job::Job job = startJob("Read again", *parts::find(test::library(), parts::EcuId{"large-free"}));
        const auto id = addCircuit(job, {"it"}, "It", job::Want::Required, part);
        const auto back = job::read(job::write(job));
        ASSERT_TRUE(back) << part.id.value << ": " << back.error().text();
        EXPECT_TRUE(*job::find(*back, id) == *job::find(job, id)) << part.id.value;
    }
}

TEST(Drawing, ASeatedCircuitHasEveryPathItNeeds)
{
    for (const parts::Part& s : test::sensors()) {
        job::Job job = test::jobOn("large-free");
        const CircuitId id = addCircuit(job, {"map"}, s.name, job::Want::Required, s);
        ASSERT_TRUE(job::check(job)) << s.name << ": " << job::check(job).error().text();
        EXPECT_TRUE(seat(job, id, InputId{"AN1"}));
        ASSERT_TRUE(job::check(job)) << s.name << ": " << job::check(job).error().text();
        for (const electrics::Path& path : electrics::Wiring(job).paths(*job::find(job, id)))
            EXPECT_TRUE(path.complete) << s.name;
        const auto back = job::read(job::write(job));
        ASSERT_TRUE(back) << s.name << ": " << back.error().text();
        EXPECT_EQ(job::write(*back), job::write(job)) << s.name;
    }
}

TEST(Drawing, RemovingWhatWasAddedLeavesNothingBehind)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "map", "map-3bar");
    EXPECT_TRUE(seat(job, CircuitId{"map"}, InputId{"AN1"})); // draws the splices
    const job::Job before = job;
    const CircuitId id = test::add(job, "clt", "ntc-2k2");
    EXPECT_TRUE(seat(job, id, InputId{"AN3"}));
    EXPECT_TRUE(addPullUp(job, id, 2490, 0.01));
    EXPECT_TRUE(removeCircuit(job, id));
    ASSERT_TRUE(job::check(job));
    job.ecu = before.ecu; // the input's own pull-up was switched off for the one outside
    EXPECT_EQ(job, before);
}

TEST(Drawing, AWireThatWasDrawnByHandMovesAndIsNotReplaced)
{
    job::Job job = test::petrel();
    const size_t wires = job.wires.size();
    const InputId spare{"AN10"};
    ASSERT_NE(job::findInput(job, spare), nullptr);
    EXPECT_TRUE(seat(job, CircuitId{"map"}, spare));
    EXPECT_EQ(job.wires.size(), wires);
    EXPECT_TRUE(job::check(job));
    EXPECT_TRUE(electrics::Wiring(job).paths(*job::find(job, CircuitId{"map"}))[0].complete);
}

TEST(Drawing, SeatingOverSomebodyUnseatsHim)
{
    job::Job job = test::petrel();
    const InputId taken = job::find(job, CircuitId{"map"})->input;
    EXPECT_TRUE(seat(job, CircuitId{"tps"}, taken));
    EXPECT_TRUE(job::find(job, CircuitId{"map"})->input.empty());
    EXPECT_EQ(job::find(job, CircuitId{"tps"})->input, taken);
    EXPECT_TRUE(job::check(job));
}

TEST(Drawing, ThePullUpIsSwitchedAsTheSensorNeedsIt)
{
    job::Job job = test::jobOn("large-free");
    const CircuitId clt = test::add(job, "clt", "ntc-2k2"), map = test::add(job, "map", "map-3bar");
    EXPECT_TRUE(seat(job, clt, InputId{"AN1"}));
    EXPECT_TRUE(job::findInput(job, InputId{"AN1"})->pull_up_ohm) << "a thermistor needs it";
    EXPECT_TRUE(unseat(job, clt));
    EXPECT_TRUE(seat(job, map, InputId{"AN1"}));
    EXPECT_FALSE(job::findInput(job, InputId{"AN1"})->pull_up_ohm) << "a transducer does not";
    EXPECT_EQ(suitingPullUp(test::ecu("mid-fixed").ecu.inputs[2], false), 2490) << "fixed";
}

TEST(Drawing, AHeaterDoesNotReturnThroughTheSensorGround)
{
    job::Job job = test::jobOn("large-free");
    const CircuitId id = test::add(job, "wideband", "wideband-0-5");
    EXPECT_TRUE(seat(job, id, InputId{"AN7"}));
    const auto paths = electrics::Wiring(job).paths(*job::find(job, id));
    EXPECT_EQ(paths[2].points.back().text(), "G1") << "where the ECU's own ground goes";
    const auto a = test::analysed(job);
    EXPECT_EQ(std::ranges::count(a.findings, "wideband-ground", &findings::Finding::rule), 0);
}

TEST(Drawing, AnotherEcuKeepsTheCircuitsAndDropsTheirSeats)
{
    job::Job job = test::petrel();
    const size_t circuits = job.circuits.size();
    EXPECT_TRUE(setEcu(job, test::ecu("small-4")));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_EQ(job.circuits.size(), circuits);
    for (const job::Circuit& c : job.circuits)
        EXPECT_TRUE(c.input.empty()) << c.name;
    const auto car = electrics::build(job, {.surroundings = job.surroundings});
    ASSERT_TRUE(car);
    EXPECT_TRUE(car->units.front().powered) << "feed and ground are drawn to the new plugs";
}

TEST(Drawing, AnotherSensorKeepsTheRangeItCanFollow)
{
    job::Job job = test::petrel();
    const CircuitId map{"map"};
    job::find(job, map)->scaling.high = 280e3;
    EXPECT_TRUE(setSensor(job, map, test::sensor("map-2b5")));
    EXPECT_EQ(job::find(job, map)->scaling.high, 250e3) << "cut to what it reads";
    EXPECT_EQ(job::find(job, map)->rest.kind, job::RestKind::Barometer);
    EXPECT_EQ(job::findPart(job, parts::PartId{"map-3bar"}), nullptr) << "nobody uses it any more";
    EXPECT_TRUE(job::check(job));
}

/// Every change of the wiring says what is in its way, and then nothing of the job is another.
TEST(Edits, WhatIsRefusedIsSaidAndLeavesTheJobAlone)
{
    job::Job job = test::jobOn("small-4");
    const CircuitId unseated = test::add(job, "clt", "ntc-2k2"), nobody{"nobody"};
    const job::Job before = job;
    for (const Result<void>& refused :
         {seat(job, nobody, InputId{"AN1"}), unseat(job, nobody), removeCircuit(job, nobody),
          setSensor(job, nobody, test::sensor("map-3bar")), addPullUp(job, nobody, 1000, 0.01),
          addDivider(job, nobody, 1000, 1000, 0.01)}) {
        ASSERT_FALSE(refused);
        EXPECT_EQ(refused.error().code, ErrorCode::Reference);
        EXPECT_THAT(refused.error().sentence, testing::HasSubstr("there is no circuit \"nobody\""));
    }
    EXPECT_THAT(seat(job, unseated, InputId{"ZZ9"}).error().sentence, testing::HasSubstr("has an input \"ZZ9\""));
    for (const Result<void>& refused :
         {addPullUp(job, unseated, 1000, 0.01), addDivider(job, unseated, 1000, 1000, 0.01)}) {
        ASSERT_FALSE(refused);
        EXPECT_THAT(refused.error().sentence, testing::HasSubstr("has no seat"));
    }
    EXPECT_TRUE(unseat(job, unseated)) << "it sits nowhere, as is wanted";
    EXPECT_EQ(job, before);
}

/// From bar to psi and back, whatever was set: the job stays what its file says.
TEST(Edits, ASensorInAnotherUnitLeavesTheJobAsItsFileSays)
{
    for (const double tolerance : {5000.0, 1234.5, 20e3 / 3}) {
        job::Job job = test::jobOn("large-free");
        const auto id = test::add(job, "fuel-pressure", "press-7bar");
        job::find(job, id)->rest.tolerance = tolerance;
        job::find(job, id)->rest.value = tolerance / 7;
        job::find(job, id)->scaling.low = tolerance;
        job::Captured captured;
        captured.value = tolerance * 3;
        captured.within = tolerance / 9;
        job::find(job, id)->captured = {captured};
        for (const char* sensor : {"press-100psi", "press-7bar", "press-150psi"}) {
            ASSERT_TRUE(harness::setSensor(job, id, test::sensor(sensor)));
            const auto back = job::read(job::write(job));
            ASSERT_TRUE(back) << back.error().text();
            EXPECT_EQ(back->circuits, job.circuits) << sensor;
        }
    }
}

} // namespace
} // namespace vicegrip::harness
