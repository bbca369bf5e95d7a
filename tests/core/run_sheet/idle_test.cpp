#include "tests/core/run_sheet/worked.h"

#include <gmock/gmock.h>

namespace vicegrip::run_sheet {
namespace {

using proof::State;
using testing::HasSubstr;

/// The idle-stop loop: the first reading tells the way, the throttle is zeroed where it rests then, and two readings
/// tell how far. By hand: 34 % at 0.600 V and 22 % at 0.620 V are 6 % for each 10 mV, so 6 % is at 0.647 V.
TEST(RunSheet, AnIdleThatIsReadTwiceSaysHowFarTheStopGoes)
{
    job::Job job = worked(*job::readFile(demo("curlew")));
    job::Circuit& tps = *job::find(job, job::CircuitId("tps"));
    ASSERT_TRUE(tps.limits);
    tps.limits->closedRest_v = 0.600;
    std::string stuck;
    workThrough(job, stuck);
    ASSERT_EQ(standing(of(job), "idle valve").state, State::Done) << stuck;
    const auto read = [&](double share) {
        const Sheet s = of(job);
        return pass(job, s, *indexOf(s, "idle valve"),
                    {line(s, "idle valve").window->reading(share), job::ReadingSource::Typed}, kNow);
    };
    std::erase_if(job.passed, [](const job::Passed& p) { return p.line == "idle valve"; });
    ASSERT_TRUE(read(0.34));
    EXPECT_EQ(standing(of(job), "idle valve").state, State::Failing);
    EXPECT_THAT(line(of(job), "idle valve").remedy, HasSubstr("in by an eighth of a turn"));
    tps.limits->closedRest_v = 0.620;
    tps.limits->closed_v += 0.020;
    EXPECT_EQ(standing(of(job), "idle valve").state, State::Stale) << "zeroed: it is read again";
    EXPECT_FALSE(read(0.22)) << "first it reads 0 where it was zeroed";
    workThrough(job, stuck);
    while (job.passed.back().line != "idle valve")
        job.passed.pop_back(); // those behind it rest on it
    job.passed.pop_back();
    ASSERT_TRUE(read(0.22));
    EXPECT_THAT(line(of(job), "idle valve").remedy, HasSubstr("rests at 0.647 V"));
    const auto kept = job::read(job::write(job));
    ASSERT_TRUE(kept) << kept.error().text();
    EXPECT_THAT(line(of(*kept), "idle valve").remedy, HasSubstr("rests at 0.647 V"));
    ASSERT_TRUE(read(0.06));
    EXPECT_EQ(standing(of(job), "idle valve").state, State::Done);
}

} // namespace
} // namespace vicegrip::run_sheet
