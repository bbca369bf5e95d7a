#include "tests/support/library.h"

#include <cmath>

namespace vicegrip::parts {
namespace {

/// IEC 60751:2008, clause 4.2: R = R0 (1 + A t + B t²), below 0 °C with C (t - 100) t³ more.
double platinum(double celsius, double r0_ohm)
{
    constexpr double a = 3.9083e-3, b = -5.775e-7, c = -4.183e-12;
    const double below = celsius < 0 ? c * (celsius - 100) * celsius * celsius * celsius : 0;
    return r0_ohm * (1 + a * celsius + b * celsius * celsius + below);
}

TEST(Platinum, TheStandardsOwnPlaces)
{
    EXPECT_NEAR(platinum(0, 100), 100.00, 5e-3);
    EXPECT_NEAR(platinum(100, 100), 138.51, 5e-3);
    EXPECT_NEAR(platinum(-40, 100), 84.27, 5e-3);
    EXPECT_NEAR(platinum(200, 100), 175.86, 5e-3);
}

/// The library's part at its points to the last digit, and between them within a fifth of class B there.
TEST(Platinum, TheLibrarysPartFollowsIt)
{
    const auto& curve = std::get<Thermistor>(test::sensor("rtd-1k").model).curve;
    for (const auto& p : std::get<TableCurve>(curve).points)
        EXPECT_NEAR(p.ohm, platinum(p.kelvin - 273.15, 1000), 0.011) << p.kelvin - 273.15;
    for (double celsius = -40; celsius <= 200; celsius += 1) {
        const double off = kelvin(curve, platinum(celsius, 1000)) - 273.15 - celsius;
        EXPECT_LT(std::abs(off), (0.30 + 0.005 * std::abs(celsius)) / 5) << celsius << " °C";
    }
}

} // namespace
} // namespace vicegrip::parts
