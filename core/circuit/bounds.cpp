#include "core/circuit/bounds.h"

#include "core/circuit/climb.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <optional>

namespace vicegrip::circuit {
namespace {

constexpr double kLittle = 5e-4; ///< of the first order's sum: what need not be solved for
constexpr double kNothing = 1e-5; ///< less is not looked at again at the corner: nominally, then
constexpr double kRoomForIt = 2;
constexpr double kMargin = 1e-3; ///< of the way to the corner, for what a first order of little things leaves
constexpr double kKick = 0.02; ///< of that sum: what weighs more is worth another climb from its other end
constexpr int kMostGrowths = 4;
constexpr size_t kMostKept = 8 << 20; ///< numbers, 64 MB: networks of a thousand circuits would keep gigabytes

} // namespace

/// A mover that one reading may take notice of.
struct Bounds::Candidate
{
    const Mover* mover = nullptr;
    double weight = 0; ///< nominal first order
    bool solvedFor = false;
};

struct Bounds::Work
{
    explicit Work(const Solution& solution) : columns(solution), all(solution.network())
    {
        const Network& net = solution.network();
        const auto switching = all.switching();
        columns.prepare(switching);
        for (const ElementIndex e : switching)
            all.setSeen(net, e, columns.of(e).follows[static_cast<size_t>(e)]);
    }

    Columns columns;
    Movers all;

    Interval between(const Sought& sought, const Reading& nominal, const Moving& moving)
    {
        auto weights = all.reaches(nominal.sensitivity);
        for (size_t i = 0; i < weights.size() && !moving.empty(); ++i)
            if (!moving[static_cast<size_t>(all[i].elements.front())])
                weights[i] = 0;
        const double total = std::accumulate(weights.begin(), weights.end(), 0.0);
        if (!(total > 0))
            return {nominal.value, nominal.value};
        std::vector<Candidate> candidates;
        double leftOut = 0;
        bool switches = false; // what is open at the corner shows what nobody saw while it was closed
        for (size_t i = 0; i < weights.size(); ++i)
            switches |= all[i].switches && weights[i] > kLittle * total;
        for (size_t i = 0; i < weights.size(); ++i) {
            if (weights[i] > (switches ? 0 : kNothing * total))
                candidates.push_back({&all[i], weights[i], weights[i] > kLittle * total});
            else
                leftOut += weights[i];
        }
        std::ranges::stable_sort(candidates, std::ranges::greater(), &Candidate::weight); // there is room for so many
        std::array<double, 2> ends{};
        for (const double sign : {-1.0, 1.0}) {
            ends[sign > 0 ? 1 : 0] = extreme(sought, nominal, candidates, total, leftOut, sign);
        }
        return {std::min(ends[0], nominal.value), std::max(ends[1], nominal.value)};
    }

    void forget()
    {
        corner.reset();
        columns.clear();
    }

  private:
    /// Those that weigh are solved for; at the corner they lead to, the others are weighed again, and join where they
    /// weigh more there.
    double extreme(const Sought& sought, const Reading& nominal, std::vector<Candidate>& candidates, double total,
                   double leftOut, double sign)
    {
        for (int growth = 0;; ++growth) {
            std::vector<const Mover*> active;
            std::vector<ElementIndex> varied;
            std::vector<size_t> kicked;
            for (Candidate& c : candidates) {
                if (!c.solvedFor)
                    continue;
                if (varied.size() + c.mover->elements.size() > kMostInACorner) {
                    c.solvedFor = false; // by its first order, then
                    continue;
                }
                if (c.weight > kKick * total && c.mover->single())
                    kicked.push_back(active.size());
                active.push_back(c.mover);
                varied.insert(varied.end(), c.mover->elements.begin(), c.mover->elements.end());
            }
            if (!corner || corner->varied() != varied || corner->sought() != sought)
                corner.emplace(columns, sought, std::move(varied));
            const double found = Climb(*corner, active, nominal.sensitivity, sign).extreme(kicked);
            std::vector<ElementIndex> others;
            for (const Candidate& c : candidates)
                if (!c.solvedFor)
                    others.insert(others.end(), c.mover->elements.begin(), c.mover->elements.end());
            const std::vector<double> slopes = corner->othersSlopes(others);
            double rest = leftOut;
            bool grown = false;
            const bool full = active.size() >= kMostInACorner;
            const double little = kLittle * std::max(total, std::abs(found - sign * nominal.value));
            for (Candidate& c : candidates) {
                if (c.solvedFor)
                    continue;
                const double more = std::max(0.0, c.mover->farthest(slopes, sign).second);
                rest += more;
                if (more > std::max(little, full ? c.weight : 0)) {
                    c.weight = std::max(c.weight, more);
                    grown = c.solvedFor = true;
                }
            }
            if (grown && growth < kMostGrowths) { // the heaviest, where there is no room for all
                std::ranges::stable_sort(candidates, std::ranges::greater(), &Candidate::weight);
                continue;
            }
            const double margin = rest > 0 ? kMargin * std::abs(found - sign * nominal.value) : 0;
            return sign * (found + kRoomForIt * rest + margin);
        }
    }

    std::optional<Corner> corner; ///< of the reading at hand: its two ends have the same
};

Bounds::Bounds(const Solution& solution) : m_work(new Work(solution)) {}
Bounds::~Bounds() = default;
Bounds::Bounds(Bounds&&) noexcept = default;
Bounds& Bounds::operator=(Bounds&&) noexcept = default;

void Bounds::prepare(const std::vector<Probes>& probes)
{
    if (m_work->columns.size() > kMostKept)
        m_work->forget();
    m_work->columns.prepare(probes);
}

Interval Bounds::voltmeter(const Probes& probes, double meterOhms, const Reading& nominal, const Moving& moving)
{
    return m_work->between({.probes = probes, .meter_ohm = meterOhms}, nominal, moving);
}

Interval Bounds::ohmmeter(const Probes& probes, const Reading& nominal, const Moving& moving)
{
    return m_work->between({.probes = probes, .inOhm = true}, nominal, moving);
}

Interval Bounds::ratio(const Probes& probes, const Probes& over, double times, const Reading& nominal,
                       const Moving& moving)
{
    return m_work->between({.probes = probes, .over = over, .times = times}, nominal, moving);
}

} // namespace vicegrip::circuit
