#include "core/engine/plant.h"

#include "core/fuel/blend.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace vicegrip::engine {
namespace {

constexpr double kStep_s = 1e-3;
constexpr double kCycle = 4 * std::numbers::pi; ///< radians of two turns

// What burns: heat of the fuel that a kilogram of air burns, near enough the same for petrol and ethanol; the share of
// it that reaches the pistons; the part that the coolant takes of the same heat (typical).
constexpr double kHeat_j_per_kg = 2.9e6, kIndicated = 0.4, kIntoCoolant = 0.4;
constexpr double kIdles_w = 5.7e3, kLessOfMore = -0.2; ///< the coolant's share at so much, a litre, and how it falls
constexpr double kCatches_rpm = 60; ///< slower, no mixture burns
constexpr double kWheel_kg_m2 = 0.075; ///< with its flywheel, a litre (typical)
constexpr double kAlternator_w = 400, kAlternatorFrom_rpm = 500, kAlternatorMost_nm = 5;
// The starter: a motor that turns this engine at some 200 turns a minute where it is warm from a day of 20 °C and
// gets 10.3 V, taking 140 A for up to two litres (typical).
constexpr double kDrawn_pa = 10e3; ///< that it draws its manifold down by then
constexpr double kStarts_rpm = 205, kStarts_v = 10.3, kStarts_a = 140, kStarts_k = 293.15, kStartsLitres = 2;
// The turbocharger: its spring holds half of what is asked, and it can a third more than is asked; it needs so much of
// the engine's full flow for nothing, and for all of it; how fast it comes and is let off (typical).
constexpr double kSpring = 0.5, kCan = 1.35, kIdles = 0.08, kWhole = 0.43, kSpools_s = 0.5, kLetOff_s = 0.1;
constexpr double kFull_rpm = 6500, kShut = 0.04;
constexpr double kCompressor = 0.68, kCooler = 0.7; ///< efficiencies (typical)
constexpr double kIntakeFollows_s = 6, kSoak_k = 25, kSoak_kg_s = 0.012;
constexpr double kMixtureFollows_s = 0.15, kLeanest = 2;
constexpr double kPumpUp_s = 0.3;
// Oil: what a pump makes of cold oil at 850 turns a minute, how it thins with each kelvin, where its valve opens.
constexpr double kColdOil_pa = 370e3, kAt_rpm = 850, kThins_per_k = 0.012, kRelief_pa = 450e3, kCold_k = 293.15;
// The clutch holds so much, and slips so stiffly; brakes slow it by so much (typical).
constexpr double kHolds_nm = 400, kGrips_nm_s = 40, kBrakes_m_s2 = 7;

/// Torque by the mixture, of that with the best, for the same air (the usual shape: most near 0.88, none beyond what
/// burns).
double byMixture(double lambda)
{
    static constexpr auto kAt = std::to_array<std::pair<double, double>>({{0.4, 0},
                                                                          {0.5, 0.5},
                                                                          {0.6, 0.8},
                                                                          {0.7, 0.95},
                                                                          {0.88, 1},
                                                                          {1.0, 0.965},
                                                                          {1.1, 0.9},
                                                                          {1.2, 0.8},
                                                                          {1.35, 0.55},
                                                                          {1.5, 0}});
    if (lambda <= kAt.front().first || lambda >= kAt.back().first)
        return 0;
    const auto below =
        std::ranges::adjacent_find(kAt, [&](const auto&, const auto& above) { return above.first >= lambda; });
    const auto& [x0, y0] = below[0];
    const auto& [x1, y1] = below[1];
    return y0 + (y1 - y0) * (lambda - x0) / (x1 - x0);
}

double frictionOf(const Figures& f, double speed, double oil_k)
{
    const double thousands = turns(speed) / 1000;
    constexpr double kRubs = 0.75; // of what it takes to motor it; pumping and the alternator are counted apart
    const double warm_pa = kRubs * (0.97 + 0.15 * thousands + 0.05 * thousands * thousands) * 1e5; // equation 13.6
    const double colder = 0.4 + 0.6 * std::exp(kThins_per_k * (363.15 - oil_k));
    return warm_pa * colder * f.displacement_m3 / kCycle;
}

} // namespace

