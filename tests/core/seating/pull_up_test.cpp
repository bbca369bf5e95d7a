#include "core/parts/e_series.h"
#include "core/seating/pull_up.h"
#include "tests/support/library.h"

#include <algorithm>
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
double coarsest(const parts::Part& s, double low, double high, const parts::EcuInput& input, double pullUp)
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
        parts::Part s = test::sensor(id);
        std::get<parts::Thermistor>(s.model).dissipation_w_per_k = 1; // heat is the next test's
        const double low = 263.15, high = 383.15;
        const auto best = bestPullUp(s, low, high, universal(), 5, 0.01);
        ASSERT_TRUE(best);
        double finest = 1e9, at = 0;
        for (double ohm = 20; ohm < 1e6; ohm *= 1.002)
            if (const double c = coarsest(s, low, high, universal(), ohm); c < finest) {
                finest = c;
                at = ohm;
            }
        EXPECT_LT(std::abs(std::log(best->ohm / at)), std::log(1.12)) // as far as E24 values are apart
            << id << " scan " << at << " ours " << best->ohm;
        EXPECT_NEAR(best->worstPerCount / coarsest(s, low, high, universal(), best->ohm), 1, 0.03) << id;
        EXPECT_LE(best->worstPerCount, finest * 1.1) << id;
    }
}

/// What `pullUp` does at one temperature, by the definitions alone: the volts of a divider, P = U^2 / R, the
/// dissipation factor as power per kelvin (IEC 60539-1), and what the reading is in doubt by from a sensor off by its
/// tolerance, a resistor off by 1 %, and half a count.
struct There
{
    double perCount = 0, warming = 0, doubt = 0;
};
There there(const parts::Part& s, double kelvin, const parts::EcuInput& input, double pullUp, double timesStill)
{
    const auto& t = std::get<parts::Thermistor>(s.model);
    const auto volts = [&](double sensorOhm, double up) {
        const double below = 1 / (1 / sensorOhm + 1 / input.pull_down_ohm);
        return 5 * below / (below + up);
    };
    const double r = parts::ohms(t.curve, kelvin), h = 0.01;
    const double slope =
        std::abs(volts(parts::ohms(t.curve, kelvin + h), pullUp) - volts(parts::ohms(t.curve, kelvin - h), pullUp)) /
        (2 * h);
    There out;
    out.perCount = 5 / (std::pow(2, input.bits) - 1) / slope;
    out.warming = std::pow(volts(r, pullUp), 2) / r / (t.dissipation_w_per_k * timesStill);
    const double sensorOff = std::abs(volts(r * (1 + t.tolerance), pullUp) - volts(r, pullUp)) / slope;
    const double resistorOff = std::abs(volts(r, pullUp * 1.01) - volts(r, pullUp)) / slope;
    out.doubt = sensorOff + resistorOff + out.perCount / 2;
    return out;
}

TEST(PullUp, TheProposalIsTheFinestThatDoesNotWarmTheSensorBeyondItsDoubt)
{
    for (const char* id : {"ntc-2k2", "ntc-2k2-air", "ntc-10k", "ntc-3k", "ntc-oil", "ntc-5k-air", "ntc-1k-hot"}) {
        const parts::Part s = test::sensor(id);
        const double low = 253.15, high = 393.15;
        const double timesStill = s.kind == parts::PartUse::AirTemperature ? 4 : 1;
        double finest = 1e9, at = 0;
        for (double ohm : parts::preferredValues(parts::ESeries::E24, 20, 1e6)) {
            double worst = 0, share = 0;
            for (double k = low; k <= high; k += 0.5) {
                const There t = there(s, k, universal(), ohm, timesStill);
                worst = std::max(worst, t.perCount);
                share = std::max(share, t.warming / t.doubt);
            }
            if (share <= 1 && worst < finest) {
                finest = worst;
                at = ohm;
            }
        }
        const auto best = bestPullUp(s, low, high, universal(), 5, 0.01);
        ASSERT_TRUE(best) << id;
        EXPECT_NEAR(best->ohm / at, 1, 0.12) << id << ": within a value of the series, for the grids differ";
        EXPECT_FALSE(best->tooWarm()) << id;
    }
}

