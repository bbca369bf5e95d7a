#include "core/engine/warming.h"

#include <algorithm>

namespace vicegrip::engine {
namespace {

// A radiator of each litre, W/K: in still air, behind a fan, and for each metre a second.
constexpr double kStill_w_per_k = 2, kFan_w_per_k = 90, kDriven_w_per_k = 14;
constexpr double kOpens_k = 8; ///< a thermostat is whole open so much later
constexpr double kOilFollows_s = 300, kGearboxFollows_s = 900;
// How far oil stands above the coolant, and a gearbox above the air, where the engine turns at 600 rad/s.
constexpr double kOilAbove_k = 18, kGearboxAbove_k = 55, kFast_rad_s = 600;
constexpr double kWarmStep_s = 0.5; ///< far below every time constant

} // namespace

void Warming::cool(double ambient_k)
{
    m_coolant_k = m_oil_k = m_gearbox_k = ambient_k;
}

void Warming::pass(double seconds, double heat_w, const Cooling& by)
{
    for (double left = seconds; left > 0; left -= kWarmStep_s) {
        const double dt = left < kWarmStep_s ? left : kWarmStep_s;
        const double opened = std::clamp((m_coolant_k - kThermostat_k) / kOpens_k, 0.0, 1.0);
        const double radiator = opened * (kStill_w_per_k + kFan_w_per_k * by.fan + kDriven_w_per_k * by.speed_m_s);
        m_coolant_k += dt * (heat_w - (kLoses_w_per_k + radiator) * (m_coolant_k - by.ambient_k)) / kHolds_j_per_k;
        const double stirred = by.turning_rad_s / kFast_rad_s;
        m_oil_k += dt * (m_coolant_k + kOilAbove_k * stirred * stirred - m_oil_k) / kOilFollows_s;
        m_gearbox_k += dt * (by.ambient_k + kGearboxAbove_k * stirred - m_gearbox_k) / kGearboxFollows_s;
    }
}

} // namespace vicegrip::engine
