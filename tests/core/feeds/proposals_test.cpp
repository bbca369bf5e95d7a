#include "core/brief/needs.h"
#include "core/feeds/proposals.h"
#include "core/harness/places.h"
#include "core/harness/relay_feed.h"
#include "core/job/check.h"
#include "core/seating/plan.h"
#include "core/wires/area.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

#include <random>

/// Fuses, relays and feeds that are proposed: each with its reason, and nothing left to propose once all are taken.
namespace vicegrip::feeds {
namespace {

using testing::HasSubstr;
using testing::IsEmpty;

job::Job four(const char* unit = "mid-fixed")
{
    job::Job job = test::jobOn(unit);
    job.brief.emplace();
    job.brief->firingOrder = {1, 3, 4, 2};
    EXPECT_TRUE(brief::apply(job, test::library()));
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    return job;
}

const Proposal* about(const std::vector<Proposal>& all, const std::string& subject)
{
    const auto it = std::ranges::find(all, subject, &Proposal::subject);
    return it == all.end() ? nullptr : &*it;
}

const Feed* feedOf(const std::vector<Feed>& all, const std::string& consumer)
{
    for (const Feed& f : all)
        for (const Consumer& c : f.consumers)
            if (c.name == consumer && !f.fuse.empty())
                return &f;
    return nullptr;
}

void expectSound(const job::Job& job)
{
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    for (const Feed& f : feedsOf(job, electrics::Wiring(job))) {
        if (f.fuse.empty() || f.consumers.empty() || f.proposed_a == 0)
            continue;
        EXPECT_FALSE(f.isWrong) << f.fuse << ": " << f.reason;
        EXPECT_LE(f.amps, 0.75 * f.rating_a * (1 + 1e-9)) << f.fuse;
        for (const job::WireId& id : f.wires) {
            const auto& wire = *std::ranges::find(job.wires, id, &job::Wire::id);
            // At 1.35 of its rating the fuse blows in minutes; till then no wire is above its overload (ISO 8820 and
            // ISO 6722-1, from memory).
            EXPECT_GE(wires::mostAmps(wire.area_m2, wires::kUnderBonnet_k, wires::kOverload_k), 1.35 * f.rating_a)
                << id.value << " behind " << f.fuse;
        }
    }
}

TEST(Proposals, ANewFourGetsFusesForItsGroups)
{
    job::Job job = four();
    const auto all = propose(job, test::library());
    const Proposal* injectors = about(all, "injectors");
    ASSERT_NE(injectors, nullptr);
    // Four at 14.4 V over 14.5 Ohm less 5 %, open 85 % of the time: 3.9 A, and 7.5 A is the first fuse of which that is
    // three quarters at most.
    EXPECT_THAT(injectors->what, HasSubstr("7.5 A"));
    EXPECT_THAT(injectors->why, HasSubstr("3.9 A"));
    ASSERT_NE(about(all, "coils"), nullptr);
    ASSERT_NE(about(all, "fuse-1"), nullptr) << "the main fuse has no rating yet";
    EXPECT_GT(takeAll(job, test::library()), 2);
    expectSound(job);
    EXPECT_THAT(propose(job, test::library()), IsEmpty());
    const auto feeds = feedsOf(job, electrics::Wiring(job));
    const Feed *one = feedOf(feeds, "Injector 1"), *coil = feedOf(feeds, "Coil 1");
    ASSERT_NE(one, nullptr);
    ASSERT_NE(coil, nullptr);
    for (const electrics::Path& path : electrics::Wiring(job).paths(*job::find(job, job::CircuitId{"inj2"})))
        EXPECT_TRUE(path.complete);
    for (const findings::Finding& f : test::analysed(job).findings)
        EXPECT_THAT(f.rule, testing::AllOf(testing::Ne("fuse-small"), testing::Ne("feed-no-fuse"))) << f.what;
}

TEST(Proposals, AGroundThatLeadsNowhereIsDrawn)
{
    job::Job job = four();
    const auto ground = std::ranges::find(job.ecu.pins, parts::EcuPinRole::PowerGround, &parts::EcuPin::role);
    std::erase_if(job.wires,
                  [&](const job::Wire& w) { return w.from.text() == ground->at || w.to.text() == ground->at; });
    ASSERT_FALSE(test::of(job, "ground-missing").empty());
    takeAll(job, test::library());
    EXPECT_THAT(test::of(job, "ground-missing"), IsEmpty());
    expectSound(job);
}

/// What the unit drives from its own feed is on that feed's fuse at once, and not by a second proposal.
TEST(Proposals, AUnitsFuseCarriesWhatItFeedsItself)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "fan", "relay-high");
    test::add(job, "clt", "wideband-0-5");
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    const auto before = propose(job, test::library());
    const Proposal* unit = about(before, job.ecu.name);
    ASSERT_NE(unit, nullptr);
    unit->change(job);
    const auto feeds = feedsOf(job, electrics::Wiring(job));
    const auto own =
        std::ranges::find_if(feeds, [&](const Feed& f) { return f.label.find(job.ecu.name) != std::string::npos; });
    ASSERT_NE(own, feeds.end());
    EXPECT_LE(own->amps, 0.75 * own->rating_a) << own->reason;
}

