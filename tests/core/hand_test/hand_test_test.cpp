#include "core/electrics/netlist.h"
#include "core/hand_test/hand_test.h"
#include "core/logbook/logbook.h"
#include "core/work/work_steps.h"
#include "tests/support/ngspice.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// A wheel turned by hand: what a meter must read, tooth by tooth, and what is kept of it.
namespace vicegrip::hand_test {
namespace {

using proof::State;
using testing::HasSubstr;

const job::CircuitId kCrank{"crank"};

job::Circuit& crank(job::Job& job)
{
    return *job::find(job, kCrank);
}

/// Volts between two places by another solver.
double spiceVolts(const job::Job& job, bool onTooth, const job::PointRef& red, const job::PointRef& black)
{
    electrics::Situation situation{.condition = job::Condition::KeyOn, .surroundings = job.surroundings};
    if (onTooth)
        situation.pulling.insert(kCrank);
    const electrics::Netlist netlist = electrics::netlist(job, situation);
    const std::vector<double> volts = test::askNgspice(netlist.deck("a crank sensor"));
    std::map<std::string, double> at = {{"0", 0}};
    size_t i = 0;
    for (const auto& [point, node] : netlist.places)
        if (node != "0" && i < volts.size())
            at[node] = volts[i++];
    EXPECT_EQ(i, volts.size());
    return at[netlist.places.at(red)] - at[netlist.places.at(black)];
}

/// Reference: ngspice on the job's own deck, at the sensor's plug, a tooth before it and none.
TEST(Due, IsWhatNgspiceSaysOfTheWholeCar)
{
    const job::Job job = test::petrel();
    const auto due = hand_test::due(job, *job::find(job, kCrank));
    ASSERT_TRUE(due) << due.error().text();
    const double tooth = spiceVolts(job, true, due->red, due->black),
                 gap = spiceVolts(job, false, due->red, due->black);
    EXPECT_NEAR(due->tooth_v, tooth, 1e-3);
    EXPECT_NEAR(due->gap_v, gap, 2e-3) << "the meter's 10 MOhm takes a millivolt off 2.2 k";
    EXPECT_LT(tooth, due->toothMost_v);
    EXPECT_GT(gap, due->gapLeast_v);
    EXPECT_LT(gap, due->gapMost_v);
    EXPECT_LT(due->toothMost_v, 0.25) << "common practice, no source: below a quarter of a volt on a tooth";
}

/// A ground that is off lifts both levels; a pull-up that is missing leaves nothing to tell apart.
TEST(Due, FollowsTheCircuitsOwnPullUpAndGround)
{
    job::Job job = test::petrel();
    const auto as = hand_test::due(job, crank(job));
    ASSERT_TRUE(as);
    job::findInput(job, crank(job).input)->pull_up_ohm = 1000;
    const auto stronger = hand_test::due(job, crank(job));
    ASSERT_TRUE(stronger);
    EXPECT_GT(stronger->tooth_v, 1.7 * as->tooth_v) << "more current through the same transistor";
    job::findInput(job, crank(job).input)->pull_up_ohm.reset();
    const auto none = hand_test::due(job, crank(job));
    ASSERT_FALSE(none);
    EXPECT_THAT(none.error().sentence, HasSubstr("pull-up"));
}

/// By hand: 12.6 V over 2.2 k and the output's 40 Ohm.
TEST(Due, LooseIsAdividerOfTwoResistors)
{
    const job::Job job = test::petrel();
    const job::Circuit& c = *job::find(job, kCrank);
    const auto due = dueLoose(job, c, {12.6, 0.4, 2200, 0.05});
    ASSERT_TRUE(due);
    EXPECT_NEAR(due->tooth_v, 12.6 * 40 / 2240, 1e-3);
    EXPECT_NEAR(due->gap_v, 12.6, 0.05) << "a megohm and the meter's ten beside it";
    EXPECT_GT(due->toothMost_v, 13.0 * 60 / 2150);
    EXPECT_LT(due->gapLeast_v, 12.2);
    EXPECT_FALSE(dueLoose(job, c, {12.6, 0.4, 0, 0.05})) << "no resistor";
    EXPECT_EQ(looseFor(job, c).feed_v, job.battery.volts) << "it is fed by the battery";
    const auto read = [&](double v) { return shownBy(*due, v); };
    EXPECT_EQ(read(0.1), Shown::Tooth);
    EXPECT_EQ(read(12.5), Shown::Gap);
    for (const double odd : {-12.5, 3.0, 9.0, 24.0}) {
        EXPECT_EQ(read(odd), Shown::Neither) << odd;
        EXPECT_FALSE(whyNeither(*due, odd).empty());
    }
    EXPECT_THAT(whyNeither(*due, -12.5), HasSubstr("leads"));
    EXPECT_THAT(whyNeither(*due, 24), HasSubstr("another supply"));
    EXPECT_THAT(whyNeither(*due, 1), HasSubstr("ground"));
}

TEST(Due, ACoilMakesNothingByHand)
{
    job::Job job = test::petrel();
    const auto map = hand_test::due(job, *job::find(job, job::CircuitId{"map"}));
    ASSERT_FALSE(map);
    EXPECT_THAT(map.error().sentence, HasSubstr("no wheel"));
    for (parts::Part& p : job.parts)
        if (p.id.value == "hall-crank")
            p.conditioned = true; // a coil with a box that makes a square wave of it
    const auto coil = hand_test::due(job, crank(job));
    ASSERT_FALSE(coil);
    EXPECT_THAT(coil.error().sentence, HasSubstr("fast"));
}

const Due kFive{.tooth_v = 0.09,
                .toothMost_v = 0.2,
                .gap_v = 5,
                .gapLeast_v = 4.9,
                .gapMost_v = 5.1,
                .red = {},
                .black = {},
                .subjects = {}};

/// A tooth counts when it comes after a gap, however often it is read.
TEST(Count, ToothByToothFromReadings)
{
    Count count(*trigger::readWheel("4-1"));
    for (const double v : {5.0, 5.0, 0.1, 0.12, 2.5, 0.1, 5.0})
        (void)count.take(kFive, v);
    EXPECT_EQ(count.due(), 1U) << "half way and back is the same tooth";
    EXPECT_DOUBLE_EQ(count.tooth_v().value_or(0), 0.12);
    EXPECT_DOUBLE_EQ(count.gap_v().value_or(0), 5.0);
    count.mark(false);
    EXPECT_EQ(count.missed(), std::vector{2});
    count.takeBack();
    EXPECT_TRUE(count.missed().empty());
    count.mark(true);
    count.mark(true);
    EXPECT_TRUE(count.isFull());
    count.mark(true);
    EXPECT_EQ(count.due(), 3U) << "nothing after a full turn";
}

TEST(Count, AMissNamesWhereItIs)
{
    const trigger::Wheel wheel = *trigger::readWheel("36-1");
    EXPECT_THAT(toothText(wheel, 17), HasSubstr("160°")) << "16 steps of 10 degrees";
    EXPECT_THAT(missedText(wheel, {17}), HasSubstr("tooth 17, 160°"));
    EXPECT_THAT(missedText(wheel, {9, 10, 11}), HasSubstr("9 to 11"));
    EXPECT_THAT(missedText(wheel, {2, 17, 30}), HasSubstr("here and there"));
    std::vector<int> all(35);
    std::iota(all.begin(), all.end(), 1);
    EXPECT_THAT(missedText(wheel, all), HasSubstr("exchanged"));
    EXPECT_TRUE(missedText(wheel, {}).empty());
}

/// Turns Petrel's crank, and says what becomes of it.
job::Job turned(std::vector<int> missed, std::optional<double> lies_deg = {})
{
    job::Job job = test::petrel();
    crank(job).trigger->lies_deg = lies_deg;
    Count count(*trigger::readWheel(crank(job).trigger->wheel));
    while (!count.isFull())
        count.mark(std::ranges::find(missed, static_cast<int>(count.due()) + 1) == missed.end());
    const auto facts = job::facts(job);
    job.handTurns.push_back(
        record(facts, crank(job), count, *hand_test::due(job, crank(job)), false, "2026-01-02T03:04:05Z"));
    return job;
}

Standing standing(const job::Job& job)
{
    for (Standing& s : standings(job, job::facts(job)))
        if (s.circuit == kCrank)
            return std::move(s);
    ADD_FAILURE() << "no crank";
    return {};
}

TEST(HandTurn, StandsUntilItsWheelGapOrWiresChange)
{
    EXPECT_EQ(standing(test::petrel()).state, State::Untouched);
    const job::Job proved = turned({});
    EXPECT_EQ(standing(proved).state, State::Done);
    const auto after = [&](auto change) {
        job::Job job = proved;
        change(job);
        return standing(job);
    };
    EXPECT_THAT(after([](job::Job& j) { crank(j).trigger->gap_m = 1.2e-3; }).reason, HasSubstr("air gap"));
    EXPECT_THAT(after([](job::Job& j) { crank(j).trigger->wheel = "60-2"; }).reason, HasSubstr("36-1 to 60-2"));
    const job::Job lain = turned({}, 0); // its strip along the teeth
    job::Job crossed = lain;
    crank(crossed).trigger->lies_deg = 60;
    EXPECT_EQ(standing(lain).state, State::Done);
    EXPECT_THAT(standing(crossed).reason, HasSubstr("from 0° to 60°")) << "a turn for the gap turned its face";
    EXPECT_EQ(after([](job::Job& j) { crank(j).trigger->hole = "the second"; }).state, State::Done)
        << "saying for the first time what nobody had said changes nothing";
    EXPECT_EQ(after([](job::Job& j) { j.parts[0].name += "!"; }).state, State::Done);
    EXPECT_EQ(after([](job::Job& j) {
                  const auto paths = electrics::Wiring(j).paths(crank(j));
                  test::wire(j, paths.front().subjects.front().substr(5).c_str()).length_m += 1;
              }).state,
              State::Stale);
    EXPECT_EQ(after([](job::Job& j) { job::findInput(j, crank(j).input)->pull_up_ohm = 1000; }).state, State::Stale);
}

TEST(HandTurn, AMissIsAFindingATaskAndALineOfTheLogbook)
{
    const auto a = test::analysed(turned({17}));
    const auto found = test::of(turned({17}), "tooth-not-seen");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().todo, HasSubstr("160°"));
    const auto task = std::ranges::find(a.tasks, analysis::Stage::Trigger, &analysis::Task::stage);
    ASSERT_NE(task, a.tasks.end());
    EXPECT_THAT(task->title, HasSubstr("again"));
    EXPECT_EQ(analysis::find(a, kCrank)->meter, State::Failing);
    const auto lines = logbook::logbook(*a.job, "turned by hand");
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_THAT(lines.front().what, HasSubstr("1 of 35"));
}

/// It must be proved before anything is bolted in front of it.
TEST(HandTurn, IsAGateInTheOrderOfHands)
{
    const auto stepOf = [](const job::Job& job, const char* id) {
        const auto all = work::steps(job);
        const auto it = std::ranges::find(all, id, &work::Step::id);
        EXPECT_NE(it, all.end()) << id;
        return it == all.end() ? work::Step{} : *it;
    };
    job::Job job = test::petrel();
    EXPECT_FALSE(stepOf(job, "turn-crank").done);
    EXPECT_THAT(stepOf(job, "front-drive").after, testing::Contains("turn-crank"));
    const auto ticked = work::tick(job, "turn-crank", "now");
    ASSERT_FALSE(ticked);
    EXPECT_THAT(ticked.error().sentence, HasSubstr("tooth"));
    EXPECT_TRUE(stepOf(turned({}), "turn-crank").done) << "now the front drive may go on";
    EXPECT_FALSE(stepOf(turned({3}), "turn-crank").done);
    job.workSteps.closed = {"front-drive"};
    EXPECT_THAT(stepOf(job, "turn-crank").after, testing::Not(testing::Contains("open-front-drive")))
        << "the engine turns with its drive on";
}

TEST(HandTurn, IsReadBackAsItWasWritten)
{
    job::Job job = turned({4, 5});
    crank(job).trigger->feelers_m = {1.1e-3, 1.2e-3, 1.3e-3, 1.2e-3};
    crank(job).trigger->light = {{900, 10, 8.5, nlohmann::json::object()}};
    crank(job).trigger->side = "the stamped one";
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, job);
    EXPECT_TRUE(job::checkWritten(job, test::petrel())) << "and as a change of the job before";
    job::Job without = job;
    ASSERT_TRUE(harness::removeCircuit(without, kCrank));
    EXPECT_TRUE(without.handTurns.empty());
    job.handTurns.front().circuit = {"nobody"};
    EXPECT_FALSE(job::read(job::write(job)));
}

} // namespace
} // namespace vicegrip::hand_test
