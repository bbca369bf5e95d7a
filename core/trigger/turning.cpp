#include "core/trigger/turning.h"

#include "core/trigger/wheel.h"

#include <cmath>
#include <numbers>

namespace vicegrip::trigger {

double Crank::speedAt(double time_s, double angle_deg) const
{
    const double mean = (m_turning.rpm + m_turning.rise_rpm_s * time_s) * kCrankTurn_deg / kMinute_s;
    const double compressions = m_turning.cylinders / 2.0;
    return mean * (1 + m_turning.ripple * std::cos(compressions * angle_deg * 2 * std::numbers::pi / kCrankTurn_deg));
}

double Crank::speed_deg_s() const
{
    return speedAt(m_time_s, m_angle_deg);
}

/// By the speed in the middle of the moment (Runge 1895).
void Crank::advance(double step_s)
{
    const double half = m_angle_deg + speedAt(m_time_s, m_angle_deg) * step_s / 2;
    m_angle_deg += speedAt(m_time_s + step_s / 2, half) * step_s;
    m_time_s += step_s;
}

} // namespace vicegrip::trigger