TEST(Proposals, EachIsTakenByItself)
{
    job::Job job = four();
    const auto before = propose(job, test::library());
    about(before, "injectors")->change(job);
    ASSERT_TRUE(job::check(job));
    const auto after = propose(job, test::library());
    EXPECT_EQ(about(after, "injectors"), nullptr);
    EXPECT_NE(about(after, "coils"), nullptr);
}

TEST(Proposals, ARelayCoilGetsItsSuppression)
{
    job::Job job = test::jobOn("mid-fixed");
    const auto id = test::add(job, "fan", "relay-85");
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    const auto all = propose(job, test::library());
    const Proposal* quiet = about(all, "fan");
    ASSERT_NE(quiet, nullptr);
    quiet->change(job);
    EXPECT_FALSE(parts::driveOf(*job::partOf(job, *job::find(job, id)))->kicks);
    EXPECT_EQ(about(propose(job, test::library()), "fan"), nullptr);
}

/// Above 10 A a load has a relay of its own, fused at the battery (common practice).
TEST(Proposals, AHungryLoadGetsARelayOfItsOwn)
{
    job::Job job = four();
    job::Connector plug;
    plug.id = plug.label = "PUMP";
    plug.kind = job::ConnectorKind::Load;
    plug.cavities = {"1", "2"};
    job.connectors.push_back(plug);
    harness::drawWire(job, {"SW", {}}, {"PUMP", "1"}, 3, 1.5e-6, "RD");
    harness::drawWire(job, {"PUMP", "2"}, {"BAT-", {}}, 3, 1.5e-6, "BK");
    job.loads.push_back({.id = "pump", .label = "Pump", .from = {"PUMP", "1"}, .to = {"PUMP", "2"}, .current_a = 14});
    ASSERT_TRUE(job::check(job));
    EXPECT_FALSE(test::of(job, "relay-shared").empty());
    const auto all = propose(job, test::library());
    const Proposal* relay = about(all, "pump");
    ASSERT_NE(relay, nullptr);
    EXPECT_THAT(relay->what, HasSubstr("20 A")) << "14 A are 70 % of it";
    relay->change(job);
    EXPECT_EQ(about(propose(job, test::library()), "pump"), nullptr);
    takeAll(job, test::library());
    expectSound(job);
    EXPECT_THAT(test::of(job, "relay-shared"), IsEmpty());
    EXPECT_THAT(test::of(job, "load-no-fuse"), IsEmpty());
    EXPECT_THAT(test::of(job, "load-open"), IsEmpty());
}

