#include "core/analysis/analysis.h"
#include "core/harness/edits.h"
#include "core/job/json.h"
#include "core/logbook/logbook.h"
#include "core/wiggle/wiggle.h"
#include "tests/support/faulty_car.h"

#include <gmock/gmock.h>

namespace vicegrip::wiggle {
namespace {

using testing::HasSubstr;

const job::CircuitId kFuel{"fp"};

class KeptWiggle : public testing::Test
{
  protected:
    KeptWiggle()
    {
        const auto holds = wiggle::holds(job, kFuel, job::Condition::KeyOn);
        Watch watch(0.02);
        double now = 0;
        const auto say = [&](double volts, double seconds) {
            for (const double end = now + seconds; now < end;)
                watch.hear(now += 0.02, volts);
        };
        say(1, 5);
        watch.handsAt(now, 0);
        for (int i = 0; i < 5; ++i) {
            say(*holds[0].may[0].reads, 0.1);
            say(1, 0.5);
        }
        const job::Circuit& circuit = *job::find(job, kFuel);
        Verdict verdict = judge(job, circuit, holds, watch);
        EXPECT_EQ(verdict.hold, 0U);
        verdict.what = {holds[0].may[0].what};
        what = verdict.what.front();
        job.wiggles.push_back(record(job, job::facts(job), circuit, watch, verdict, "2026-03-01T10:00:00Z"));
    }

    [[nodiscard]] analysis::Analysis analysed() const
    {
        return analysis::analyse(std::make_shared<const job::Job>(job));
    }

    job::Job job = test::unread();
    faults::Loose what;
};

TEST_F(KeptWiggle, StandsUntilItIsMendedAndFailsTheCircuit)
{
    auto a = analysed();
    ASSERT_EQ(a.wiggles.size(), 1U);
    EXPECT_EQ(a.wiggles[0].state, proof::State::Failing);
    EXPECT_EQ(analysis::find(a, kFuel)->meter, proof::State::Failing);
    const auto found = std::ranges::find(a.findings, "comes-and-goes", &findings::Finding::rule);
    ASSERT_NE(found, a.findings.end());
    EXPECT_THAT(found->what, HasSubstr(what.wire.value));
    EXPECT_THAT(found->what, HasSubstr("5 drop-outs"));
    const auto task = std::ranges::find(a.tasks, std::string(proof::kWiggle), &analysis::Task::station);
    ASSERT_NE(task, a.tasks.end());
    EXPECT_EQ(task->circuit, kFuel);
    EXPECT_EQ(named(job, job.wiggles[0]), std::vector{what});

    job.mends.push_back({{"wire " + what.wire.value}, whatText(job, {what}), "2026-03-01T11:00:00Z"});
    a = analysed();
    EXPECT_EQ(a.wiggles[0].state, proof::State::Stale);
    EXPECT_EQ(analysis::find(a, kFuel)->meter, proof::State::Stale);
    EXPECT_EQ(std::ranges::find(a.findings, "comes-and-goes", &findings::Finding::rule), a.findings.end());

    Watch quiet(0.02);
    for (double now = 0; now < 9; now += 0.02)
        quiet.hear(now, 1);
    job.wiggles.push_back(record(job, job::facts(job), *job::find(job, kFuel), quiet, {}, "2026-03-01T12:00:00Z"));
    a = analysed();
    EXPECT_EQ(a.wiggles[0].state, proof::State::Done);
    EXPECT_NE(analysis::find(a, kFuel)->meter, proof::State::Failing);
}

TEST_F(KeptWiggle, IsReadBackAsItWasWritten)
{
    const auto back = job::read(job::write(job));
    ASSERT_TRUE(back.has_value()) << back.error().text();
    EXPECT_EQ(back->wiggles, job.wiggles);
    job.wiggles[0].circuit = job::CircuitId{"nobody"};
    const auto bad = job::read(job::write(job));
    ASSERT_FALSE(bad.has_value());
    EXPECT_EQ(bad.error().place.pointer, "/wiggles/0/circuit");
}

TEST_F(KeptWiggle, IsInTheLogbookAndGoesWithItsCircuit)
{
    const auto lines = logbook::logbook(job, "wiggle");
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_THAT(lines[0].what, HasSubstr("5 drop-outs in"));
    EXPECT_THAT(lines[0].what, HasSubstr(job::spoken(job, what.at)));
    ASSERT_TRUE(harness::removeCircuit(job, kFuel).has_value());
    EXPECT_TRUE(job.wiggles.empty());
}

} // namespace
} // namespace vicegrip::wiggle
