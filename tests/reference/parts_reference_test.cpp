#include "core/parts/conductor.h"
#include "core/parts/resistance_curve.h"
#include "core/units/units.h"

#include <cmath>
#include <gtest/gtest.h>

namespace vicegrip::parts {
namespace {

constexpr double kZero = 273.15;

// IEC 60028: annealed copper 1/58 ohm mm²/m at 20 °C, temperature coefficient 0.00393 / K. The 2 % lay is ours.
TEST(Iec60028, CopperAtTwentyAndAtHundred)
{
    EXPECT_NEAR(wireOhms(58, 1e-6, kZero + 20) / 1.02, 1.0, 1e-4);
    EXPECT_NEAR(wireOhms(1, 1e-6, kZero + 100) / wireOhms(1, 1e-6, kZero + 20), 1 + 0.00393 * 80, 1e-12);
}

// ISO 6722-1 (ISO 19642-3), maximum resistance of copper conductors at 20 °C in mohm/m: 0.5 mm² 37.1, 0.75 mm² 24.7,
// 1 mm² 18.5, 2.5 mm² 7.6. From memory. A nominal conductor must lie just below.
TEST(Iso6722, NominalConductorsLieBelowTheMaximum)
{
    for (const auto& [area_mm2, most] : {std::pair(0.5, 37.1e-3), {0.75, 24.7e-3}, {1.0, 18.5e-3}, {2.5, 7.6e-3}}) {
        const double ohms = wireOhms(1, area_mm2 * 1e-6, kZero + 20);
        EXPECT_LT(ohms, most) << area_mm2 << " mm²";
        EXPECT_GT(ohms, most * 0.9) << area_mm2 << " mm²";
    }
}

// The beta equation's worked case that every thermistor note carries: 10 kohm at 25 °C, beta 3950 K, at 0 °C and 50 °C.
// Computed by hand: 10000 exp(3950 (1/273.15 - 1/298.15)) = 33 620; 10000 exp(3950 (1/323.15 - 1/298.15)) = 3 588.
TEST(Beta, HandWorkedValues)
{
    EXPECT_NEAR(ohms(BetaCurve{10000, 3950}, kZero), 33620, 15);
    EXPECT_NEAR(ohms(BetaCurve{10000, 3950}, kZero + 50), 3588, 2);
    EXPECT_DOUBLE_EQ(ohms(BetaCurve{10000, 3950}, 298.15), 10000);
}

// Steinhart and Hart, Deep-Sea Research 15 (1968). Coefficients of the common 10 kohm curve (a = 1.129148e-3,
// b = 2.34125e-4, c = 8.76741e-8), published with R(0 °C) = 32 650, R(25 °C) = 10 000, R(50 °C) = 3 603 ohm. From
// memory.
TEST(SteinhartHart, PublishedTenKiloohmCurve)
{
    const SteinhartHartCurve curve{1.129148e-3, 2.34125e-4, 8.76741e-8};
    EXPECT_NEAR(ohms(curve, kZero), 32650, 32650 * 0.002);
    EXPECT_NEAR(ohms(curve, kZero + 25), 10000, 10000 * 0.001);
    EXPECT_NEAR(ohms(curve, kZero + 50), 3603, 3603 * 0.002);
}

// Annealed copper breaks at 200 to 250 N/mm² (handbook figure, from memory). A crimp may ask a good part of that of
// thin wire and ever less of thick wire, and never more than the wire itself would hold; the table of IEC 60352-2 in
// the code is from memory, and this is what is known of it from elsewhere.
TEST(Iec60352, ACrimpHoldsAGoodPartOfWhatItsWireHolds)
{
    constexpr double kBreaks_n_per_m2 = 200e6;
    double before_n = 0, shareBefore = 1;
    for (double mm2 = 0.14; mm2 <= 10; mm2 *= 1.05) {
        const double holds_n = crimpHolds(mm2 * 1e-6), share = holds_n / (mm2 * 1e-6 * kBreaks_n_per_m2);
        EXPECT_GT(holds_n, before_n) << mm2;
        EXPECT_LE(share, shareBefore * 1.03) << mm2;
        EXPECT_LT(share, 0.7) << mm2;
        EXPECT_GT(share, mm2 <= 2.5 ? 0.4 : 0.15) << mm2;
        before_n = holds_n;
        shareBefore = share;
    }
    EXPECT_EQ(crimpHolds(100e-6), crimpHolds(10e-6)) << "beyond the table nothing more is promised";
}

} // namespace
} // namespace vicegrip::parts
