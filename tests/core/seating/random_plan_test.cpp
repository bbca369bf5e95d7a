#include "core/job/check.h"
#include "core/seating/compatibility.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"

#include <algorithm>
#include <gtest/gtest.h>
#include <random>
#include <set>

/// Crowded jobs of every kind: what a plan promises holds in the job that takes it.
namespace vicegrip::seating {
namespace {

job::Job crowd(const char* unit, std::mt19937& random, int circuits)
{
    job::Job job = test::jobOn(unit);
    const auto& sensors = test::sensors();
    for (int n = 0; n < circuits; ++n)
        harness::addCircuit(job, {"map"}, "C" + std::to_string(n), static_cast<job::Want>(random() % 3),
                            sensors[random() % sensors.size()]);
    job.ecu.supply.limit_a = 0.01 + 0.01 * static_cast<double>(random() % 10);
    return job;
}

int seatedOf(const job::Job& job, job::Want want)
{
    return static_cast<int>(
        std::ranges::count_if(job.circuits, [&](const job::Circuit& c) { return c.want == want && !c.input.empty(); }));
}

class Crowds : public testing::TestWithParam<const char*>
{
};

TEST_P(Crowds, ThePlanIsKeptProvedAndStable)
{
    std::mt19937 random(9); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 12; ++round) {
        job::Job job = crowd(GetParam(), random, 4 + static_cast<int>(random() % 14));
        const Plan plan = bestPlan(job);
        EXPECT_TRUE(plan.optimal);
        EXPECT_TRUE(take(job, plan));
        ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
        EXPECT_EQ(seatedOf(job, job::Want::Required), plan.required);
        EXPECT_EQ(seatedOf(job, job::Want::Wanted), plan.wanted);
        EXPECT_EQ(seatedOf(job, job::Want::Preferred), plan.preferred);
        for (const SupplyBudget& b : supplyBudgets(job))
            EXPECT_LE(b.drawn_a, b.limit_a + 1e-12) << b.unit;
        for (const job::Circuit& c : job.circuits) {
            if (c.input.empty())
                continue;
            EXPECT_TRUE(compatibility(electrics::Wiring(job), c, *job::findInput(job, c.input)).compatible())
                << c.id.value;
        }
        const Plan again = bestPlan(job);
        EXPECT_EQ(again.moved, 0) << "who sits well stays";
        EXPECT_EQ(again.required, plan.required);
    }
}

TEST_P(Crowds, ALockNeverUnseatsAndNeverWins)
{
    std::mt19937 random(10); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 8; ++round) {
        job::Job job = crowd(GetParam(), random, 8);
        EXPECT_TRUE(take(job, bestPlan(job)));
        const int before = seatedOf(job, job::Want::Required);
        std::set<std::pair<std::string, std::string>> locked;
        for (job::Circuit& c : job.circuits)
            if (!c.input.empty() && random() % 2 == 0) {
                c.locked = true;
                locked.insert({c.id.value, c.input.value});
            }
        const Plan plan = bestPlan(job);
        EXPECT_TRUE(take(job, plan));
        for (const auto& [circuit, input] : locked)
            EXPECT_EQ(job::find(job, job::CircuitId{circuit})->input.value, input);
        EXPECT_EQ(seatedOf(job, job::Want::Required), before) << "locks on a best plan cost nothing";
    }
}

TEST_P(Crowds, AFreeInputThatWouldTakeSomebodyIsNeverLeftBesideHim)
{
    std::mt19937 random(12); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 12; ++round) {
        job::Job job = crowd(GetParam(), random, 10);
        EXPECT_TRUE(take(job, bestPlan(job)));
        for (const job::Circuit& c : job.circuits) {
            if (!c.input.empty())
                continue;
            const auto why = refusals(job, c);
            EXPECT_EQ(why.size(), job.ecu.inputs.size()) << c.id.value << ": each input says why not";
            for (const Refusal& r : why)
                EXPECT_GT(r.reason.size(), 10U) << r.reason;
        }
    }
}

INSTANTIATE_TEST_SUITE_P(Units, Crowds, testing::Values("small-4", "mid-fixed", "large-free", "plug-in-60"),
                         [](const auto& unit) {
                             std::string name = unit.param;
                             std::erase(name, '-');
                             return name;
                         });

} // namespace
} // namespace vicegrip::seating
