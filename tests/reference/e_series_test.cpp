#include "core/parts/e_series.h"

#include <cmath>
#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace vicegrip::parts {
namespace {

// IEC 60063:2015, tables of the series: twenty-four values a decade, and the first and last of the ninety-six.
TEST(ESeries, E24IsTheStandardsTable)
{
    EXPECT_THAT(preferredValues(ESeries::E24, 1000, 9999),
                testing::ElementsAre(1000, 1100, 1200, 1300, 1500, 1600, 1800, 2000, 2200, 2400, 2700, 3000, 3300, 3600,
                                     3900, 4300, 4700, 5100, 5600, 6200, 6800, 7500, 8200, 9100));
}

TEST(ESeries, E96IsTheStandardsTable)
{
    const auto all = preferredValues(ESeries::E96, 100, 999.9);
    ASSERT_EQ(all.size(), 96U);
    EXPECT_THAT(std::vector<double>(all.begin(), all.begin() + 8),
                testing::ElementsAre(100, 102, 105, 107, 110, 113, 115, 118));
    EXPECT_EQ(all[38], 249);
    EXPECT_EQ(all[66], 487);
    EXPECT_EQ(all.back(), 976);
}

TEST(ESeries, NearestIsNearestByRatioInEveryDecade)
{
    EXPECT_EQ(nearestValue(ESeries::E24, 2490), 2400);
    EXPECT_EQ(nearestValue(ESeries::E96, 2485), 2490);
    EXPECT_EQ(nearestValue(ESeries::E24, 0.47), 0.47);
    EXPECT_EQ(nearestValue(ESeries::E24, 9.6e6), 10e6);
}

TEST(ESeries, NonsenseGivesNoValues)
{
    EXPECT_TRUE(preferredValues(ESeries::E24, 0, 10).empty());
    EXPECT_TRUE(preferredValues(ESeries::E24, 10, 1).empty());
    EXPECT_TRUE(preferredValues(ESeries::E24, 10, INFINITY).empty());
}

} // namespace
} // namespace vicegrip::parts
