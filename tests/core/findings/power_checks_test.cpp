#include "core/branches/tree.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/wires/joins.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

/// Feeds, grounds, fuses and relays; and the loom. The 10 A, the straight main feed and the live key feed are common
/// practice, no source.
namespace vicegrip::findings {
namespace {

using job::SwitchKind;
using test::of;
using testing::AllOf;
using testing::HasSubstr;

constexpr const char* kRules[] = {"ground-missing", "feed-open",    "feed-drops-cranking",   "feed-by-hand",
                                  "feed-by-relay",  "relay-shared", "feed-no-fuse",          "load-open",
                                  "load-no-relay",  "load-no-fuse", "load-on-sensor-ground", "fuse-small",
                                  "wire-short",     "wires-unused", "colours-alike"};

job::Switch& contact(job::Job& job, const char* id)
{
    return *std::ranges::find(job.switches, id, &job::Switch::id);
}

TEST(PowerFindings, TheDemoJobsAreFedAsTheyShouldBe)
{
    for (const char* name : {"petrel", "curlew"}) {
        const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip");
        for (const char* rule : kRules)
            EXPECT_TRUE(of(*job, rule).empty()) << name << ": " << of(*job, rule).front().what;
    }
}

TEST(PowerFindings, AJobThatHasJustBegunHasNoneOfThem)
{
    for (const parts::EcuProfile& profile : test::library().ecus)
        if (!profile.ecu.expander) {
            const job::Job job = harness::startJob("new", profile);
            for (const char* rule : kRules)
                EXPECT_TRUE(of(job, rule).empty()) << profile.id.value << ": " << of(job, rule).front().what;
        }
}

TEST(PowerFindings, OneOfTwoGroundsMissingIsSaid)
{
    job::Job job = test::petrel();
    std::erase_if(job.wires, [](const job::Wire& w) { return w.id.value == "w31"; });
    const auto found = of(job, "ground-missing");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].severity, Severity::Stop);
    EXPECT_THAT(found[0].what, AllOf(HasSubstr("2 power grounds, and 1"), HasSubstr("Cavity A3")));
}

TEST(PowerFindings, AFeedThatFailsWhenItIsNeededIsSaid)
{
    job::Job job = test::petrel();
    contact(job, "K1").opensCranking = true;
    EXPECT_EQ(of(job, "feed-drops-cranking").size(), 1U);
    job = test::petrel();
    contact(job, "K1").kind = SwitchKind::Hand;
    EXPECT_TRUE(of(job, "feed-by-hand").empty()) << "that is the key";
    contact(job, "K1").needsKey = false;
    EXPECT_EQ(of(job, "feed-by-hand").size(), 1U) << "that is a kill switch";
    job = test::petrel();
    contact(job, "fuse-1").kind = SwitchKind::Hand;
    contact(job, "fuse-1").needsKey = true;
    EXPECT_EQ(of(job, "feed-no-fuse").size(), 1U);
    contact(job, "fuse-1").kind = SwitchKind::Contact;
    EXPECT_TRUE(of(job, "feed-no-fuse").empty()) << "nobody has said what it is";
    job = test::petrel();
    std::erase_if(job.wires, [](const job::Wire& w) { return w.id.value == "w29"; });
    EXPECT_EQ(of(job, "feed-open").size(), 1U);
}

/// A unit that has a pin to be told of the key by takes its main feed straight from the post.
TEST(PowerFindings, AUnitWithAKeyFeedTakesItsMainFeedStraight)
{
    job::Job job = test::petrelInputs();
    std::erase_if(job.ecu.pins, [](const parts::EcuPin& p) { return p.output.value == "CAN"; });
    job.ecu.pins.push_back({"A.9", parts::EcuPinRole::KeyFeed, {}, {}});
    job.wires.push_back({{"w90"}, {"S3", {}}, {"A", "9"}, 0.7, 0.5e-6, "RD/BK"});
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    const auto found = of(job, "feed-by-relay");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, HasSubstr("relay K1"));
    for (job::Wire& w : job.wires)
        if (w.id.value == "w29")
            w.from = {"F1", {}};
    EXPECT_TRUE(of(job, "feed-by-relay").empty());
}

