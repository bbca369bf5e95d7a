#include "core/brief/questions.h"
#include "core/findings/checks.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace vicegrip::analysis {
namespace {

using job::Condition;
using proof::State;
using test::analysed;
using test::at;
using test::petrel;
using test::prove;

std::vector<std::string> titles(const Analysis& a)
{
    std::vector<std::string> out;
    for (const Task& t : a.tasks)
        out.push_back(t.title);
    return out;
}

/// Petrel with everything proved and scaled.
job::Job finished()
{
    job::Job job = petrel();
    job.proofs.clear();
    test::pinAll(job);
    for (const brief::Question& q : brief::questions(*job.brief, job))
        job.brief->answers[q.id] = "agreed";
    const auto a = analysed(job);
    for (const proof::CircuitView& view : a.circuits)
        for (const Condition condition :
             {Condition::BatteryOff, Condition::KeyOn}) // a bus is proved with the battery off
            for (const proof::Judged& j : analysis::promised(a, view.id, condition))
                if (j.expectation.promises() &&
                    (j.expectation.needed || (j.expectation.station.kind == proof::StationKind::Value)))
                    job.proofs.push_back(proof::record(a.facts, view.id, j.expectation, j.expectation.due,
                                                       job::ReadingSource::Meter, "2026-01-01T00:00:00Z"));
    test::turnAll(job);
    return job;
}

TEST(Tasks, FailingBeforeStaleBeforeUntouchedBeforeScale)
{
    const auto all = titles(analysed(petrel()));
    ASSERT_GE(all.size(), 6U);
    EXPECT_EQ(all[0], "Fuel pressure: find the fault");
    EXPECT_EQ(all[1], "Coolant temp: measure again");
    EXPECT_EQ(all[2], "ECU plug B: 14 cavities to pin");
    EXPECT_EQ(all[3], "Crank trigger: turn it by hand");
    EXPECT_EQ(all[5], "Oil temp: prove the wiring");
    EXPECT_EQ(all[all.size() - 2], "Throttle: give the ECU its table");
    EXPECT_EQ(all.back(), "Ask the tuner: 4 open questions") << "who, air and boost are answered";
}

TEST(Tasks, NoneWhenEverythingIsProved)
{
    const auto a = analysed(finished());
    EXPECT_TRUE(a.tasks.empty()) << a.tasks.front().title;
    for (const proof::CircuitView& v : a.circuits) {
        EXPECT_EQ(v.meter, State::Done) << v.id.value;
        EXPECT_THAT(v.scale, testing::AnyOf(State::Done, State::NotNeeded)) << v.id.value;
    }
}

TEST(Tasks, OneChangeBringsBackOnlyWhatItTouches)
{
    job::Job job = finished();
    job::find(job, job::CircuitId{"iat"})->scaling.points = 24;
    EXPECT_THAT(titles(analysed(job)), testing::ElementsAre("Intake air temp: send the table again"));
    job = finished();
    job::findInput(job, parts::InputId{"AN4"})->pull_up_ohm = 3300;
    EXPECT_THAT(titles(analysed(job)), testing::ElementsAre("Intake air temp: measure again"));
    job = finished();
    job.ecu.firmware = "0.5"; // meters do not care; what the ECU reported must be seen again
    EXPECT_EQ(titles(analysed(job)).size(), 9U);
    EXPECT_THAT(titles(analysed(job)), testing::Each(testing::EndsWith("send the table again")));
}

TEST(Tasks, UnfinishedWiringGoesToPins)
{
    job::Job job = finished();
    job.pinned.clear(); // else the wire that is pinned and no longer drawn comes first
    std::erase_if(job.wires, [](const job::Wire& w) { return w.id.value == "w1"; });
    const auto a = analysed(job);
    EXPECT_EQ(a.tasks.front().title, "Manifold pressure: finish the wiring");
    EXPECT_EQ(a.tasks.front().stage, Stage::Pins);
}

TEST(NextStation, IsTheFirstNeededOneThatIsOpen)
{
    job::Job job = petrel();
    const auto next = [&] {
        const auto a = analysed(job);
        const auto& all = proof::stations(*find(a, {"ot"}), Condition::KeyOn);
        const int i = proof::nextStation(all);
        return i < 0 ? std::string() : all[static_cast<size_t>(i)].place.station.key;
    };
    EXPECT_EQ(next(), "A.12");
    prove(job, "ot", "A.12", at(analysed(job), "ot", "A.12").expectation.due.si());
    EXPECT_EQ(next(), "OT.2");
    prove(job, "ot", "OT.2", at(analysed(job), "ot", "OT.2").expectation.due.si());
    EXPECT_EQ(next(), "OT.1") << "then whatever is left";
}

TEST(Worst, OrdersStates)
{
    using enum State;
    EXPECT_EQ(proof::worst({Done, Stale, Failing}), Failing);
    EXPECT_EQ(proof::worst({Done, Untouched, Stale}), Stale);
    EXPECT_EQ(proof::worst({Done, Untouched}), Untouched);
    EXPECT_EQ(proof::worst({Done, NotNeeded}), Done);
    EXPECT_EQ(proof::worst({NotNeeded}), NotNeeded);
    EXPECT_EQ(proof::worst({}), NotNeeded);
    for (State s : {Untouched, Done, Failing, Stale, NotNeeded})
        EXPECT_FALSE(proof::stateName(s).empty());
}

TEST(Findings, EachSaysWhatWhyAndWhatToDo)
{
    job::Job job = petrel();
    std::erase_if(job.wires, [](const job::Wire& w) { return w.id.value == "w13"; });
    job.ecu.supply.limit_a = 0.001;
    const auto a = analysed(job);
    ASSERT_FALSE(a.findings.empty());
    for (const findings::Finding& f : a.findings) {
        EXPECT_FALSE(f.rule.empty());
        EXPECT_GT(f.what.size(), 20U) << f.rule;
        EXPECT_GT(f.why.size(), 20U) << f.rule;
        EXPECT_GT(f.todo.size(), 10U) << f.rule;
        EXPECT_EQ(f.what.find('!'), std::string::npos);
    }
    EXPECT_TRUE(std::ranges::is_sorted(a.findings, {}, [](const findings::Finding& f) { return f.severity; }))
        << "worst first";
}

TEST(Findings, GroundOffsetGoesWhenTheGroundIsGood)
{
    job::Job job = petrel();
    for (const char* id : {"w35", "w36", "w38", "w37", "w30", "w31"}) {
        test::wire(job, id).area_m2 = 10e-6;
        test::wire(job, id).length_m = 0.05;
    }
    const auto a = analysed(job);
    EXPECT_EQ(std::ranges::count(a.findings, "ground-offset", &findings::Finding::rule), 0);
    EXPECT_EQ(std::ranges::count(a.findings, "range-clipped", &findings::Finding::rule), 0);
}

TEST(Findings, ASecondPostWithoutABatteryIsOnlyAJoint)
{
    job::Job job = petrel();
    job.joints.push_back({"BAT2", "Second battery", job::JointKind::BatteryPositive, {}, {}});
    const auto a = analysed(job);
    EXPECT_TRUE(a.networkTrouble.empty());
}

} // namespace
} // namespace vicegrip::analysis
