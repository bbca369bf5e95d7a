#include "core/brief/banks.h"
#include "core/brief/driven_needs.h"
#include "core/brief/firing_order.h"
#include "core/brief/needs.h"
#include "core/job/json.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"

#include <gmock/gmock.h>

/// What an engine needs driven, beyond one injector a cylinder; and its banks.
namespace vicegrip::brief {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;

job::Brief engine(int cylinders, std::vector<int> order)
{
    job::Brief b;
    b.cylinders = cylinders;
    b.displacement_m3 = 0.5e-3 * cylinders;
    b.firingOrder = std::move(order);
    return b;
}

int count(const job::Brief& b, const std::string& group)
{
    int n = 0;
    for (const Need& need : needs(b))
        n += need.function.value.starts_with(group) ? 1 : 0;
    return n;
}

std::string reasonOf(const job::Brief& b, const char* function)
{
    for (const Need& n : needs(b))
        if (n.function.value == function)
            return n.reason;
    return {};
}

/// Odd cylinders on one side of a V6, even on the other, and the two rows of a V8 whose front ones are 1 and 5 (common
/// practice: both are met, and the names differ from maker to maker).
TEST(Banks, AreTypedAsPeopleCallThem)
{
    const auto v6 = banksFrom("left 1 3 5, right 2 4 6", 6);
    ASSERT_TRUE(v6) << v6.error().text();
    ASSERT_EQ(v6->size(), 2U);
    EXPECT_EQ((*v6)[0].name, "left");
    EXPECT_THAT((*v6)[1].cylinders, ElementsAre(2, 4, 6));
    EXPECT_EQ(bankOf(*v6, 3), "left");
    EXPECT_EQ(bankOf(*v6, 7), "");
    const auto v8 = banksFrom("bank one: 1-2-3-4; bank two: 5-6-7-8", 8);
    ASSERT_TRUE(v8) << v8.error().text();
    EXPECT_EQ(banksText(*v8), "bank one 1-2-3-4, bank two 5-6-7-8");
    EXPECT_EQ(*banksFrom(banksText(*v8), 8), *v8) << "what is shown can be typed again";
    EXPECT_TRUE(banksFrom("", 4)->empty()) << "in line";
    const auto v12 = banksFrom("A 1 2 3 4 5 6 / B 7 8 9 10 11 12", 12);
    ASSERT_TRUE(v12);
    EXPECT_EQ((*v12)[1].cylinders.back(), 12);
}

TEST(Banks, WhatCannotBeIsSaidAtTheField)
{
    for (const auto& [typed, says] : {std::pair("left 1 3 5, right 2 4", "cylinder 6 is missing"),
                                      {"left 1 3 5, right 2 4 6 6", "cylinder 6 is there twice"},
                                      {"left 1 3 5 7, right 2 4 6", "no cylinder 7"},
                                      {"left 1 2 3 4 5 6", "two banks"},
                                      {"left 1 2, right 3 4, middle 5 6", "two banks"},
                                      {"left 1 3 5, left 2 4 6", "both banks are called left"},
                                      {"1 3 5, 2 4 6", "a name and its cylinders"},
                                      {"left, right", "a name and its cylinders"},
                                      {"left 1 3 x, right 2 4 6", "a name and its cylinders"},
                                      {"left 99999999999999999999, right 1 2 3 4 5 6", "no cylinder"}}) {
        const auto read = banksFrom(typed, 6);
        ASSERT_FALSE(read) << typed;
        EXPECT_THAT(read.error().text(), HasSubstr(says)) << typed;
    }
}

TEST(Banks, StandInNamesAndReasonsAndAskForASecondWideband)
{
    job::Brief b = engine(6, {1, 2, 3, 4, 5, 6});
    EXPECT_EQ(reasonOf(b, "wideband2"), "");
    b.banks = *banksFrom("left 1 3 5, right 2 4 6", 6);
    b.ignition = job::Ignition::Sequential;
    EXPECT_THAT(reasonOf(b, "inj3"), HasSubstr("left bank"));
    EXPECT_THAT(reasonOf(b, "ign6"), HasSubstr("right bank"));
    EXPECT_THAT(reasonOf(b, "wideband2"), HasSubstr("each bank"));
    job::Job job = test::jobOn("large-free");
    job.brief = b;
    ASSERT_TRUE(apply(job, test::library()));
    EXPECT_EQ(job::find(job, job::CircuitId{"inj4"})->name, "Injector 4, right");
    EXPECT_EQ(job::find(job, job::CircuitId{"clt"})->name, "Coolant temp");
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, job);
    b.ignition = job::Ignition::WastedSpark; // a coil of two cylinders is on neither side
    EXPECT_EQ(bankOfDriven({"ign2"}, b), "");
}

