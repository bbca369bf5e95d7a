#include "core/circuit/factors.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::circuit {

Sweep::Sweep(const Solution& solution, const std::vector<ElementIndex>& varied, const std::vector<Output>& outputs)
{
    Solution::Factors& f = *solution.m_factors;
    const auto along = [&](ElementIndex index, const Vector& v) {
        const Element& e = f.network.element(index);
        if (e.kind == Element::Kind::VoltageControlledVoltage)
            return Solution::Factors::across(v, e.c, e.d);
        return Solution::Factors::across(v, e.a, e.b);
    };
    m_count = std::min(varied.size(), kMost);
    m_outputs = std::min(outputs.size(), kMost);
    for (size_t o = 0; o < m_outputs; ++o)
        m_base[o] = Solution::Factors::across(f.x, outputs[o].a, outputs[o].b);
    for (size_t j = 0; j < m_count; ++j) {
        const Element& e = f.network.element(varied[j]);
        m_kind[j] = e.kind;
        m_nominal[j] = e.value;
        m_drive[j] = along(varied[j], f.x);
        Vector u = Vector::Zero(f.size());
        if (e.kind == Element::Kind::Resistor)
            u = f.between(e.a, e.b);
        else
            u[f.packed[static_cast<size_t>(varied[j])].branch] = 1;
        const Vector answer = f.lu.solved(std::move(u)); // A^-1 u_j
        for (size_t i = 0; i < m_count; ++i)
            m_coupling[i][j] = along(varied[i], answer);
        for (size_t o = 0; o < m_outputs; ++o)
            m_transfer[o][j] = Solution::Factors::across(answer, outputs[o].a, outputs[o].b);
    }
}

namespace {

/// Gaussian elimination with partial pivoting on the few unknowns; the answer is left in `b`.
void solveSmall(std::array<Sweep::Values, Sweep::kMost>& a, Sweep::Values& b, size_t n)
{
    for (size_t k = 0; k < n; ++k) {
        size_t pivot = k;
        for (size_t i = k + 1; i < n; ++i)
            if (std::abs(a[i][k]) > std::abs(a[pivot][k]))
                pivot = i;
        std::swap(a[k], a[pivot]);
        std::swap(b[k], b[pivot]);
        for (size_t i = k + 1; i < n; ++i) {
            const double factor = a[i][k] / a[k][k];
            for (size_t j = k; j < n; ++j)
                a[i][j] -= factor * a[k][j];
            b[i] -= factor * b[k];
        }
    }
    for (size_t k = n; k-- > 0;) {
        for (size_t j = k + 1; j < n; ++j)
            b[k] -= a[k][j] * b[j];
        b[k] /= a[k][k];
    }
}

} // namespace

Sweep::Values Sweep::at(std::span<const double> values) const
{
    // x' = x + sum_s dE_s z_s - Z (I + D S)^-1 D W'(x + sum_s dE_s z_s), D the changes of conductance and gain.
    Values change{}, shift{}, moved{};
    for (size_t j = 0; j < m_count; ++j) {
        switch (m_kind[j]) {
        case Element::Kind::Resistor:
            change[j] = 1 / std::max(values[j], kLeastOhms) - 1 / std::max(m_nominal[j], kLeastOhms);
            break;
        case Element::Kind::VoltageControlledVoltage:
            change[j] = m_nominal[j] - values[j];
            break;
        case Element::Kind::VoltageSource:
        case Element::Kind::CurrentSource:
            shift[j] = values[j] - m_nominal[j];
            break;
        }
    }
    std::array<Values, kMost> coupled{};
    for (size_t i = 0; i < m_count; ++i) {
        double along = m_drive[i];
        for (size_t j = 0; j < m_count; ++j) {
            coupled[i][j] = (i == j ? 1 : 0) + change[i] * m_coupling[i][j];
            along += shift[j] * m_coupling[i][j];
        }
        moved[i] = change[i] * along;
    }
    solveSmall(coupled, moved, m_count);
    Values out = m_base;
    for (size_t o = 0; o < m_outputs; ++o)
        for (size_t j = 0; j < m_count; ++j)
            out[o] += m_transfer[o][j] * (shift[j] - moved[j]);
    return out;
}

} // namespace vicegrip::circuit
