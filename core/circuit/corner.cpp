#include "core/circuit/corner.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::circuit {
namespace {

double ohmsOf(double value)
{
    return std::max(value, kLeastOhms);
}

/// What a value adds to the nominal conductance or gain in the matrix.
double changeOf(const Element& e, double value)
{
    if (e.kind == Element::Kind::Resistor)
        return 1 / ohmsOf(value) - 1 / ohmsOf(e.value);
    return e.kind == Element::Kind::VoltageControlledVoltage ? e.value - value : 0;
}

/// What a value adds to a nominal source. A current source drives out of what a resistor's column counts as in.
double shiftOf(const Element& e, double value)
{
    if (e.kind == Element::Kind::VoltageSource)
        return value - e.value;
    return e.kind == Element::Kind::CurrentSource ? e.value - value : 0;
}

} // namespace

Columns::Columns(const Solution& solution) : m_factors(*solution.m_factors), m_followsSources(follows(m_factors.x)) {}

std::vector<double> Columns::follows(const VectorView& answer) const
{
    std::vector<double> out(m_factors.packed.size());
    for (size_t i = 0; i < out.size(); ++i) {
        const Packed& e = m_factors.packed[i];
        if (e.kind == Element::Kind::Resistor)
            out[i] = Solution::Factors::across(answer, e.a, e.b);
        else if (e.kind == Element::Kind::VoltageControlledVoltage)
            out[i] = Solution::Factors::across(answer, e.c, e.d);
    }
    return out;
}

Column Columns::column(const VectorView& answer, const VectorView& adjoint) const
{
    Column out{answer, follows(answer), {}};
    out.gives.reserve(out.follows.size());
    for (const Packed& e : m_factors.packed)
        out.gives.push_back(e.kind == Element::Kind::Resistor        ? Solution::Factors::across(adjoint, e.a, e.b)
                            : e.kind == Element::Kind::CurrentSource ? -Solution::Factors::across(adjoint, e.a, e.b)
                                                                     : adjoint[e.branch]);
    return out;
}

size_t Columns::size() const
{
    const size_t each = static_cast<size_t>(m_factors.size()) + 2 * m_factors.packed.size();
    return (m_elements.size() + m_probes.size()) * each;
}

void Columns::clear()
{
    m_elements.clear();
    m_probes.clear();
}

void Columns::prepare(const std::vector<ElementIndex>& elements)
{
    std::vector<ElementIndex> missing;
    for (ElementIndex e : elements)
        if (m_elements.try_emplace(e).second)
            missing.push_back(e);
    if (missing.empty())
        return;
    Matrix sides = Matrix::Zero(m_factors.size(), static_cast<Eigen::Index>(missing.size()));
    Matrix follows = sides;
    for (size_t k = 0; k < missing.size(); ++k) {
        const auto column = static_cast<Eigen::Index>(k);
        const Packed& e = m_factors.packed[static_cast<size_t>(missing[k])];
        const auto between = [&](Matrix& m, Node a, Node b) {
            for (const auto& [node, sign] : {std::pair(a, 1.0), {b, -1.0}})
                if (node != kReference)
                    m(Solution::Factors::row(node), column) += sign;
        };
        if (e.branch >= 0)
            sides(e.branch, column) = 1;
        else
            between(sides, e.a, e.b);
        if (e.kind == Element::Kind::Resistor)
            between(follows, e.a, e.b);
        else if (e.kind == Element::Kind::VoltageControlledVoltage)
            between(follows, e.c, e.d);
    }
    const Matrix answers = m_factors.lu.solved(std::move(sides)),
                 adjoints = m_factors.symmetric ? answers : m_factors.lu.transposed(std::move(follows));
    for (size_t k = 0; k < missing.size(); ++k) {
        const auto column = static_cast<Eigen::Index>(k);
        m_elements[missing[k]] = this->column(answers.col(column), adjoints.col(column));
    }
}

void Columns::prepare(const std::vector<Probes>& probes)
{
    std::vector<Probes> missing;
    for (const Probes& p : probes)
        if (m_probes.try_emplace({p.red, p.black}).second)
            missing.push_back(p);
    if (missing.empty())
        return;
    const Matrix between = m_factors.between(missing);
    const Matrix answers = m_factors.lu.solved(between),
                 adjoints = m_factors.symmetric ? answers : m_factors.lu.transposed(between);
    for (size_t k = 0; k < missing.size(); ++k) {
        const auto column = static_cast<Eigen::Index>(k);
        m_probes[{missing[k].red, missing[k].black}] = this->column(answers.col(column), adjoints.col(column));
    }
}

