#include "core/seating/assignment.h"

#include <cmath>
#include <glpk.h>
#include <memory>

namespace vicegrip::seating {
namespace {

struct Column
{
    size_t item = 0;
    int seatClass = 0;
};

class Programme
{
  public:
    explicit Programme(const Problem& problem) : m_problem(problem), m_lp(glp_create_prob(), glp_delete_prob)
    {
        glp_term_out(GLP_OFF);
        addColumns();
        for (size_t i = 0; i < problem.items.size(); ++i)
            addRow([&](const Column& c) { return c.item == i ? 1.0 : 0.0; }, GLP_UP, 1);
        for (size_t k = 0; k < problem.classes.size(); ++k)
            addRow([&](const Column& c) { return static_cast<size_t>(c.seatClass) == k ? 1.0 : 0.0; }, GLP_UP,
                   problem.classes[k].seats);
        for (size_t b = 0; b < problem.budgets.size(); ++b)
            addRow(
                [&](const Column& c) {
                    const auto& seat = problem.classes[static_cast<size_t>(c.seatClass)];
                    return static_cast<size_t>(seat.budget) == b ? problem.items[c.item].draw : 0.0;
                },
                GLP_UP, problem.budgets[b]);
    }

    /// Maximises how many items of the rank are seated, and keeps that from now on.
    void winRank(int rank, int allowed_ms)
    {
        const auto ofRank = [&](const Column& c) { return m_problem.items[c.item].rank == rank ? 1.0 : 0.0; };
        if (m_columns.empty() || !anyOf(ofRank))
            return;
        glp_set_obj_dir(m_lp.get(), GLP_MAX);
        for (size_t j = 0; j < m_columns.size(); ++j)
            glp_set_obj_coef(m_lp.get(), static_cast<int>(j) + 1, ofRank(m_columns[j]));
        solve(allowed_ms);
        double won = 0;
        for (size_t j = 0; j < m_columns.size(); ++j)
            won += ofRank(m_columns[j]) * m_best[j];
        addRow(ofRank, GLP_LO, won);
    }

    void leastCost(int allowed_ms)
    {
        if (m_columns.empty())
            return;
        glp_set_obj_dir(m_lp.get(), GLP_MIN);
        for (size_t j = 0; j < m_columns.size(); ++j)
            glp_set_obj_coef(m_lp.get(), static_cast<int>(j) + 1, costOf(m_columns[j]));
        solve(allowed_ms);
    }

    [[nodiscard]] Assignment answer() const
    {
        Assignment out{std::vector<int>(m_problem.items.size(), -1), 0, m_optimal};
        for (size_t j = 0; j < m_columns.size(); ++j) {
            if (m_best[j] == 0)
                continue;
            out.classOf[m_columns[j].item] = m_columns[j].seatClass;
            out.cost += costOf(m_columns[j]);
        }
        return out;
    }

  private:
    void addColumns()
    {
        for (size_t i = 0; i < m_problem.items.size(); ++i)
            for (size_t k = 0; k < m_problem.items[i].cost.size(); ++k)
                if (m_problem.items[i].cost[k])
                    m_columns.push_back({i, static_cast<int>(k)});
        m_best.assign(m_columns.size(), 0);
        if (m_columns.empty())
            return;
        glp_add_cols(m_lp.get(), static_cast<int>(m_columns.size()));
        for (size_t j = 0; j < m_columns.size(); ++j)
            glp_set_col_kind(m_lp.get(), static_cast<int>(j) + 1, GLP_BV);
    }

    [[nodiscard]] double costOf(const Column& c) const
    {
        return *m_problem.items[c.item].cost[static_cast<size_t>(c.seatClass)];
    }

    template <class Coefficient> bool anyOf(Coefficient coefficient) const
    {
        for (const Column& c : m_columns)
            if (coefficient(c) != 0)
                return true;
        return false;
    }

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

    /// An answer that was not proved leaves the one of the stage before in place unless a better one was found.
    void solve(int allowed_ms)
    {
        glp_iocp how;
        glp_init_iocp(&how);
        how.msg_lev = GLP_MSG_OFF;
        how.presolve = GLP_ON;
        how.tm_lim = std::max(allowed_ms, 1);
        const int ended = glp_intopt(m_lp.get(), &how);
        const int status = glp_mip_status(m_lp.get());
        m_optimal = m_optimal && ended == 0 && status == GLP_OPT;
        if (status != GLP_OPT && status != GLP_FEAS)
            return;
        for (size_t j = 0; j < m_columns.size(); ++j)
            m_best[j] = std::lround(glp_mip_col_val(m_lp.get(), static_cast<int>(j) + 1)) != 0 ? 1 : 0;
    }

    const Problem& m_problem;
    std::unique_ptr<glp_prob, void (*)(glp_prob*)> m_lp;
    std::vector<Column> m_columns;
    std::vector<int> m_best; ///< 0 or 1 per column
    bool m_optimal = true;
};

} // namespace

Assignment assign(const Problem& problem, int allowed_ms)
{
    Programme programme(problem);
    for (int rank = 0; rank < kRanks; ++rank)
        programme.winRank(rank, allowed_ms / (kRanks + 1));
    programme.leastCost(allowed_ms / (kRanks + 1));
    return programme.answer();
}

} // namespace vicegrip::seating
