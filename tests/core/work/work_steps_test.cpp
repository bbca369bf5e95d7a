#include "core/work/work_steps.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <set>

namespace vicegrip::work {
namespace {

using testing::HasSubstr;

/// Petrel before anybody has pinned anything.
job::Job bare()
{
    job::Job job = test::petrel();
    job.pinned.clear();
    return job;
}

std::vector<std::string> ordered(const std::vector<Step>& all)
{
    const auto r = order(all);
    EXPECT_TRUE(r) << (r ? "" : r.error().sentence);
    std::vector<std::string> out;
    for (size_t i : r ? r->order : std::vector<size_t>{})
        out.push_back(all[i].id);
    return out;
}

ptrdiff_t at(const std::vector<std::string>& order, const std::string& id)
{
    const auto it = std::ranges::find(order, id);
    EXPECT_NE(it, order.end()) << id;
    return it - order.begin();
}

/// Of a harness that came with more than the engine has; common practice, no source.
TEST(WorkSteps, WhatTheEngineDoesNotUseComesOutBeforeTheHarnessLies)
{
    job::Job job = bare();
    for (const Step& s : steps(job))
        EXPECT_NE(s.id, "take-out");
    const auto rest = job.connectors.front();
    job::Connector& spare = job.connectors.emplace_back();
    spare.id = "SPARE";
    spare.cavities = {"1"};
    job::Wire wire = job.wires.front();
    wire.id.value = "spare";
    wire.from = {"SPARE", "1"};
    wire.to = {rest.id, "26"};
    job.wires.push_back(wire);
    const auto order = ordered(steps(job));
    EXPECT_LT(at(order, "take-out"), at(order, "lay"));
    EXPECT_LT(at(order, "take-out"), at(order, "sleeves"));
    for (const Step& s : steps(job))
        if (s.id == "take-out") {
            EXPECT_THAT(s.what, HasSubstr(" 1 of them"));
        }
}

/// Common practice, no source: what will be buried comes first.
TEST(WorkSteps, BuriedSensorsComeBeforeWhatBuriesThem)
{
    const auto order = ordered(steps(bare()));
    for (const char* sensor : {"fit-clt", "fit-oil-pressure", "plug-CLT", "plug-OIL-PRESSURE"})
        EXPECT_LT(at(order, sensor), at(order, "intake")) << sensor;
    EXPECT_LT(at(order, "plug-CRANK"), at(order, "front-drive")) << "proved before whatever stands in front of it";
    EXPECT_EQ(order.front(), "battery-off");
    EXPECT_EQ(order.back(), "battery-on");
    EXPECT_LT(at(order, "wall-hole"), at(order, "lay")) << "the grommet goes on before the plugs";
    EXPECT_LT(at(order, "plug-MAP"), at(order, "plug-A")) << "the ECU's plug is the last";
    EXPECT_LT(at(order, "plug-A"), at(order, "sleeves")) << "nothing is shrunk before it fits";
    EXPECT_TRUE(work::order(steps(bare()))->optimal);
}

TEST(WorkSteps, WhatIsPinnedIsDone)
{
    const auto all = steps(test::petrel());
    const auto done = [&](const char* id) { return std::ranges::find(all, id, &Step::id)->done; };
    EXPECT_TRUE(done("plug-MAP"));
    EXPECT_TRUE(done("plug-A"));
    EXPECT_FALSE(done("plug-B")) << "two wires of it are still out";
    EXPECT_TRUE(order(all));
}

/// What the ECU drives is fitted and pinned like a sensor, each plug once; injectors of every number relieve the rail.
TEST(WorkSteps, WhatTheEcuDrivesIsFittedAndPinnedOnce)
{
    const auto all = steps(bare());
    std::set<std::string> seen;
    for (const Step& s : all)
        EXPECT_TRUE(seen.insert(s.id).second) << s.id << " is there twice";
    EXPECT_THAT(seen, testing::IsSupersetOf({"fit-inj1", "plug-INJ1", "fit-ign2", "plug-IGN2", "plug-FANM"}));
    for (const char* id : {"fit-inj1", "fit-inj4"})
        EXPECT_THAT(std::ranges::find(all, id, &Step::id)->why, HasSubstr("fuel pressure")) << id;
    const auto order = ordered(all);
    EXPECT_LT(at(order, "fit-inj1"), at(order, "plug-INJ1"));
    EXPECT_LT(at(order, "plug-INJ1"), at(order, "plug-A"));
}

TEST(WorkSteps, AGateThatIsShutCostsOpeningIt)
{
    EXPECT_TRUE(costs(bare()).empty());
    job::Job shut = bare();
    setClosed(shut, "intake", true);
    const auto cost = costs(shut);
    ASSERT_EQ(cost.size(), 1U);
    EXPECT_THAT(cost[0], testing::AllOf(HasSubstr("Intake manifold off again"), HasSubstr("2.5 h")));
    const auto order = ordered(steps(shut));
    EXPECT_LT(at(order, "open-intake"), at(order, "fit-clt"));
    EXPECT_LT(at(order, "fit-clt"), at(order, "intake")) << "and it goes on again afterwards";
    job::Job pinned = test::petrel();
    setClosed(pinned, "intake", true);
    EXPECT_TRUE(costs(pinned).empty()) << "nothing is left to do behind it";
}

TEST(WorkSteps, TickedStepsAreDoneAndGatesOpenAndShut)
{
    job::Job job = bare();
    const auto done = [&](const std::string& id) {
        const auto all = steps(job);
        const auto it = std::ranges::find(all, id, &Step::id);
        return it != all.end() && it->done;
    };
    EXPECT_FALSE(done("mount-ecu"));
    EXPECT_TRUE(tick(job, "mount-ecu", "t"));
    EXPECT_TRUE(done("mount-ecu"));
    EXPECT_FALSE(tick(job, "plug-A", "t")) << "a plug is done when its cavities are";
    EXPECT_TRUE(tick(job, "intake", "t"));
    EXPECT_EQ(job.workSteps.closed, std::vector<std::string>{"intake"});
    EXPECT_TRUE(tick(job, "open-intake", "t"));
    EXPECT_TRUE(job.workSteps.closed.empty());
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again->workSteps, job.workSteps);
}

TEST(WorkSteps, AnEmptyJobHasNoCircularWork)
{
    EXPECT_TRUE(order(steps(test::jobOn("small-4"))));
    EXPECT_TRUE(order(steps(job::Job{})));
}

} // namespace
} // namespace vicegrip::work
