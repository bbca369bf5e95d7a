#include "core/job/check.h"
#include "core/pinning/pinning.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

/// Faces that are proposed, and what the Board says of plugs.
namespace vicegrip::harness {
namespace {

using analysis::Stage;
using testing::HasSubstr;

TEST(Faces, APlugIsProposedTheFirstFaceWithJustItsCavities)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "map", "map-3bar");
    test::add(job, "clt", "ntc-2k2");
    proposeFaces(job, test::library().layouts);
    EXPECT_EQ(job::findConnector(job, "MAP")->layout->id, parts::LayoutId{"row-3"});
    EXPECT_EQ(job::findConnector(job, "CLT")->layout->id, parts::LayoutId{"row-2"});
    EXPECT_EQ(job::findConnector(job, "A")->layout->id, parts::LayoutId{"block-26"}) << "the unit brings its own";
    EXPECT_TRUE(job::check(job));
    const job::Job once = job;
    proposeFaces(job, {});
    EXPECT_EQ(job, once);
}

TEST(Faces, AFaceThatWasChosenIsNotProposedOver)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "map", "map-3bar");
    const auto pull = std::ranges::find(test::library().layouts, parts::LayoutId{"row-3-pull"}, &parts::Layout::id);
    ASSERT_NE(pull, test::library().layouts.end());
    for (job::Connector& c : job.connectors)
        if (c.id == "MAP")
            c.layout = *pull;
    proposeFaces(job, test::library().layouts);
    EXPECT_EQ(job::findConnector(job, "MAP")->layout->id, parts::LayoutId{"row-3-pull"});
}

TEST(Faces, APlugWithoutOneIsARowAndIsNotJudged)
{
    job::Job job = test::jobOn("large-free");
    const job::CircuitId map = test::add(job, "map", "map-3bar");
    EXPECT_TRUE(seat(job, map, job.ecu.inputs.front().id));
    const job::Connector& plug = *job::findConnector(job, "MAP");
    ASSERT_FALSE(plug.layout);
    EXPECT_EQ(job::faceOf(plug).rows.size(), 1U);
    EXPECT_EQ(pinning::pinsOf(job, plug).size(), 3U);
    for (const pinning::Pin& p : pinning::pinsOf(job, plug))
        EXPECT_EQ(p.state, pinning::PinState::Planned) << p.at.text();
    EXPECT_TRUE(test::of(job, "terminal-wire").empty());
}

TEST(PinTasks, TheEcusPlugComesLastAndABegunOneFirst)
{
    job::Job job = test::petrel();
    job.pinned.clear();
    job.proofs.clear();
    const auto pins = [&] {
        std::vector<std::string> out;
        for (const analysis::Task& t : test::analysed(job).tasks)
            if (t.stage == Stage::Pins)
                out.push_back(t.station);
        return out;
    };
    const auto before = pins();
    ASSERT_EQ(before.size(), job.connectors.size());
    EXPECT_THAT(before[before.size() - 2], testing::StartsWith("A."));
    EXPECT_THAT(before.back(), testing::StartsWith("B."));
    EXPECT_TRUE(pinning::tick(job, {"TPS", "2"}, "t"));
    EXPECT_THAT(pins().front(), testing::StartsWith("TPS."));
    test::pinAll(job);
    EXPECT_TRUE(pins().empty());
}

TEST(PinTasks, ACircuitIsPinnedWhenItsWholeWayIs)
{
    job::Job job = test::petrel();
    test::pinAll(job);
    const auto state = [&](const char* circuit) {
        return analysis::find(test::analysed(job), job::CircuitId{circuit})->pins;
    };
    EXPECT_EQ(state("clt"), proof::State::Done);
    EXPECT_TRUE(pinning::pullOut(job, {"BE", "6"}, "t")); // the bulkhead on its way
    EXPECT_EQ(state("clt"), proof::State::Untouched);
    EXPECT_EQ(state("map"), proof::State::Done) << "others do not pass there";
    while (pinning::tick(job, {"BE", "6"}, "t")) {
    }
    EXPECT_TRUE(pinning::count(job, {"BE", "6"}, "5", "t"));
    EXPECT_EQ(state("clt"), proof::State::Failing);
}

} // namespace
} // namespace vicegrip::harness
