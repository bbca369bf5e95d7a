#include "core/fit/least_worst.h"

#include <glpk.h>

namespace vicegrip::fit {

LeastWorst::LeastWorst(int unknowns) : m_problem(glp_create_prob(), glp_delete_prob), m_unknowns(unknowns)
{
    glp_prob* p = m_problem.get();
    const int off = unknowns + 1;
    glp_set_obj_dir(p, GLP_MIN);
    glp_add_cols(p, off);
    for (int k = 1; k < off; ++k)
        glp_set_col_bnds(p, k, GLP_FR, 0, 0);
    glp_set_col_bnds(p, off, GLP_LO, 0, 0);
    glp_set_obj_coef(p, off, 1);
}

void LeastWorst::approach(const Terms& terms, double value)
{
    add(terms, -1, GLP_UP, value);
    add(terms, 1, GLP_LO, value);
}

void LeastWorst::demand(const Terms& terms, double least)
{
    add(terms, 0, GLP_LO, least);
}

std::optional<std::vector<double>> LeastWorst::solved()
{
    glp_smcp how;
    glp_init_smcp(&how);
    how.msg_lev = GLP_MSG_OFF;
    how.meth = GLP_DUALP;
    if (glp_simplex(m_problem.get(), &how) != 0 || glp_get_status(m_problem.get()) != GLP_OPT)
        return std::nullopt;
    std::vector<double> out;
    for (int k = 1; k <= m_unknowns; ++k)
        out.push_back(glp_get_col_prim(m_problem.get(), k));
    return out;
}

void LeastWorst::add(const Terms& terms, double offFactor, int bound, double limit)
{
    std::vector<int> columns = {0}; // GLPK counts from 1
    std::vector<double> factors = {0};
    for (const auto& [unknown, factor] : terms) {
        columns.push_back(unknown + 1);
        factors.push_back(factor);
    }
    if (offFactor != 0) {
        columns.push_back(m_unknowns + 1);
        factors.push_back(offFactor);
    }
    const int row = glp_add_rows(m_problem.get(), 1);
    glp_set_row_bnds(m_problem.get(), row, bound, limit, limit);
    glp_set_mat_row(m_problem.get(), row, static_cast<int>(columns.size()) - 1, columns.data(), factors.data());
}

} // namespace vicegrip::fit