Plant::Plant(const Figures& figures, const Around& around) : m_figures(figures)
{
    stop(around);
}

void Plant::stop(const Around& around)
{
    m_warmth.cool(around.ambient_k);
    m_speed = m_air_kg_s = m_fuel_kg_s = m_rail_pa = m_starter_a = m_burning = m_heat_w = m_car_m_s = 0;
    m_manifold_pa = m_charge_pa = around.barometer_pa;
    m_intake_k = around.ambient_k;
    m_mixture = kLeanest;
}

void Plant::pass(double seconds, const Moved& by, const Around& around, double hurry)
{
    for (double left = seconds; left > kStep_s / 2; left -= kStep_s) {
        breathe(kStep_s, by, around);
        mix(kStep_s, by, around);
        turn(kStep_s, by, around);
    }
    m_warmth.pass(seconds * hurry, m_heat_w, {around.ambient_k, m_car_m_s, by.fan, m_speed});
}

double Plant::exhaust_pa(const Around& around) const
{
    return exhaustPressure(m_figures, around.barometer_pa, m_charge_pa, m_air_kg_s);
}

void Plant::breathe(double dt, const Moved& by, const Around& around)
{
    const double barometer = around.barometer_pa;
    if (m_figures.boost_pa > 0) {
        const double full = airOfACycle(m_figures, kFull_rpm, barometer + m_figures.boost_pa, barometer, 300) *
                            radians(kFull_rpm) / kCycle;
        const double spins = std::clamp((m_air_kg_s / full - kIdles) / (kWhole - kIdles), 0.0, 1.0);
        const double can = kSpring + (kCan - kSpring) * std::clamp(by.boost, 0.0, 1.0);
        const bool shut = by.throttle < kShut;
        const double wanted = barometer + (shut ? 0 : spins * can * m_figures.boost_pa);
        m_charge_pa += (wanted - m_charge_pa) * dt / (shut ? kLetOff_s : kSpools_s);
    } else {
        m_charge_pa = barometer;
    }
    const double exhaust = exhaust_pa(around);
    const double opening = plateArea(m_figures, by.throttle) + bypassArea(m_figures, by.idleAir);
    const auto rate = [&](double manifold) {
        const double in = through(opening, m_charge_pa, m_intake_k, manifold);
        const double out = airOfACycle(m_figures, turns(m_speed), manifold, exhaust, m_intake_k) * m_speed / kCycle;
        return (in - out) * kAir_j_per_kg_k * m_intake_k / m_figures.displacement_m3; // a manifold of one displacement
    };
    // Implicit in its own pressure: behind an open plate it follows faster than a step.
    constexpr double kAside_pa = 20;
    const double now = rate(m_manifold_pa);
    const double slope = (rate(m_manifold_pa + kAside_pa) - now) / kAside_pa;
    m_manifold_pa += dt * now / (1 - dt * std::min(0.0, slope));
    m_air_kg_s = through(opening, m_charge_pa, m_intake_k, m_manifold_pa);
    const double blown_k =
        around.ambient_k * (1 + (std::pow(m_charge_pa / barometer, (kAirGamma - 1) / kAirGamma) - 1) / kCompressor);
    const double left = m_figures.cooled ? 1 - kCooler : 1;
    const double warm = std::clamp((m_warmth.coolant_k() - around.ambient_k) / 70, 0.0, 1.0);
    const double soaked = warm * kSoak_k * std::exp(-m_air_kg_s / kSoak_kg_s);
    m_intake_k +=
        (around.ambient_k + left * (blown_k - around.ambient_k) + soaked - m_intake_k) * dt / kIntakeFollows_s;
}

