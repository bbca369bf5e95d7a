#include "core/brief/atmosphere.h"
#include "core/units/units.h"

#include <gtest/gtest.h>

namespace vicegrip::brief {
namespace {

// ISO 2533:1975, table 5: pressure in hPa at geometric altitude (values from memory, to the digits shown).
TEST(Atmosphere, AgreesWithIso2533)
{
    struct Row
    {
        double altitude_m, hPa;
    };
    for (const Row& row : {Row{0, 1013.25}, Row{1000, 898.76}, Row{2500, 746.92}, Row{4000, 616.60}})
        EXPECT_NEAR(barometerAt(row.altitude_m) / 100, row.hPa, 0.02) << row.altitude_m;
}

TEST(Atmosphere, BelowTheSeaThePressureIsHigher)
{
    EXPECT_GT(barometerAt(kLowest_m), 106e3);
    EXPECT_LT(barometerAt(kLowest_m), 107e3);
}

// Common practice, no source: a manifold sensor that shows 75 kPa with the key on stands at about 2470 m.
TEST(Atmosphere, SeventyFiveKilopascalIsAboutTwoThousandFourHundredAndSeventyMetres)
{
    EXPECT_NEAR(altitudeOf(75e3), 2470, 10);
}

TEST(Atmosphere, AltitudeAndPressureAreEachOthersInverse)
{
    for (double altitude = kLowest_m; altitude <= kHighest_m; altitude += 137)
        EXPECT_NEAR(altitudeOf(barometerAt(altitude)), altitude, 1e-6);
}

} // namespace
} // namespace vicegrip::brief
