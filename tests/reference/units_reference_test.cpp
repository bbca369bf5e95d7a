#include "core/units/shown.h"

#include <array>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <gtest/gtest.h>
#include <random>
#include <sstream>

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

/// A unit here, and in the language of GNU units; "%" stands for the number where it is a function.
struct Counterpart
{
    Dimension dimension;
    const char *ours, *theirs, *si;
    double low, high;
};

constexpr Counterpart kCounterparts[] = {{AbsolutePressure, "kPa", "kPa", "Pa", 10, 500},
                                         {AbsolutePressure, "psi", "psi", "Pa", 1, 100},
                                         {AbsolutePressure, "inHg", "inHg", "Pa", 1, 60},
                                         {AbsolutePressure, "mmHg", "mmHg", "Pa", 10, 900},
                                         {GaugePressure, "bar", "bar", "Pa", 0.1, 9},
                                         {GaugePressure, "atm", "atm", "Pa", 0.1, 9},
                                         {Temperature, "°C", "tempC(%)", "K", -40, 900},
                                         {Temperature, "°F", "tempF(%)", "K", -40, 1600},
                                         {TemperatureDifference, "°F", "degF", "K", 0.1, 90},
                                         {Length, "in", "inch", "m", 0.1, 90},
                                         {Length, "ft", "foot", "m", 0.1, 90},
                                         {Volume, "gal", "gallon", "m^3", 0.1, 90},
                                         {Volume, "ci", "inch^3", "m^3", 1, 500},
                                         {Volume, "l", "liter", "m^3", 0.1, 90},
                                         {Speed, "mph", "mile/hour", "m/s", 1, 200},
                                         {Speed, "km/h", "km/hour", "m/s", 1, 300},
                                         {MassFlow, "lb/min", "pound/min", "kg/s", 0.1, 90},
                                         {MassFlow, "kg/h", "kg/hour", "kg/s", 1, 900},
                                         {Frequency, "rpm", "1/min", "Hz", 100, 9000},
                                         {Resistance, "kΩ", "kiloohm", "ohm", 0.1, 90}};

struct Asked
{
    const Counterpart* unit;
    double number;
};

/// What GNU units (Debian's package, run as a program) makes of a hundred and more quantities at once.
std::vector<double> gnuUnits(const std::vector<Asked>& all)
{
    const auto path = std::filesystem::temp_directory_path() / "vicegrip-units.txt";
    std::ofstream file(path);
    file.precision(17);
    for (const Asked& a : all) {
        std::ostringstream number;
        number.precision(17);
        number << a.number;
        std::string theirs = a.unit->theirs;
        if (const size_t hole = theirs.find('%'); hole != std::string::npos)
            theirs.replace(hole, 1, number.str());
        else
            theirs = number.str() + " " + theirs;
        file << theirs << '\n' << a.unit->si << '\n';
    }
    file.close();
    FILE* pipe = popen(("units --terse --output-format %.17g < " + path.string()).c_str(), "r");
    std::vector<double> out;
    std::array<char, 200> line{};
    while (pipe != nullptr && std::fgets(line.data(), line.size(), pipe) != nullptr)
        out.push_back(std::atof(line.data()));
    if (pipe != nullptr)
        pclose(pipe);
    std::filesystem::remove(path);
    return out;
}

TEST(GnuUnits, AgreesOnFiveHundredRandomQuantitiesBothWays)
{
    std::mt19937 random(11); // NOLINT(bugprone-random-generator-seed): the same numbers every time
    std::vector<Asked> all;
    for (int i = 0; i < 25; ++i)
        for (const Counterpart& c : kCounterparts)
            all.push_back({&c, std::uniform_real_distribution<double>(c.low, c.high)(random)});
    const std::vector<double> theirs = gnuUnits(all);
    ASSERT_EQ(theirs.size(), all.size());
    ASSERT_GE(all.size(), 500);
    for (size_t i = 0; i < all.size(); ++i) {
        const Counterpart& c = *all[i].unit;
        const std::string typed = shortest(all[i].number) + " " + c.ours;
        const auto si = parse(typed, c.dimension);
        ASSERT_TRUE(si) << typed << ": " << si.error().text();
        EXPECT_NEAR(*si, theirs[i], 1e-9 * std::abs(theirs[i]) + 1e-12) << typed;
        const auto back = parse(formatIn(theirs[i], c.dimension, c.ours, 9), c.dimension);
        ASSERT_TRUE(back) << typed;
        EXPECT_NEAR(*back, theirs[i], differenceFromUnit(1e-8, c.dimension, c.ours)) << typed;
    }
}

TEST(GnuUnits, AgreesOnTheGauges)
{
    for (int gauge = 0; gauge <= 30; ++gauge) {
        FILE* pipe =
            popen(("units --terse --output-format %.17g 'circlearea(wiregauge(" + std::to_string(gauge) + ")/2)' m^2")
                      .c_str(),
                  "r");
        std::array<char, 200> line{};
        ASSERT_NE(std::fgets(line.data(), line.size(), pipe), nullptr);
        pclose(pipe);
        EXPECT_NEAR(areaOfGauge(gauge), std::atof(line.data()), 1e-9 * areaOfGauge(gauge)) << gauge;
    }
}

/// What a US reader is shown of metric quantities, held against GNU units the same way.
TEST(GnuUnits, AgreesOnWhatIsShown)
{
    ASSERT_TRUE(setShown({System::US, {}}));
    const Counterpart kShown[] = {{GaugePressure, "bar", "psi", "bar", 0, 9},
                                  {AbsolutePressure, "kPa", "psi", "kPa", 0, 300},
                                  {Volume, "l", "gallon", "liter", 0, 90},
                                  {Speed, "km/h", "mile/hour", "km/hour", 0, 300},
                                  {MassFlow, "kg/h", "pound/min", "kg/hour", 0, 900},
                                  {Length, "mm", "inch", "mm", 0, 900}};
    std::mt19937 random(12); // NOLINT(bugprone-random-generator-seed)
    std::vector<Asked> all;
    std::vector<double> numbers;
    for (int i = 0; i < 20; ++i)
        for (const Counterpart& c : kShown) {
            const double si =
                fromUnit(std::uniform_real_distribution<double>(c.low, c.high)(random), c.dimension, c.ours);
            numbers.push_back(std::atof(format(si, c.dimension, c.ours, 6).c_str()));
            all.push_back({&c, numbers.back()}); // theirs: from what was shown back into what was meant
            EXPECT_NEAR(toShown(si, c.dimension, c.ours), numbers.back(), 1e-5);
        }
    const std::vector<double> theirs = gnuUnits(all);
    ASSERT_EQ(theirs.size(), all.size());
    for (size_t i = 0; i < all.size(); ++i) {
        const Counterpart& c = *all[i].unit;
        EXPECT_NEAR(toShown(fromUnit(theirs[i], c.dimension, c.ours), c.dimension, c.ours), numbers[i], 1e-4) << c.ours;
    }
    ASSERT_TRUE(setShown({}));
}

} // namespace
} // namespace vicegrip::units
