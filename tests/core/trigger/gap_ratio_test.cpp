#include "core/trigger/edge_due.h"
#include "core/trigger/gap_ratio.h"

#include <array>
#include <cmath>
#include <gtest/gtest.h>

/// Where an edge is due among its neighbours, and how a gap stands out among them.
namespace vicegrip::trigger {
namespace {

/// A time that is any cubic of the angle is met exactly, over steps of any width; half a step's fault is told.
TEST(EdgeDue, ACubicIsMet)
{
    const std::vector<double> steps = {10, 25, 7, 60, 10, 248};
    const Due due(steps);
    const auto time = [](double deg) { return 1e3 + deg / 1200 + 3e-7 * deg * deg - 4e-10 * deg * deg * deg; };
    for (size_t tooth = 0; tooth < steps.size(); ++tooth) {
        std::array<double, 5> times = {};
        double deg = 40;
        for (size_t i = 0; i < 5; ++i) {
            times[i] = time(deg);
            deg += steps[(tooth + steps.size() - 2 + i) % steps.size()];
        }
        EXPECT_NEAR(due.off(times, tooth), 0, 1e-8) << tooth;
        const double beside = (times[3] - times[1]) / 2; // of the mean of the two steps
        times[2] += beside / 2;
        EXPECT_NEAR(due.off(times, tooth), 0.5, 1e-8) << tooth;
    }
}

/// 36-1 at an even speed: a gap of twice the steps beside it; 60-2 of three times. By arithmetic.
TEST(GapRatio, IsWhatTheWheelHas)
{
    for (const auto& [line, gap] : {std::pair("36-1", 2.0), std::pair("60-2", 3.0)}) {
        Report r;
        r.wheel = *readWheel(line);
        const auto steps = stepsOf(r.wheel, false);
        for (size_t i = 0; i < 3 * steps.size(); ++i) {
            r.times_s.push_back(i == 0 ? 1 : r.times_s.back() + steps[(i - 1) % steps.size()] / 6000);
            r.followed.tooth.push_back(static_cast<int>(i % steps.size()));
        }
        const auto ratio = gapRatio(r);
        ASSERT_TRUE(ratio) << line;
        EXPECT_NEAR(ratio->least, gap, 1e-6);
        EXPECT_NEAR(ratio->most, 1, 1e-6);
        EXPECT_NEAR(ratio->between, std::sqrt(gap), 1e-6);
        EXPECT_TRUE(ratio->tells());
    }
    Report none;
    none.wheel = *readWheel("36");
    EXPECT_FALSE(gapRatio(none)) << "no gap";
    none.wheel = *readWheel("5 at 0, 20, 80, 110, 210 degrees");
    EXPECT_FALSE(gapRatio(none)) << "its other steps differ";
}

} // namespace
} // namespace vicegrip::trigger