TEST(PowerFindings, ALoadAboveTenAmpereNeedsARelayOfItsOwn)
{
    job::Job job = test::petrel();
    contact(job, "K2").kind = SwitchKind::Hand;
    auto found = of(job, "load-no-relay");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, HasSubstr("Fuel pump (12 A)"));
    job.loads.front().current_a = 8;
    EXPECT_TRUE(of(job, "load-no-relay").empty());
    job = test::petrel(); // the pump on the ECU's relay
    for (job::Wire& w : job.wires)
        if (w.from == job::PointRef{"S5", {}})
            w.from = {"S3", {}};
    EXPECT_FALSE(of(job, "relay-shared").empty());
    job = test::petrel(); // two loads on one relay
    job.loads.push_back(job.loads.front());
    job.loads.back().id = "pump-2";
    EXPECT_EQ(of(job, "relay-shared").size(), 2U);
}

TEST(PowerFindings, FusesAndReturnsOfLoadsAreJudged)
{
    job::Job job = test::petrel();
    contact(job, "fuse-2").rating_a = 10;
    EXPECT_THAT(of(job, "fuse-small").at(0).what, HasSubstr("on 10 A is more than the 75 %"));
    contact(job, "fuse-2").kind = SwitchKind::Relay;
    EXPECT_EQ(of(job, "load-no-fuse").size(), 1U);
    job = test::petrel();
    for (job::Wire& w : job.wires)
        if (w.id.value == "w51")
            w.to = {"S2", {}};
    EXPECT_EQ(of(job, "load-on-sensor-ground").size(), 1U);
    std::erase_if(job.wires, [](const job::Wire& w) { return w.id.value == "w51"; });
    EXPECT_THAT(of(job, "load-open").at(0).what, HasSubstr("does not return"));
}

TEST(HarnessFindings, AWireBehindTooLargeAFuseIsThin)
{
    job::Job job = test::petrel();
    contact(job, "fuse-1").rating_a = 20;
    const auto found = of(job, "wire-thin");
    ASSERT_FALSE(found.empty());
    EXPECT_THAT(found[0].what, AllOf(HasSubstr("needs 2.5 mm²"), HasSubstr("20 A fuse")));
}

TEST(HarnessFindings, AWireShorterThanItsWayIsSaid)
{
    job::Job job = test::petrel();
    test::wire(job, "w5").length_m = 1.2;
    const auto found = of(job, "wire-short");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, AllOf(HasSubstr("w5"), HasSubstr("1.20 m"), HasSubstr("1.61 m")));
}

/// A harness that came with more circuits than the job has.
TEST(HarnessFindings, WiresOfNoUseAreNamedAndTakenOut)
{
    job::Job job = test::petrel();
    const size_t before = job.wires.size();
    job.joints.push_back({"S90", "Lamps", job::JointKind::Splice, {}});
    job.wires.push_back({{"w90"}, {"BE", "12"}, {"S90", {}}, 1, 0.5e-6, "GY"});
    job.wires.push_back({{"w91"}, {"B", "25"}, {"BC", "12"}, 1, 0.5e-6, "GY"});
    const auto found = of(job, "wires-unused");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, HasSubstr("w90, w91"));
    wires::removeWires(job, wires::unusedWires(job, electrics::Wiring(job)));
    EXPECT_EQ(job.wires.size(), before);
    EXPECT_EQ(job::findJoint(job, "S90"), nullptr);
    EXPECT_NE(job::findJoint(job, "F1"), nullptr) << "a fuse ends there";
    EXPECT_TRUE(job::check(job));
}

TEST(HarnessFindings, HowAWireGoesOnIsSaid)
{
    job::Job job = test::petrel();
    auto on = wires::through(job);
    EXPECT_EQ(on[{"w5"}], "BE-BC as w6");
    EXPECT_EQ(on[{"w18"}], "crimped in S1 with 4 more");
    EXPECT_EQ(on[{"w15"}], "");
    for (job::Joint& j : job.joints)
        if (j.id == "S1")
            j.method = job::JointMethod::Tap;
    on = wires::through(job);
    EXPECT_EQ(on[{"w17"}], "BE-BC as w16; tapped in S1 with 4 more");
    for (const job::JointMethod m : {job::JointMethod::Crimp, job::JointMethod::Solder, job::JointMethod::Tap}) {
        EXPECT_FALSE(wires::adviceOn(m).needs.empty());
        EXPECT_FALSE(wires::adviceOn(m).school.empty());
    }
    EXPECT_THAT(wires::adviceOn(job::JointMethod::Solder).needs, HasSubstr("strain relief"));
}

} // namespace
} // namespace vicegrip::findings
