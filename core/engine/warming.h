#pragma once

namespace vicegrip::engine {

/// How an engine, its oil and its gearbox warm up: each a lump of metal and liquid that is heated and loses. Figures
/// are for each litre of displacement, so that the size cancels (typical).
class Warming
{
  public:
    static constexpr double kThermostat_k = 273.15 + 88;
    static constexpr double kHolds_j_per_k = 25e3, kLoses_w_per_k = 19;

    explicit Warming(double ambient_k = 293.15) { cool(ambient_k); }
    /// As on another morning.
    void cool(double ambient_k);

    struct Cooling
    {
        double ambient_k = 293.15;
        double speed_m_s = 0;
        double fan = 0; ///< share of what it blows
        double turning_rad_s = 0; ///< of the crank: what is stirred warms oil and gearbox
    };
    /// `heat_w` goes into the coolant, for each litre.
    void pass(double seconds, double heat_w, const Cooling& by);

    [[nodiscard]] double coolant_k() const { return m_coolant_k; }
    [[nodiscard]] double oil_k() const { return m_oil_k; }
    [[nodiscard]] double gearbox_k() const { return m_gearbox_k; }

  private:
    double m_coolant_k = 0, m_oil_k = 0, m_gearbox_k = 0;
};

} // namespace vicegrip::engine