TEST(Proposals, AUnitIsFedFromWhatStaysWhileCranking)
{
    job::Job job = four("small-4");
    job::Switch key{.id = "KEY2", .label = "Key, accessories", .from = {"F1", {}}, .to = {"ACC", {}}};
    key.kind = job::SwitchKind::Hand;
    key.needsKey = key.opensCranking = true;
    job.joints.push_back({"ACC", "Accessories", job::JointKind::Splice, {}});
    job.switches.push_back(key);
    for (job::Wire& w : job.wires)
        for (const parts::EcuPin& pin : job.ecu.pins)
            if (pin.role == parts::EcuPinRole::PowerFeed && w.to.text() == pin.at)
                w.from = {"ACC", {}};
    ASSERT_FALSE(test::of(job, "feed-drops-cranking").empty());
    takeAll(job, test::library());
    EXPECT_THAT(test::of(job, "feed-drops-cranking"), IsEmpty());
    expectSound(job);
}

TEST(Proposals, AMainFeedWithAKeyFeedBesideGoesToThePost)
{
    for (const parts::EcuProfile& unit : test::library().ecus) {
        job::Job job = harness::startJob("Test", unit);
        job.connectors.push_back({"KEY", "Key", job::ConnectorKind::Ecu, {}, {"1"}, {}, false, {}});
        job.ecu.pins.push_back({"KEY.1", parts::EcuPinRole::KeyFeed, {}, {}}); // none that is shipped has one
        harness::drawWire(job, harness::switchedFeed(job), {"KEY", "1"}, 1, 0.5e-6, "RD");
        ASSERT_FALSE(test::of(job, "feed-by-relay").empty()) << unit.id.value;
        takeAll(job, test::library());
        EXPECT_THAT(test::of(job, "feed-by-relay"), IsEmpty()) << unit.id.value;
        expectSound(job);
    }
}

/// Whatever is on whatever unit: it ends, the job holds, and nothing gets worse.
TEST(Proposals, OnAnyJobTheyEndAndMakeNothingWorse)
{
    std::mt19937 random(20261129);
    const auto stops = [](const job::Job& job) {
        std::set<std::string> out;
        for (const findings::Finding& f : test::analysed(job).findings)
            if (f.severity == findings::Severity::Stop)
                out.insert(f.rule + " " + f.circuit.value);
        return out;
    };
    for (int n = 0; n < 24; ++n) {
        const auto& profile = test::library().ecus[random() % test::library().ecus.size()];
        job::Job job = harness::startJob("Random", profile);
        for (int i = 0; i < 10; ++i) {
            const parts::Part& part = test::library().parts[random() % test::library().parts.size()];
            harness::addCircuit(job, {"f" + std::to_string(i)}, "Circuit " + std::to_string(i), job::Want::Required,
                                part);
        }
        ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
        if (random() % 2 == 0)
            for (const job::Device& d : std::vector(job.devices))
                if (job::findPart(job, d.part)->kind == parts::PartUse::Relay)
                    harness::addRelayFeed(job, d, "Load of " + d.id.value, 1.0 + static_cast<double>(random() % 25),
                                          30);
        for (job::Switch& s : job.switches)
            if (random() % 4 == 0)
                s.rating_a = ratings()[random() % ratings().size()];
        ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
        const auto before = stops(job);
        EXPECT_LT(takeAll(job, test::library()), 100);
        EXPECT_THAT(propose(job, test::library()), IsEmpty());
        expectSound(job);
        for (const std::string& rule : stops(job))
            EXPECT_TRUE(before.contains(rule)) << rule << " on " << profile.id.value;
    }
}

TEST(Proposals, ADemoJobsFeedsAreProposedNothingSilly)
{
    job::Job job = test::petrel();
    const auto all = propose(job, test::library());
    for (const Proposal& p : all)
        EXPECT_FALSE(p.why.empty()) << p.what;
    takeAll(job, test::library());
    expectSound(job);
}

} // namespace
} // namespace vicegrip::feeds
