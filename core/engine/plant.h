#pragma once

#include "core/engine/air.h"
#include "core/engine/warming.h"

namespace vicegrip::engine {

/// The place round an engine, and what is in its tank.
struct Around
{
    double barometer_pa = 101.325e3;
    double ambient_k = 293.15;
    double ethanol = 0; ///< share by volume of what the injectors pass
};

/// What a driver, an ECU and the wiring do with an engine.
struct Moved
{
    double throttle = 0; ///< share of the plate's stroke
    double idleAir = 0; ///< share of what an idle valve lets by
    double starter_v = 0; ///< across the starter; 0: it is out
    double fuel_kg = 0; ///< that each injector would pass in two turns, with its rated pressure across it
    double spark = 0; ///< share of the torque that the best timing gives; 0: none comes
    int injected = 0; ///< cylinders whose injector opens
    int firing = 0; ///< of them, with a spark
    double pump = 0; ///< share of the volts that its pump is made for
    double boost = 0; ///< share of what the turbocharger can beyond its spring
    double fan = 0; ///< share of what it blows
    int gear = 0; ///< 0: none
    double clutch = 1; ///< share of what it can hold
    double brake = 0; ///< share of what the wheels can be braked by
};

/// The engine itself, its car behind it: mean values over a turn, from one balance of torque, of the air in the
/// manifold, of the charge before the plate and of heat.
///
/// Torque (N m): burning 0.4 of the fuel's heat, by the mixture and the timing; friction as Heywood's equation 13.6
/// has it (from memory), more in cold oil; pumping between the manifold and the exhaust; the alternator; the starter.
/// What is not said of the engine is typical.
class Plant
{
  public:
    explicit Plant(const Figures& figures, const Around& around = {});

    /// `hurry`: everything that warms does so as many times as fast.
    void pass(double seconds, const Moved& by, const Around& around, double hurry = 1);

    /// Another engine, as warm and as fast.
    void become(const Figures& figures) { m_figures = figures; }

    /// It stands still, as cold as the air.
    void stop(const Around& around);

    [[nodiscard]] const Figures& figures() const { return m_figures; }
    [[nodiscard]] double rpm() const { return turns(m_speed); }
    [[nodiscard]] double manifold_pa() const { return m_manifold_pa; } ///< absolute
    [[nodiscard]] double charge_pa() const { return m_charge_pa; } ///< before the plate, absolute
    [[nodiscard]] double air_kg_s() const { return m_air_kg_s; } ///< through the plate and past it
    [[nodiscard]] double fuel_kg_s() const { return m_fuel_kg_s; } ///< that the injectors pass
    [[nodiscard]] double intake_k() const { return m_intake_k; }
    [[nodiscard]] double mixture() const { return m_mixture; } ///< lambda as a sensor in the exhaust sees it
    [[nodiscard]] double rail_pa() const { return m_rail_pa; } ///< above the manifold's
    [[nodiscard]] double oil_pa() const; ///< above the air outside
    [[nodiscard]] double speed_m_s() const { return m_car_m_s; }
    [[nodiscard]] double starter_a() const { return m_starter_a; }
    [[nodiscard]] const Warming& warmth() const { return m_warmth; }

  private:
    void breathe(double dt, const Moved& by, const Around& around);
    void mix(double dt, const Moved& by, const Around& around);
    void turn(double dt, const Moved& by, const Around& around);
    [[nodiscard]] double friction() const;
    [[nodiscard]] double started(double volts);
    [[nodiscard]] double exhaust_pa(const Around& around) const;

    Figures m_figures;
    Warming m_warmth;
    double m_speed = 0; ///< rad/s
    double m_manifold_pa = 0, m_charge_pa = 0, m_air_kg_s = 0, m_intake_k = 0;
    double m_mixture = 2, m_rail_pa = 0, m_starter_a = 0, m_fuel_kg_s = 0;
    double m_burning = 0; ///< N m
    double m_heat_w = 0; ///< into the coolant, for each litre
    double m_car_m_s = 0;
};

} // namespace vicegrip::engine
