#include "core/parts/conductor.h"
#include "core/pinning/pinning.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

/// The rules of the Pins stage, one drawing for each.
namespace vicegrip::findings {
namespace {

using testing::HasSubstr;

using test::of;

job::Wire& wireAt(job::Job& job, const job::PointRef& at)
{
    return *std::ranges::find_if(job.wires, [&](const job::Wire& w) { return w.from == at || w.to == at; });
}

TEST(PinFindings, TheDemoJobsWiresFitTheirTerminals)
{
    for (const char* name : {"petrel", "curlew"}) {
        const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip");
        ASSERT_TRUE(job) << job.error().text();
        for (const char* rule : {"terminal-wire", "seal-wire", "pin-wrong", "cavity-shared"})
            EXPECT_TRUE(of(*job, rule).empty()) << name << ": " << of(*job, rule).front().what;
    }
}

TEST(PinFindings, AWireItsTerminalDoesNotTakeIsSaid)
{
    job::Job job = test::petrel();
    wireAt(job, {"A", "7"}).area_m2 = 2.5e-6;
    EXPECT_THAT(of(job, "terminal-wire")[0].what,
                testing::AllOf(HasSubstr("2.5 mm²"), HasSubstr("0.35 mm² to 1.5 mm²")));
    EXPECT_THAT(of(job, "seal-wire")[0].what, HasSubstr("3.0 mm thick"));
    wireAt(job, {"A", "7"}).area_m2 = 0.22e-6;
    EXPECT_FALSE(of(job, "terminal-wire").empty());
}

TEST(PinFindings, TwoWiresInASealedCavityAreSaid)
{
    job::Job job = test::petrel();
    job::Wire second = wireAt(job, {"A", "7"});
    second.id = {"second"};
    job.wires.push_back(second);
    EXPECT_THAT(of(job, "cavity-shared")[0].what, HasSubstr("2 wires"));
}

TEST(PinFindings, TwoWiresInAnOpenCavityMustFitOneCrimp)
{
    job::Job job = *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
    job::Wire second = wireAt(job, {"V", "25"}); // unsealed, up to 1.5 mm²
    second.id = {"second"};
    (second.from.owner == "V" ? second.to : second.from) = {"S2", {}};
    job.wires.push_back(second);
    EXPECT_TRUE(of(job, "cavity-shared").empty()) << "two of 0.5 mm² fit";
    job.wires.back().area_m2 = 1.5e-6;
    EXPECT_THAT(of(job, "cavity-shared").at(0).what, HasSubstr("together 2 mm²"));
}

TEST(PinFindings, AWrongCountStopsTheJob)
{
    job::Job job = test::petrel();
    EXPECT_TRUE(pinning::pullOut(job, {"A", "7"}, "t"));
    while (pinning::tick(job, {"A", "7"}, "t")) {
    }
    EXPECT_TRUE(pinning::count(job, {"A", "7"}, "20", "t"));
    const auto found = of(job, "pin-wrong");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].severity, Severity::Stop);
    EXPECT_EQ(test::analysed(job).tasks.front().stage, analysis::Stage::Pins);
    EXPECT_THAT(test::analysed(job).tasks.front().title, HasSubstr("cavity 7 is wrong"));
}

TEST(PinFindings, AWrongCountIsSaidOfAPlugNobodyHasDescribedToo)
{
    job::Job job = test::petrel();
    for (job::Connector& c : job.connectors)
        c.layout.reset();
    EXPECT_TRUE(pinning::pullOut(job, {"MAP", "2"}, "t"));
    while (pinning::tick(job, {"MAP", "2"}, "t")) {
    }
    EXPECT_TRUE(pinning::count(job, {"MAP", "2"}, "3", "t"));
    EXPECT_EQ(of(job, "pin-wrong").size(), 1U);
    EXPECT_TRUE(of(job, "terminal-wire").empty()) << "no terminal is known to judge by";
}

TEST(PinFindings, OpenCavitiesOfAFinishedSealedPlugAreSaid)
{
    job::Job job = test::petrel();
    job.pinned.clear();
    EXPECT_TRUE(of(job, "blank-missing").empty()) << "it is still in work";
    test::pinAll(job);
    EXPECT_TRUE(of(job, "blank-missing").empty());
    std::erase_if(job.pinned, [](const job::Pinned& p) { return p.at.owner == "B" && p.wires.empty(); });
    EXPECT_EQ(of(job, "blank-missing").size(), 1U);
}

/// ISO 6722-1, thin wall, largest outer diameters (from memory).
TEST(Wire, OuterDiametersAreTheStandards)
{
    EXPECT_NEAR(parts::outerDiameter(0.5e-6), 1.6e-3, 1e-9);
    EXPECT_NEAR(parts::outerDiameter(1e-6), 2.1e-3, 1e-9);
    EXPECT_NEAR(parts::outerDiameter(2.5e-6), 3.0e-3, 1e-9);
    EXPECT_GT(parts::outerDiameter(0.6e-6), 1.6e-3);
    EXPECT_LT(parts::outerDiameter(0.6e-6), 1.9e-3);
}

} // namespace
} // namespace vicegrip::findings
