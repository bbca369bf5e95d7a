#include "core/decoded/decoded.h"
#include "core/harness/edits.h"
#include "core/job/json.h"
#include "core/logbook/logbook.h"
#include "core/seating/plan.h"
#include "core/trigger/trigger.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// A capture that is kept as proof: what it says, what it rests on, and when it is stale.
namespace vicegrip::decoded {
namespace {

using proof::State;
using testing::HasSubstr;

const job::CircuitId kCrankWheel{"crank"};

job::Circuit& crankOf(job::Job& job)
{
    return *job::find(job, kCrankWheel);
}

/// Petrel with a coil at its crank.
job::Job coilCar()
{
    job::Job job = test::petrel();
    const job::Device& device = *job::find(job, crankOf(job).device);
    const auto part = std::ranges::find(job.parts, device.part, &parts::Part::id);
    part->model = parts::VariableReluctance{.coil_ohm = 850, .coil_h = 0.4, .peak_v = 60};
    part->pins = {{"2", parts::PinRole::Signal}, {"3", parts::PinRole::Ground}};
    if (parts::EcuInput* input = job::findInput(job, crankOf(job).input))
        input->variableReluctance = true;
    return job;
}

/// With a capture of a coil on the starter; its wires may be exchanged.
job::Job captured(job::Job job, bool exchanged)
{
    trigger::ReluctanceSensor sensor;
    sensor.volts = 8;
    sensor.swapped = exchanged;
    const trigger::Sensed s =
        trigger::senseReluctance(*trigger::readWheel("36-1"), {200, 0, 0.1, 4}, sensor, {1.2e-3, 0, 0}, {}, 2, 50e3);
    trigger::Known known;
    known.wheel = *trigger::readWheel("36-1");
    known.rising = false;
    const auto look = trigger::lookAt(s.volts, s.step_s, known, true);
    EXPECT_TRUE(look) << look.error().text();
    trigger::Wanted wanted;
    wanted.wheel = "36-1";
    wanted.rising = false;
    const auto verdicts = trigger::verdicts(*look, wanted, trigger::Scale::Volts);
    job.decoded.push_back(
        record(job, job::facts(job), crankOf(job), *look, verdicts, "starter.csv", "2026-11-30T10:00:00Z"));
    return job;
}

Standing standing(const job::Job& job)
{
    const auto all = standings(job, job::facts(job));
    const auto it = std::ranges::find(all, kCrankWheel, &Standing::circuit);
    EXPECT_NE(it, all.end());
    return it == all.end() ? Standing{} : *it;
}

TEST(Decoded, StandsUntilWheelEdgeGapOrWiresChange)
{
    EXPECT_TRUE(standing(coilCar()).only);
    EXPECT_FALSE(standing(test::petrel()).only) << "a Hall sensor is turned by hand";
    EXPECT_EQ(standing(coilCar()).state, State::Untouched);
    const job::Job proved = captured(coilCar(), false);
    EXPECT_EQ(standing(proved).state, State::Done) << standing(proved).reason;
    EXPECT_NEAR(proved.decoded.front().rpm, 199, 3);
    EXPECT_EQ(proved.decoded.front().wheel, "36-1");
    const auto after = [&](auto change) {
        job::Job job = proved;
        change(job);
        return standing(job);
    };
    EXPECT_THAT(after([](job::Job& j) { crankOf(j).trigger->gap_m = 1.1e-3; }).reason, HasSubstr("air gap"));
    EXPECT_EQ(after([](job::Job& j) { crankOf(j).trigger->edge = job::CountedEdge::Rising; }).state, State::Stale);
    EXPECT_EQ(after([](job::Job& j) { crankOf(j).trigger->wheel = "60-2"; }).state, State::Stale);
    EXPECT_EQ(after([](job::Job& j) { crankOf(j).trigger->side = "the stamped one"; }).state, State::Done)
        << "saying for the first time what nobody had said changes nothing";
    EXPECT_EQ(after([](job::Job& j) { j.parts.front().name += "!"; }).state, State::Done);
}

TEST(Decoded, WhatIsWrongIsAFindingATaskAndALineOfTheLogbook)
{
    const job::Job job = captured(coilCar(), true);
    EXPECT_EQ(standing(job).state, State::Failing);
    ASSERT_FALSE(job.decoded.front().wrong.empty());
    const auto found = test::of(job, "signal-wrong");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().what, HasSubstr("dge"));
    const auto a = test::analysed(job);
    EXPECT_TRUE(std::ranges::any_of(a.tasks, [](const analysis::Task& t) {
        return t.stage == analysis::Stage::Trigger && t.title.find("capture it again") != std::string::npos;
    }));
    const auto lines = logbook::logbook(job, "starter.csv");
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_THAT(lines.front().what, HasSubstr("capture starter.csv"));
}

TEST(Decoded, IsReadBackAsItWasWritten)
{
    const job::Job job = captured(captured(coilCar(), true), false);
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, job);
    EXPECT_TRUE(job::checkWritten(job, coilCar())) << "and as a change of the job before";
    job::Job without = job;
    ASSERT_TRUE(harness::removeCircuit(without, kCrankWheel));
    EXPECT_TRUE(without.decoded.empty());
    job::Job lost = job;
    lost.decoded.front().circuit = {"nobody"};
    EXPECT_FALSE(job::read(job::write(lost)));
}

/// The edge that stays where it is as gap and speed change (common practice, no source): Inputs chooses it with the
/// seat, and the other one is said to be wrong.
TEST(SharpEdge, IsChosenWithTheSeatAndTheOtherIsAFinding)
{
    job::Job job = test::petrel();
    crankOf(job).trigger->edge.reset();
    const parts::InputId seat = crankOf(job).input;
    ASSERT_TRUE(harness::unseat(job, kCrankWheel));
    ASSERT_TRUE(seating::seat(job, kCrankWheel, seat));
    EXPECT_EQ(crankOf(job).trigger->edge, job::CountedEdge::Falling);
    crankOf(job).trigger->edge = job::CountedEdge::Rising;
    ASSERT_TRUE(seating::seat(job, kCrankWheel, seat));
    EXPECT_EQ(crankOf(job).trigger->edge, job::CountedEdge::Rising) << "what is said stays";
    const auto hall = test::of(job, "wheel-edge");
    ASSERT_EQ(hall.size(), 1U);
    EXPECT_EQ(hall.front().severity, findings::Severity::Note);
    job::Job coil = coilCar();
    EXPECT_TRUE(test::of(coil, "wheel-edge").empty());
    crankOf(coil).trigger->edge = job::CountedEdge::Rising;
    const auto wrong = test::of(coil, "wheel-edge");
    ASSERT_EQ(wrong.size(), 1U);
    EXPECT_EQ(wrong.front().severity, findings::Severity::Fix);
    EXPECT_THAT(wrong.front().todo, HasSubstr("exchange the coil's wires"));
}

} // namespace
} // namespace vicegrip::decoded
