#include "core/brief/banks.h"
#include "core/brief/needs.h"
#include "core/harness/relay_feed.h"
#include "core/job/check.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// What hangs together that should not: parts on one driver, banks on one bolt, relays on one another.
namespace vicegrip::findings {
namespace {

using testing::HasSubstr;
using testing::IsEmpty;

job::Job engine(const char* unit, job::Brief brief)
{
    job::Job job = test::jobOn(unit);
    job.brief = std::move(brief);
    EXPECT_TRUE(brief::apply(job, test::library()));
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    return job;
}

job::Brief sequentialFour()
{
    job::Brief b;
    b.firingOrder = {1, 3, 4, 2};
    b.ignition = job::Ignition::Sequential;
    b.coilDriver = true;
    return b;
}

/// The signal wire of one circuit ends where the other's does.
void join(job::Job& job, const char* one, const char* other)
{
    const job::PointRef from = job::seatCavities(job, *job::find(job, job::CircuitId{one})).front();
    const job::PointRef to = job::seatCavities(job, *job::find(job, job::CircuitId{other})).front();
    for (job::Wire& w : job.wires)
        for (job::PointRef* end : {&w.from, &w.to})
            if (*end == from)
                *end = to;
}

TEST(Shared, CompanionsOnOneOutputAreSaidWhereEachIsAskedFor)
{
    job::Job job = engine("large-free", sequentialFour());
    EXPECT_THAT(test::of(job, "companions-together"), IsEmpty());
    join(job, "ign4", "ign1"); // 1 and 4 are companions in 1-3-4-2 (common practice)
    const auto found = test::of(job, "companions-together");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().what, HasSubstr("Coil 1 and Coil 4"));
    job = engine("large-free", sequentialFour());
    join(job, "ign3", "ign1");
    EXPECT_THAT(test::of(job, "companions-together"), IsEmpty());
    EXPECT_EQ(test::of(job, "driver-shared").size(), 1U);
}

/// Two at 14.4 V over 14.5 Ohm less 5 % are 2.1 A.
TEST(Shared, ADriverIsHeldToTheSumOfWhatHangsOnIt)
{
    job::Job job = engine("entry-28", {});
    test::add(job, "inj1", "injector-14");
    test::add(job, "inj2", "injector-14");
    ASSERT_TRUE(harness::seat(job, {"inj1"}, parts::OutputId{"INJ1"}));
    ASSERT_TRUE(harness::seat(job, {"inj2"}, parts::OutputId{"INJ2"}));
    join(job, "inj2", "inj1");
    for (const auto& [most, severity] : {std::pair(2.0, Severity::Stop), {2.5, Severity::Fix}}) {
        for (parts::EcuOutput& o : job.ecu.outputs)
            if (o.id.value == "INJ1")
                o.most_a = most;
        const auto found = test::of(job, "driver-shared");
        ASSERT_EQ(found.size(), 1U);
        EXPECT_EQ(found.front().severity, severity) << most;
        EXPECT_THAT(found.front().what, HasSubstr("2.1 A"));
    }
}

TEST(Shared, ABusIsMeantToBe)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "wideband", "wideband-can");
    test::add(job, "display", "can-display");
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    EXPECT_THAT(test::of(job, "driver-shared"), IsEmpty());
}

TEST(Shared, CoilsOfTwoBanksWantAGroundOnEachHead)
{
    job::Brief b;
    b.cylinders = 6;
    b.displacement_m3 = 3e-3;
    b.firingOrder = {1, 2, 3, 4, 5, 6};
    b.ignition = job::Ignition::Sequential;
    b.coilDriver = true;
    b.banks = *brief::banksFrom("left 1 3 5, right 2 4 6", 6);
    job::Job job = engine("large-free", b);
    const auto found = test::of(job, "bank-grounds");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().what, testing::AllOf(HasSubstr("left"), HasSubstr("right"), HasSubstr(" A")));
    job.joints.push_back({"G9", "Right head", job::JointKind::Stud, "head"});
    for (job::Wire& w : job.wires)
        for (const char* plug : {"IGN2", "IGN4", "IGN6"})
            if (w.from.owner == plug && job::findJoint(job, w.to.owner) != nullptr &&
                job::findJoint(job, w.to.owner)->kind == job::JointKind::Stud)
                w.to = {"G9", {}};
    EXPECT_THAT(test::of(job, "bank-grounds"), IsEmpty());
}

struct Relays
{
    job::Job job = test::jobOn("mid-fixed");

    Relays()
    {
        for (const char* id : {"fan", "fan2"})
            test::add(job, id, "relay-85-diode");
        EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
        for (const job::Device& d : std::vector(job.devices))
            harness::addRelayFeed(job, d, d.id.value, 8, 15);
    }
    /// The coil of one is fed by what the other's contact feeds.
    void feed(const char* coil, const std::string& contactOf)
    {
        job::PointRef fed;
        for (const job::Switch& s : job.switches)
            if (s.coil == contactOf)
                fed = s.to;
        for (job::Wire& w : job.wires)
            if (w.from == job::PointRef{coil, "1"})
                w.to = fed;
            else if (w.to == job::PointRef{coil, "1"})
                w.from = fed;
    }
};

TEST(Relays, ThatFeedEachOthersCoilsNeverPullIn)
{
    Relays two;
    EXPECT_THAT(test::of(two.job, "relay-loop"), IsEmpty());
    two.feed("FAN2", "fan");
    ASSERT_TRUE(job::check(two.job));
    EXPECT_THAT(test::of(two.job, "relay-loop"), IsEmpty()) << "one after the other is a way to do it";
    two.feed("FAN", "fan2");
    auto found = test::of(two.job, "relay-loop");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().what, HasSubstr("feed each other's coils"));
    Relays self;
    self.feed("FAN", "fan");
    found = test::of(self.job, "relay-loop");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found.front().what, HasSubstr("its own contact"));
}

/// What a coil pulls in is open until the ECU drives the coil, and then it is not.
TEST(Relays, AContactFollowsItsCoil)
{
    const Relays relays;
    const auto feed = [&](job::Condition condition, const char* clicked = "") {
        electrics::Situation s{.condition = condition, .surroundings = relays.job.surroundings};
        if (*clicked != 0)
            s.clicked = job::find(relays.job, job::CircuitId{clicked})->output;
        const auto car = electrics::build(relays.job, s);
        EXPECT_TRUE(car);
        return car->voltmeter({"FAN-M1", "1"}, {"BAT-", {}}, relays.job.meter)->value;
    };
    EXPECT_LT(feed(job::Condition::KeyOn), 0.1);
    EXPECT_GT(feed(job::Condition::KeyOn, "fan"), 12);
    EXPECT_LT(feed(job::Condition::KeyOn, "fan2"), 0.1);
    EXPECT_GT(feed(job::Condition::Running), 13);
}

TEST(Relays, ACoilThatIsNoneIsRefused)
{
    Relays relays;
    relays.job.switches.back().coil = "clt";
    const auto read = job::read(job::write(relays.job));
    ASSERT_FALSE(read);
    EXPECT_THAT(read.error().text(), HasSubstr("/switches/"));
    Relays gone;
    ASSERT_TRUE(harness::removeCircuit(gone.job, {"fan"}));
    EXPECT_TRUE(job::check(gone.job)) << "its contact stays, and is the key's";
}

} // namespace
} // namespace vicegrip::findings
