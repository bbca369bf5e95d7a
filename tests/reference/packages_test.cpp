#include "core/base/joined.h"
#include "core/base/median.h"
#include "core/base/root.h"
#include "core/fit/least_worst.h"

#include <cmath>
#include <gtest/gtest.h>
#include <random>
#include <set>

/// What stands between us and the packages, against values that textbooks have.
namespace vicegrip {
namespace {

/// Roots with known digits: the fixed point of the cosine (OEIS A003957), the square root of 2, the omega constant
/// W(1) (OEIS A030178).
TEST(Root, KnownDigits)
{
    EXPECT_NEAR(rootBetween([](double x) { return std::cos(x) - x; }, 0, 1), 0.739085133215160641655, 1e-15);
    EXPECT_NEAR(rootBetween([](double x) { return x * x - 2; }, 0, 2), 1.414213562373095048802, 1e-15);
    EXPECT_NEAR(rootBetween([](double x) { return x * std::exp(x) - 1; }, 0, 1), 0.567143290409783872999, 1e-15);
}

TEST(Root, AtKinksStepsAndEnds)
{
    EXPECT_NEAR(rootBetween([](double x) { return x < 0.3 ? 1e-6 * (x - 0.3) : 1e6 * (x - 0.3); }, -5, 5), 0.3, 1e-12);
    EXPECT_NEAR(rootBetween([](double x) { return x < 0.7 ? -1.0 : 1.0; }, 0, 1), 0.7, 1e-12) << "a step is its place";
    EXPECT_EQ(rootBetween([](double x) { return x; }, 0, 1), 0) << "an end that is the root";
    EXPECT_EQ(rootBetween([](double x) { return x + 1; }, 0, 5), 0) << "no root: the nearer end";
    EXPECT_EQ(rootBetween([](double x) { return x - 9; }, 0, 5), 5);
    EXPECT_NEAR(rootBetween([](double x) { return 4 - x; }, 9, 1), 4, 1e-12) << "whichever way round";
}

TEST(Median, OfFewByHand)
{
    EXPECT_EQ(median({7}), 7);
    EXPECT_EQ(median({9, 1}), 5);
    EXPECT_EQ(median({3, 1, 2}), 2);
    EXPECT_EQ(median({4, 1, 3, 2}), 2.5);
    EXPECT_EQ(median({5, 5, 5, -1000, 1000, 5}), 5);
}

/// Against sets that are merged element by element, in any order of joins.
TEST(Joined, IsWhatMergedSetsSay)
{
    std::mt19937 random(3);
    for (int run = 0; run < 50; ++run) {
        Joined<int> joined;
        std::vector<std::set<int>> plain;
        for (int i = 0; i < 20; ++i)
            plain.push_back({i});
        const auto holds = [&](int x) {
            return std::ranges::find_if(plain, [&](const std::set<int>& s) { return s.contains(x); });
        };
        for (int step = 0; step < 25; ++step) {
            const int a = static_cast<int>(random() % 20), b = static_cast<int>(random() % 20);
            const bool apart = holds(a) != holds(b);
            ASSERT_EQ(joined.join(a, b), apart);
            if (apart) {
                const std::set<int> other = *holds(b);
                holds(a)->insert(other.begin(), other.end());
                plain.erase(std::ranges::find(plain, other));
            }
        }
        for (int a = 0; a < 20; ++a)
            for (int b = 0; b < 20; ++b)
                ASSERT_EQ(joined.of(a) == joined.of(b), holds(a) == holds(b));
    }
}

/// The best line for x^2 over 0..1 is x - 1/8, off by 1/8 at three places (Chebyshev 1854; any text on approximation),
/// and the best constant for x is its middle.
TEST(LeastWorst, ChebyshevsOwnExamples)
{
    fit::LeastWorst line(2), constant(1);
    for (int i = 0; i <= 200; ++i) {
        const double x = i / 200.0;
        line.approach({{0, 1}, {1, x}}, x * x);
        constant.approach({{0, 1}}, x);
    }
    const auto best = line.solved();
    ASSERT_TRUE(best);
    EXPECT_NEAR((*best)[0], -0.125, 1e-9);
    EXPECT_NEAR((*best)[1], 1, 1e-9);
    EXPECT_NEAR((*constant.solved())[0], 0.5, 1e-9);
}

TEST(LeastWorst, DemandsAreKeptAndMoreMayCome)
{
    fit::LeastWorst two(2);
    two.approach({{0, 1}}, 1);
    two.approach({{1, 1}}, 0);
    EXPECT_NEAR((*two.solved())[0], 1, 1e-9);
    two.demand({{0, -1}, {1, 1}}, 0); // the second not below the first: they meet half-way
    const auto met = two.solved();
    ASSERT_TRUE(met);
    EXPECT_NEAR((*met)[0], 0.5, 1e-9);
    EXPECT_NEAR((*met)[1], 0.5, 1e-9);
}

TEST(LeastWorst, WhatCannotBeIsNone)
{
    fit::LeastWorst one(1);
    one.demand({{0, 1}}, 2);
    one.demand({{0, -1}}, -1); // at least 2 and at most 1
    EXPECT_FALSE(one.solved());
}

} // namespace
} // namespace vicegrip
