#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

/// Where conductors end: exchanged, unread, on metal.
namespace vicegrip::findings {
namespace {

using test::of;
using testing::AllOf;
using testing::HasSubstr;

/// Exchanges the far ends of two wires.
void exchange(job::Job& job, const job::PointRef& a, const job::PointRef& b)
{
    for (job::Wire& w : job.wires)
        for (job::PointRef* end : {&w.from, &w.to})
            if (*end == a)
                *end = b;
            else if (*end == b)
                *end = a;
}

void move(job::Job& job, const job::PointRef& from, const job::PointRef& to)
{
    for (job::Wire& w : job.wires)
        for (job::PointRef* end : {&w.from, &w.to})
            if (*end == from)
                *end = to;
}

TEST(EndFindings, TheDemoJobsHaveNone)
{
    for (const char* name : {"petrel", "curlew"}) {
        const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip");
        for (const char* rule : {"ends-exchanged", "signal-unread", "ground-on-metal", "open-conductor"})
            EXPECT_TRUE(of(*job, rule).empty()) << name << ": " << of(*job, rule).front().what;
    }
}

TEST(EndFindings, SupplyAndGroundExchangedIsSaidOnceAndStops)
{
    job::Job job = test::petrel();
    exchange(job, {"MAP", "1"}, {"MAP", "3"});
    const auto found = of(job, "ends-exchanged");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].severity, Severity::Stop);
    EXPECT_THAT(found[0].what, AllOf(HasSubstr("Manifold pressure"), HasSubstr("supply and ground are exchanged")));
    EXPECT_TRUE(of(job, "open-conductor").empty()) << "it is not open, it is exchanged";
}

TEST(EndFindings, SignalAndGroundExchangedIsSaid)
{
    job::Job job = test::petrel();
    exchange(job, {"CLT", "1"}, {"CLT", "2"});
    const auto found = of(job, "ends-exchanged");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, HasSubstr("signal and ground"));
}

TEST(EndFindings, ASignalAtACavityTheEcuDoesNotReadIsSaid)
{
    job::Job job = test::petrel();
    move(job, {"A", "7"}, {"A", "20"}); // nothing of the unit is there
    auto found = of(job, "signal-unread");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, AllOf(HasSubstr("Coolant"), HasSubstr("Cavity A20"), HasSubstr("does not read")));
    EXPECT_THAT(found[0].todo, HasSubstr("Cavity A7"));
    job = test::petrel();
    move(job, {"A", "7"}, {"B", "5"}); // an input, but another one
    found = of(job, "signal-unread");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, AllOf(HasSubstr("AN10"), HasSubstr("AN3")));
}

TEST(EndFindings, AWireThatLeadsNowhereIsOpen)
{
    job::Job job = test::petrel();
    std::erase_if(job.wires, [](const job::Wire& w) { return w.id.value == "w5"; });
    const auto found = of(job, "open-conductor");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_THAT(found[0].what, HasSubstr("signal of Plug CLT 1"));
}

/// Common practice, no source: a frequency forgives an offset that a voltage would not.
TEST(EndFindings, AGroundOnMetalIsAFaultForAVoltageAndAWordForAFrequency)
{
    job::Job job = test::petrel();
    const auto onMetal = [&](const char* plug, const char* cavity) {
        for (job::Wire& w : job.wires)
            for (job::PointRef* end : {&w.from, &w.to})
                if (*end == job::PointRef{plug, cavity})
                    (end == &w.from ? w.to : w.from) = {"G1", {}};
    };
    onMetal("CLT", "2");
    auto found = of(job, "ground-on-metal");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].severity, Severity::Fix);
    EXPECT_THAT(found[0].what, HasSubstr("Stud G1"));
    EXPECT_THAT(found[0].why, HasSubstr("read as signal"));
    job = test::petrel();
    onMetal("CRANK", "3");
    found = of(job, "ground-on-metal");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].severity, Severity::Note);
    EXPECT_THAT(found[0].why, HasSubstr("counted"));
}

} // namespace
} // namespace vicegrip::findings
