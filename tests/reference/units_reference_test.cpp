#include "core/units/units.h"

#include <cmath>
#include <gtest/gtest.h>

namespace vicegrip::units {
namespace {

using enum Dimension;

double inSi(const char* text, Dimension dimension)
{
    const auto value = parse(text, dimension);
    EXPECT_TRUE(value) << text;
    return value.value_or(0);
}

// NIST Special Publication 811 (2008), appendix B.8, factors as printed there (seven figures; bold ones exact).
TEST(NistSp811, PressureFactors)
{
    EXPECT_NEAR(inSi("1 psi", GaugePressure), 6.894757e3, 0.0005e0);
    EXPECT_NEAR(inSi("1 inHg", AbsolutePressure), 3.386389e3, 0.0005); // conventional
    EXPECT_NEAR(inSi("1 mmHg", AbsolutePressure), 1.333224e2, 0.00005);
    EXPECT_DOUBLE_EQ(inSi("1 bar", AbsolutePressure), 1.0e5);
    EXPECT_DOUBLE_EQ(inSi("1 atm", AbsolutePressure), 1.01325e5);
    EXPECT_NEAR(inSi("14.7 inHg", AbsolutePressure), 14.7 * 3.386389e3, 0.01);
}

TEST(NistSp811, LengthAndTemperature)
{
    EXPECT_DOUBLE_EQ(inSi("1 in", Length), 2.54e-2);
    EXPECT_DOUBLE_EQ(inSi("1 ft", Length), 3.048e-1);
    // Footnote to B.8: T/K = (t/degF + 459.67)/1.8; t/degC = (t/degF - 32)/1.8.
    EXPECT_NEAR(inSi("32 F", Temperature), 273.15, 1e-10);
    EXPECT_NEAR(inSi("212 F", Temperature), 373.15, 1e-10);
    EXPECT_NEAR(inSi("160 F", Temperature), (160 + 459.67) / 1.8, 1e-10);
}

struct GaugeRow
{
    int gauge;
    double diameter_mm;
    double ohmPerKm; ///< at 20 °C, annealed copper
};

// ASTM B258 nominal diameters (mm) of solid round wire; resistances from the copper wire tables that follow from them
// (NBS Handbook 100, "Copper Wire Tables", 1966, table 6: ohms per kilometre at 20 °C). From memory, four figures.
constexpr GaugeRow kGauges[] = {{10, 2.588, 3.277}, {12, 2.053, 5.211},  {14, 1.628, 8.286},  {16, 1.291, 13.17},
                                {18, 1.024, 20.95}, {20, 0.8118, 33.31}, {22, 0.6438, 52.96}, {24, 0.5106, 84.22}};

TEST(AstmB258, DiametersOfTheGauges)
{
    for (const GaugeRow& row : kGauges) {
        const double area = areaOfGauge(row.gauge);
        EXPECT_NEAR(std::sqrt(area * 4 / std::acos(-1.0)) * 1e3, row.diameter_mm, row.diameter_mm * 5e-4)
            << row.gauge << " AWG";
        EXPECT_DOUBLE_EQ(inSi((std::to_string(row.gauge) + " AWG").c_str(), Area), area);
    }
    EXPECT_NEAR(areaOfGauge(-3), 107.2e-6, 0.1e-6) << "4/0 AWG is 107.2 mm²";
    EXPECT_DOUBLE_EQ(inSi("2/0 AWG", Area), areaOfGauge(-1));
}

TEST(AstmB258, OhmPerKilometreOfTheGauges)
{
    constexpr double kAnnealedCopper = 1.7241e-8; // IEC 60028: 1/58 ohm mm²/m
    for (const GaugeRow& row : kGauges)
        EXPECT_NEAR(kAnnealedCopper * 1000 / areaOfGauge(row.gauge), row.ohmPerKm, row.ohmPerKm * 1e-3)
            << row.gauge << " AWG";
}

} // namespace
} // namespace vicegrip::units
