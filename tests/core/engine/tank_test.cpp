#include "core/engine/tank.h"

#include "core/fuel/fill_watch.h"

#include <cmath>
#include <gtest/gtest.h>

/// A tank, its pump's pot and its line against the mixing tanks of textbooks: what flows in and out at q through a
/// volume V decays with V / q, and two that exchange q with q (1/V1 + 1/V2) (Boyce and DiPrima, Elementary Differential
/// Equations, chapters on first-order equations and on systems; from memory).
namespace vicegrip::engine {
namespace {

constexpr double kLitre = 1e-3;
const Tank::Sizes kSizes{.line_m3 = 0.4 * kLitre, .flow_m3_s = 80 * kLitre / 3600, .pot_m3 = 2 * kLitre};

TEST(FuelTank, SettlesAsTwoMixingTanksDoBehindALine)
{
    Tank tank(kSizes, {20 * kLitre, 0.10});
    tank.pour({20 * kLitre, 0.85});
    const double q = kSizes.flow_m3_s, pot = kSizes.pot_m3, rest = 38 * kLitre;
    const double bulk = (18 * 0.10 + 20 * 0.85) / 38, all = (20 * 0.10 + 20 * 0.85) / 40;
    const double rate = q * (1 / pot + 1 / rest), purge_s = kSizes.line_m3 / q;
    for (int t = 1; t <= 600; ++t) {
        tank.pass(1, 1, 0);
        // The line returns old fuel for its own while: a hundredth of all there is.
        const double due =
            t < purge_s ? 0.10 : all + (0.10 - bulk) * (rest / 40 / kLitre) * std::exp(-rate * (t - purge_s));
        EXPECT_NEAR(tank.atSensor(), due, 0.012) << t;
    }
    const double withLine = (20 * 0.10 + 20 * 0.85 + 0.4 * 0.10) / 40.4;
    EXPECT_NEAR(tank.atSensor(), withLine, 5e-4) << "nothing is lost";
    EXPECT_NEAR(tank.volume_m3(), 40 * kLitre, 1e-9);
}

TEST(FuelTank, BurnsWhatDoesNotReturn)
{
    Tank tank(kSizes, {20 * kLitre, 0.10});
    tank.pass(3600, 1, 2 * kLitre / 3600);
    EXPECT_NEAR(tank.volume_m3(), 18 * kLitre, 1e-6);
    EXPECT_NEAR(tank.atSensor(), 0.10, 1e-12);
    tank.pass(20 * 3600, 1, 2 * kLitre / 3600);
    EXPECT_NEAR(tank.volume_m3(), 0, 1e-9) << "and no more than there is";
    EXPECT_NEAR(tank.atSensor(), 0.10, 1e-9);
}

TEST(FuelTank, APumpThatStandsMovesNothing)
{
    Tank tank(kSizes, {20 * kLitre, 0.10});
    tank.pour({20 * kLitre, 0.85});
    tank.pass(3600, 0, 0);
    EXPECT_EQ(tank.atSensor(), 0.10);
    tank.pass(17, 1, 0);
    EXPECT_EQ(tank.atSensor(), 0.10) << "the line is 18 s long";
    tank.pass(10, 1, 0);
    EXPECT_GT(tank.atSensor(), 0.12);
}

/// No line, no pot, hardly any fuel, all of it burnt at once: shares stay shares, and it ends.
TEST(FuelTank, StaysWithinWhatFuelCanBe)
{
    for (const double line : {0.0, 1e-6, 0.4e-3})
        for (const double pot : {0.0, 1e-6, 2e-3})
            for (const double in : {0.0, 1e-6, 20e-3})
                for (const double burnt : {0.0, 1e-5, 1.0}) {
                    Tank tank({.line_m3 = line, .flow_m3_s = 1e-4, .pot_m3 = pot}, {in, 0.1});
                    tank.pour({1e-3, 1});
                    tank.hold(in + 1e-3);
                    tank.pass(200, 1, burnt);
                    tank.refit({.line_m3 = 1e-4, .flow_m3_s = 1e-4, .pot_m3 = 1e-3});
                    tank.pass(200, 1, burnt);
                    EXPECT_GE(tank.atSensor(), 0.1 - 1e-12);
                    EXPECT_LE(tank.atSensor(), 1 + 1e-12);
                    EXPECT_GE(tank.volume_m3(), -1e-12);
                    EXPECT_LE(tank.volume_m3(), in + 1.5e-3);
                }
}

/// The watch of a fill on this tank says that it came as it was said to, though it mixes quicker than was assumed.
TEST(FuelTank, AFillIsWatchedToItsEnd)
{
    Tank tank(kSizes, {20 * kLitre, 0.10});
    const fuel::Pour pour{{20 * kLitre, 0.10}, {20 * kLitre, 0.85}};
    tank.pour(pour.add);
    const auto settling = fuel::Settling::of(0.10, 0.475, kSizes.line_m3, kSizes.flow_m3_s);
    std::vector<fuel::Shown> shown;
    for (int t = 0; t < 900; ++t) {
        shown.push_back({double(t), tank.atSensor()});
        tank.pass(1, 1, 0);
    }
    EXPECT_EQ(fuel::watchFill(shown, *settling, pour)->state, fuel::Watched::State::AsSaid);
}

} // namespace
} // namespace vicegrip::engine
