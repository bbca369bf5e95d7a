#include "core/brief/banks.h"
#include "core/brief/needs.h"
#include "core/clicks/clicks.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// Two banks that are exchanged as wholes, told from wires that are.
namespace vicegrip::clicks {
namespace {

using testing::HasSubstr;
using testing::IsEmpty;

job::Job six()
{
    job::Job job = test::jobOn("large-free");
    job.brief.emplace();
    job.brief->cylinders = 6;
    job.brief->displacement_m3 = 3e-3;
    job.brief->firingOrder = {1, 2, 3, 4, 5, 6};
    job.brief->banks = *brief::banksFrom("near 1 3 5, far 2 4 6", 6);
    EXPECT_TRUE(brief::apply(job, test::library()));
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    return job;
}

void answer(job::Job& job, const char* clicked, const char* answered)
{
    const job::Facts facts = job::facts(job);
    job.clicks.push_back(record(job, facts, electrics::Wiring(job), *job::find(job, job::CircuitId{clicked}),
                                {{answered}}, "2026-01-01T00:00:00Z"));
}

void exchange(job::Job& job, const char* one, const char* other)
{
    answer(job, one, other);
    answer(job, other, one);
}

TEST(BanksExchanged, AreSaidOnceAndNotWireByWire)
{
    job::Job job = six();
    exchange(job, "inj1", "inj2");
    EXPECT_THAT(test::of(job, "banks-exchanged"), IsEmpty()) << "one pair is two wires";
    EXPECT_EQ(test::of(job, "click-exchanged").size(), 1U);
    exchange(job, "inj3", "inj4");
    exchange(job, "inj5", "inj6");
    const auto found = test::of(job, "banks-exchanged");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().what, testing::AllOf(HasSubstr("near and far"), HasSubstr("6 outputs")));
    EXPECT_THAT(test::of(job, "click-exchanged"), IsEmpty());
}

TEST(BanksExchanged, APairWithinABankIsWires)
{
    job::Job job = six();
    exchange(job, "inj1", "inj3");
    exchange(job, "inj2", "inj4");
    EXPECT_THAT(test::of(job, "banks-exchanged"), IsEmpty());
    EXPECT_EQ(test::of(job, "click-exchanged").size(), 2U);
    job::Job inLine = six();
    inLine.brief->banks.clear();
    exchange(inLine, "inj1", "inj2");
    exchange(inLine, "inj3", "inj4");
    EXPECT_THAT(test::of(inLine, "banks-exchanged"), IsEmpty());
}

} // namespace
} // namespace vicegrip::clicks
