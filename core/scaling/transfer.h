#pragma once

#include "core/electrics/electrics.h"
#include "core/job/job.h"

#include <optional>

/// From the measurand to what the ECU's input reads: volts through the real circuit (pull-up, loading, wire,
/// ground offset), or pulses a second. Everything else in the job stays at rest.
namespace vicegrip::scaling {

/// What holds a resistive sensor's line up.
struct PullUp
{
    double ohm = 0;
    double volts = 0; ///< of the sensor supply it goes to, nominal
};

class Transfer
{
  public:
    /// Of a circuit in a solved car with the key on. None when the circuit has no sensor or no ECU input in it, or the
    /// sensor's signal stands for no value: a switch, the teeth of a trigger wheel.
    [[nodiscard]] static std::optional<Transfer> of(const job::Job& job, const electrics::Electrics& car,
                                                    const job::Circuit& circuit);

    /// What the input reads at a value (SI): volts of its full scale, or Hz.
    [[nodiscard]] double reading(double value) const;

    /// The value between `low` and `high` at which the input reads this; the nearer end when it never does.
    [[nodiscard]] double value(double reading, double low, double high) const;

    /// What a reading is: Voltage or Frequency.
    [[nodiscard]] units::Dimension axis() const
    {
        return m_sweep ? units::Dimension::Voltage : units::Dimension::Frequency;
    }

    /// The highest reading the input has.
    [[nodiscard]] double fullScale() const { return m_fullScale; }

    /// Volts of one count; 0 for a frequency.
    [[nodiscard]] double countStep() const { return m_countStep; }

    /// The values at which the sensor's curve is bent.
    [[nodiscard]] const std::vector<double>& kinks() const { return m_kinks; }

    /// The input's own pull-up, or the one in the loom.
    [[nodiscard]] const std::optional<PullUp>& pullUp() const { return m_pullUp; }

  private:
    Transfer(parts::Part sensor, std::optional<circuit::Sweep> sweep, double fullScale, bool ratiometric);

    parts::Part m_sensor;
    std::optional<circuit::Sweep> m_sweep; ///< none for a frequency
    double m_fullScale;
    bool m_ratiometric;
    double m_countStep = 0;
    std::vector<double> m_kinks;
    std::optional<PullUp> m_pullUp;
};

/// A point of the drawn transfer.
struct CurvePoint
{
    double value = 0; ///< SI
    double reading = 0; ///< V or Hz
};

/// The transfer from one end of a range to the other, evenly by value.
[[nodiscard]] std::vector<CurvePoint> curve(const Transfer& transfer, double low, double high);

} // namespace vicegrip::scaling
