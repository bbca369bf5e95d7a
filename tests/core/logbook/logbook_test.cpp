#include "core/logbook/logbook.h"
#include "core/pinning/pinning.h"
#include "core/work/work_steps.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

/// The record of the whole job.
namespace vicegrip::logbook {
namespace {

using testing::HasSubstr;

job::Job fresh()
{
    job::Job job = test::petrel();
    job.log.clear();
    job.proofs.clear();
    job.pinned.clear();
    return job;
}

TEST(Logbook, WhatHandsDidStandsThereWithItsTime)
{
    job::Job job = fresh();
    const job::PointRef at{"CLT", "1"};
    int ticks = 0;
    while (pinning::tick(job, at, "2026-05-01T10:0" + std::to_string(ticks % 10) + ":00Z"))
        ++ticks;
    EXPECT_GE(ticks, 3);
    EXPECT_TRUE(pinning::count(job, at, "2", "2026-05-01T11:00:00Z"));
    EXPECT_TRUE(pinning::pullOut(job, at, "2026-05-01T11:05:00Z"));
    EXPECT_FALSE(pinning::pullOut(job, at, "2026-05-01T11:06:00Z")); // nothing is there any more
    ASSERT_TRUE(work::tick(job, "mount-ecu", "2026-05-01T09:00:00Z"));
    const auto book = logbook(job);
    ASSERT_EQ(book.size(), 4U) << "one line for all the steps, when the last is done";
    EXPECT_EQ(book[0].what, "Plug CLT 1: taken out") << "latest first";
    EXPECT_EQ(book[1].what, "Plug CLT 1: the second count led to cavity 2");
    EXPECT_EQ(book[2].what, "Plug CLT 1: seated");
    EXPECT_THAT(book[3].what, HasSubstr("Mount"));
}

TEST(Logbook, ReadingsStandBetweenThem)
{
    job::Job job = fresh();
    test::prove(job, "clt", "A.7", 2.5);
    test::prove(job, "clt", "CLT.1", 1200, job::Condition::BatteryOff);
    const auto book = logbook(job);
    ASSERT_EQ(book.size(), 2U);
    EXPECT_THAT(book[0].what, HasSubstr("Coolant temp, key on, Cavity A7: 2.500 V"));
    EXPECT_THAT(book[1].what, HasSubstr("battery off, Plug CLT 1: 1.200 kΩ"));
}

TEST(Logbook, AFilterFindsEachOfItsWords)
{
    const job::Job job = test::petrel();
    const auto all = logbook(job), some = logbook(job, "COOLANT a7");
    EXPECT_LT(some.size(), all.size());
    ASSERT_FALSE(some.empty());
    for (const LogLine& line : some)
        EXPECT_THAT(line.what, HasSubstr("A7"));
    EXPECT_TRUE(logbook(job, "submarine").empty());
    EXPECT_TRUE(std::ranges::is_sorted(all, std::greater(), &LogLine::when));
}

TEST(WorkSteps, APlugThatIsElsewhereIsBuriedByWhatIsThere)
{
    job::Job job = fresh();
    const auto step = [&](const char* id) {
        const auto all = work::steps(job);
        return *std::ranges::find(all, id, &work::Step::id);
    };
    EXPECT_EQ(step("fit-clt").place, "under the intake");
    work::setPlace(job, "CLT", "front of the engine");
    EXPECT_EQ(step("fit-clt").place, "front of the engine");
    EXPECT_EQ(step("plug-CLT").place, "front of the engine");
    const work::Step gate = step("front-drive");
    EXPECT_NE(std::ranges::find(gate.after, "plug-CLT"), gate.after.end()) << "the front drive waits for it now";
    work::setPlace(job, "CLT", "behind the head");
    EXPECT_EQ(step("fit-clt").place, "behind the head") << "a name of the user's own";
    work::setPlace(job, "CLT", "");
    EXPECT_EQ(step("fit-clt").place, "under the intake");
    EXPECT_EQ(work::plugOf("fit-clt", job), "CLT");
    EXPECT_EQ(work::plugOf("plug-CLT", job), "CLT");
    EXPECT_FALSE(work::plugOf("mount-ecu", job));
}

} // namespace
} // namespace vicegrip::logbook
