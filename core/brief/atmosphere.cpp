#include "core/brief/atmosphere.h"

#include "core/units/shown.h"

#include <cmath>

namespace vicegrip::brief {
namespace {

// ISO 2533:1975, tables 1 and 4.
constexpr double kEarth_m = 6356766, kSeaLevel_pa = 101325, kSeaLevel_k = 288.15, kLapse_k_per_m = 0.0065;
constexpr double kGravity = 9.80665, kGas = 287.05287;
constexpr double kExponent = kGravity / (kGas * kLapse_k_per_m);

} // namespace

double barometerAt(double altitude_m)
{
    const double geopotential = kEarth_m * altitude_m / (kEarth_m + altitude_m);
    return kSeaLevel_pa * std::pow(1 - kLapse_k_per_m * geopotential / kSeaLevel_k, kExponent);
}

double altitudeOf(double barometer_pa)
{
    const double geopotential =
        kSeaLevel_k / kLapse_k_per_m * (1 - std::pow(barometer_pa / kSeaLevel_pa, 1 / kExponent));
    return kEarth_m * geopotential / (kEarth_m - geopotential);
}

std::string pressureText(double pa)
{
    return units::formatDifference(pa, units::Dimension::AbsolutePressure, "kPa", 0);
}

} // namespace vicegrip::brief
