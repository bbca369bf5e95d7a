#include "bench/engine.h"

#include "bench/wheel_signal.h"

#include <algorithm>
#include <cmath>
#include <string>

namespace vicegrip::bench {
namespace {

using units::Dimension;

// Typical, a litre of displacement.
constexpr double kHeat_w = 2500, kHolds_j_per_k = 25e3, kLoses_w_per_k = 19, kRadiator_w_per_k = 2000;
constexpr double kOilFollows_s = 300;
constexpr double kStep_s = 0.5; ///< of the engine's own time: far below every time constant

// Oil: what a pump makes of cold oil at 850 rpm, how it thins with each kelvin, where the relief valve opens.
constexpr double kColdOil_pa = 370e3, kAtRpm = 850, kThins_per_k = 0.012, kRelief_pa = 450e3, kCold_k = 293.15;
// Manifold: of the barometer, on the starter with the plate shut, and at a steady idle (typical).
constexpr double kOnStarter = 0.93, kAtIdle = 0.34;

} // namespace

void Engine::begin(const std::optional<trigger::Turning>& turning, double ambient_k)
{
    m_rpm = turning ? turning->rpm : 0;
    m_fires = m_rpm > kFires_rpm;
    m_ambient_k = m_coolant_k = m_oil_k = ambient_k;
}

void Engine::pass(double seconds)
{
    if (!m_fires)
        return;
    for (double left = seconds * kHurry; left > 0; left -= kStep_s) {
        const double dt = std::min(left, kStep_s);
        const double opened = std::max(0.0, m_coolant_k - kThermostat_k) * kRadiator_w_per_k / 10; // whole after 10 K
        const double lost = kLoses_w_per_k * (m_coolant_k - m_ambient_k);
        m_coolant_k += dt * (kHeat_w - lost - opened) / kHolds_j_per_k;
        m_oil_k += dt * (m_coolant_k - m_oil_k) / kOilFollows_s;
    }
}

double Engine::oil_pa() const
{
    return std::min(kRelief_pa, kColdOil_pa * m_rpm / kAtRpm * std::exp(-kThins_per_k * (m_oil_k - kCold_k)));
}

double Engine::manifold_pa(double barometer_pa) const
{
    return barometer_pa * (m_rpm <= 0 ? 1 : m_fires ? kAtIdle : kOnStarter);
}

std::optional<double> Engine::felt(const job::Job& job, const job::Circuit& circuit) const
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (m_rpm <= 0 || sensor == nullptr)
        return std::nullopt;
    const double barometer_pa = job.surroundings.barometer_pa;
    const double zero_pa = sensor->measures == Dimension::AbsolutePressure ? barometer_pa : 0;
    const std::string& function = circuit.function.value;
    if (function == "map")
        return manifold_pa(barometer_pa);
    if (function == "oil-pressure" && sensor->kind == parts::PartUse::FluidPressure)
        return zero_pa + oil_pa();
    if (function == "fuel-pressure" && sensor->kind == parts::PartUse::FluidPressure && job.brief)
        return zero_pa + job.brief->fuel_pa + manifold_pa(barometer_pa) - barometer_pa; // held above the manifold's
    if (!m_fires)
        return std::nullopt;
    if (function == "clt")
        return m_coolant_k;
    if (function == "oil-temp")
        return m_oil_k;
    if (sensor->measures == Dimension::Lambda)
        return 1.0;
    return std::nullopt;
}

} // namespace vicegrip::bench