// Common practice, no source: what is fitted to an air thermistor of 2.2 kOhm at 25 °C is 1k to 2k7. The larger one
// that never warms it by half a kelvin in still air reads 120 °C in steps of four degrees.
TEST(PullUp, AnAirThermistorGetsWhatIsFittedInPractice)
{
    const parts::Part s = test::sensor("ntc-2k2-air");
    const double low = 253.15, high = 393.15;
    const auto best = bestPullUp(s, low, high, universal(), 5, 0.01);
    ASSERT_TRUE(best);
    EXPECT_GE(best->ohm, 1000);
    EXPECT_LE(best->ohm, 2700);
    EXPECT_LT(best->highPerCount, 1.0);
    EXPECT_LT(best->lowPerCount, 0.5);
    EXPECT_GT(withPullUp(s, low, high, universal(), 5, 12400, 0.01).highPerCount, 4.0);
    EXPECT_NEAR(best->still_k / best->moving_k, kMovingAir, 1e-9);
}

TEST(PullUp, TheTableHoldsTheBestTheUsualOnesAndThoseOfItsEcu)
{
    const parts::Ecu unit = test::ecu("small-4").ecu;
    const parts::Part s = test::sensor("ntc-2k2-air");
    const auto best = bestPullUp(s, 253.15, 393.15, unit.inputs.front(), 5, 0.01);
    const auto table = pullUpTable(s, 253.15, 393.15, unit.inputs.front(), unit, 0.01);
    EXPECT_TRUE(std::ranges::is_sorted(table, {}, &PullUpChoice::ohm));
    const auto row = [&](double ohm) { return std::ranges::find(table, ohm, &PullUpChoice::ohm); };
    ASSERT_NE(row(best->ohm), table.end());
    for (double usual : kUsualPullUps_ohm)
        ASSERT_NE(row(usual), table.end());
    for (const parts::EcuInput& i : unit.inputs)
        if (i.pull_up_ohm && i.takes(parts::InputMode::Analog)) {
            ASSERT_NE(row(*i.pull_up_ohm), table.end());
            EXPECT_EQ(row(*i.pull_up_ohm)->expectedBy, "as here");
        }
    EXPECT_TRUE(pullUpTable(test::sensor("map-3bar"), 0, 300e3, unit.inputs.front(), unit, 0.01).empty());
}

TEST(PullUp, ASensorThatWouldBeWarmedGetsALargerOne)
{
    parts::Part s = test::sensor("ntc-oil");
    auto& t = std::get<parts::Thermistor>(s.model);
    t.dissipation_w_per_k = 1;
    const auto free = bestPullUp(s, 293.15, 423.15, universal(), 5, 0.01);
    t.dissipation_w_per_k = 1e-3;
    const auto kept = bestPullUp(s, 293.15, 423.15, universal(), 5, 0.01);
    ASSERT_TRUE(free && kept);
    EXPECT_GT(kept->ohm, free->ohm);
    EXPECT_TRUE(kept->limitedByHeat);
    EXPECT_FALSE(free->limitedByHeat);
}

TEST(PullUp, WhereAllAreTooWarmTheCoolestIsTaken)
{
    parts::Part s = test::sensor("ntc-2k2-air");
    std::get<parts::Thermistor>(s.model).dissipation_w_per_k = 1e-6;
    std::vector<PullUpChoice> all;
    for (double ohm : {1000.0, 4700.0, 2200.0})
        all.push_back(withPullUp(s, 273.15, 373.15, universal(), 5, ohm, 0.01));
    const auto taken = finest(all);
    ASSERT_TRUE(taken);
    EXPECT_TRUE(taken->tooWarm());
    EXPECT_EQ(taken->ohm, 4700);
    EXPECT_FALSE(finest({}));
}

// By hand: 2490 Ohm to 5 V over 2490 Ohm is 2.5 V, and (2.5 V)^2 / 2490 Ohm = 2.51 mW.
TEST(PullUp, HeatIsTheSquareOfTheVoltsOverTheResistance)
{
    parts::Part s = test::sensor("ntc-2k2");
    auto& t = std::get<parts::Thermistor>(s.model);
    t.curve = parts::BetaCurve{2490, 3500};
    t.dissipation_w_per_k = 2e-3;
    parts::EcuInput input = universal();
    input.pull_down_ohm = 1e12;
    const auto c = withPullUp(s, 298.05, 298.25, input, 5, 2490, 0.01);
    EXPECT_NEAR(c.still_k, 2.51e-3 / 2e-3, 0.005);
    EXPECT_NEAR((c.low_v + c.high_v) / 2, 2.5, 0.001);
}

TEST(PullUp, ASensorThatDrivesItsVoltsNeedsNone)
{
    EXPECT_FALSE(bestPullUp(test::sensor("map-3bar"), 0, 300e3, universal(), 5, 0.01));
    EXPECT_TRUE(bestPullUp(test::sensor("level-10-180"), 0, 1, universal(), 5, 0.01));
}

} // namespace
} // namespace vicegrip::seating
