#pragma once

namespace vicegrip::trigger {

/// How an engine turns: its mean speed and how that rises, and how far each compression slows it. The speed is
/// (rpm + rise t) (1 + ripple cos(cylinders / 2 * angle)): a four-stroke engine has cylinders / 2 compressions in a
/// turn.
struct Turning
{
    double rpm = 200;
    double rise_rpm_s = 0; ///< a minute's turns more in each second
    double ripple = 0; ///< 0.2: a fifth up and down, as while cranking; 0: none
    int cylinders = 4;
};

/// Follows the crank's angle.
class Crank
{
  public:
    explicit Crank(const Turning& turning, double angle_deg = 0) : m_turning(turning), m_angle_deg(angle_deg) {}

    [[nodiscard]] double angle_deg() const { return m_angle_deg; } ///< turned since it began, and where it began
    [[nodiscard]] double speed_deg_s() const; ///< now
    /// Goes on for a moment, which is short beside a compression.
    void advance(double step_s);

  private:
    [[nodiscard]] double speedAt(double time_s, double angle_deg) const;

    Turning m_turning;
    double m_time_s = 0, m_angle_deg = 0;
};

} // namespace vicegrip::trigger
