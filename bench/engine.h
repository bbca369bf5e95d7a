#pragma once

#include "core/job/job.h"
#include "core/trigger/turning.h"

#include <optional>

namespace vicegrip::bench {

/// What the engine does to its sensors while it turns: it warms up, builds oil pressure, draws its manifold down. Its
/// speed is that of the starter, or a steady idle. When it stops it is cold again, as on another morning.
///
/// Typical figures of a petrol engine: for each litre of displacement 2.5 kW go into the coolant at idle, 25 kJ/K take
/// them up and 19 W/K are lost from the block, so that its size cancels; a thermostat opens at 88 °C. Oil follows the
/// coolant with a time constant of 300 s. The bench is in a hurry: a second of it warms like twenty.
class Engine
{
  public:
    static constexpr double kHurry = 20;
    static constexpr double kThermostat_k = 273.15 + 88;

    /// `turning`: none, it stands.
    void begin(const std::optional<trigger::Turning>& turning, double ambient_k);
    void pass(double seconds);

    /// What this sensor feels of it, SI; none: what it feels with the engine off.
    [[nodiscard]] std::optional<double> felt(const job::Job& job, const job::Circuit& circuit) const;

    [[nodiscard]] double coolant_k() const { return m_coolant_k; }
    /// Above the air outside.
    [[nodiscard]] double oil_pa() const;
    /// Absolute.
    [[nodiscard]] double manifold_pa(double barometer_pa) const;

  private:
    double m_rpm = 0; ///< 0: it stands
    bool m_fires = false;
    double m_ambient_k = 293.15, m_coolant_k = 293.15, m_oil_k = 293.15;
};

} // namespace vicegrip::bench
