#include "core/units/units.h"

#include <clocale>
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <random>

namespace vicegrip::units {
namespace {

using enum Dimension;

struct Typed
{
    const char* text;
    Dimension dimension;
    double si;
};

void PrintTo(const Typed& t, std::ostream* out)
{
    *out << t.text;
}

class UnderstandsAsTyped : public testing::TestWithParam<Typed>
{
};

TEST_P(UnderstandsAsTyped, InSi)
{
    const auto value = parse(GetParam().text, GetParam().dimension);
    ASSERT_TRUE(value) << value.error().text();
    EXPECT_NEAR(*value, GetParam().si, std::abs(GetParam().si) * 1e-12);
}

INSTANTIATE_TEST_SUITE_P(
    Quantities, UnderstandsAsTyped,
    testing::Values(Typed{"3.2 bar", GaugePressure, 320000}, Typed{"3.2bar", AbsolutePressure, 320000},
                    Typed{"2k49", Resistance, 2490}, Typed{"4R7", Resistance, 4.7}, Typed{"1M0", Resistance, 1e6},
                    Typed{"10 kΩ", Resistance, 10000}, Typed{"10 k\u2126", Resistance, 10000},
                    Typed{"10k", Resistance, 10000}, Typed{"5 mohm", Resistance, 0.005},
                    Typed{"2k49 ohm", Resistance, 2490}, Typed{"0.75 mm²", Area, 0.75e-6},
                    Typed{"0.75mm2", Area, 0.75e-6}, Typed{"185 °F", Temperature, 358.15},
                    Typed{"-20C", Temperature, 253.15}, Typed{"\u221220 °C", Temperature, 253.15},
                    Typed{"-40 F", Temperature, 233.15}, Typed{"1.2 m", Length, 1.2}, Typed{"450 mm", Length, 0.45},
                    Typed{"6 ft", Length, 1.8288}, Typed{"3 in", Length, 0.0762}, Typed{"150 Hz", Frequency, 150},
                    Typed{"6000 rpm", Frequency, 100}, Typed{"120 mV", Voltage, 0.12}, Typed{"+5 V", Voltage, 5},
                    Typed{"350 mA", Current, 0.35}, Typed{"35 %", Ratio, 0.35}, Typed{"0.35", Ratio, 0.35},
                    Typed{"0.95", Lambda, 0.95}, Typed{"2e3 ohm", Resistance, 2000},
                    Typed{" 22\u00A0°C ", Temperature, 295.15}));

TEST(Units, APlainNumberTakesTheFieldsUnit)
{
    EXPECT_DOUBLE_EQ(*parse("2.52", Voltage, "V"), 2.52);
    EXPECT_DOUBLE_EQ(*parse("3", GaugePressure, "bar"), 3e5);
    EXPECT_FALSE(parse("2.52", Voltage));
}

TEST(Units, RefusalSaysWhatWasExpected)
{
    for (const char* text :
         {"", "   ", "volts", "5 apples", "V", "5 V V", "--5 V", "inf V", "nan V", "0x10 V", "5,000 V", "1e999 V"})
        EXPECT_FALSE(parse(text, Voltage)) << text;
    EXPECT_THAT(parse("5 bar", Voltage).error().sentence, testing::HasSubstr("expected a voltage such as 2.52 V"));
    EXPECT_THAT(parse("5,000 V", Voltage).error().sentence, testing::HasSubstr("point"));
    EXPECT_THAT(parse("-300 °C", Temperature).error().sentence, testing::HasSubstr("below zero kelvin"));
    EXPECT_THAT(parse("-1 ohm", Resistance).error().sentence, testing::HasSubstr("below zero"));
    EXPECT_FALSE(parse(std::string(100000, '9'), Voltage));
}

TEST(Units, MilliAndMegaAreTold)
{
    EXPECT_DOUBLE_EQ(*parse("5 mΩ", Resistance), 0.005);
    EXPECT_DOUBLE_EQ(*parse("5 MΩ", Resistance), 5e6);
}

TEST(Pressure, GaugeAndAbsoluteAreNeverMixed)
{
    const auto gauge = [](const char* typed) { return parse(typed, GaugePressure); };
    const auto absolute = [](const char* typed) { return parse(typed, AbsolutePressure); };
    EXPECT_TRUE(gauge("20 psig"));
    EXPECT_TRUE(gauge("20 psi(g)"));
    EXPECT_TRUE(absolute("3 bar(a)"));
    EXPECT_TRUE(absolute("300 kPa abs"));
    EXPECT_THAT(absolute("20 psig").error().sentence, testing::HasSubstr("add the barometer"));
    EXPECT_THAT(gauge("3 bara").error().sentence, testing::HasSubstr("take the barometer off"));
    EXPECT_TRUE(gauge("-0.5 bar")) << "a vacuum is a negative gauge pressure";
    EXPECT_FALSE(absolute("-0.5 bar"));
}

TEST(Units, FormatsInTheAskedUnit)
{
    EXPECT_EQ(format(358.15, Temperature, "°C", 1), "85.0 °C");
    EXPECT_EQ(format(2.5204, Voltage, "V", 3), "2.520 V");
    EXPECT_EQ(format(-0.0001, Voltage, "V", 2), "0.00 V");
    EXPECT_EQ(format(std::nan(""), Voltage, "V", 2), "–");
    EXPECT_EQ(formatOhms(2490), "2k49");
    EXPECT_EQ(formatOhms(10000), "10k");
    EXPECT_EQ(formatOhms(4.7), "4R7");
    EXPECT_EQ(formatOhms(1e6), "1M");
    EXPECT_EQ(formatExact(0.5e-6, Area), "0.5 mm²");
}

TEST(Units, EveryFormattedValueReadsBack)
{
    std::mt19937 random(1); // NOLINT(bugprone-random-generator-seed): the same numbers every time
    std::uniform_real_distribution<double> spread(1, 900);
    for (Dimension d :
         {Resistance, Voltage, Current, Length, Area, Temperature, Frequency, AbsolutePressure, GaugePressure, Ratio}) {
        for (int i = 0; i < 50; ++i) {
            const double number = d == Area ? spread(random) / 2 : spread(random); // no conductor has 900 mm²
            const double si = fromUnit(number, d, everydayUnit(d));
            const auto back = parse(formatExact(si, d), d);
            ASSERT_TRUE(back) << formatExact(si, d);
            EXPECT_NEAR(*back, si, si * 1e-9);
        }
    }
}

TEST(Units, LocaleDoesNotMatter)
{
    const char* before = std::setlocale(LC_ALL, nullptr);
    const std::string kept = before == nullptr ? "C" : before;
    for (const char* locale : {"de_DE.UTF-8", "fr_FR.UTF-8", "C.UTF-8"}) {
        std::setlocale(LC_ALL, locale);
        EXPECT_DOUBLE_EQ(*parse("2.5 V", Voltage), 2.5);
        EXPECT_EQ(formatNumber(1234.5, 1), "1234.5");
    }
    std::setlocale(LC_ALL, kept.c_str());
}

TEST(Units, AnyBytesGiveAnAnswerOrASentence)
{
    std::mt19937 random(7); // NOLINT(bugprone-random-generator-seed)
    const std::string alphabet = "0123456789.+-eE kKMmRVACFbarpsi%°Ωµ²/\"'\xC2\xB0\xE2\x88\x92\0\xFF(ag)AWGinHg";
    for (int i = 0; i < 20000; ++i) {
        std::string text;
        for (auto n = random() % 12; n > 0; --n)
            text += alphabet[random() % alphabet.size()];
        for (Dimension d : {Resistance, Area, Temperature, AbsolutePressure, Ratio}) {
            const auto value = parse(text, d);
            if (value)
                EXPECT_TRUE(std::isfinite(*value)) << text;
            else
                EXPECT_FALSE(value.error().sentence.empty());
        }
    }
}

} // namespace
} // namespace vicegrip::units