Corner::Corner(Columns& columns, const Sought& sought, std::vector<ElementIndex> varied)
    : m_factors(columns.factors()), m_sought(sought), m_varied(std::move(varied))
{
    columns.prepare(m_varied);
    columns.prepare(sought.over ? std::vector{sought.probes, *sought.over} : std::vector{sought.probes});
    const bool meter = sought.meter_ohm > 0;
    const bool probed = meter || sought.inOhm;
    const auto count = static_cast<Eigen::Index>(m_varied.size()), size = count + (meter ? 1 : 0);
    const Column* probes = probed ? &columns.of(sought.probes) : nullptr;
    for (ElementIndex e : m_varied)
        m_of.push_back(&columns.of(e));
    if (meter)
        m_of.push_back(probes);
    // A test current of 1 A, or the sources.
    const Vector& x = sought.inOhm ? probes->answer : m_factors.x;
    m_follows = sought.inOhm ? &probes->follows : &columns.followsSources();

    // What follows the solution in row i: an element's volts, a gain's controlling volts, nothing for a source.
    m_coupling.resize(size, size);
    m_state.along.resize(size);
    for (Eigen::Index i = 0; i < size; ++i) {
        const auto along = [&](const Vector& answer, const std::vector<double>& follows) {
            return i == count ? Solution::Factors::across(answer, sought.probes.red, sought.probes.black)
                              : follows[static_cast<size_t>(m_varied[static_cast<size_t>(i)])];
        };
        m_state.along[i] = along(x, *m_follows);
        for (Eigen::Index j = 0; j < size; ++j)
            m_coupling(i, j) = along(m_of[static_cast<size_t>(j)]->answer, m_of[static_cast<size_t>(j)]->follows);
    }
    m_change = m_shift = SmallVector::Zero(size);
    m_outputs.push_back(sought.probes);
    if (sought.over)
        m_outputs.push_back(*sought.over);
    for (size_t o = 0; o < m_outputs.size(); ++o) {
        const auto [red, black] = m_outputs[o];
        m_outputColumns[o] = &columns.of(m_outputs[o]);
        m_state.output[o] = Solution::Factors::across(x, red, black);
        m_state.adjoint[o].resize(size);
        for (Eigen::Index j = 0; j < size; ++j)
            m_state.adjoint[o][j] = Solution::Factors::across(m_of[static_cast<size_t>(j)]->answer, red, black);
    }
    for (ElementIndex e : m_varied)
        m_state.values.push_back(m_factors.network.element(e).value);
    if (meter)
        moveAll(count, 1 / sought.meter_ohm, 0);
    m_state.reading = readingOf(m_state);
    m_start = m_state;
    m_startCoupling = m_coupling;
}

double Corner::readingOf(const State& state) const
{
    return m_sought.over ? m_sought.times * state.output[0] / state.output[1] : state.output[0];
}

void Corner::move(State& state, Eigen::Index j, double change, double shift) const
{
    const double drop = change / (1 + change * m_coupling(j, j));
    const double pull = shift - drop * (state.along[j] + shift * m_coupling(j, j)); // what flows in at u_j
    for (size_t o = 0; o < m_outputs.size(); ++o) {
        state.output[o] += pull * state.adjoint[o][j];
        state.adjoint[o] -= drop * state.adjoint[o][j] * m_coupling.row(j).transpose();
    }
    state.along += pull * m_coupling.col(j);
    state.reading = readingOf(state);
}

void Corner::moveAll(Eigen::Index j, double change, double shift)
{
    move(m_state, j, change, shift);
    m_change[j] += change;
    m_shift[j] += shift;
    if (change == 0)
        return;
    const double drop = change / (1 + change * m_coupling(j, j));
    const SmallVector row = m_coupling.row(j), column = m_coupling.col(j);
    for (Eigen::Index i = 0; i < row.size(); ++i)
        m_coupling.col(i) -= drop * row[i] * column;
}

