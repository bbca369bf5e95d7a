#include "core/engine/air.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace vicegrip::engine {
namespace {

constexpr double kPlate_m = 0.0395; ///< across, of an engine of one litre; it grows with the root (typical)
constexpr double kDischarge = 0.8; ///< (typical)
constexpr double kShut_deg = 7, kOpen_deg = 90; ///< of the plate, against the air
constexpr double kScrew_m2 = 0.75e-5; ///< a litre: at a warm idle of some 850 rpm
constexpr double kValveShut_m2 = 0.5e-5, kValveOpen_m2 = 3e-5; ///< a litre
constexpr double kCompression = 9.5;
constexpr double kWarmedBy_k = 15; ///< between the sensor and the valve (typical)
/// So close to 1 the flow is taken as straight: the nozzle's own is infinitely steep there.
constexpr double kStraight = 0.985;

double nozzle(double ratio)
{
    static const double kChoked = std::pow(2 / (kAirGamma + 1), kAirGamma / (kAirGamma - 1));
    const double r = std::max(ratio, kChoked);
    return std::pow(r, 1 / kAirGamma) *
           std::sqrt(2 * kAirGamma / (kAirGamma - 1) * (1 - std::pow(r, (kAirGamma - 1) / kAirGamma)));
}

} // namespace

double through(double area_m2, double before_pa, double before_k, double behind_pa)
{
    const double ratio = behind_pa / before_pa;
    if (ratio >= 1)
        return 0;
    const double flows = ratio > kStraight ? nozzle(kStraight) * (1 - ratio) / (1 - kStraight) : nozzle(ratio);
    return area_m2 * before_pa / std::sqrt(kAir_j_per_kg_k * before_k) * flows;
}

double plateArea(const Figures& of, double throttle)
{
    const double across = kPlate_m * std::sqrt(of.litres());
    const double whole = kDischarge * std::numbers::pi / 4 * across * across;
    const auto radian = [](double degrees) { return degrees * std::numbers::pi / 180; };
    const double stands = radian(kShut_deg + (kOpen_deg - kShut_deg) * std::clamp(throttle, 0.0, 1.0));
    return whole * (1 - std::cos(stands) / std::cos(radian(kShut_deg)));
}

double bypassArea(const Figures& of, double open)
{
    return of.litres() *
           (of.idlesByAir ? kValveShut_m2 + (kValveOpen_m2 - kValveShut_m2) * std::clamp(open, 0.0, 1.0) : kScrew_m2);
}

double filling(double rpm, double manifold_pa, double exhaust_pa)
{
    constexpr double kLeast = 0.8, kBest = 0.15, kBest_rpm = 4300, kWide_rpm = 2200;
    const double off = (rpm - kBest_rpm) / kWide_rpm;
    const double takesRoom = 1 - (exhaust_pa / std::max(manifold_pa, 1e3) - 1) / (kAirGamma * (kCompression - 1));
    return (kLeast + kBest * std::exp(-off * off)) * std::clamp(takesRoom, 0.0, 1.1);
}

double exhaustPressure(const Figures& of, double barometer_pa, double charge_pa, double air_kg_s)
{
    constexpr double kPipe = 4e6; // 14 kPa at 0.06 kg/s a litre
    constexpr double kTurbine = 0.9;
    const double flow = air_kg_s / of.litres();
    return barometer_pa + kPipe * flow * flow + kTurbine * std::max(0.0, charge_pa - barometer_pa);
}

double airOfACycle(const Figures& of, double rpm, double manifold_pa, double exhaust_pa, double intake_k)
{
    return filling(rpm, manifold_pa, exhaust_pa) * manifold_pa * of.displacement_m3 /
           (kAir_j_per_kg_k * (intake_k + kWarmedBy_k));
}

} // namespace vicegrip::engine
