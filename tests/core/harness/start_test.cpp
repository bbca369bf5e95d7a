#include "core/harness/start.h"

#include "core/job/check.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"

#include <gtest/gtest.h>

namespace vicegrip::harness {
namespace {

TEST(AnotherLike, HasTheDrawingAndNothingThatHandsDid)
{
    job::Job job = test::petrel();
    job::Circuit& circuit = job.circuits.front();
    circuit.captured.push_back({});
    circuit.limits = job::ThrottleLimits{};
    circuit.roadSpeed = job::RoadSpeed{};
    circuit.roadSpeed->runPulses = 3000;
    circuit.roadSpeed->tyre = "205/55 R16";
    job.tank = job::Tank{};
    job.tank->baseline = 0.07;
    job.workSteps.done = {"mount-ecu"};
    job.log.push_back({"2026-01-01T00:00:00Z", "clt", "seen"});

    const job::Job other = anotherLike(job, "Petrel 2");
    EXPECT_EQ(other.name, "Petrel 2");
    EXPECT_EQ(other.title, job.title);
    EXPECT_EQ(other.wires, job.wires);
    EXPECT_EQ(other.connectors, job.connectors);
    EXPECT_EQ(other.devices, job.devices);
    EXPECT_EQ(other.ecu, job.ecu);
    EXPECT_EQ(other.brief, job.brief);
    ASSERT_EQ(other.circuits.size(), job.circuits.size());
    EXPECT_EQ(other.circuits.front().scaling, circuit.scaling);
    EXPECT_EQ(other.circuits.front().roadSpeed->tyre, "205/55 R16") << "the car's own, and no reading";
    EXPECT_EQ(other.circuits.front().roadSpeed->runPulses, 0);
    for (const job::Circuit& c : other.circuits) {
        EXPECT_TRUE(c.captured.empty());
        EXPECT_FALSE(c.limits);
    }
    EXPECT_FALSE(other.tank->baseline);
    EXPECT_TRUE(other.proofs.empty());
    EXPECT_TRUE(other.pinned.empty());
    EXPECT_TRUE(other.log.empty());
    EXPECT_TRUE(other.workSteps.done.empty());
    EXPECT_TRUE(job::check(other));
}

} // namespace
} // namespace vicegrip::harness
