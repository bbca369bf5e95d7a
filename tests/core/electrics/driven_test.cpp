#include "core/analysis/analysis.h"
#include "core/electrics/electrics.h"
#include "core/electrics/wiring.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/job/facts.h"
#include "core/job/json.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"
#include "tests/support/within_tolerance.h"

#include <gmock/gmock.h>

/// Circuits that the ECU drives: drawn, read with a meter, and at work.
namespace vicegrip::electrics {
namespace {

using job::Condition;
using job::PointRef;
using testing::HasSubstr;

const parts::Part& part(const char* id)
{
    const parts::Part* found = parts::find(test::library(), parts::PartId{id});
    EXPECT_NE(found, nullptr) << id;
    return *found;
}

job::Job with(const char* unit, const std::vector<std::pair<const char*, const char*>>& seated)
{
    job::Job job = harness::startJob("Driven", *parts::find(test::library(), parts::EcuId{unit}));
    for (const auto& [id, output] : seated) {
        const auto circuit = harness::addCircuit(job, {id}, id, job::Want::Required, part(id));
        const auto seated_there = harness::seat(job, circuit, parts::OutputId{output});
        EXPECT_TRUE(seated_there) << seated_there.error().text();
    }
    const auto sound = job::check(job);
    EXPECT_TRUE(sound) << sound.error().text();
    return job;
}

TEST(Driven, AreDrawnFromTheirFeedToTheOutput)
{
    const job::Job job = with("entry-28", {{"injector-14", "INJ1"}, {"coil-driver-4", "IGN1"}, {"relay-high", "O1"}});
    const Wiring wiring(job);
    for (const job::Circuit& c : job.circuits)
        for (const Path& path : wiring.paths(c))
            EXPECT_TRUE(path.complete) << c.id.value << ' ' << fields::enumName(path.role);
    const auto paths = wiring.paths(job.circuits.front());
    ASSERT_EQ(paths.size(), 2U);
    EXPECT_EQ(paths[0].points.back(), PointRef::fromText("A.16"));
    EXPECT_EQ(paths[1].points.back(), PointRef::fromText("BAT+"));
}

TEST(Driven, AStepperKeepsItsOrder)
{
    job::Job job = with("mid-fixed", {{"idle-stepper-53", "STEP"}});
    const auto paths = Wiring(job).paths(job.circuits.front());
    ASSERT_EQ(paths.size(), 4U);
    for (size_t i = 0; i < 4; ++i)
        EXPECT_EQ(paths[i].points.back(), PointRef::fromText("A." + std::to_string(30 + i)));
    // Two exchanged: the windings are crossed, and neither wire ends where it must.
    for (job::Wire& w : job.wires)
        for (PointRef* end : {&w.from, &w.to})
            if (end->text() == "A.31" || end->text() == "A.32")
                end->cavity = end->cavity == "31" ? "32" : "31";
    int open = 0;
    for (const Path& path : Wiring(job).paths(job.circuits.front()))
        open += path.complete ? 0 : 1;
    EXPECT_EQ(open, 2);
}

TEST(Driven, WithTheBatteryOffTheWindingIsRead)
{
    const job::Job job = with("entry-28", {{"injector-14", "INJ1"}});
    const auto car = build(job, {.condition = Condition::BatteryOff, .surroundings = job.surroundings});
    ASSERT_TRUE(car);
    const auto atPlug = car->ohmmeter(PointRef::fromText("INJECTOR-14.2"), PointRef::fromText("INJECTOR-14.1"));
    ASSERT_TRUE(atPlug);
    EXPECT_NEAR(atPlug->value, 14.5, 0.05); // two contacts of 5 mOhm and the winding
    EXPECT_LT(atPlug->low, 14.5 * 0.951);
    EXPECT_GT(atPlug->high, 14.5 * 1.049);
    const auto atEcu = car->ohmmeter(PointRef::fromText("A.16"), PointRef::fromText("INJECTOR-14.1"));
    ASSERT_TRUE(atEcu);
    EXPECT_GT(atEcu->value, atPlug->value) << "the wire is in it";
    const auto analysis = test::analysed(job);
    int windings = 0;
    for (const proof::Judged& j : analysis::promised(analysis, job.circuits.front().id, Condition::BatteryOff))
        if (j.expectation.promises() && j.expectation.due.si() > 14 && j.expectation.due.si() < 16)
            ++windings;
    EXPECT_EQ(windings, 2) << "from its plug, and from the ECU's cavity";
}

/// Worked by hand: at 12.6 V an idle output's 47 kOhm draws 0.27 mA through the winding, which loses 4 mV.
TEST(Driven, WithTheKeyOnTheFeedStandsAtBothEnds)
{
    const job::Job job = with("entry-28", {{"injector-14", "INJ1"}});
    const auto car = build(job, {.surroundings = job.surroundings});
    ASSERT_TRUE(car);
    const auto volts = [&](const char* place) {
        return car->voltmeter(PointRef::fromText(place), PointRef::fromText("BAT-"), job.meter)->value;
    };
    EXPECT_NEAR(volts("INJECTOR-14.1"), 12.6, 0.05);
    EXPECT_NEAR(volts("INJECTOR-14.1") - volts("A.16"), 12.55 / 47e3 * 14.5, 1e-4);
    const auto analysis = test::analysed(job);
    const auto promised = analysis::promised(analysis, job.circuits.front().id, Condition::KeyOn);
    EXPECT_EQ(std::ranges::count_if(promised, [](const proof::Judged& j) { return j.expectation.needed; }), 2);
}

/// A proof rests on what moves its reading: the winding, its wires, and the output that holds it.
TEST(Driven, WhatAReadingRestsOnIsNamed)
{
    job::Job job = with("entry-28", {{"injector-14", "INJ1"}});
    const auto subjects = [&](Condition condition) {
        for (const proof::Judged& j : analysis::promised(test::analysed(job), job.circuits.front().id, condition))
            if (j.expectation.station.key == "A.16")
                return j.expectation.subjects;
        return std::vector<std::string>();
    };
    EXPECT_THAT(subjects(Condition::BatteryOff), testing::Contains("actuator injector-14"));
    EXPECT_THAT(subjects(Condition::KeyOn), testing::IsSupersetOf({"output INJ1", "circuit injector-14"}));
    EXPECT_THAT(subjects(Condition::KeyOn), testing::Not(testing::Contains("input ")));
    const auto before = job::factsOf(job::facts(job), subjects(Condition::BatteryOff));
    ASSERT_TRUE(harness::setSensor(job, job.circuits.front().id, part("injector-12")));
    EXPECT_THAT(job::changes(before, job::facts(job)), testing::Contains(HasSubstr("winding ohm")));
    const auto drawn = job::factsOf(job::facts(job), subjects(Condition::KeyOn));
    job.ecu.outputs.front().off_ohm = 10e3;
    EXPECT_THAT(job::changes(drawn, job::facts(job)), testing::Contains(HasSubstr("output INJ1")));
}

/// Worked by hand. At 14.0 V three injectors and a fan draw 14.0 (1/14.5 + 1/12 + 1/16) = 3.0 A and, as 14.4 V / 9 A =
/// 1.6 Ohm, 8.7 A. Each of the unit's two ground wires has 1.7241e-8 x 1.02 x 1 m / 1.5 mm² = 11.7 mOhm, two crimps, a
/// contact and a joint inside of 8 mOhm together: side by side 9.9 mOhm, and 11.7 A lift the unit by 0.116 V.
TEST(Driven, WhatTheyDrawLiftsTheGround)
{
    const job::Job job =
        with("large-free",
             {{"injector-14", "INJ1"}, {"injector-12", "INJ2"}, {"injector-16", "INJ3"}, {"fan-small", "OUT1"}});
    const auto lifted = [&](bool running) {
        const auto car = build(
            job, {.condition = running ? Condition::Running : Condition::KeyOn, .surroundings = job.surroundings});
        EXPECT_TRUE(car);
        return car->solution.volts(car->units[0].ground, *car->node(PointRef::fromText("G1")));
    };
    EXPECT_LT(lifted(false), 0.01);
    EXPECT_NEAR(lifted(true), 0.116, 0.01);
}

/// An output that can be more than one thing does what its part needs: it switches to the side the part is not wired
/// to, and holds low only what takes a logic signal. Worked by hand: 14.1 V across 85 Ohm is 166 mA, across an idle
/// output's 100 kOhm next to nothing.
TEST(Driven, AnOutputSwitchesTheSideThatIsFree)
{
    using enum parts::OutputKind;
    const auto drawn = [](const char* relay, std::vector<parts::OutputKind> drives, bool running) {
        job::Job job = harness::startJob("Sides", *parts::find(test::library(), parts::EcuId{"entry-28"}));
        parts::EcuOutput& o = *std::ranges::find(job.ecu.outputs, parts::OutputId{"O1"}, &parts::EcuOutput::id);
        o.drives = std::move(drives);
        o.high_v = 5;
        const auto id = harness::addCircuit(job, {relay}, relay, job::Want::Required, part(relay));
        EXPECT_TRUE(harness::seat(job, id, o.id));
        const auto car = build(
            job, {.condition = running ? Condition::Running : Condition::KeyOn, .surroundings = job.surroundings});
        EXPECT_TRUE(car);
        const auto wire = std::ranges::find_if(
            job.wires, [](const job::Wire& w) { return w.from.text() == "A.22" || w.to.text() == "A.22"; });
        EXPECT_NE(wire, job.wires.end());
        return std::abs(car->wireCurrent(wire->id));
    };
    for (const auto& drives : {std::vector{LowSide}, {LowSide, HighSide}, {HalfBridge}, {Logic, LowSide}}) {
        EXPECT_NEAR(drawn("relay-85", drives, true), 0.166, 0.003);
        EXPECT_LT(drawn("relay-85", drives, false), 0.001);
    }
    for (const auto& drives : {std::vector{HighSide}, {LowSide, HighSide}, {HalfBridge}}) {
        EXPECT_NEAR(drawn("relay-high", drives, true), 0.166, 0.003);
        EXPECT_LT(drawn("relay-high", drives, false), 0.001);
    }
}

/// Cars whose every part is somewhere within its tolerance, most of them at the edge, read what was promised.
TEST(Driven, PromisesHoldForEveryCarWithinTolerance)
{
    const job::Job job = with("mid-fixed", {{"injector-14", "INJ1"},
                                            {"coil-wasted", "IGN1"},
                                            {"idle-stepper-30", "STEP"},
                                            {"relay-85-diode", "PMP"},
                                            {"boost-28", "AUX4"}});
    const auto analysis = test::analysed(job);
    int compared = 0;
    for (const auto& [condition, name] : fields::EnumNames<Condition>::kNames) {
        std::vector<proof::Expectation> promised;
        for (const job::Circuit& c : job.circuits)
            for (const proof::Judged& j : analysis::promised(analysis, c.id, condition))
                if (j.expectation.promises())
                    promised.push_back(j.expectation);
        for (unsigned seed = 1; seed <= 60; ++seed) {
            test::WithinTolerance within(seed);
            job::Job real = within.car(job);
            const auto situation = within.moment(real, condition);
            const auto car = build(real, situation);
            ASSERT_TRUE(car);
            for (const proof::Expectation& e : promised) {
                const auto read = job::isLive(condition) ? car->voltmeter(e.station.point, e.blackPoint, real.meter)
                                                         : car->ohmmeter(e.station.point, e.blackPoint);
                ASSERT_TRUE(read);
                EXPECT_GE(read->value, e.low - 1e-9) << e.station.key << ", " << name << ", seed " << seed;
                EXPECT_LE(read->value, e.high + 1e-9) << e.station.key << ", " << name << ", seed " << seed;
                ++compared;
            }
        }
    }
    EXPECT_GT(compared, 4000);
}

TEST(Driven, AreKeptInTheFile)
{
    const job::Job job = with("mid-fixed", {{"injector-14", "INJ1"}, {"idle-stepper-53", "STEP"}});
    const auto text = job::write(job);
    const auto back = job::read(text);
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(job::write(*back), text);
    EXPECT_EQ(back->circuits, job.circuits);
    EXPECT_EQ(back->ecu, job.ecu);
    EXPECT_EQ(back->parts, job.parts);
    EXPECT_THAT(text, HasSubstr("\"output\": \"STEP\""));
}

TEST(Driven, WhatCannotBeIsRefusedWhereItStands)
{
    const job::Job good = with("mid-fixed", {{"injector-14", "INJ1"}, {"injector-12", "INJ2"}});
    const auto refusal = [&](const auto& change) {
        job::Job job = good;
        change(job);
        const auto sound = job::check(job);
        EXPECT_FALSE(sound);
        return sound ? std::string() : sound.error().text();
    };
    EXPECT_THAT(refusal([](job::Job& j) { j.circuits[1].output = {"INJ1"}; }), HasSubstr("drives injector-14 already"));
    EXPECT_THAT(refusal([](job::Job& j) { j.circuits[1].output = {"NOPE"}; }), HasSubstr("no output \"NOPE\""));
    EXPECT_THAT(refusal([](job::Job& j) { j.circuits[1].output = {"STEP"}; }), HasSubstr("4 cavities"));
    EXPECT_THAT(refusal([](job::Job& j) {
                    j.circuits[1].output = {};
                    j.circuits[1].input = {"MAP"};
                }),
                HasSubstr("it sits on an output"));
    job::Job job = good;
    EXPECT_FALSE(harness::seat(job, job.circuits[0].id, parts::OutputId{"STEP"}));
    EXPECT_FALSE(harness::seat(job, job.circuits[0].id, parts::InputId{"MAP"}));
    EXPECT_FALSE(harness::setSensor(job, job.circuits[0].id, part("idle-stepper-53"))) << "one cavity, four signals";
    EXPECT_FALSE(harness::setSensor(job, job.circuits[0].id, part("ntc-2k2")));
    EXPECT_EQ(job, good) << "a refused change leaves the job as it was";
}

/// Behind a splice as well.
TEST(Driven, OfWhatIsTakenOutNoWireStays)
{
    job::Job job = harness::startJob("Driven", *parts::find(test::library(), parts::EcuId{"mid-fixed"}));
    const size_t before = job.wires.size();
    const auto id = harness::addCircuit(job, {"idle"}, "Idle", job::Want::Required, part("idle-stepper-53"));
    ASSERT_TRUE(harness::seat(job, id, parts::OutputId{"STEP"}));
    job.joints.push_back({"S9", "Splice", job::JointKind::Splice, {}});
    const auto hangs = [](const job::Wire& w) { return w.from.text() == "IDLE.C" || w.to.text() == "IDLE.C"; };
    const auto cut = std::ranges::find_if(job.wires, hangs);
    ASSERT_NE(cut, job.wires.end());
    job::Wire behind = *cut;
    behind.id = {"w90"};
    behind.from = {"S9", {}};
    cut->to = {"S9", {}};
    job.wires.push_back(std::move(behind));
    ASSERT_TRUE(job::check(job));
    ASSERT_EQ(job.wires.size(), before + 5);
    ASSERT_TRUE(harness::removeCircuit(job, id));
    EXPECT_EQ(job.wires.size(), before);
}

TEST(Driven, MovingTakesTheWireAlong)
{
    job::Job job = with("mid-fixed", {{"injector-14", "INJ1"}});
    const size_t wires = job.wires.size();
    ASSERT_TRUE(harness::seat(job, job.circuits[0].id, parts::OutputId{"INJ3"}));
    EXPECT_EQ(job.wires.size(), wires);
    EXPECT_EQ(Wiring(job).paths(job.circuits[0])[0].points.back(), PointRef::fromText("A.24"));
    ASSERT_TRUE(harness::unseat(job, job.circuits[0].id));
    EXPECT_EQ(job.wires.size(), wires - 1);
    ASSERT_TRUE(harness::removeCircuit(job, job.circuits[0].id));
    EXPECT_TRUE(job::check(job));
}

} // namespace
} // namespace vicegrip::electrics
