#include "core/units/shown.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <random>

namespace vicegrip::units {
namespace {

using enum Dimension;
using testing::HasSubstr;

/// What is shown belongs to the process: put back for the next test.
class ShownUnits : public testing::Test
{
  protected:
    void TearDown() override
    {
        EXPECT_TRUE(setShown({}));
        setStoichiometric(14.7);
    }
    static void us() { ASSERT_TRUE(setShown({System::US, {}})); }
};

TEST_F(ShownUnits, ASystemLeavesItsOwnUnitsAsTheyAre)
{
    EXPECT_EQ(format(3.2e5, GaugePressure, "bar", 2), "3.20 bar gauge");
    EXPECT_EQ(format(2e5, GaugePressure, "kPa", 0), "200 kPa gauge");
    EXPECT_EQ(format(101325, AbsolutePressure, "inHg", 1), "101.3 kPa abs")
        << "29.9 inHg, in tenths of an inch: 0.34 kPa";
    EXPECT_EQ(format(358.15, Temperature, "K", 1), "358.1 K");
    us();
    EXPECT_EQ(format(3.2e5, GaugePressure, "bar", 2), "46.4 psi gauge");
    EXPECT_EQ(format(101325, AbsolutePressure, "inHg", 1), "29.9 inHg abs");
    EXPECT_EQ(format(101325, AbsolutePressure, "kPa", 1), "14.70 psi abs");
    EXPECT_EQ(format(358.15, Temperature, "°C", 1), "185.0 °F");
    EXPECT_EQ(format(50e-3, Volume, "l", 1), "13.21 gal");
    EXPECT_EQ(format(100 / 3.6, Speed, "km/h", 0), "62 mph");
    EXPECT_EQ(format(2.5204, Voltage, "V", 3), "2.520 V");
}

TEST_F(ShownUnits, ADifferenceOfTemperaturesHasNoZeroAndOneOfPressuresSaysNone)
{
    EXPECT_EQ(formatDifference(2, Temperature, "°C", 1), "2.0 °C");
    EXPECT_EQ(formatDifference(1000, AbsolutePressure, "kPa", 1), "1.0 kPa");
    us();
    EXPECT_EQ(formatDifference(2, Temperature, "°C", 1), "3.6 °F");
    EXPECT_EQ(formatDifference(2, TemperatureDifference, "K", 1), "3.6 °F");
    EXPECT_EQ(formatDifference(1000, AbsolutePressure, "kPa", 1), "0.15 psi");
    EXPECT_NEAR(differenceFromShown(differenceToShown(7, Temperature, "°C"), Temperature, "°C"), 7, 1e-12);
}

TEST_F(ShownUnits, LengthsAreFeetAndInches)
{
    us();
    EXPECT_EQ(format(1.0287, Length, "m", 2), "3 ft 4.5 in");
    EXPECT_EQ(format(0.1143, Length, "m", 2), "4.5 in");
    EXPECT_EQ(format(0.3047, Length, "m", 2), "1 ft 0.0 in") << "11.996 in";
    EXPECT_EQ(format(0.6095, Length, "m", 1), "2 ft 0 in") << "23.996 in";
    EXPECT_EQ(format(250, Length, "m", 0), "820 ft") << "nobody wants the inches of an altitude";
    EXPECT_EQ(format(5e-3, Length, "mm", 1), "0.197 in");
    EXPECT_EQ(shownUnit(Length, "cm"), "in");
}

TEST_F(ShownUnits, AConductorIsCalledByItsSize)
{
    EXPECT_EQ(format(0.75e-6, Area, "mm²", 3), "0.75 mm²");
    EXPECT_EQ(format(areaOfGauge(18), Area, "mm²", 3), "0.823 mm²");
    us();
    EXPECT_EQ(format(areaOfGauge(18), Area, "mm²", 3), "18 AWG");
    EXPECT_EQ(format(0.82e-6, Area, "mm²", 3), "18 AWG") << "as drawings round it";
    EXPECT_EQ(format(0.75e-6, Area, "mm²", 3), "0.75 mm² ≈ 18 AWG") << "which is thicker: nobody may take it for that";
    EXPECT_EQ(format(areaOfGauge(-1), Area, "mm²", 3), "2/0 AWG");
    EXPECT_EQ(format(400e-6, Area, "mm²", 3), "400 mm²");
}

TEST_F(ShownUnits, ABareNumberHasTheUnitThatIsShown)
{
    EXPECT_DOUBLE_EQ(*parseShown("3", GaugePressure, "bar"), 3e5);
    us();
    EXPECT_NEAR(*parseShown("3", GaugePressure, "bar"), 3 * 6894.757, 0.01);
    EXPECT_DOUBLE_EQ(*parse("3", GaugePressure, "bar"), 3e5) << "a file means what it always meant";
    EXPECT_NEAR(*parseShown("3 bar", GaugePressure, "bar"), 3e5, 1e-6);
    EXPECT_NEAR(*parseShown("185", Temperature, "°C"), 358.15, 1e-9);
    EXPECT_DOUBLE_EQ(*parseShown("18", Area, "mm²"), areaOfGauge(18));
    EXPECT_DOUBLE_EQ(*parseShown("2/0", Area, "mm²"), areaOfGauge(-1));
    EXPECT_NEAR(*parseShown("0.75 mm2", Area, "mm²"), 0.75e-6, 1e-15);
    EXPECT_FALSE(parseShown("5", Length, "m")) << "feet, or inches?";
    EXPECT_NEAR(*parseShown("5", Length, "mm"), 5 * 0.0254, 1e-12);
}

/// What was copied has whatever unit it had: nobody knows which, once there are two.
TEST_F(ShownUnits, ABareNumberThatWasPastedIsRefusedWhereTwoUnitsMeet)
{
    EXPECT_DOUBLE_EQ(*parsePasted("20", Temperature, "°C"), 293.15);
    us();
    const auto refused = parsePasted("20", Temperature, "°C");
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.error().sentence, HasSubstr("could be °F or °C: write which"));
    EXPECT_DOUBLE_EQ(*parsePasted("20 °C", Temperature, "°C"), 293.15);
    EXPECT_NEAR(*parsePasted("68 F", Temperature, "°C"), 293.15, 1e-9);
    EXPECT_DOUBLE_EQ(*parsePasted("2.5", Voltage, "V"), 2.5);
    EXPECT_EQ(pastedUnit(Length, "m"), "");
    ASSERT_TRUE(setShown({System::Metric, {{Lambda, "AFR"}}}));
    EXPECT_FALSE(parsePasted("14.7", Lambda, "λ"));
    EXPECT_NEAR(*parsePasted("14.7 AFR", Lambda, "λ"), 1, 1e-9);
    EXPECT_NEAR(*parsePasted("0.95 λ", Lambda, "λ"), 0.95, 1e-9);
}

TEST_F(ShownUnits, LambdaIsAnAirFuelRatioOfTheFuel)
{
    EXPECT_EQ(format(0.95, Lambda, "λ", 3), "0.950 λ");
    EXPECT_NEAR(*parseShown("14.7 AFR", Lambda, "λ"), 1, 1e-12);
    ASSERT_TRUE(setShown({System::Metric, {{Lambda, "AFR"}}}));
    EXPECT_EQ(format(0.9, Lambda, "λ", 3), "13.23 AFR");
    EXPECT_NEAR(*parseShown("13.23", Lambda, "λ"), 0.9, 1e-9);
    EXPECT_DOUBLE_EQ(*parse("0.9", Lambda), 0.9);
    setStoichiometric(9.77);
    EXPECT_EQ(format(1, Lambda, "λ", 3), "9.77 AFR");
    EXPECT_NEAR(differenceToShown(0.1, Lambda, "λ"), 0.977, 1e-12);
}

TEST_F(ShownUnits, WhatIsReadOtherwiseStaysSo)
{
    ASSERT_TRUE(setShown({System::US, {{AbsolutePressure, "kPa"}, {Temperature, "°C"}}}));
    EXPECT_EQ(format(2e5, AbsolutePressure, "bar", 2), "200 kPa abs");
    EXPECT_EQ(format(358.15, Temperature, "°C", 1), "85.0 °C");
    EXPECT_EQ(formatDifference(2, TemperatureDifference, "K", 1), "2.0 K") << "as the temperatures";
    EXPECT_EQ(format(2e5, GaugePressure, "bar", 2), "29.0 psi gauge");
    EXPECT_EQ(shown().own.at(AbsolutePressure), "kPa");
}

TEST_F(ShownUnits, AChoiceThatIsNoneIsRefusedAndNothingChanges)
{
    us();
    const auto refused = setShown({System::Metric, {{Temperature, "furlong"}}});
    ASSERT_FALSE(refused);
    EXPECT_THAT(refused.error().sentence, HasSubstr("\"furlong\" is no way to show temperature: expected °C, °F"));
    EXPECT_THAT(setShown({System::Metric, {{Voltage, "kV"}}}).error().sentence, HasSubstr("always shown alike"));
    EXPECT_EQ(shown().system, System::US);
}

/// What stands in a field, taken as typed, is what it stood for, as near as its digits tell.
TEST_F(ShownUnits, WhatIsShownReadsBack)
{
    std::mt19937 random(3); // NOLINT(bugprone-random-generator-seed): the same numbers every time
    std::uniform_real_distribution<double> spread(0.2, 90);
    const std::pair<Dimension, const char*> fields[] = {
        {Temperature, "°C"}, {AbsolutePressure, "kPa"}, {GaugePressure, "bar"}, {Length, "m"}, {Length, "mm"},
        {Volume, "l"},       {Speed, "km/h"},           {MassFlow, "kg/h"},     {Lambda, "λ"}};
    std::vector<Shown> all = {{System::Metric, {}}, {System::US, {}}};
    for (const Dimension d : choosable())
        for (const Choice& c : choices(d))
            all.push_back({System::Metric, {{d, std::string(c.name)}}});
    for (const Shown& s : all) {
        ASSERT_TRUE(setShown(s));
        for (const auto& [dimension, unit] : fields)
            for (int i = 0; i < 20; ++i) {
                const double si = fromUnit(spread(random), dimension, unit);
                const std::string said = format(si, dimension, unit, 3);
                const auto back = parseShown(said, dimension, unit);
                ASSERT_TRUE(back) << said << ": " << back.error().text();
                const double step = differenceFromUnit(1e-3, dimension, unit);
                EXPECT_NEAR(*back, si, 1.1 * step) << said;
            }
    }
}

TEST_F(ShownUnits, ARangeSaysItsUnitOnce)
{
    EXPECT_EQ(formatRange(0, 3e5, AbsolutePressure, "kPa", 0), "0 to 300 kPa abs");
    EXPECT_EQ(rangeText("900 Ω", "2.5 kΩ"), "900 Ω to 2.5 kΩ");
    EXPECT_EQ(rangeText("2.5 V", "2.5 V"), "2.5 V");
    us();
    EXPECT_EQ(formatRange(0.1, 1, Length, "m", 2), "3.9 in to 3 ft 3.4 in");
    EXPECT_EQ(formatRange(1, 2, Length, "m", 2), "3 ft 3.4 in to 6 ft 6.7 in");
}

} // namespace
} // namespace vicegrip::units
