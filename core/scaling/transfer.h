#pragma once

#include "core/electrics/electrics.h"
#include "core/job/job.h"

#include <optional>

/// From what a sensor feels to the volts the ECU takes it for, through the real circuit: pull-up, loading, wire, ground
/// offset. Everything else in the job stays at rest.
namespace vicegrip::scaling {

class Transfer
{
  public:
    /// Of a circuit in a solved car with the key on. None when the circuit has no sensor or no ECU input in it.
    [[nodiscard]] static std::optional<Transfer> of(const job::Job& job, const electrics::Electrics& car,
                                                    const job::Circuit& circuit);

    /// Volts of the input's full scale at a value (SI).
    [[nodiscard]] double volts(double value) const;

    /// The value between `low` and `high` at which the input has these volts; the nearer end when it never does.
    [[nodiscard]] double value(double volts, double low, double high) const;

    /// Volts at which the converter's counts end.
    [[nodiscard]] double fullScale() const { return m_fullScale; }

  private:
    Transfer(parts::Sensor sensor, const circuit::Sweep& sweep, double fullScale, bool ratiometric)
        : m_sensor(std::move(sensor)), m_sweep(sweep), m_fullScale(fullScale), m_ratiometric(ratiometric)
    {
    }

    parts::Sensor m_sensor;
    circuit::Sweep m_sweep;
    double m_fullScale;
    bool m_ratiometric;
};

} // namespace vicegrip::scaling