void Plant::mix(double dt, const Moved& by, const Around& around)
{
    m_rail_pa += (m_figures.fuel_pa * std::clamp(by.pump, 0.0, 1.0) - m_rail_pa) * dt / kPumpUp_s;
    const double passes = std::sqrt(std::max(0.0, m_rail_pa) / m_figures.fuel_pa); // Bernoulli
    const double each_kg =
        airOfACycle(m_figures, rpm(), m_manifold_pa, exhaust_pa(around), m_intake_k) / m_figures.cylinders;
    const double fuel_kg = by.injected > 0 ? by.fuel_kg * passes : 0;
    m_fuel_kg_s = fuel_kg * by.injected * m_speed / kCycle;
    const double lambda = fuel_kg > 0 ? each_kg / (fuel_kg * fuel::stoichiometric(around.ethanol)) : 10 * kLeanest;
    const double burns = rpm() > kCatches_rpm ? byMixture(lambda) * by.spark : 0;
    m_burning = burns * kIndicated * kHeat_j_per_kg * each_kg * by.firing / kCycle;
    const double burnt_w = burns > 0 ? kHeat_j_per_kg * each_kg * by.firing * m_speed / kCycle : 0;
    const double litre_w = burnt_w / m_figures.litres();
    m_heat_w = kIntoCoolant * litre_w * std::pow(std::max(1.0, litre_w / kIdles_w), kLessOfMore);
    const double seen = by.injected > 0 ? lambda * m_figures.cylinders / by.injected : kLeanest;
    m_mixture += (std::min(seen, kLeanest) - m_mixture) * dt / kMixtureFollows_s;
}

double Plant::friction() const
{
    return frictionOf(m_figures, m_speed, m_warmth.oil_k());
}

/// A motor on its volts: V = I R + k w, torque k I, behind a clutch that runs free.
double Plant::started(double volts)
{
    const double pumps_nm = kDrawn_pa * m_figures.displacement_m3 / kCycle;
    const double load_nm = frictionOf(m_figures, radians(kStarts_rpm), kStarts_k) + pumps_nm;
    const double amps = kStarts_a * std::max(1.0, m_figures.litres() / kStartsLitres);
    const double k = load_nm / amps;
    const double ohm = (kStarts_v - k * radians(kStarts_rpm)) / amps;
    m_starter_a = volts > 0 ? std::max(0.0, (volts - k * m_speed) / ohm) : 0;
    return k * m_starter_a;
}

void Plant::turn(double dt, const Moved& by, const Around& around)
{
    const Body body;
    const double drives = m_burning + started(by.starter_v);
    double drags = friction() + std::max(0.0, exhaust_pa(around) - m_manifold_pa) * m_figures.displacement_m3 / kCycle;
    if (rpm() > kAlternatorFrom_rpm)
        drags += std::min(kAlternatorMost_nm, kAlternator_w / m_speed);
    double clutch = 0;
    const double way = by.gear > 0 ? body.way_m[std::min(by.gear, 5) - 1] : 0;
    if (way > 0) {
        const double most = kHolds_nm * std::clamp(by.clutch, 0.0, 1.0);
        clutch = std::clamp(kGrips_nm_s * (m_speed - m_car_m_s / way), -most, most);
        m_car_m_s += clutch / way / body.mass_kg * dt;
    }
    const double resists = body.roll_n + body.drag_n_s2 * m_car_m_s * m_car_m_s +
                           std::clamp(by.brake, 0.0, 1.0) * kBrakes_m_s2 * body.mass_kg;
    m_car_m_s = std::max(0.0, m_car_m_s - resists / body.mass_kg * dt);
    const double inertia = kWheel_kg_m2 * m_figures.litres();
    const double next = m_speed + (drives - clutch - drags) / inertia * dt;
    m_speed = std::max(0.0, next); // what drags never turns it back
}

double Plant::oil_pa() const
{
    return std::min(kRelief_pa, kColdOil_pa * rpm() / kAt_rpm * std::exp(-kThins_per_k * (m_warmth.oil_k() - kCold_k)));
}

} // namespace vicegrip::engine
