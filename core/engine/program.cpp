#include "core/engine/program.h"

#include "core/fuel/blend.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::engine {
namespace {

constexpr double kTableOff = 1.02; ///< its filling table against the engine
constexpr double kRuns_rpm = 400;
constexpr double kEthanol = 0.85; ///< of a calibration for ethanol
constexpr double kFull = 0.7, kFullMixture = 0.82; ///< from this throttle on; what is asked under boost
constexpr double kNaturalMixture = 0.88;
constexpr double kOverrun = 0.03, kOverrun_rpm = 1800;
constexpr double kCorrects_per_s = 0.6; ///< of the mixture's error
constexpr double kSettles_s = 1.5; ///< after a cut closed loop waits
constexpr double kBoost_per_s = 1.2; ///< of the error over what is asked

/// More fuel for a cold engine, by its coolant (typical).
double warmingUp(double coolant_k)
{
    constexpr double kNone_k = 273.15 + 60, kAt0 = 0.35, kSpan_k = 60;
    return 1 + std::clamp((kNone_k - coolant_k) / kSpan_k, 0.0, 1.5) * kAt0;
}

} // namespace

void Program::forget()
{
    *this = Program(m_figures, m_barometer_pa);
}

/// kg of a cylinder and two turns.
double Program::airOf(const Read& read) const
{
    constexpr double kGuessed_k = 293.15;
    if (read.air_kg_s && read.rpm > kRuns_rpm)
        return *read.air_kg_s / (read.rpm / (2 * kMinute_s)) / m_figures.cylinders;
    // Of the air outside, on the starter and at idle, and how it falls from the one to the other (typical).
    constexpr double kTurned = 0.92, kIdling = 0.37, kFalls_s = 0.5;
    const double least = kIdling + (kTurned - kIdling) * std::exp(-m_since_s / kFalls_s);
    const double guessed_pa = m_barometer_pa * (least + (1 - least) * read.throttle.value_or(0));
    const double manifold = read.manifold_pa.value_or(guessed_pa);
    const double exhaust = exhaustPressure(m_figures, m_barometer_pa, std::max(manifold, m_barometer_pa), 0);
    return airOfACycle(m_figures, read.rpm, manifold, exhaust, read.intake_k.value_or(kGuessed_k)) /
           m_figures.cylinders;
}

double Program::askedMixture(const Read& read, double manifold_pa) const
{
    if (read.throttle.value_or(0) < kFull)
        return 1;
    return m_figures.boost_pa > 0 && manifold_pa > m_barometer_pa ? kFullMixture : kNaturalMixture;
}

void Program::correct(double seconds, const Read& read, double asked)
{
    const bool closed = read.coolant_k.value_or(0) > kWarm_k && read.mixture && m_since_s > kSettles_s &&
                        m_cut_s > kSettles_s && read.rpm > kRuns_rpm;
    if (closed)
        m_correction = std::clamp(m_correction + kCorrects_per_s * (*read.mixture / asked - 1) * seconds,
                                  -kMostCorrection, kMostCorrection);
}

/// By its valve where it has one, and by the spark, which is quick and has little to give.
void Program::idle(double seconds, const Read& read, Commands& out)
{
    constexpr double kAtIdle = 0.8, kSpark_per_rpm = 5e-4, kLeast = 0.6, kAir_per_rpm_s = 2e-4, kFaster_rpm = 350;
    const bool isIdle = read.throttle.value_or(0) < kOverrun && read.rpm < kOverrun_rpm;
    out.spark = 1;
    if (!isIdle)
        return;
    const double cold = std::clamp((kWarm_k - read.coolant_k.value_or(kWarm_k)) / 50, 0.0, 1.0);
    const double asked_rpm = kIdle_rpm + (m_figures.idlesByAir ? kFaster_rpm * cold : 0);
    const double slow_rpm = asked_rpm - read.rpm;
    out.spark = std::clamp(kAtIdle + kSpark_per_rpm * slow_rpm, kLeast, 1.0);
    if (m_figures.idlesByAir && read.rpm > kRuns_rpm)
        m_idleAir = std::clamp(m_idleAir + kAir_per_rpm_s * slow_rpm * seconds, 0.0, 1.0);
}

/// It opens its valve as long as it reads less than it asks for: what a sensor cannot show is never reached.
void Program::blow(double seconds, const Read& read, Commands& out)
{
    const bool asks = m_figures.boost_pa > 0 && read.throttle.value_or(0) > kFull;
    out.asked_pa = m_barometer_pa + (asks ? m_figures.boost_pa : 0);
    if (!asks || !read.manifold_pa) {
        m_boost = 0.5;
        out.boost = 0;
        return;
    }
    const double short_pa = out.asked_pa - *read.manifold_pa;
    constexpr double kNear = 0.25; // further off the turbocharger is still coming: nothing is learnt from that
    if (short_pa < kNear * m_figures.boost_pa)
        m_boost = std::clamp(m_boost + kBoost_per_s * short_pa / m_figures.boost_pa * seconds, 0.0, 1.0);
    out.boost = std::clamp(m_boost + 1.5 * short_pa / m_figures.boost_pa, 0.0, 1.0);
}

/// While the plate opens there is more air than was read a moment ago.
double Program::opening(double seconds, const Read& read)
{
    constexpr double kDies_s = 0.25, kMore = 0.12, kMost = 0.4;
    const double now = read.throttle.value_or(m_throttle);
    m_opening = std::max((now - m_throttle) / seconds, m_opening * std::exp(-seconds / kDies_s));
    m_throttle = now;
    return 1 + std::clamp(kMore * m_opening, 0.0, kMost);
}

Commands Program::act(double seconds, const Read& read, bool mayFire)
{
    Commands out;
    const double more = opening(seconds, read);
    if (const auto warm = read.coolant_k; !warm || *warm > kFanOn_k)
        m_fan = warm.has_value() || read.rpm > kRuns_rpm; // what does not know how warm it is cools
    else if (*warm < kFanOff_k)
        m_fan = false;
    out.fan = m_fan;
    m_since_s = read.rpm > kRuns_rpm ? m_since_s + seconds : 0;
    idle(seconds, read, out);
    blow(seconds, read, out);
    out.idleAir = m_idleAir;
    out.askedMixture = askedMixture(read, read.manifold_pa.value_or(m_barometer_pa));
    correct(seconds, read, out.askedMixture);
    out.correction = m_correction;
    m_cut_s += seconds;
    if (!mayFire || read.rpm <= 0) {
        out.spark = 0;
        return out;
    }
    if ((read.throttle.value_or(0) < kOverrun && read.rpm > kOverrun_rpm) || read.rpm > kLimit_rpm) {
        m_cut_s = 0;
        return out;
    }
    const double ethanol = m_figures.burnsEthanol ? kEthanol : read.ethanol.value_or(0);
    const double air_fuel = fuel::stoichiometric(ethanol);
    out.fuel_kg = kTableOff * airOf(read) / air_fuel / out.askedMixture * (1 + m_correction) * more *
                  warmingUp(read.coolant_k.value_or(293.15));
    return out;
}

} // namespace vicegrip::engine
