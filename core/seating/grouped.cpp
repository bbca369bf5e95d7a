#include "core/seating/grouped.h"

#include <algorithm>
#include <map>
#include <numeric>
#include <optional>
#include <queue>
#include <tuple>

namespace vicegrip::seating {
namespace {

/// Seats somebody more of a kind by the shortest chain of moves that ends at a free seat.
class MovingUp
{
  public:
    explicit MovingUp(const Grouped& grouped)
        : m_grouped(grouped),
          m_counts(grouped.kinds.size(), std::vector<int>(grouped.seats.size(), 0)),
          m_taken(grouped.seats.size(), 0),
          m_drawn(grouped.budgets.size(), 0)
    {
    }

    bool seatOne(size_t kind)
    {
        m_steps.assign(m_grouped.seats.size(), {});
        m_open = {};
        reach(kind, kNobody);
        for (; !m_open.empty(); m_open.pop()) {
            const size_t at = m_open.front();
            if (m_taken[at] < m_grouped.seats[at].seats && afford(at)) {
                moveUp(at);
                return true;
            }
            for (size_t other = 0; other < m_counts.size(); ++other)
                if (m_counts[other][at] > 0)
                    reach(other, at);
        }
        return false;
    }

    [[nodiscard]] const Counts& counts() const { return m_counts; }

  private:
    static constexpr size_t kNobody = static_cast<size_t>(-1);

    struct Step
    {
        bool reached = false;
        size_t kind = 0; ///< who would come to sit here
        size_t from = kNobody; ///< where he sits now
    };

    /// Seats that one of the kind could come to, the cheapest first.
    void reach(size_t kind, size_t from)
    {
        const auto& cost = m_grouped.kinds[kind].item.cost;
        std::vector<size_t> to;
        for (size_t k = 0; k < cost.size(); ++k)
            if (cost[k] && !m_steps[k].reached)
                to.push_back(k);
        std::ranges::stable_sort(to, {}, [&](size_t k) { return *cost[k]; });
        for (const size_t k : to) {
            m_steps[k] = {true, kind, from};
            m_open.push(k);
        }
    }

    /// What each budget bears after the chain that ends here.
    [[nodiscard]] std::vector<double> drawnAfter(size_t end) const
    {
        std::vector<double> drawn = m_drawn;
        for (size_t at = end; at != kNobody; at = m_steps[at].from) {
            const double draw = m_grouped.kinds[m_steps[at].kind].item.draw;
            drawn[static_cast<size_t>(m_grouped.seats[at].budget)] += draw;
            if (m_steps[at].from != kNobody)
                drawn[static_cast<size_t>(m_grouped.seats[m_steps[at].from].budget)] -= draw;
        }
        return drawn;
    }

    [[nodiscard]] bool afford(size_t end) const
    {
        const std::vector<double> drawn = drawnAfter(end);
        for (size_t b = 0; b < drawn.size(); ++b)
            if (drawn[b] > m_grouped.budgets[b] && drawn[b] > m_drawn[b])
                return false;
        return true;
    }

    void moveUp(size_t end)
    {
        m_drawn = drawnAfter(end);
        ++m_taken[end];
        for (size_t at = end; at != kNobody; at = m_steps[at].from) {
            ++m_counts[m_steps[at].kind][at];
            if (m_steps[at].from != kNobody)
                --m_counts[m_steps[at].kind][m_steps[at].from];
        }
    }

    const Grouped& m_grouped;
    Counts m_counts;
    std::vector<int> m_taken;
    std::vector<double> m_drawn;
    std::vector<Step> m_steps;
    std::queue<size_t> m_open;
};

} // namespace

Grouped group(const Problem& problem)
{
    Grouped out;
    out.budgets = problem.budgets;
    using Costs = std::vector<std::optional<double>>;
    std::map<std::tuple<int, double, Costs>, std::vector<size_t>> kinds;
    for (size_t i = 0; i < problem.items.size(); ++i)
        kinds[{problem.items[i].rank, problem.items[i].draw, problem.items[i].cost}].push_back(i);
    for (const auto& [key, items] : kinds)
        out.kinds.push_back({{std::get<0>(key), std::get<1>(key), {}}, items});
    // Classes look alike when every kind sees the same cost in them.
    std::map<std::pair<int, Costs>, size_t> known;
    for (size_t k = 0; k < problem.classes.size(); ++k) {
        Costs seen;
        for (const auto& kind : out.kinds)
            seen.push_back(problem.items[kind.items.front()].cost[k]);
        const auto [it, isNew] = known.try_emplace({problem.classes[k].budget, seen}, out.seats.size());
        if (isNew) {
            out.seats.push_back({0, problem.classes[k].budget, {}});
            for (size_t t = 0; t < seen.size(); ++t)
                out.kinds[t].item.cost.push_back(seen[t]);
        }
        out.seats[it->second].seats += problem.classes[k].seats;
        out.seats[it->second].classes.push_back(k);
    }
    return out;
}

std::vector<int> ungroup(const Grouped& grouped, const Problem& problem, const Counts& counts)
{
    std::vector<int> classOf(problem.items.size(), -1);
    std::vector<std::vector<size_t>> waiting; // of each kind
    for (const auto& kind : grouped.kinds)
        waiting.emplace_back(kind.items.rbegin(), kind.items.rend());
    for (size_t k = 0; k < grouped.seats.size(); ++k) {
        std::vector<size_t> free; // a class for each of its seats
        for (const size_t c : grouped.seats[k].classes)
            free.insert(free.end(), static_cast<size_t>(problem.classes[c].seats), c);
        std::ranges::reverse(free);
        for (size_t t = 0; t < grouped.kinds.size(); ++t)
            for (int n = 0; n < counts[t][k]; ++n) {
                classOf[waiting[t].back()] = static_cast<int>(free.back());
                waiting[t].pop_back();
                free.pop_back();
            }
    }
    return classOf;
}

Counts firstSeating(const Grouped& grouped)
{
    std::vector<size_t> order(grouped.kinds.size());
    std::iota(order.begin(), order.end(), size_t{0});
    const auto choices = [&](size_t t) {
        return std::ranges::count_if(grouped.kinds[t].item.cost, [](const auto& cost) { return cost.has_value(); });
    };
    std::ranges::sort(order, {}, [&](size_t t) {
        return std::tuple(grouped.kinds[t].item.rank, choices(t), grouped.kinds[t].item.draw, t);
    });
    MovingUp seating(grouped);
    for (const size_t t : order)
        for (size_t n = 0; n < grouped.kinds[t].items.size() && seating.seatOne(t); ++n) {
        }
    return seating.counts();
}

} // namespace vicegrip::seating