TEST(Driven, InjectorsAreAsManyAsTheBriefSays)
{
    job::Brief b = engine(4, {1, 3, 4, 2});
    EXPECT_EQ(count(b, "inj"), 4);
    b.injectors = 8;
    EXPECT_EQ(count(b, "inj"), 8);
    EXPECT_THAT(reasonOf(b, "inj7"), HasSubstr("second one of cylinder 3"));
    b.injectors = 2;
    EXPECT_EQ(count(b, "inj"), 2);
    EXPECT_THAT(reasonOf(b, "inj2"), HasSubstr("2 that feed 4 cylinders"));
    EXPECT_FALSE(cylinderOf({"inj2"}, b).has_value());
    EXPECT_TRUE(nonsense(b).empty());
    for (const int wrong : {5, 6, 7, 9, 17, 32, -1}) {
        b.injectors = wrong;
        ASSERT_EQ(nonsense(b).size(), 1U) << wrong;
        EXPECT_EQ(nonsense(b).front().field, "injectors");
    }
    b = engine(12, {1, 7, 5, 11, 3, 9, 6, 12, 2, 8, 4, 10});
    b.injectors = 24;
    EXPECT_THAT(nonsense(b).front().sentence, HasSubstr("16 at most"));
}

TEST(Driven, FansAndGaugesAreAskedForAsTheBriefSays)
{
    job::Brief b = engine(4, {1, 3, 4, 2});
    EXPECT_EQ(count(b, "fan"), 1);
    EXPECT_EQ(count(b, "tachometer"), 1) << "as briefs of before had it";
    b.fans = 3;
    b.tachometer = false;
    b.warningLamp = b.display = true;
    EXPECT_EQ(count(b, "fan"), 3);
    EXPECT_EQ(count(b, "tachometer"), 0);
    EXPECT_EQ(count(b, "warning-lamp"), 1);
    EXPECT_EQ(count(b, "display"), 1);
    job::Job job = test::jobOn("large-free");
    job.brief = b;
    ASSERT_TRUE(apply(job, test::library()));
    for (const char* id : {"fan", "fan2", "fan3", "warning-lamp", "display"})
        EXPECT_NE(job::find(job, job::CircuitId{id}), nullptr) << id;
    b.fans = 4;
    EXPECT_EQ(nonsense(b).front().field, "fans");
    b.fans = 0;
    EXPECT_EQ(count(b, "fan"), 0);
}

/// A fact that changes later changes the part that is there already: it is said first, and done when the circuits are
/// brought in line.
TEST(Driven, AFactThatChangesChangesThePart)
{
    job::Job job = test::jobOn("mid-fixed");
    job.brief = engine(4, {1, 3, 4, 2});
    ASSERT_TRUE(apply(job, test::library()));
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    const auto standing = [&](const char* function) {
        for (const Consequence& c : consequences(job, *job.brief))
            if (c.function.value == function)
                return c.standing;
        return Standing::Own;
    };
    EXPECT_EQ(standing("inj1"), Standing::There);
    EXPECT_EQ(standing("ign1"), Standing::There);
    job.brief->injector_ohm = 2.4;
    job.brief->coilDriver = true;
    EXPECT_EQ(standing("inj1"), Standing::Changing);
    EXPECT_EQ(standing("ign1"), Standing::Changing);
    EXPECT_EQ(standing("fuel-pump"), Standing::There);
    ASSERT_TRUE(apply(job, test::library()));
    EXPECT_LT(*parts::windingOhm(*job::partOf(job, *job::find(job, job::CircuitId{"inj1"}))), 3);
    EXPECT_EQ(parts::driveOf(*job::partOf(job, *job::find(job, job::CircuitId{"ign1"})))->driver,
              parts::DriverKind::IgnitionLogic);
    EXPECT_EQ(standing("inj1"), Standing::There);
    EXPECT_EQ(standing("ign1"), Standing::There);
    // What the user chose within the fact stays: 12 Ohm are no other kind than 14.5 Ohm.
    job.brief->injector_ohm = 14.5;
    ASSERT_TRUE(harness::setSensor(job, {"inj2"}, test::sensor("injector-12")));
    ASSERT_TRUE(apply(job, test::library()));
    EXPECT_EQ(job::partOf(job, *job::find(job, job::CircuitId{"inj2"}))->id.value, "injector-12");
}

} // namespace
} // namespace vicegrip::brief
