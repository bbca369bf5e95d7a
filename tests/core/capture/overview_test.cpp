#include "core/capture/overview.h"

#include <algorithm>
#include <gtest/gtest.h>
#include <random>

namespace vicegrip::capture {
namespace {

/// Reference: the standard library over every sample.
TEST(Overview, IsTheExtentOfAnyStretch)
{
    std::mt19937 random(1);
    std::normal_distribution<float> level(0, 1);
    for (const std::size_t size : {1U, 2U, 63U, 64U, 65U, 511U, 512U, 513U, 4096U, 40000U}) {
        std::vector<float> volts(size);
        for (float& v : volts)
            v = level(random);
        const Overview overview(volts);
        std::uniform_int_distribution<std::size_t> place(0, size - 1);
        for (int i = 0; i < 300; ++i) {
            const std::size_t a = place(random), b = place(random), first = std::min(a, b), last = std::max(a, b) + 1;
            const auto [least, most] = std::minmax_element(volts.begin() + static_cast<std::ptrdiff_t>(first),
                                                           volts.begin() + static_cast<std::ptrdiff_t>(last));
            ASSERT_EQ(overview.of(first, last), (Overview::Extent{*least, *most}))
                << size << ' ' << first << ' ' << last;
        }
    }
}

TEST(Overview, StaysWithinWhatThereIs)
{
    const std::vector<float> volts = {1, 2, 3};
    const Overview overview(volts);
    EXPECT_EQ(overview.of(7, 9), (Overview::Extent{3, 3}));
    EXPECT_EQ(overview.of(1, 1), (Overview::Extent{2, 2}));
    EXPECT_EQ(overview.all(), (Overview::Extent{1, 3}));
    EXPECT_EQ(Overview({}).of(0, 1), (Overview::Extent{0, 0}));
}

} // namespace
} // namespace vicegrip::capture
