#include "core/trigger/sensed.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <numbers>
#include <random>

namespace vicegrip::trigger {
namespace {

constexpr double kRadian = std::numbers::pi / 180, kBurst_s = 50e-6, kTwoTurns_deg = 720;
constexpr double kOpens_deg = 60; // an exhaust valve, before the bottom (typical)

double within(double angle_deg, double turn_deg)
{
    const double rest = std::fmod(angle_deg, turn_deg);
    return rest < 0 ? rest + turn_deg : rest;
}

/// From one angle to another, the shorter way round: -turn/2 to turn/2.
double between(double from_deg, double to_deg, double turn_deg)
{
    return std::remainder(to_deg - from_deg, turn_deg);
}

std::vector<Tooth> there(const Wheel& wheel, const Disturbance& disturbance)
{
    std::vector<Tooth> out;
    for (size_t i = 0; i < wheel.teeth.size(); ++i)
        if (std::ranges::find(disturbance.missing, static_cast<int>(i)) == disturbance.missing.end())
            out.push_back(wheel.teeth[i]);
    return out;
}

/// How far a wheel behind a belt lags.
class Swinging
{
  public:
    Swinging(const Belt& belt, std::uint32_t seed) : m_belt(belt), m_chance(seed) {}

    void valveOpens() { m_speed += std::normal_distribution<double>(0, 1)(m_chance) * m_belt.swing_deg * omega(); }

    /// A damped oscillator, by the speed in the middle of the moment.
    void advance(double step_s)
    {
        const double force = -omega() * omega() * m_off_deg - 2 / m_belt.dies_s * m_speed;
        m_speed += force * step_s;
        m_off_deg += m_speed * step_s;
    }

    [[nodiscard]] double lag_deg() const { return m_belt.stretch_deg + m_off_deg; }

  private:
    [[nodiscard]] double omega() const { return 2 * std::numbers::pi * m_belt.swing_hz; }

    Belt m_belt;
    std::mt19937 m_chance;
    double m_off_deg = 0, m_speed = 0;
};

/// Whether its wire has let go, by chance.
class DropOuts
{
  public:
    explicit DropOuts(const Disturbance& disturbance)
        : m_each_hz(disturbance.dropOuts_hz), m_lasts_s(disturbance.dropOut_s), m_chance(disturbance.seed + 1)
    {
        m_next_s = wait();
    }

    bool at(double time_s)
    {
        while (time_s >= m_next_s + m_lasts_s)
            m_next_s += m_lasts_s + wait();
        return time_s >= m_next_s;
    }

  private:
    double wait()
    {
        return m_each_hz > 0 ? std::exponential_distribution<double>(m_each_hz)(m_chance)
                             : std::numeric_limits<double>::infinity();
    }

