#include "core/seating/assignment.h"

#include "core/seating/grouped.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <glpk.h>
#include <memory>
#include <numeric>

namespace vicegrip::seating {
namespace {

struct Column
{
    size_t kind = 0, seats = 0;
};

/// The integer programme over the counts, bettered step by step from a first seating.
class Programme
{
  public:
    Programme(const Grouped& grouped, const Watch& watch)
        : m_grouped(grouped), m_watch(watch), m_lp(glp_create_prob(), glp_delete_prob)
    {
        glp_term_out(GLP_OFF);
        addColumns(firstSeating(grouped));
        for (size_t t = 0; t < grouped.kinds.size(); ++t)
            addRow([&](const Column& c) { return c.kind == t ? 1.0 : 0.0; }, GLP_UP,
                   static_cast<double>(grouped.kinds[t].items.size()));
        for (size_t k = 0; k < grouped.seats.size(); ++k)
            addRow([&](const Column& c) { return c.seats == k ? 1.0 : 0.0; }, GLP_UP, grouped.seats[k].seats);
        for (size_t b = 0; b < grouped.budgets.size(); ++b)
            addRow(
                [&](const Column& c) {
                    return static_cast<size_t>(grouped.seats[c.seats].budget) == b ? grouped.kinds[c.kind].item.draw
                                                                                   : 0.0;
                },
                GLP_UP, grouped.budgets[b]);
    }

    /// Maximises how many items of the rank are seated, and keeps that from now on.
    void winRank(int rank, int allowed_ms)
    {
        int items = 0;
        for (const auto& kind : m_grouped.kinds)
            items += kind.item.rank == rank ? static_cast<int>(kind.items.size()) : 0;
        const auto ofRank = [&](const Column& c) { return m_grouped.kinds[c.kind].item.rank == rank ? 1.0 : 0.0; };
        if (std::lround(worth(ofRank, m_best)) < items) // else nothing is left to win
            better(ofRank, GLP_MAX, rank, allowed_ms);
        addRow(ofRank, GLP_LO, worth(ofRank, m_best));
    }

    void leastCost(int allowed_ms)
    {
        better([&](const Column& c) { return costOf(c); }, GLP_MIN, kRanks, allowed_ms);
    }

    [[nodiscard]] Counts counts() const
    {
        Counts out(m_grouped.kinds.size(), std::vector<int>(m_grouped.seats.size(), 0));
        for (size_t j = 0; j < m_columns.size(); ++j)
            out[m_columns[j].kind][m_columns[j].seats] = m_best[j];
        return out;
    }
    [[nodiscard]] bool optimal() const { return m_optimal; }

  private:
    using Clock = std::chrono::steady_clock;

    void addColumns(const Counts& first)
    {
        for (size_t t = 0; t < m_grouped.kinds.size(); ++t)
            for (size_t k = 0; k < m_grouped.seats.size(); ++k)
                if (m_grouped.kinds[t].item.cost[k]) {
                    m_columns.push_back({t, k});
                    m_best.push_back(first[t][k]);
                }
        if (m_columns.empty())
            return;
        glp_add_cols(m_lp.get(), static_cast<int>(m_columns.size()));
        for (size_t j = 0; j < m_columns.size(); ++j) {
            const auto most = std::min(static_cast<int>(m_grouped.kinds[m_columns[j].kind].items.size()),
                                       m_grouped.seats[m_columns[j].seats].seats);
            glp_set_col_kind(m_lp.get(), static_cast<int>(j) + 1, GLP_IV);
            glp_set_col_bnds(m_lp.get(), static_cast<int>(j) + 1, most > 0 ? GLP_DB : GLP_FX, 0, most);
        }
    }

    [[nodiscard]] double costOf(const Column& c) const { return *m_grouped.kinds[c.kind].item.cost[c.seats]; }

    template <class Coefficient> void addRow(Coefficient coefficient, int kind, double bound)
    {
        std::vector<int> indices = {0}; // GLPK counts from 1
        std::vector<double> values = {0};
        for (size_t j = 0; j < m_columns.size(); ++j) {
            const double v = coefficient(m_columns[j]);
            if (v == 0)
                continue;
            indices.push_back(static_cast<int>(j) + 1);
            values.push_back(v);
        }
        if (indices.size() == 1)
            return;
        const int row = glp_add_rows(m_lp.get(), 1);
        glp_set_mat_row(m_lp.get(), row, static_cast<int>(indices.size()) - 1, indices.data(), values.data());
        glp_set_row_bnds(m_lp.get(), row, kind, bound, bound);
    }

