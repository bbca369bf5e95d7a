#include "core/seating/pull_up.h"
#include "tests/support/library.h"

#include <cmath>
#include <gtest/gtest.h>

namespace vicegrip::seating {
namespace {

parts::EcuInput universal()
{
    return test::ecu("small-4").ecu.inputs.front();
}

/// A scan of every ohm there could be, written apart from the code it checks: the divider's volts by hand, counts by
/// the input's bits, on a grid of temperatures.
double coarsest(const parts::Sensor& s, double low, double high, const parts::EcuInput& input, double pullUp)
{
    const auto* thermistor = std::get_if<parts::Thermistor>(&s.model);
    const auto volts = [&](double kelvin) {
        const double r = parts::ohms(thermistor->curve, kelvin);
        const double below = 1 / (1 / r + 1 / input.pull_down_ohm);
        return 5 * below / (below + pullUp);
    };
    double worst = 0;
    const int steps = 400;
    for (int i = 0; i < steps; ++i) {
        const double a = low + (high - low) * i / steps, b = low + (high - low) * (i + 1) / steps;
        const double perVolt = (b - a) / std::abs(volts(b) - volts(a));
        worst = std::max(worst, perVolt * 5 / (std::pow(2, input.bits) - 1));
    }
    return worst;
}

TEST(PullUp, BestIsWhereADenseScanFindsIt)
{
    for (const char* id : {"ntc-2k2", "ntc-10k", "ntc-3k", "ntc-oil", "ntc-5k-air"}) {
        parts::Sensor s = test::sensor(id);
        std::get<parts::Thermistor>(s.model).dissipation_w_per_k = 1; // heat is the next test's
        const double low = 263.15, high = 383.15;
        const auto best = bestPullUp(s, low, high, universal(), 5, parts::ESeries::E96);
        ASSERT_TRUE(best);
        double finest = 1e9, at = 0;
        for (double ohm = 20; ohm < 1e6; ohm *= 1.002)
            if (const double c = coarsest(s, low, high, universal(), ohm); c < finest) {
                finest = c;
                at = ohm;
            }
        EXPECT_LT(std::abs(std::log(best->ohm / at)), std::log(1.0245))
            << id << " scan " << at << " ours " << best->ohm;
        EXPECT_NEAR(best->worstPerCount / coarsest(s, low, high, universal(), best->ohm), 1, 0.03) << id;
        EXPECT_LE(best->worstPerCount, finest * 1.03) << id;
    }
}

TEST(PullUp, ASensorThatWouldBeWarmedGetsALargerOne)
{
    parts::Sensor s = test::sensor("ntc-oil");
    auto& t = std::get<parts::Thermistor>(s.model);
    t.dissipation_w_per_k = 1;
    const auto free = bestPullUp(s, 293.15, 423.15, universal(), 5, parts::ESeries::E24);
    t.dissipation_w_per_k = 4e-3;
    const auto kept = bestPullUp(s, 293.15, 423.15, universal(), 5, parts::ESeries::E24);
    ASSERT_TRUE(free && kept);
    EXPECT_GT(kept->ohm, free->ohm);
    EXPECT_TRUE(kept->limitedByHeat);
    EXPECT_FALSE(free->limitedByHeat);
    EXPECT_LE(kept->selfHeating_k, kMostSelfHeating_k);
}

// By hand: 2490 Ohm to 5 V over 2490 Ohm is 2.5 V, and (2.5 V)^2 / 2490 Ohm = 2.51 mW.
TEST(PullUp, HeatIsTheSquareOfTheVoltsOverTheResistance)
{
    parts::Sensor s = test::sensor("ntc-2k2");
    auto& t = std::get<parts::Thermistor>(s.model);
    t.curve = parts::BetaCurve{2490, 3500};
    t.dissipation_w_per_k = 2e-3;
    parts::EcuInput input = universal();
    input.pull_down_ohm = 1e12;
    const auto c = withPullUp(s, 298.05, 298.25, input, 5, 2490, 0.01);
    EXPECT_NEAR(c.selfHeating_k, 2.51e-3 / 2e-3, 0.005);
    EXPECT_NEAR((c.low_v + c.high_v) / 2, 2.5, 0.001);
}

TEST(PullUp, ASensorThatDrivesItsVoltsNeedsNone)
{
    EXPECT_FALSE(bestPullUp(test::sensor("map-3bar"), 0, 300e3, universal(), 5, parts::ESeries::E24));
    EXPECT_TRUE(bestPullUp(test::sensor("level-10-180"), 0, 1, universal(), 5, parts::ESeries::E24));
}

} // namespace
} // namespace vicegrip::seating
