#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <limits>

/// Rules that judge the drawing as a whole.
namespace vicegrip::findings {
namespace {

using test::of;

TEST(DrawingFindings, AWireThatHangsFreeIsNamedWithItsPlaces)
{
    job::Job job = test::petrel();
    EXPECT_THAT(of(job, "floating-part"), testing::IsEmpty());
    job.joints.push_back({"S90", "Loose end", job::JointKind::Splice, {}});
    job.joints.push_back({"S91", "Other end", job::JointKind::Splice, {}});
    job.wires.push_back({{"w90"}, {"S90", {}}, {"S91", {}}, 1, 0.5e-6, "BU"});
    const auto found = of(job, "floating-part");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, testing::AllOf(testing::HasSubstr("S90"), testing::HasSubstr("S91")));
}

TEST(DrawingFindings, ACavityWithoutAWireIsNotWorthAWord)
{
    job::Job job = test::petrel();
    job.connectors.front().cavities.emplace_back("spare");
    EXPECT_THAT(of(job, "floating-part"), testing::IsEmpty());
}

TEST(DrawingFindings, ANetworkWithoutAnAnswerStopsTheJobAndSaysWhich)
{
    job::Job job = test::petrel();
    job.wires.front().length_m = std::numeric_limits<double>::infinity();
    const auto found = of(job, "no-answer");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].severity, Severity::Stop);
    EXPECT_THAT(found[0].what, testing::HasSubstr("wire " + job.wires.front().id.value));
    const auto a = test::analysed(job);
    for (const auto& view : a.circuits)
        for (const auto condition : {job::Condition::BatteryOff, job::Condition::KeyOn})
            for (const proof::Judged& j : analysis::promised(a, view.id, condition))
                EXPECT_FALSE(j.expectation.promises()) << "a promise without an answer";
}

} // namespace
} // namespace vicegrip::findings
