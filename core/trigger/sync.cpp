#include "core/trigger/sync.h"

#include "core/trigger/periods.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace vicegrip::trigger {
namespace {

// No period stands out by so much more or less than the wheel's does, as a logarithm: of many teeth, and of few,
// between which a compression changes the speed more.
constexpr double kFits = 0.3, kFewFit = 0.5;
constexpr int kFew = 12;
constexpr double kPlainer = 2; // the next best place fits so much worse
const double kNext = std::log(1.45); // a period may be off by so much from one tooth to the next

class Follower
{
  public:
    Follower(std::span<const double> times_s, const Wheel& wheel, bool trailing)
        : m_times_s(times_s),
          m_steps(stepsOf(wheel, trailing)),
          m_periods(logPeriods(times_s)),
          m_out(standsOut(m_periods, false))
    {
        for (const double s : m_steps)
            m_logSteps.push_back(std::log(s));
        m_wanted = standsOut(m_logSteps, true);
        while (m_places < m_steps.size() && !repeatsAfter(m_places))
            ++m_places;
        const auto [least, most] = std::ranges::minmax(m_steps);
        m_said.placed = m_steps.size() > 1 && most > least * (1 + 1e-6);
        m_said.tooth.assign(times_s.size(), -1);
    }

    Followed follow()
    {
        std::size_t at = 0;
        while (at + 1 < m_times_s.size()) {
            const auto tooth = placeAt(at);
            if (!tooth) {
                ++at;
                continue;
            }
            at = goOn(at, *tooth);
        }
        return std::move(m_said);
    }

  private:
    /// A wheel whose halves are alike looks the same after half a turn: which half it is another signal tells.
    [[nodiscard]] bool repeatsAfter(std::size_t later) const
    {
        constexpr double kSameStep_deg = 1e-6;
        for (std::size_t i = 0; i < m_steps.size(); ++i)
            if (std::abs(m_steps[(i + later) % m_steps.size()] - m_steps[i]) > kSameStep_deg)
                return false;
        return m_steps.size() % later == 0;
    }

    [[nodiscard]] int count() const { return static_cast<int>(m_steps.size()); }
    [[nodiscard]] int after(int tooth) const { return (tooth + 1) % count(); }

    /// The number of the edge, where a turn from it on fits the wheel in one way only.
    [[nodiscard]] std::optional<int> placeAt(std::size_t at) const
    {
        if (!m_said.placed)
            return 0;
        const std::size_t turn = m_steps.size() + 1;
        if (at + turn > m_periods.size() || at + turn < 3)
            return std::nullopt;
        const double limit = count() > kFew ? kFits : kFewFit;
        constexpr double kNot = std::numeric_limits<double>::max();
        double best = kNot, next = kNot;
        int place = 0;
        for (int tooth = 0; tooth < static_cast<int>(m_places); ++tooth) {
            double sum = 0;
            for (std::size_t i = 1; i + 1 < turn && sum < kNot; ++i) {
                const double off = m_out[at + i] - m_wanted[(static_cast<std::size_t>(tooth) + i) % m_wanted.size()];
                sum = std::abs(off) < limit ? sum + off * off : kNot;
            }
            if (sum < best) {
                next = best;
                best = sum;
                place = tooth;
            } else {
                next = std::min(next, sum);
            }
        }
        return best < kNot && next > kPlainer * kPlainer * best ? std::optional(place) : std::nullopt;
    }

    /// From an edge that is known until one that is not as it should be, which is where to look again.
    std::size_t goOn(std::size_t at, int tooth)
    {
        m_said.tooth[at] = tooth;
        for (std::size_t i = at; i < m_periods.size(); ++i, tooth = after(tooth)) {
            if (i > at) {
                const int before = (tooth + count() - 1) % count();
                const double due = m_periods[i - 1] + m_logSteps[static_cast<std::size_t>(tooth)] -
                                   m_logSteps[static_cast<std::size_t>(before)];
                if (std::abs(m_periods[i] - due) > kNext) {
                    m_said.losses.push_back({i + 1, m_times_s[i + 1], after(tooth), causeOf(i, due, tooth)});
                    return i + 1;
                }
            }
            m_said.tooth[i + 1] = after(tooth);
        }
        return m_times_s.size();
    }

    [[nodiscard]] LossCause causeOf(std::size_t i, double due, int tooth) const
    {
        constexpr double kNear = 0.25;
        const double period = std::exp(m_periods[i]), wanted = std::exp(due);
        const double withNext =
            wanted * (1 + m_steps[static_cast<std::size_t>(after(tooth))] / m_steps[static_cast<std::size_t>(tooth)]);
        if (std::abs(period / withNext - 1) < kNear)
            return LossCause::Missing;
        if (period < wanted && i + 1 < m_periods.size() &&
            std::abs((period + std::exp(m_periods[i + 1])) / wanted - 1) < kNear)
            return LossCause::Extra;
        return LossCause::Speed;
    }

    std::span<const double> m_times_s;
    std::vector<double> m_steps, m_periods, m_out;
    std::vector<double> m_logSteps, m_wanted;
    std::size_t m_places = 1; ///< teeth after which the wheel looks the same again
    Followed m_said;
};

} // namespace

std::size_t Followed::known() const
{
    return static_cast<std::size_t>(std::ranges::count_if(tooth, [](int t) { return t >= 0; }));
}

Followed follow(std::span<const double> times_s, const Wheel& wheel, bool trailing)
{
    if (wheel.teeth.empty() || times_s.size() < 2)
        return {std::vector<int>(times_s.size(), -1), {}, true};
    return Follower(times_s, wheel, trailing).follow();
}

} // namespace vicegrip::trigger
