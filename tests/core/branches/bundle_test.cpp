#include "core/branches/bundle.h"

#include <array>
#include <cmath>
#include <gtest/gtest.h>
#include <random>

namespace vicegrip::branches {
namespace {

/// Best known ratios of the enclosing circle's radius to the circles': Kravitz, Mathematics Magazine 40 (1967), and
/// Graham, Lubachevsky, Nurmela, Ostergard, Discrete Mathematics 181 (1998); figures from memory, four decimals.
constexpr std::array<double, 20> kPublished = {0,      1,      2,      2.1547, 2.4142, 2.7013, 3,
                                               3,      3.3048, 3.6131, 3.8130, 3.9238, 4.0296, 4.2361,
                                               4.3284, 4.5214, 4.6154, 4.7920, 4.8637, 4.8637};

/// Nothing overlaps, and nothing sticks out.
void expectPacked(const std::vector<double>& diameters, const Packing& p)
{
    ASSERT_EQ(p.centres.size(), diameters.size());
    for (size_t i = 0; i < diameters.size(); ++i) {
        EXPECT_LE(std::hypot(p.centres[i].x_m, p.centres[i].y_m) + diameters[i] / 2, p.diameter_m / 2 * (1 + 1e-9));
        for (size_t j = i + 1; j < diameters.size(); ++j)
            EXPECT_GE(std::hypot(p.centres[i].x_m - p.centres[j].x_m, p.centres[i].y_m - p.centres[j].y_m),
                      (diameters[i] + diameters[j]) / 2 * (1 - 1e-9));
    }
}

TEST(Bundle, EqualWiresComeWithinTwoPercentOfThePublishedOptima)
{
    for (size_t n = 1; n < kPublished.size(); ++n) {
        const std::vector<double> wires(n, 1.6e-3);
        const Packing p = pack(wires);
        expectPacked(wires, p);
        EXPECT_NEAR(p.diameter_m / 1.6e-3, kPublished[n], 0.02 * kPublished[n]) << n;
        EXPECT_GE(p.diameter_m / 1.6e-3, kPublished[n] - 1e-4) << n << ": better than the best known is a fault";
    }
}

/// A slow optimiser of another kind: wires dropped in at random and jiggled one by one, a jiggle kept when the largest
/// reach from the middle does not grow (random search, no gradient).
double jiggled(const std::vector<double>& d, std::mt19937& random)
{
    std::normal_distribution<double> bell;
    std::uniform_real_distribution<double> unit(-1, 1);
    double best = 1e9, total = 0;
    for (double each : d)
        total += each;
    for (int start = 0; start < 6; ++start) {
        std::vector<std::array<double, 2>> at(d.size());
        for (size_t i = 0; i < d.size(); ++i)
            at[i] = {total * 2 * (static_cast<double>(i) - 0.5 * static_cast<double>(d.size())), total * unit(random)};
        for (int step = 0; step < 120000; ++step) {
            const size_t i = random() % d.size();
            const double heat = 0.6 * std::pow(0.9999, step / 1.5) + 0.002;
            const std::array<double, 2> to = {at[i][0] + heat * bell(random) - 0.02 * at[i][0],
                                              at[i][1] + heat * bell(random) - 0.02 * at[i][1]};
            bool free = true;
            for (size_t j = 0; j < d.size() && free; ++j)
                free = i == j || std::hypot(to[0] - at[j][0], to[1] - at[j][1]) >= (d[i] + d[j]) / 2;
            const double before = std::hypot(at[i][0], at[i][1]), after = std::hypot(to[0], to[1]);
            if (free && (after < before || step % 40 == 0))
                at[i] = to;
        }
        double reach = 0;
        for (size_t i = 0; i < d.size(); ++i)
            reach = std::max(reach, std::hypot(at[i][0], at[i][1]) + d[i] / 2);
        best = std::min(best, 2 * reach);
    }
    return best;
}

TEST(Bundle, UnequalWiresAreNoLooserThanASlowSearchFinds)
{
    std::mt19937 random(3); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 6; ++round) {
        std::vector<double> mm;
        for (int i = 0; i < 4 + round; ++i)
            mm.push_back(std::array{1.4, 1.6, 1.9, 2.4, 3.0}[random() % 5]);
        std::vector<double> metres;
        for (double d : mm)
            metres.push_back(d * 1e-3);
        const Packing p = pack(metres);
        expectPacked(metres, p);
        EXPECT_LE(p.diameter_m * 1e3, jiggled(mm, random) * 1.02) << round;
    }
}

TEST(Bundle, TwoUnequalWiresLieSideBySide)
{
    EXPECT_NEAR(pack({3e-3, 1e-3}).diameter_m, 4e-3, 4e-3 * 1e-3);
    EXPECT_EQ(pack({}).diameter_m, 0);
    EXPECT_EQ(pack({0, -1}).diameter_m, 0);
    EXPECT_NEAR(pack({2e-3}).diameter_m, 2e-3, 1e-9);
}

TEST(Bundle, ShrinkGoesOverBeforeAndGripsAfter)
{
    for (double mm = 1.5; mm < 35; mm += 0.5) {
        const Dressing d = dress(mm * 1e-3);
        EXPECT_GE(d.sleeve_m, d.bundle_m) << mm;
        if (d.shrinkSupplied_m > 0) {
            EXPECT_GE(d.shrinkSupplied_m, 1.1 * d.bundle_m * (1 - 1e-12)) << mm;
            EXPECT_LE(d.shrinkRecovered_m, 0.9 * d.bundle_m * (1 + 1e-12)) << mm;
        }
        EXPECT_GE(d.hole_m, d.sleeve_m) << mm;
        EXPECT_GT(d.wall_m, d.hole_m) << mm;
    }
}

} // namespace
} // namespace vicegrip::branches