    template <class Coefficient>
    [[nodiscard]] double worth(Coefficient coefficient, const std::vector<int>& counts) const
    {
        double sum = 0;
        for (size_t j = 0; j < m_columns.size(); ++j)
            sum += coefficient(m_columns[j]) * counts[j];
        return sum;
    }

    /// What was found stands unless what is found now is better; it is the best only where that was proved.
    template <class Coefficient> void better(Coefficient coefficient, int direction, int step, int allowed_ms)
    {
        m_step = step;
        if (m_columns.empty() || m_stopped) {
            m_optimal = m_optimal && !m_stopped;
            return;
        }
        glp_set_obj_dir(m_lp.get(), direction);
        for (size_t j = 0; j < m_columns.size(); ++j)
            glp_set_obj_coef(m_lp.get(), static_cast<int>(j) + 1, coefficient(m_columns[j]));
        const int status = solve(allowed_ms);
        m_optimal = m_optimal && status == GLP_OPT;
        if (status != GLP_OPT && status != GLP_FEAS)
            return;
        std::vector<int> found;
        for (size_t j = 0; j < m_columns.size(); ++j)
            found.push_back(static_cast<int>(std::lround(glp_mip_col_val(m_lp.get(), static_cast<int>(j) + 1))));
        const double gain = worth(coefficient, found) - worth(coefficient, m_best);
        if (status == GLP_OPT || (direction == GLP_MAX ? gain : -gain) > 0)
            m_best = found;
    }

    /// First the relaxation, in portions between which `watch` is asked, then the branches. Returns what it came to:
    /// the optimum, something feasible, or nothing (GLP_OPT, GLP_FEAS, GLP_UNDEF).
    int solve(int allowed_ms)
    {
        const auto end = Clock::now() + std::chrono::milliseconds(allowed_ms);
        const auto left = [&] {
            return static_cast<int>(std::chrono::duration_cast<std::chrono::milliseconds>(end - Clock::now()).count());
        };
        glp_smcp relaxed;
        glp_init_smcp(&relaxed);
        relaxed.msg_lev = GLP_MSG_OFF;
        constexpr int kPortion_ms = 200;
        glp_adv_basis(m_lp.get(), 0);
        int ended = GLP_ETMLIM;
        while (ended == GLP_ETMLIM && left() > 0 && goesOn()) {
            relaxed.tm_lim = std::clamp(left(), 1, kPortion_ms);
            ended = glp_simplex(m_lp.get(), &relaxed);
        }
        if (ended != 0 || glp_get_status(m_lp.get()) != GLP_OPT || left() <= 0)
            return GLP_UNDEF;
        glp_iocp how;
        glp_init_iocp(&how);
        how.msg_lev = GLP_MSG_OFF;
        how.tm_lim = left();
        how.cb_info = this;
        how.cb_func = [](glp_tree* tree, void* self) {
            if (!static_cast<Programme*>(self)->goesOn())
                glp_ios_terminate(tree);
        };
        const bool whole = glp_intopt(m_lp.get(), &how) == 0;
        const int status = glp_mip_status(m_lp.get());
        return status == GLP_OPT && !whole ? GLP_FEAS : status;
    }

    bool goesOn()
    {
        constexpr auto kBetween = std::chrono::milliseconds(100);
        if (m_watch && !m_stopped && Clock::now() - m_told > kBetween) {
            m_told = Clock::now();
            m_stopped = !m_watch({m_step + 1, kRanks + 1, std::accumulate(m_best.begin(), m_best.end(), 0)});
        }
        return !m_stopped;
    }

    const Grouped& m_grouped;
    const Watch& m_watch;
    std::unique_ptr<glp_prob, void (*)(glp_prob*)> m_lp;
    std::vector<Column> m_columns;
    std::vector<int> m_best; ///< how many, per column
    bool m_optimal = true, m_stopped = false;
    int m_step = 0;
    Clock::time_point m_told;
};

} // namespace

Assignment assign(const Problem& problem, int allowed_ms, const Watch& watch)
{
    const Grouped grouped = group(problem);
    Programme programme(grouped, watch);
    for (int rank = 0; rank < kRanks; ++rank)
        programme.winRank(rank, allowed_ms / (kRanks + 1));
    programme.leastCost(allowed_ms / (kRanks + 1));
    Assignment out{ungroup(grouped, problem, programme.counts()), 0, programme.optimal()};
    for (size_t i = 0; i < problem.items.size(); ++i)
        if (out.classOf[i] >= 0)
            out.cost += *problem.items[i].cost[static_cast<size_t>(out.classOf[i])];
    return out;
}

} // namespace vicegrip::seating
