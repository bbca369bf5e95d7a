#include "core/trigger/mounting.h"

#include "core/base/phrase.h"
#include "core/trigger/wheel.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace vicegrip::trigger {
namespace {

constexpr double kOneDegree = std::numbers::pi / 180;
constexpr double kDegrees_s = 6; // of a turn a minute
constexpr int kSparks = 2880; // that are asked for, a quarter of a degree apart

/// When the crank is at an angle: the integral of 1 / (w (1 + a cos(n/2 angle))), in steps that a parabola fits.
class Clock
{
  public:
    explicit Clock(const Mounting& m)
        : m_speed_deg_s(kDegrees_s * m.rpm), m_ripple(m.ripple), m_waves(m.cylinders / 2.0)
    {
        const auto steps = static_cast<std::size_t>(std::ceil((kCamTurn_deg + 2 * kBefore_deg) / kStep_deg));
        m_times_s.reserve(steps + 1);
        m_times_s.push_back(0);
        for (std::size_t i = 0; i < steps; ++i) { // Simpson
            const double from = -kBefore_deg + static_cast<double>(i) * kStep_deg;
            m_times_s.push_back(m_times_s.back() +
                                kStep_deg / 6 *
                                    (slowness(from) + 4 * slowness(from + kStep_deg / 2) + slowness(from + kStep_deg)));
        }
    }
    [[nodiscard]] double at(double angle_deg) const
    {
        const double place = (angle_deg + kBefore_deg) / kStep_deg;
        const auto i = std::min(m_times_s.size() - 2, static_cast<std::size_t>(std::max(0.0, place)));
        return std::lerp(m_times_s[i], m_times_s[i + 1], place - static_cast<double>(i));
    }
    /// Where it is at a time.
    [[nodiscard]] double angleAt(double time_s) const
    {
        const auto next = std::ranges::upper_bound(m_times_s, time_s) - m_times_s.begin();
        const auto i = std::clamp<std::ptrdiff_t>(next - 1, 0, static_cast<std::ptrdiff_t>(m_times_s.size()) - 2);
        const double from = m_times_s[static_cast<std::size_t>(i)], to = m_times_s[static_cast<std::size_t>(i) + 1];
        return -kBefore_deg + kStep_deg * (static_cast<double>(i) + (time_s - from) / (to - from));
    }

  private:
    static constexpr double kStep_deg = 0.25, kBefore_deg = 720;

    [[nodiscard]] double slowness(double angle_deg) const
    {
        return 1 / (m_speed_deg_s * (1 + m_ripple * std::cos(m_waves * angle_deg * kOneDegree)));
    }

    double m_speed_deg_s, m_ripple, m_waves;
    std::vector<double> m_times_s; ///< from -kBefore_deg on
};

Spread inOrder(std::vector<double> off)
{
    std::ranges::sort(off);
    return {std::move(off)};
}

/// The ECU knows its last two edges, and goes on at their speed until the spark.
Spread atCrank(const Mounting& m, const Clock& clock)
{
    const double step = kCrankTurn_deg / m.teeth;
    std::vector<double> edges; // of two turns, and one before
    for (int turn = -1; turn < 2; ++turn)
        for (int t = 0; t < m.teeth - m.missing; ++t)
            edges.push_back(turn * kCrankTurn_deg + t * step);
    std::mt19937 chance(1);
    std::normal_distribution<double> off(0, m.tooth_deg);
    std::vector<double> late; // of each edge of a turn, the same in every turn
    for (int t = 0; t < m.teeth - m.missing; ++t)
        late.push_back(off(chance));
    std::vector<double> out;
    out.reserve(kSparks);
    const std::size_t inTurn = late.size();
    for (int i = 0; i < kSparks; ++i) {
        const double asked = kCamTurn_deg * (i + 0.5) / kSparks;
        const auto next = static_cast<std::size_t>(std::ranges::upper_bound(edges, asked) - edges.begin());
        const std::size_t last = next - 1, before = next - 2;
        const double at = clock.at(edges[last] + late[last % inTurn]),
                     then = clock.at(edges[before] + late[before % inTurn]);
        const double speed = (edges[last] - edges[before]) / (at - then);
        out.push_back(clock.angleAt(at + (asked - edges[last]) / speed) - asked);
    }
    return inOrder(std::move(out));
}

/// Slots are fine, but the shaft behind the belt stretches away under the valves' load, and swings when one shuts.
Spread behindBelt(const Mounting& m, const Clock& clock)
{
    const double slot = kCamTurn_deg / m.beltSlots;
    const double event_deg = kCamTurn_deg / (2.0 * m.cylinders); // each cylinder's two valves shut once in two turns
    const double own = 2 * std::numbers::pi * m.swing_hz, dies = m.damping * own,
                 swings = own * std::sqrt(1 - m.damping * m.damping);
    const auto flutter = [&](double angle) {
        double sum = m.stretch_deg * std::sin(2 * std::numbers::pi * angle / event_deg);
        const double now_s = clock.at(angle);
        for (double event = std::floor(angle / event_deg) * event_deg; event > angle - kCrankTurn_deg;
             event -= event_deg) {
            const double since = now_s - clock.at(event);
            sum += m.swing_deg * std::exp(-dies * since) * std::sin(swings * since);
        }
        return sum;
    };
    std::vector<double> out;
    out.reserve(kSparks);
    for (int i = 0; i < kSparks; ++i) {
        const double asked = kCamTurn_deg * (i + 0.5) / kSparks;
        const double last = std::floor(asked / slot) * slot;
        const double at = clock.at(last), then = clock.at(last - slot);
        out.push_back(clock.angleAt(at + (asked - last) * (at - then) / slot) - asked + flutter(asked));
    }
    return inOrder(std::move(out));
}

} // namespace

double usualRipple(double rpm)
{
    constexpr double kStarter_rpm = 250, kStarter = 0.25, kMost = 0.4;
    const double slower = kStarter_rpm / std::max(1.0, rpm);
    return std::min(kMost, kStarter * slower * slower);
}

double Spread::at(double share) const
{
    const double place = share * static_cast<double>(off_deg.size() - 1);
    const auto i = std::min(off_deg.size() - 2, static_cast<std::size_t>(place));
    return std::lerp(off_deg[i], off_deg[i + 1], place - static_cast<double>(i));
}

double Spread::worst_deg() const
{
    return std::max(std::abs(off_deg.front()), std::abs(off_deg.back()));
}

double Spread::most95_deg() const
{
    std::vector<double> away;
    away.reserve(off_deg.size());
    for (const double off : off_deg)
        away.push_back(std::abs(off));
    return inOrder(std::move(away)).at(0.95);
}

Result<Mounted> compareMounting(const Mounting& m)
{
    if (m.cylinders < 1 || !(m.rpm >= 20) || m.beltSlots < 1 || m.beltSlots > kMostTeeth || m.missing < 0 ||
        m.teeth - m.missing < 2 || m.teeth > kMostTeeth)
        return fail(ErrorCode::Range,
                    phrase("an engine with cylinders, speed, two teeth at least and slots is wanted"));
    if (!(m.ripple >= 0 && m.ripple < 0.9) || !(m.damping > 0 && m.damping < 1) || !(m.swing_hz > 0))
        return fail(ErrorCode::Range, phrase("the speed would stand still, or the belt swing for ever"));
    const Clock clock(m);
    return Mounted{atCrank(m, clock), behindBelt(m, clock)};
}

} // namespace vicegrip::trigger
