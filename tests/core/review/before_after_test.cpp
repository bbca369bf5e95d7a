#include "core/review/before_after.h"
#include "tests/core/review/driven_log.h"

#include <gmock/gmock.h>

namespace vicegrip::review {
namespace {

using test::DrivenLog;
using testing::HasSubstr;

/// A log with what was made of it.
struct Drive
{
    explicit Drive(log::Log of)
        : log(std::move(of)),
          meanings(log_columns::meaningsOf(log, test::petrel().job.get())),
          review(review::review(log, meanings, test::petrel()))
    {
    }
    [[nodiscard]] Side side() const { return {log, meanings, review}; }
    [[nodiscard]] size_t column(const std::string& name) const
    {
        return static_cast<size_t>(std::ranges::find(log.columns, name, &log::Column::name) - log.columns.begin());
    }

    log::Log log;
    std::vector<log_columns::Meaning> meanings;
    Review review;
};

Drive intake(double celsius, unsigned seed, double phase)
{
    DrivenLog log(300, 20, seed);
    log.with(
        "RPM", "rpm", [=](double t) { return 3400 + 2500 * std::sin(t / 3 + phase); }, 5);
    log.with("Throttle", "%", [=](double t) { return std::clamp(50 + 60 * std::sin(t / 3 + phase), 0.0, 100.0); });
    // warmer the more it is loaded: what differs between conditions must not count as the change
    log.with(
        "Intake air temp", "°C", [=](double t) { return celsius + 10 * std::sin(t / 3 + phase); }, 0.3);
    return Drive(std::move(log.log()));
}

TEST(BeforeAfter, TheDifferenceAtTheSameConditionIsWhatWasPlanted)
{
    const Drive before = intake(40, 1, 0), after = intake(36, 2, 1);
    const auto c = compare(before.side(), after.side(), after.column("Intake air temp"), Purpose::Temperature);
    ASSERT_TRUE(c) << c.error().text();
    EXPECT_NEAR(c->difference, -4, 3 * c->spread + 0.05);
    EXPECT_LT(c->spread, 0.3);
    EXPECT_TRUE(c->did);
    EXPECT_THAT(c->verdict, HasSubstr("is cooler at the same condition: -4."));
}

/// Of logs that do not differ, hardly any is said to.
TEST(BeforeAfter, NoiseIsNoChange)
{
    int said = 0;
    for (unsigned i = 0; i < 40; ++i) {
        const Drive before = intake(40, 2 * i + 100, 0), after = intake(40, 2 * i + 101, 0.7);
        const auto c = compare(before.side(), after.side(), after.column("Intake air temp"), Purpose::Reading);
        ASSERT_TRUE(c);
        said += c->did ? 1 : 0;
    }
    EXPECT_LE(said, 5); // two spreads: one in twenty by chance
}

TEST(BeforeAfter, TheDemosTwoEvenings)
{
    const std::string folder = std::string(VICEGRIP_SOURCE_DIR) + "/data/logs/";
    auto first = log::readLog(folder + "petrel-before.csv"), second = log::readLog(folder + "petrel-after.csv");
    ASSERT_TRUE(first && second);
    const Drive before(std::move(*first)), after(std::move(*second));
    EXPECT_NE(test::found(before.review, Rule::End), nullptr);
    EXPECT_NE(test::found(before.review, Rule::SharedGround), nullptr);
    EXPECT_EQ(test::found(after.review, Rule::SharedGround), nullptr);
    const auto range = compare(before.side(), after.side(), after.column("Manifold pressure"), Purpose::Range);
    ASSERT_TRUE(range);
    EXPECT_TRUE(range->did) << range->verdict;
    const auto offset = compare(before.side(), after.side(), after.column("Coolant temp"), Purpose::Offset);
    ASSERT_TRUE(offset);
    EXPECT_TRUE(offset->did) << offset->verdict;
    const auto all = compareAll(before.side(), after.side());
    EXPECT_TRUE(std::ranges::any_of(all, [](const Compared& c) { return c.purpose == Purpose::Range && c.did; }));
    EXPECT_TRUE(std::ranges::any_of(all, [](const Compared& c) { return c.purpose == Purpose::Offset && c.did; }));
}

TEST(BeforeAfter, WhatCannotBeCompared)
{
    const Drive before = intake(40, 1, 0);
    DrivenLog idle(60, 20);
    idle.with("RPM", "rpm", [](double) { return 900; }).with("Throttle", "%", [](double) { return 0; });
    idle.with(
        "Intake air temp", "°C", [](double) { return 50; }, 0.1);
    const Drive after(std::move(idle.log()));
    EXPECT_THAT(
        compare(before.side(), after.side(), after.column("Intake air temp"), Purpose::Reading).error().sentence,
        HasSubstr("conditions in common"));
    EXPECT_FALSE(purposeFromName("colour"));
    EXPECT_EQ(purposeFromName("offset").value(), Purpose::Offset);
}

} // namespace
} // namespace vicegrip::review