void Corner::turn(size_t varied, double value)
{
    if (m_state.values[varied] == value)
        return;
    m_state.values[varied] = value;
    const auto j = static_cast<Eigen::Index>(varied);
    const double change = changeOf(element(varied), value) - m_change[j];
    // What comes back from next to nothing takes most digits with it: then everything is brought there anew.
    constexpr double kDigitsLost = 1e-3;
    if (1 + change * m_coupling(j, j) < kDigitsLost)
        anew();
    else
        moveAll(j, change, shiftOf(element(varied), value) - m_shift[j]);
}

void Corner::anew()
{
    const std::vector<double> values = m_state.values;
    m_state = m_start;
    m_coupling = m_startCoupling;
    m_state.values = values;
    const auto count = static_cast<Eigen::Index>(values.size());
    m_change.head(count).setZero();
    m_shift.setZero();
    for (Eigen::Index j = 0; j < count; ++j) {
        const auto i = static_cast<size_t>(j);
        moveAll(j, changeOf(element(i), values[i]), shiftOf(element(i), values[i]));
    }
}

Corner::State Corner::turned(size_t varied, double value) const
{
    State out = m_state;
    const auto j = static_cast<Eigen::Index>(varied);
    out.values[varied] = value;
    move(out, j, changeOf(element(varied), value) - m_change[j], shiftOf(element(varied), value) - m_shift[j]);
    return out;
}

double Corner::slope(const State& state, size_t varied) const
{
    const auto row = static_cast<Eigen::Index>(varied);
    const auto of = [&](size_t o) {
        switch (element(varied).kind) {
        case Element::Kind::Resistor: {
            const double g = 1 / ohmsOf(state.values[varied]);
            return state.adjoint[o][row] * state.along[row] * g * g;
        }
        case Element::Kind::VoltageControlledVoltage:
            return state.adjoint[o][row] * state.along[row];
        case Element::Kind::VoltageSource:
            return m_sought.inOhm ? 0 : state.adjoint[o][row];
        case Element::Kind::CurrentSource:
            return m_sought.inOhm ? 0 : -state.adjoint[o][row];
        }
        return 0.0;
    };
    if (!m_sought.over)
        return of(0);
    return m_sought.times * (of(0) - state.output[0] / state.output[1] * of(1)) / state.output[1];
}

/// x' = x + A^-1 U (shift - D y); the adjoint l' = l - A'^-1 W D t. Column after column: each is one piece of memory.
std::vector<double> Corner::othersSlopes(const std::vector<ElementIndex>& others) const
{
    std::vector<double> solution(others.size());
    std::array<std::vector<double>, 2> adjoint;
    const auto gather = [&](std::vector<double>& into, const std::vector<double>& column, double times) {
        for (size_t i = 0; i < others.size(); ++i)
            into[i] += times * column[static_cast<size_t>(others[i])];
    };
    gather(solution, *m_follows, 1);
    for (size_t o = 0; o < m_outputs.size(); ++o) {
        adjoint[o].resize(others.size());
        gather(adjoint[o], m_outputColumns[o]->gives, 1);
    }
    for (Eigen::Index j = 0; j < m_change.size(); ++j) {
        const Column& column = *m_of[static_cast<size_t>(j)];
        if (const double flow = m_shift[j] - m_change[j] * m_state.along[j]; flow != 0)
            gather(solution, column.follows, flow);
        for (size_t o = 0; o < m_outputs.size() && m_change[j] != 0; ++o)
            gather(adjoint[o], column.gives, -m_change[j] * m_state.adjoint[o][j]);
    }
    std::vector<double> out(m_factors.packed.size());
    for (size_t i = 0; i < others.size(); ++i) {
        const auto at = static_cast<size_t>(others[i]);
        const Packed& e = m_factors.packed[at];
        const bool source = e.kind == Element::Kind::VoltageSource || e.kind == Element::Kind::CurrentSource;
        if (source && m_sought.inOhm)
            continue;
        const double follows = source ? 1 : e.kind == Element::Kind::Resistor ? solution[i] * e.g2 : solution[i];
        out[at] = m_sought.over
                      ? m_sought.times * follows *
                            (adjoint[0][i] - m_state.output[0] / m_state.output[1] * adjoint[1][i]) / m_state.output[1]
                      : adjoint[0][i] * follows;
    }
    return out;
}

} // namespace vicegrip::circuit
