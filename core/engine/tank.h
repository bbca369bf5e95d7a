#pragma once

#include "core/fuel/blend.h"

#include <deque>

namespace vicegrip::engine {

/// A tank with its pump in a pot, and the line to the rail: what is poured in reaches the sensor late and mixed.
///
/// The pump draws out of the pot, what is not burnt returns into the tank, and the pot is filled again out of it: both
/// are each mixed in themselves, and the line moves in a piece (no mixing along it).
class Tank
{
  public:
    struct Sizes
    {
        double line_m3 = 0.4e-3; ///< from the pump to the sensor
        double flow_m3_s = 80e-3 / 3600; ///< that the pump moves at its full volts (typical)
        double pot_m3 = 2e-3; ///< round the pump (typical)

        bool operator==(const Sizes&) const = default;
    };

    Tank(const Sizes& sizes, const fuel::Fill& in);

    /// Into the tank, not the pot.
    void pour(const fuel::Fill& fill);
    /// So much is in it, of what there is.
    void hold(double volume_m3);
    /// Another line and another pump, with what is in them.
    void refit(const Sizes& sizes);
    /// All of it is of this fuel from now on: tank, pot and line.
    void become(double ethanol);

    /// So many seconds later, the pump at this share of its flow, so much of it burnt, m³ in a second.
    void pass(double seconds, double pump, double burnt_m3_s);

    [[nodiscard]] double atSensor() const { return m_line.front().ethanol; } ///< ethanol, share by volume
    [[nodiscard]] double volume_m3() const { return m_tank.volume_m3 + m_pot.volume_m3; } ///< without the line's

  private:
    Sizes m_sizes;
    fuel::Fill m_tank, m_pot;
    std::deque<fuel::Fill> m_line; ///< the sensor's end first
};

} // namespace vicegrip::engine
