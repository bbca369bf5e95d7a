#include "core/thermocouple/thermocouple.h"

#include <cmath>
#include <gmock/gmock.h>

namespace vicegrip::thermocouple {
namespace {

using testing::HasSubstr;

constexpr double kZero_k = 273.15;

// NIST Monograph 175 (1993), table for type K, reference junction at 0 °C, mV; the table is rounded to 1 uV.
TEST(Thermocouple, TypeKAsInTheNistTable)
{
    for (const auto& [celsius, millivolts] : {std::pair(-200.0, -5.891),
                                              {-100.0, -3.554},
                                              {-50.0, -1.889},
                                              {0.0, 0.0},
                                              {25.0, 1.000},
                                              {100.0, 4.096},
                                              {200.0, 8.138},
                                              {300.0, 12.209},
                                              {500.0, 20.644},
                                              {800.0, 33.275},
                                              {1000.0, 41.276},
                                              {1200.0, 48.838},
                                              {1372.0, 54.886}}) {
        EXPECT_NEAR(typeK_v(celsius + kZero_k) * 1e3, millivolts, 6e-4) << celsius << " °C";
        const auto back = typeK_k(typeK_v(celsius + kZero_k));
        ASSERT_TRUE(back) << celsius;
        EXPECT_NEAR(*back, celsius + kZero_k, 1e-6);
    }
}

TEST(Thermocouple, VoltsThatNoTypeKMakesAreRefused)
{
    for (double volts : {-0.0066, 0.0551, std::nan("")}) {
        const auto k = typeK_k(volts);
        ASSERT_FALSE(k);
        EXPECT_EQ(k.error().code, ErrorCode::Range);
        EXPECT_THAT(k.error().sentence, HasSubstr("-200 °C to 1372 °C"));
    }
}

TEST(Thermocouple, EachWrongHookupIsToldByWhatItShows)
{
    const ProbePlace place{.tip_k = kZero_k + 100, .joint_k = kZero_k + 45, .conditioner_k = kZero_k + 25};
    for (Hookup h : {Hookup::Right, Hookup::Reversed, Hookup::ReversedTwice, Hookup::Copper, Hookup::Bridged}) {
        EXPECT_EQ(hookupOf(shownBy(h, place), place, 3), h) << shownBy(h, place) - kZero_k;
        EXPECT_FALSE(hookupSentence(h).empty());
    }
    // Common practice, no source: exchanged wires show about as far below the box's temperature as the tip is above.
    EXPECT_NEAR(shownBy(Hookup::Reversed, place) - kZero_k, -50, 7);
    EXPECT_NEAR(shownBy(Hookup::Copper, place) - kZero_k, 100 - 20, 1);
    ProbePlace warmOnly = place;
    warmOnly.least_k = kZero_k;
    EXPECT_NEAR(shownBy(Hookup::Reversed, warmOnly), kZero_k, 1e-6) << "a conditioner from 0 °C up shows no less";
    EXPECT_EQ(hookupOf(kZero_k, warmOnly, 3), Hookup::Reversed);
    EXPECT_FALSE(hookupOf(kZero_k + 300, place, 3)) << "nothing explains it";
    const ProbePlace cold{.tip_k = kZero_k + 20, .joint_k = kZero_k + 20, .conditioner_k = kZero_k + 20};
    EXPECT_FALSE(hookupOf(kZero_k + 20, cold, 3)) << "all of them do, cold";
}

// Boiling point of water: 100 °C at 101.325 kPa; vapour pressure 70.18 kPa at 90 °C, 47.41 kPa at 80 °C (CRC Handbook
// of Chemistry and Physics, vapour pressure of water; from memory).
TEST(Thermocouple, ABathOfBoilingWaterKnowsTheBarometer)
{
    for (const auto& [pascal, celsius] : {std::pair(101325.0, 100.0), {70182.0, 90.0}, {47414.0, 80.0}})
        EXPECT_NEAR(*boilingPoint_k(pascal) - kZero_k, celsius, 0.06);
    EXPECT_FALSE(boilingPoint_k(5000));
    EXPECT_FALSE(boilingPoint_k(std::nan("")));
}

} // namespace
} // namespace vicegrip::thermocouple
