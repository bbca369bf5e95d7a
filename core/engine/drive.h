#pragma once

#include "core/engine/plant.h"

#include <optional>
#include <string_view>
#include <vector>

namespace vicegrip::engine {

/// An evening's drive as a driver does it: idle, town, three pulls alike in third, home through traffic. He goes by
/// what he sees: speed, turns, the time.
class Driver
{
  public:
    /// How the car is driven for a while.
    struct Leg
    {
        enum class Kind { Stand, Cruise, Pull, Slow, Stop };
        Kind kind = Kind::Stand;
        double seconds = 0; ///< as long as it lasts, or at most
        double goal = 0; ///< m/s of a cruise, turns a minute where a pull ends
        std::string_view words; ///< as a mark in the log; empty: none
    };

    Driver() : Driver(evening()) {}
    explicit Driver(std::vector<Leg> legs) : m_legs(std::move(legs)) {}

    /// About five minutes.
    [[nodiscard]] static std::vector<Leg> evening();

    /// Moves throttle, gear, clutch and brake so many seconds later; the rest of `moved` stays.
    void act(double seconds, const Plant& car, Moved& moved);

    [[nodiscard]] bool isThere() const { return m_leg >= m_legs.size(); }
    /// Of the leg that began with this step; empty else.
    [[nodiscard]] std::string_view begun() const { return m_begun; }
    /// How much of it is driven.
    [[nodiscard]] double share() const;

  private:
    void hold(double speed_m_s, double seconds, const Plant& car, Moved& moved);
    void changeGear(const Plant& car, Moved& moved);

    std::vector<Leg> m_legs;
    size_t m_leg = 0;
    double m_in_s = 0; ///< of the leg
    double m_shifting_s = 0; ///< the clutch is down for so long yet
    double m_foot = 0; ///< what holds a speed
    std::string_view m_begun;
    bool m_isNew = true;
};

} // namespace vicegrip::engine
