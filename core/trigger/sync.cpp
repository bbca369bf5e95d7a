#include "core/trigger/sync.h"

#include "core/trigger/edge_due.h"
#include "core/trigger/periods.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace vicegrip::trigger {
namespace {

// No edge of many teeth is off by so much of a step (a gap of two taken for one of three: 0.13), nor of few, between
// which a compression changes the speed more.
constexpr double kFits = 0.1, kFewFit = 0.35;
// Nor does a period stand out by so much more or less than the wheel's does, as a logarithm.
constexpr double kStandsOut = 0.3, kFewStandOut = 0.5;
constexpr int kFew = 12;
constexpr double kPlainer = 2; // the next best place fits so much worse
constexpr double kSwings = 0.14, kFewSwing = 0.25; // nor by so much where the speed leaps from a period to the next
const double kNext = std::log(1.45); // a period may be off by so much from one tooth to the next

class Follower
{
  public:
    Follower(std::span<const double> times_s, const Wheel& wheel, bool trailing)
        : m_times_s(times_s),
          m_steps(stepsOf(wheel, trailing)),
          m_due(m_steps),
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

    /// How far an edge with two on either side is off, if it is this tooth.
    [[nodiscard]] double off(std::size_t edge, std::size_t tooth) const
    {
        return std::abs(m_due.off(m_times_s.subspan(edge - 2).first<5>(), tooth % m_steps.size()));
    }

    /// The number of the edge, where a turn from it on fits the wheel in one way only: by when its edges are due, or,
    /// where compressions come so fast that no speed lies between them, by how its periods stand out.
    [[nodiscard]] std::optional<int> placeAt(std::size_t at) const
    {
        if (!m_said.placed)
            return 0;
        const double fits = count() > kFew ? kFits : kFewFit;
        const auto due =
            onePlace(at, 2, 2, [&](std::size_t edge, std::size_t tooth) { return off(edge, tooth) / fits; });
        if (due)
            return due;
        const double limit = count() > kFew ? kStandsOut : kFewStandOut;
        return onePlace(at, 1, 2, [&](std::size_t edge, std::size_t tooth) {
            return std::abs(m_out[edge] - m_wanted[tooth % m_wanted.size()]) / limit;
        });
    }

    /// `share`: how far an edge is off as this tooth, of what it may be; it needs so many edges before and behind it.
    template <class Share>
    [[nodiscard]] std::optional<int> onePlace(std::size_t at, std::size_t before, std::size_t behind,
                                              const Share& share) const
    {
        const std::size_t least = std::max(before + behind + 2, m_steps.size() + 2), // edges that say it
            most = m_steps.size() + before + behind, seen = std::min(most, m_times_s.size() - at);
        if (seen < least)
            return std::nullopt;
        constexpr double kNot = std::numeric_limits<double>::max();
        double best = kNot, next = kNot;
        int place = 0;
        for (int tooth = 0; tooth < static_cast<int>(m_places); ++tooth) {
            double sum = 0;
            for (std::size_t i = before; i + behind < seen && sum < kNot; ++i) {
                const double one = share(at + i, static_cast<std::size_t>(tooth) + i);
                sum = one < 1 ? sum + one * one : kNot;
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
                if (std::abs(m_periods[i] - due) > kNext && !isSwing(i, static_cast<std::size_t>(tooth))) {
                    m_said.losses.push_back({i + 1, m_times_s[i + 1], after(tooth), causeOf(i, due, tooth)});
                    return i + 1;
                }
            }
            m_said.tooth[i + 1] = after(tooth);
        }
        return m_times_s.size();
    }

    /// The period from this edge on leaps, but the edges round it say that the speed swings so: itself, the next, and
    /// the one before, as far as each has two on either side.
    [[nodiscard]] bool isSwing(std::size_t edge, std::size_t tooth) const
    {
        const double most = count() > kFew ? kSwings : kFewSwing;
        bool any = false;
        for (std::size_t i = std::max<std::size_t>(edge - 1, 2); i <= edge + 1 && i + 2 < m_times_s.size(); ++i) {
            if (!(off(i, tooth + m_steps.size() + i - edge) < most)) // no number: edges at one time
                return false;
            any = true;
        }
        return any;
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
    std::vector<double> m_steps;
    Due m_due;
    std::vector<double> m_periods, m_logSteps;
    std::vector<double> m_out, m_wanted; ///< how periods stand out, and how the wheel's do
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