    double m_each_hz, m_lasts_s, m_next_s = 0;
    std::mt19937 m_chance;
};

/// Turns the crank, and asks at each sample what the sensor makes of its wheel's angle and speed. `open_v`: what is
/// there when its wire has let go.
Sensed turn(const Turning& turning, const Disturbance& disturbance, double open_v, double seconds, double rate_hz,
            const std::function<double(double angle_deg, double speed_deg_s)>& volts)
{
    Sensed out;
    out.step_s = 1 / rate_hz;
    const auto samples = static_cast<size_t>(seconds * rate_hz);
    out.volts.reserve(samples);
    out.angle_deg.reserve(samples);
    std::mt19937 chance(disturbance.seed);
    std::normal_distribution<double> noise(0, 1);
    Crank crank(turning);
    Swinging belt(disturbance.belt, disturbance.seed + 2);
    DropOuts dropOuts(disturbance);
    const double spark_deg = 2 * kCrankTurn_deg / std::max(1, turning.cylinders);
    double burst_v = 0, sparked = -1, opened = 0;
    for (size_t i = 0; i < samples; ++i) {
        const double angle = crank.angle_deg();
        if (const double spark = std::floor(angle / spark_deg); spark != sparked) {
            burst_v = disturbance.burst_v;
            sparked = spark;
        }
        if (const double opens = std::floor((angle + kOpens_deg) / spark_deg); opens != opened) {
            belt.valveOpens();
            opened = opens;
        }
        double v = dropOuts.at(static_cast<double>(i) * out.step_s)
                       ? open_v
                       : volts(angle - belt.lag_deg(), crank.speed_deg_s());
        v += burst_v;
        if (disturbance.noise_v > 0)
            v += disturbance.noise_v * noise(chance);
        out.volts.push_back(static_cast<float>(v));
        out.angle_deg.push_back(static_cast<float>(within(angle, kTwoTurns_deg)));
        burst_v *= std::exp(-out.step_s / kBurst_s);
        belt.advance(out.step_s);
        crank.advance(out.step_s);
    }
    return out;
}

} // namespace

double Clearance::at(double angle_deg, double turn_deg) const
{
    return gap_m + runOut_m / 2 * std::cos((angle_deg - greatestAt_deg) * kCrankTurn_deg / turn_deg * kRadian);
}

Sensed senseHall(const Wheel& wheel, const Turning& turning, const HallSensor& sensor, const Clearance& clearance,
                 const Disturbance& disturbance, double seconds, double rate_hz)
{
    const std::vector<Tooth> teeth = there(wheel, disturbance);
    const double turn_deg = wheel.turn_deg;
    return turn(turning, disturbance, sensor.high_v, seconds, rate_hz, [&](double angle, double) {
        const double gap = clearance.at(angle, turn_deg);
        if (gap > sensor.farthest_m)
            return sensor.high_v;
        const double narrower = sensor.narrows_deg_m * gap;
        const double at = within(angle, turn_deg);
        for (const double here : {at, at + turn_deg}) { // a tooth may lie across the turn's beginning
            const auto next = std::ranges::upper_bound(teeth, here - narrower, {}, &Tooth::from_deg);
            if (next != teeth.begin() && here < std::prev(next)->to_deg - narrower)
                return sensor.low_v;
        }
        return sensor.high_v;
    });
}

Sensed senseReluctance(const Wheel& wheel, const Turning& turning, const ReluctanceSensor& sensor,
                       const Clearance& clearance, const Disturbance& disturbance, double seconds, double rate_hz)
{
    constexpr double kSeen = 5; // standard deviations of an edge
    const double turn_deg = wheel.turn_deg;
    std::vector<std::pair<double, double>> edges; // where, and its sign
    for (const Tooth& t : there(wheel, disturbance)) {
        edges.emplace_back(within(t.from_deg, turn_deg), 1);
        edges.emplace_back(within(t.to_deg, turn_deg), -1);
    }
    std::ranges::sort(edges);
    const double sign = sensor.swapped ? -1 : 1;
    return turn(turning, disturbance, 0, seconds, rate_hz, [&](double angle, double speed) {
        const double at = within(angle, turn_deg), reach = kSeen * sensor.edge_deg;
        double slope = 0;
        const auto add = [&](double from, double to) {
            const auto last = std::ranges::upper_bound(edges, std::pair(to, 2.0));
            for (auto e = std::ranges::lower_bound(edges, std::pair(from, -2.0)); e < last; ++e) {
                const double off = between(e->first, at, turn_deg) / sensor.edge_deg;
                slope += e->second * std::exp(-off * off / 2);
            }
        };
        add(at - reach, at + reach);
        if (at - reach < 0)
            add(at - reach + turn_deg, turn_deg);
        if (at + reach > turn_deg)
            add(0, at + reach - turn_deg);
        return sign * sensor.volts * speed / kCrankTurn_deg *
               std::exp(-clearance.at(angle, turn_deg) / sensor.decay_m) * slope;
    });
}

} // namespace vicegrip::trigger
