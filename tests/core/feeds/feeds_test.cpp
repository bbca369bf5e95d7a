#include "core/analysis/analysis.h"
#include "core/feeds/feeds.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/seating/plan.h"
#include "core/wires/area.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// Fuses by what hangs on them, and units that a current keeps awake.
namespace vicegrip::feeds {
namespace {

using testing::HasSubstr;

const parts::Part& part(const char* id)
{
    return *parts::find(test::library(), parts::PartId{id});
}

job::Job with(std::initializer_list<const char*> parts, const char* unit = "mid-fixed")
{
    job::Job job = harness::startJob("Feeds", *parts::find(test::library(), parts::EcuId{unit}));
    for (const char* id : parts)
        harness::addCircuit(job, {id}, id, job::Want::Required, part(id));
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    return job;
}

job::Switch& fuse(job::Job& job)
{
    return *std::ranges::find(job.switches, job::SwitchKind::Fuse, &job::Switch::kind);
}

Feed of(const job::Job& job)
{
    return feedsOf(job, electrics::Wiring(job)).front();
}

/// Worked by hand: 14.4 V over the least 14.5 Ohm within 5 % are 1.045 A, open 85 % of the time they heat as 0.964 A
/// do. The unit takes 14.2 V over its own resistance. Together at most 75 % of the fuse.
TEST(Feeds, AFuseCarriesWhatHangsOnIt)
{
    const job::Job job = with({"injector-14", "injector-12"});
    EXPECT_NEAR(heating(part("injector-14")), 0.964, 0.001);
    const Feed f = of(job);
    EXPECT_EQ(f.fuse, "fuse-1");
    EXPECT_NEAR(f.amps, 14.2 / job.ecu.feed_ohm + heating(part("injector-14")) + heating(part("injector-12")), 1e-6);
    EXPECT_GE(f.proposed_a * kLoaded, f.amps);
    for (const double r : ratings())
        EXPECT_TRUE(r >= f.proposed_a || r * kLoaded < f.amps) << "no smaller one would do";
    EXPECT_EQ(f.consumers.size(), 3U);
    EXPECT_FALSE(f.isWrong) << f.reason;
}

/// The root mean square of a ramp to the peak over a share d of the time is the peak times the root of d / 3.
TEST(Feeds, ACoilHeatsAsItsRampDoes)
{
    const double peak = parts::driveOf(part("coil-wasted"))->amps;
    double squares = 0;
    constexpr int kSteps = 100000;
    for (int i = 0; i < kSteps; ++i) {
        const double at = (i + 0.5) / kSteps;
        squares += at < 0.4 ? std::pow(peak * at / 0.4, 2) / kSteps : 0;
    }
    EXPECT_NEAR(heating(part("coil-wasted")), std::sqrt(squares), 1e-3);
}

TEST(Feeds, WhatIsTooSmallTooLargeOrMissingIsSaid)
{
    job::Job job = with({"injector-14", "fan-small"}, "large-free");
    ASSERT_TRUE(harness::seat(job, job.circuits[1].id, parts::OutputId{"OUT1"}));
    EXPECT_THAT(of(job).reason, HasSubstr("a thicker wire")) << "0.5 mm² behind what a fan asks for";
    for (job::Wire& w : job.wires)
        w.area_m2 = std::max(w.area_m2, 4e-6);
    fuse(job).rating_a = 5;
    EXPECT_TRUE(of(job).isWrong);
    EXPECT_THAT(of(job).reason, HasSubstr("75 %"));
    EXPECT_EQ(test::of(job, "fuse-small").size(), 1U);
    fuse(job).rating_a = of(job).proposed_a;
    EXPECT_FALSE(of(job).isWrong) << of(job).reason;
    EXPECT_TRUE(test::of(job, "fuse-small").empty());
    fuse(job).rating_a = 100;
    EXPECT_THAT(of(job).reason, HasSubstr("does not protect"));
    job.switches.front().kind = job::SwitchKind::Contact;
    const auto bare = feedsOf(job, electrics::Wiring(job));
    for (const Feed& f : bare)
        EXPECT_THAT(f.reason, HasSubstr("no fuse"));
    EXPECT_EQ(bare.size(), 3U) << "the unit, the injector and the fan";
}

/// Wires that outlast their fuse, as tables of single-core thin-wall wire in a loom have them (common practice, no
/// source): 0.5 mm² 5 A at least, 1 mm² 10, 1.5 mm² 15, 2.5 mm² 20, 4 mm² 30, 6 mm² 40; and none of them twice that
/// and a step.
TEST(Feeds, WiresStandTheFusesOfTheTrade)
{
    for (const auto& [mm2, amps] :
         {std::pair(0.5, 5.0), {1.0, 10.0}, {1.5, 15.0}, {2.5, 20.0}, {4.0, 30.0}, {6.0, 40.0}}) {
        job::Job job = with({"injector-14"});
        for (job::Wire& w : job.wires)
            w.area_m2 = mm2 * 1e-6;
        EXPECT_GE(of(job).stands_a, amps) << mm2;
        EXPECT_LE(of(job).stands_a, 2.5 * amps) << mm2;
    }
}

TEST(BackFeed, NoNewJobHasOneAndADrawnOneIsNamed)
{
    for (const parts::EcuProfile& unit : test::library().ecus)
        if (!unit.ecu.expander) {
            EXPECT_TRUE(test::of(harness::startJob("New", unit), "back-feed").empty()) << unit.id.value;
        }
    EXPECT_TRUE(test::of(test::petrel(), "back-feed").empty());

    job::Job job = with({"injector-14"});
    job.wires.push_back({{"w77"}, {"F1", {}}, {"SW", {}}, 0.3, 1e-6, "RD"});
    ASSERT_EQ(test::of(job, "back-feed").size(), 1U);
    EXPECT_THAT(test::of(job, "back-feed").front().what, HasSubstr("wire w77"));
    job.wires.pop_back();
    job.resistors.push_back({.id = "lamp",
                             .label = "Warning lamp",
                             .kind = job::ResistorKind::Series,
                             .from = {"F1", {}},
                             .to = {"SW", {}},
                             .ohm = 3});
    ASSERT_EQ(test::of(job, "back-feed").size(), 1U) << "through a lamp";
    EXPECT_THAT(test::of(job, "back-feed").front().what, HasSubstr("resistor lamp"));
    job.resistors.back().ohm = 3000;
    EXPECT_TRUE(test::of(job, "back-feed").empty()) << "too little to keep it awake";
}

} // namespace
} // namespace vicegrip::feeds
