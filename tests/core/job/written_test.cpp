#include "core/job/check.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"

#include <functional>
#include <gmock/gmock.h>
#include <limits>

/// An edit is held to its file before it is taken; only what it changed is looked at.
namespace vicegrip::job {
namespace {

constexpr double kNoNumber = std::numeric_limits<double>::quiet_NaN();

struct Slip
{
    const char* pointer;
    std::function<void(Job&)> make;
};

/// One thing that no file can hold, in every member of a job.
const Slip kSlips[] = {
    {"/", [](Job& j) { j.name.clear(); }},
    {"/title", [](Job& j) { j.title = std::string(5000, 'x'); }},
    {"/surroundings", [](Job& j) { j.surroundings.ambient_k = kNoNumber; }},
    {"/battery", [](Job& j) { j.battery.volts = kNoNumber; }},
    {"/meter", [](Job& j) { j.meter.lead_ohm = kNoNumber; }},
    {"/brief", [](Job& j) { j.brief->displacement_m3 = kNoNumber; }},
    {"/ecu/inputs/3", [](Job& j) { j.ecu.inputs[3].span_v = kNoNumber; }},
    {"/expanders/0", [](Job& j) { j.expanders.push_back(j.ecu), j.expanders[0].name.clear(); }},
    {"/parts/2", [](Job& j) { j.parts[2].name = std::string(5000, 'x'); }},
    {"/connectors/4", [](Job& j) { j.connectors[4].label = std::string(5000, 'x'); }},
    {"/joints/1", [](Job& j) { j.joints[1].label = std::string(5000, 'x'); }},
    {"/wires/17", [](Job& j) { j.wires[17].length_m = kNoNumber; }},
    {"/switches/0", [](Job& j) { j.switches[0].ohm = kNoNumber; }},
    {"/devices/3", [](Job& j) { j.devices[3].id.value = "no name, this"; }},
    {"/circuits/5", [](Job& j) { j.circuits[5].scaling.low = kNoNumber; }},
    {"/proofs/7", [](Job& j) { j.proofs[7].low = kNoNumber; }},
    {"/pinned/0", [](Job& j) { j.pinned[0].when = std::string(500, 'x'); }},
    {"/loads/0", [](Job& j) { j.loads[0].current_a = kNoNumber; }},
    {"/log/256",
     [](Job& j) {
         j.log.push_back({std::string(500, 'x'), "", "x", nlohmann::json::object()});
     }},
    {"/work_steps", [](Job& j) { j.workSteps.done = {std::string(5000, 'x')}; }},
};

TEST(Written, WhatNoFileCanHoldIsRefusedWhereItStandsInTheWholeJob)
{
    const Job sound = test::petrel();
    ASSERT_TRUE(checkWritten(sound, sound));
    ASSERT_TRUE(checkWritten(sound, Job())) << "all of it, then";
    for (const Slip& slip : kSlips) {
        Job job = sound;
        slip.make(job);
        const auto changed = checkWritten(job, sound), whole = checkWritten(job);
        EXPECT_FALSE(whole) << slip.pointer;
        ASSERT_FALSE(changed) << slip.pointer;
        EXPECT_THAT(changed.error().place.pointer, testing::StartsWith(slip.pointer)) << changed.error().text();
    }
}

TEST(Written, ListsThatGrowTooLongAreRefusedThoughNoPartOfThemIsWrong)
{
    const Job sound = test::petrel();
    Job job = sound;
    for (int i = 0; i <= 20000; ++i)
        job.log.push_back({"2026-01-01T00:00:00Z", "", "tick", nlohmann::json::object()});
    const auto refused = checkWritten(job, sound);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().place.pointer, "/log");
    EXPECT_FALSE(checkWritten(job));
}

TEST(Written, WhatIsTakenOutOrPutInAnywhereIsFine)
{
    const Job sound = test::petrel();
    Job job = sound;
    job.proofs.erase(job.proofs.begin() + 3);
    EXPECT_TRUE(checkWritten(job, sound));
    job.wires.insert(job.wires.begin(), job.wires[4]);
    job.wires.front().id.value = "w900";
    job.wires.pop_back();
    EXPECT_TRUE(checkWritten(job, sound));
    job.circuits.clear();
    EXPECT_TRUE(checkWritten(job, sound)) << "units of no circuit are asked for";
}

} // namespace
} // namespace vicegrip::job
