#pragma once

#include "core/engine/air.h"

#include <optional>

namespace vicegrip::engine {

/// What an ECU takes for true, SI: what its inputs read by the tables it was given. None: it is told nothing.
struct Read
{
    double rpm = 0; ///< that it counts; 0: nothing decodes
    std::optional<double> manifold_pa; ///< absolute
    std::optional<double> air_kg_s;
    std::optional<double> intake_k, coolant_k;
    std::optional<double> throttle; ///< share of the stroke
    std::optional<double> mixture; ///< lambda
    std::optional<double> ethanol; ///< share by volume
};

/// What it does with it.
struct Commands
{
    double fuel_kg = 0; ///< each injector, in two turns
    double spark = 0; ///< share of the best torque that its timing gives
    double idleAir = 0;
    double boost = 0;
    bool fan = false;
    double asked_pa = 0; ///< manifold, absolute; of an engine without boost what the air outside is
    double askedMixture = 1;
    double correction = 0; ///< of closed loop: a share that is added
};

/// A calibrated ECU: its filling table is the engine's own but for two percent, and its reserves are the trade's. It
/// knows of the engine only what it reads, so that a sensor's error is the mixture's.
class Program
{
  public:
    Program(const Figures& figures, double barometer_pa) : m_figures(figures), m_barometer_pa(barometer_pa) {}

    /// So many seconds later. `mayFire`: injectors and coils are on; else it is only turned.
    [[nodiscard]] Commands act(double seconds, const Read& read, bool mayFire);

    /// The key was off.
    void forget();

    /// Closed loop corrects from here (common practice: 71 °C).
    static constexpr double kWarm_k = 273.15 + 71;
    static constexpr double kMostCorrection = 0.15;
    static constexpr double kFanOn_k = 273.15 + 92, kFanOff_k = 273.15 + 91;
    static constexpr double kIdle_rpm = 850, kLimit_rpm = 6800;

  private:
    [[nodiscard]] double airOf(const Read& read) const;
    [[nodiscard]] double askedMixture(const Read& read, double manifold_pa) const;
    [[nodiscard]] double opening(double seconds, const Read& read);
    void correct(double seconds, const Read& read, double asked);
    void idle(double seconds, const Read& read, Commands& out);
    void blow(double seconds, const Read& read, Commands& out);

    Figures m_figures;
    double m_barometer_pa;
    double m_correction = 0, m_boost = 0, m_idleAir = 0.25;
    double m_since_s = 0; ///< it has run
    double m_throttle = 0; ///< read last
    double m_opening = 0; ///< how fast it opens, dying away: strokes a second
    double m_cut_s = 1; ///< since fuel was last cut
    bool m_fan = false;
};

} // namespace vicegrip::engine
