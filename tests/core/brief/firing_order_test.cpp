#include "core/brief/firing_order.h"

#include "core/brief/needs.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"

#include <gmock/gmock.h>

/// Firing orders, and what the ECU drives because of them.
namespace vicegrip::brief {
namespace {

using testing::HasSubstr;
using testing::Pair;
using testing::UnorderedElementsAre;

/// Orders of common engines and which pistons move together (common practice, no source).
TEST(FiringOrder, CompanionsOfCommonEngines)
{
    EXPECT_THAT(companions(*firingOrderFrom("1-3-4-2", 4)), UnorderedElementsAre(Pair(1, 4), Pair(3, 2)));
    EXPECT_THAT(companions(*firingOrderFrom("1-3-2-4", 4)), UnorderedElementsAre(Pair(1, 2), Pair(3, 4)));
    EXPECT_THAT(companions(*firingOrderFrom("1-5-3-6-2-4", 6)),
                UnorderedElementsAre(Pair(1, 6), Pair(5, 2), Pair(3, 4)));
    EXPECT_THAT(companions(*firingOrderFrom("1-4-2-5-3-6", 6)),
                UnorderedElementsAre(Pair(1, 5), Pair(4, 3), Pair(2, 6)));
    EXPECT_THAT(companions(*firingOrderFrom("1-8-4-3-6-5-7-2", 8)),
                UnorderedElementsAre(Pair(1, 6), Pair(8, 5), Pair(4, 7), Pair(3, 2)));
    EXPECT_THAT(companions(*firingOrderFrom("1-2-4-5-3", 5)), testing::IsEmpty());
}

TEST(FiringOrder, CompanionsAreMutual)
{
    const auto order = *firingOrderFrom("1-8-4-3-6-5-7-2", 8);
    for (int cylinder = 1; cylinder <= 8; ++cylinder)
        EXPECT_EQ(companionOf(order, *companionOf(order, cylinder)), cylinder);
    EXPECT_EQ(companionOf(order, 9), std::nullopt);
}

TEST(FiringOrder, IsUnderstoodAsPeopleWriteIt)
{
    const std::vector<int> four = {1, 3, 4, 2};
    for (const char* typed : {"1-3-4-2", "1 3 4 2", "1,3,4,2", "1342", " 1 - 3 - 4 - 2 ", "1;3;4;2"})
        EXPECT_EQ(*firingOrderFrom(typed, 4), four) << typed;
    EXPECT_EQ(firingOrderText(four), "1-3-4-2");
    EXPECT_EQ(firingOrderFrom("1-7-5-11-3-9-12-6-8-2-10-4", 12)->size(), 12U);
}

TEST(FiringOrder, WhatIsWrongIsNamed)
{
    const auto said = [](const char* typed, int cylinders) {
        const auto order = firingOrderFrom(typed, cylinders);
        EXPECT_FALSE(order) << typed;
        return order ? std::string() : order.error().sentence;
    };
    EXPECT_THAT(said("1-3-4", 4), HasSubstr("cylinder 2 is missing"));
    EXPECT_THAT(said("1-3-3-2", 4), HasSubstr("cylinder 3 is there twice"));
    EXPECT_THAT(said("1-3-4-2", 6), HasSubstr("cylinder 5 is missing"));
    EXPECT_THAT(said("1-3-4-5", 4), HasSubstr("no cylinder 5"));
    EXPECT_THAT(said("front to back", 4), HasSubstr("such as 1-3-4-2"));
    EXPECT_THAT(said("", 4), HasSubstr("missing"));
    EXPECT_THAT(said("99999999999999999999", 4), HasSubstr("cylinder"));
}

std::vector<std::string> asked(const job::Brief& brief)
{
    std::vector<std::string> out;
    for (const Need& n : needs(brief))
        out.push_back(n.function.value);
    return out;
}

TEST(DrivenNeeds, NothingIsAskedForBeforeTheFiringOrderIsSaid)
{
    job::Brief brief;
    EXPECT_THAT(asked(brief), testing::Not(testing::Contains("inj1")));
    brief.firingOrder = {1, 3, 4, 2};
    EXPECT_THAT(asked(brief), testing::IsSupersetOf({"inj1", "inj2", "inj3", "inj4", "ign1", "ign2", "fuel-pump"}));
    EXPECT_THAT(asked(brief), testing::Not(testing::Contains("ign3"))) << "two coils serve four cylinders";
    brief.ignition = job::Ignition::Sequential;
    EXPECT_THAT(asked(brief), testing::Contains("ign4"));
    brief.ignition = job::Ignition::Distributor;
    EXPECT_THAT(asked(brief), testing::Not(testing::Contains("ign2")));
}

TEST(DrivenNeeds, AFiringOrderThatCannotBeIsSaid)
{
    job::Brief brief;
    brief.firingOrder = {1, 3, 4, 2};
    EXPECT_THAT(nonsense(brief), testing::IsEmpty());
    brief.cylinders = 6;
    ASSERT_EQ(nonsense(brief).size(), 1U);
    EXPECT_EQ(nonsense(brief).front().field, "firing_order");
    brief.cylinders = 3;
    brief.firingOrder = {1, 2, 3};
    EXPECT_THAT(nonsense(brief).front().sentence, HasSubstr("no companions"));
}

/// From an empty job: a wasted-spark four on a unit with ignition outputs has all it needs, seated, drawn and right.
TEST(DrivenNeeds, AWastedSparkFourIsSeatedFromNothing)
{
    job::Job job = harness::startJob("Four", *parts::find(test::library(), parts::EcuId{"mid-fixed"}));
    job.brief.emplace();
    job.brief->firingOrder = {1, 3, 4, 2};
    job.brief->idle = job::IdleControl::None;
    ASSERT_TRUE(apply(job, test::library()));
    EXPECT_EQ(job::partOf(job, *job::find(job, job::CircuitId{"ign1"}))->id.value, "coil-wasted");
    EXPECT_EQ(job::partOf(job, *job::find(job, job::CircuitId{"inj1"}))->id.value, "injector-14");
    const auto plan = seating::bestPlan(job);
    ASSERT_TRUE(seating::take(job, plan));
    EXPECT_TRUE(job::check(job)) << job::check(job).error().text();
    for (const char* id : {"inj1", "inj2", "inj3", "inj4", "ign1", "ign2"}) {
        const job::Circuit& c = *job::find(job, job::CircuitId{id});
        EXPECT_EQ(c.output.value.substr(0, 3), std::string(id).starts_with("inj") ? "INJ" : "IGN") << id;
    }
    const auto before = job;
    ASSERT_TRUE(apply(job, test::library()));
    EXPECT_EQ(job, before) << "applied twice it changes nothing";
}

/// Its four wires stay together, in their order, on the one output that steps.
TEST(DrivenNeeds, AnIdleStepperIsSeatedOnWhatSteps)
{
    job::Job job = harness::startJob("Four", *parts::find(test::library(), parts::EcuId{"mid-fixed"}));
    job.brief.emplace();
    job.brief->firingOrder = {1, 3, 4, 2};
    job.brief->idle = job::IdleControl::Stepper;
    ASSERT_TRUE(apply(job, test::library()));
    EXPECT_EQ(job::find(job, job::CircuitId{"idle-valve"}), nullptr);
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    const job::Circuit* stepper = job::find(job, job::CircuitId{"idle-stepper"});
    ASSERT_NE(stepper, nullptr);
    EXPECT_EQ(job::partOf(job, *stepper)->kind, parts::PartUse::IdleStepper);
    EXPECT_EQ(job::seatCavities(job, *stepper).size(), 4U);
    EXPECT_TRUE(job::read(job::write(job))) << "and it is kept";
}

TEST(DrivenNeeds, PartsFollowTheFacts)
{
    job::Job job = harness::startJob("Four", *parts::find(test::library(), parts::EcuId{"large-free"}));
    job.brief.emplace();
    job.brief->firingOrder = {1, 3, 4, 2};
    job.brief->ignition = job::Ignition::Sequential;
    job.brief->coilDriver = true;
    job.brief->injector_ohm = 2.4;
    ASSERT_TRUE(apply(job, test::library()));
    EXPECT_EQ(job::partOf(job, *job::find(job, job::CircuitId{"ign3"}))->id.value, "coil-driver-4");
    EXPECT_EQ(job::partOf(job, *job::find(job, job::CircuitId{"inj3"}))->id.value, "injector-2");
}

} // namespace
} // namespace vicegrip::brief
