#include "core/scaling/breakpoints.h"

#include <cmath>
#include <functional>
#include <gtest/gtest.h>
#include <random>

namespace vicegrip::scaling {
namespace {

std::vector<Sample> sampled(size_t count, const std::function<double(double)>& of)
{
    std::vector<Sample> out;
    for (size_t i = 0; i < count; ++i) {
        const double x = static_cast<double>(i) / static_cast<double>(count - 1);
        out.push_back({x, of(x)});
    }
    return out;
}

/// Every choice of breakpoints, one after the other, and every sample against the table they make: slow, and plainly
/// right.
double bruteForce(const std::vector<Sample>& curve, size_t count)
{
    std::vector<bool> taken(curve.size(), false);
    std::fill(taken.begin(), taken.begin() + static_cast<std::ptrdiff_t>(count), true);
    double best = std::numeric_limits<double>::infinity();
    do {
        std::vector<Sample> held;
        for (size_t i = 0; i < taken.size(); ++i)
            if (taken[i])
                held.push_back({curve[i].x, curve[i].y + curve[i].rounding});
        double worst = 0;
        for (const Sample& s : curve) {
            double shown = s.x <= held.front().x ? held.front().y : held.back().y;
            for (size_t k = 1; k < held.size(); ++k)
                if (s.x >= held[k - 1].x && s.x <= held[k].x)
                    shown = held[k - 1].y +
                            (held[k].y - held[k - 1].y) * (s.x - held[k - 1].x) / (held[k].x - held[k - 1].x);
            worst = std::max(worst, std::abs(shown - s.y));
        }
        best = std::min(best, worst);
    } while (std::prev_permutation(taken.begin(), taken.end()));
    return best;
}

TEST(Breakpoints, AsGoodAsEveryChoiceTriedOnSmallGrids)
{
    std::mt19937 random(4);
    std::uniform_real_distribution<double> step(0, 1);
    for (int run = 0; run < 200; ++run) {
        std::vector<Sample> curve = {{0, 0}};
        while (curve.size() < 14) // rises, with bends of either sense
            curve.push_back({curve.back().x + 0.1 + step(random), curve.back().y + std::pow(step(random), 3)});
        if (run % 2 == 0) // half of them on a grid of values
            for (Sample& s : curve)
                s.rounding = std::round(s.y * 5) / 5 - s.y;
        for (const size_t count : {3U, 4U, 6U}) {
            const auto breakpoints = bestBreakpoints(curve, count);
            ASSERT_EQ(breakpoints.size(), count);
            const double best = bruteForce(curve, count);
            EXPECT_NEAR(worstOff(curve, breakpoints), best, 2e-4 * best + 1e-9)
                << "run " << run << ", breakpoints " << count;
            const auto pinned = bestBreakpoints(curve, count, 0);
            if (run % 2 == 0)
                continue; // a rounded place may happen to hold what the end has
            EXPECT_EQ(pinned.front(), 0U);
            EXPECT_EQ(pinned.back(), curve.size() - 1);
        }
    }
}

// Interpolation of x^2 by a chord of length h is off by h^2/4 (f'' h^2/8; de Boor, A Practical Guide to Splines, 1978,
// chapter II), least when all chords are equal; lines free of the curve halve it.
TEST(Breakpoints, ParabolaReachesItsBound)
{
    const auto curve = sampled(4096, [](double x) { return x * x; });
    for (const size_t count : {2U, 5U, 9U, 16U}) {
        const double h = 1.0 / static_cast<double>(count - 1);
        const auto breakpoints = bestBreakpoints(curve, count, 0);
        EXPECT_NEAR(worstOff(curve, breakpoints), h * h / 4, 0.01 * h * h);
        EXPECT_LT(worstOff(curve, bestBreakpoints(curve, count)), h * h / 4 * 1.01) << "flat ends are no worse";
        const auto values = bestValues(curve, breakpoints);
        double worst = 0;
        for (size_t k = 1; k < count; ++k)
            for (size_t i = breakpoints[k - 1]; i <= breakpoints[k]; ++i) {
                const double share = (curve[i].x - curve[breakpoints[k - 1]].x) /
                                     (curve[breakpoints[k]].x - curve[breakpoints[k - 1]].x);
                worst = std::max(worst, std::abs(std::lerp(values[k - 1], values[k], share) - curve[i].y));
            }
        EXPECT_NEAR(worst, h * h / 8, 0.01 * h * h) << count;
    }
}

TEST(Breakpoints, WhatIsOnlyLookedAtIsNeverABreakpointAndCounts)
{
    // Four places for three breakpoints of x^2, and what lies between them to tell which are best.
    auto curve = sampled(301, [](double x) { return x * x; });
    for (size_t i = 0; i < curve.size(); ++i)
        curve[i].breakpoint = i % 100 == 0;
    const auto breakpoints = bestBreakpoints(curve, 3);
    double best = 1;
    for (const auto& three : {std::vector<size_t>{0, 100, 200}, {0, 100, 300}, {0, 200, 300}, {100, 200, 300}})
        best = std::min(best, worstOff(curve, three));
    ASSERT_EQ(breakpoints.size(), 3U);
    for (size_t k : breakpoints)
        EXPECT_TRUE(curve[k].breakpoint) << k;
    EXPECT_NEAR(worstOff(curve, breakpoints), best, 1e-4 * best);
    EXPECT_EQ(bestBreakpoints(curve, 4), (std::vector<size_t>{0, 100, 200, 300})) << "as many as there may be";
}

TEST(Breakpoints, AStraightLineFillsUpItsPoints)
{
    const auto line = sampled(100, [](double x) { return 3 - 2 * x; });
    const auto breakpoints = bestBreakpoints(line, 7);
    ASSERT_EQ(breakpoints.size(), 7U);
    for (size_t i = 1; i < breakpoints.size(); ++i)
        EXPECT_GT(breakpoints[i], breakpoints[i - 1]);
    EXPECT_LT(worstOff(line, breakpoints), 1e-12);
}

TEST(Breakpoints, AsManyAsThereAreSamples)
{
    const auto curve = sampled(5, [](double x) { return std::exp(x); });
    EXPECT_EQ(bestBreakpoints(curve, 5), (std::vector<size_t>{0, 1, 2, 3, 4}));
}

TEST(Breakpoints, FreeValuesNeverTurnBack)
{
    const auto curve =
        sampled(400, [](double x) { return 1 / (1 + std::exp(-40 * (x - 0.5))); }); // level, steep, level
    for (const size_t count : {4U, 6U, 11U}) {
        const auto values = bestValues(curve, bestBreakpoints(curve, count));
        for (size_t k = 1; k < values.size(); ++k)
            EXPECT_GE(values[k], values[k - 1] - 1e-9);
    }
}

} // namespace
} // namespace vicegrip::scaling
