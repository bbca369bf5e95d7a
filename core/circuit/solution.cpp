#include "core/circuit/solution.h"

#include "core/circuit/topology.h"

#include <Eigen/LU>
#include <Eigen/SparseLU>
#include <cmath>

namespace vicegrip::circuit {
namespace {

constexpr double kLeakSiemens = 1e-9; // ties a floating part to the reference

using Sparse = Eigen::SparseMatrix<double>;
using Vector = Eigen::VectorXd;

double conductance(const Element& e)
{
    return 1 / std::max(e.value, kLeastOhms);
}

bool hasBranch(const Element& e)
{
    return e.kind == Element::Kind::VoltageSource || e.kind == Element::Kind::VoltageControlledVoltage;
}

} // namespace

/// The factored system. Unknowns: the voltages of nodes 1.., then the branch currents of the voltage sources.
struct Solution::Factors
{
    Network network;
    std::vector<int> branch; ///< per element: its branch current's row, or -1
    std::vector<Node> floating;
    Eigen::SparseLU<Sparse> lu;
    Vector x;

    [[nodiscard]] int size() const { return static_cast<int>(x.size()); }

    static int row(Node node) { return node - 1; }
    static double at(const Vector& v, Node node) { return node == kReference ? 0 : v[row(node)]; }
    static double across(const Vector& v, Node a, Node b) { return at(v, a) - at(v, b); }

    [[nodiscard]] Vector between(Node a, Node b) const
    {
        Vector e = Vector::Zero(size());
        if (a != kReference)
            e[row(a)] += 1;
        if (b != kReference)
            e[row(b)] -= 1;
        return e;
    }

    [[nodiscard]] Vector solved(const Vector& rhs) const { return lu.solve(rhs); }

    /// The adjoint: one transposed solve per output.
    [[nodiscard]] Vector adjoint(const Vector& output) { return lu.transpose().solve(output); }

    /// d(output' x)/d(value) of every element, from the solution `xs` and the adjoint `l`: l'(db/dp - dA/dp xs).
    [[nodiscard]] std::vector<double> sensitivities(const Vector& xs, const Vector& l, bool withSources) const
    {
        const auto& elements = network.elements();
        std::vector<double> out(elements.size(), 0.0);
        for (size_t i = 0; i < elements.size(); ++i) {
            const Element& e = elements[i];
            switch (e.kind) {
            case Element::Kind::Resistor: {
                const double g = conductance(e);
                out[i] = across(l, e.a, e.b) * across(xs, e.a, e.b) * g * g;
                break;
            }
            case Element::Kind::VoltageSource:
                out[i] = withSources ? l[branch[i]] : 0;
                break;
            case Element::Kind::CurrentSource:
                out[i] = withSources ? across(l, e.b, e.a) : 0;
                break;
            case Element::Kind::VoltageControlledVoltage:
                out[i] = l[branch[i]] * across(xs, e.c, e.d);
                break;
            }
        }
        return out;
    }
};

namespace {

/// Stamps of Ho, Ruehli and Brennan (1975), table I.
struct Stamps
{
    std::vector<Eigen::Triplet<double>> matrix;
    Vector rhs;

    void put(int row, int column, double value)
    {
        if (row >= 0 && column >= 0)
            matrix.emplace_back(row, column, value);
    }

    void conductanceBetween(Node a, Node b, double g)
    {
        put(a - 1, a - 1, g);
        put(b - 1, b - 1, g);
        put(a - 1, b - 1, -g);
        put(b - 1, a - 1, -g);
    }

    void voltageBranch(const Element& e, int branch)
    {
        put(e.a - 1, branch, 1);
        put(e.b - 1, branch, -1);
        put(branch, e.a - 1, 1);
        put(branch, e.b - 1, -1);
    }
};

Stamps stamped(const Network& network, const std::vector<int>& branch, const std::vector<Node>& floating, int size)
{
    Stamps s;
    s.rhs = Vector::Zero(size);
    s.matrix.reserve(network.elements().size() * 4 + floating.size());
    for (size_t i = 0; i < network.elements().size(); ++i) {
        const Element& e = network.elements()[i];
        switch (e.kind) {
        case Element::Kind::Resistor:
            s.conductanceBetween(e.a, e.b, conductance(e));
            break;
        case Element::Kind::VoltageSource:
            s.voltageBranch(e, branch[i]);
            s.rhs[branch[i]] = e.value;
            break;
        case Element::Kind::CurrentSource:
            if (e.a != kReference)
                s.rhs[e.a - 1] -= e.value;
            if (e.b != kReference)
                s.rhs[e.b - 1] += e.value;
            break;
        case Element::Kind::VoltageControlledVoltage:
            s.voltageBranch(e, branch[i]);
            s.put(branch[i], e.c - 1, -e.value);
            s.put(branch[i], e.d - 1, e.value);
            break;
        }
    }
    for (Node node : floating)
        s.put(node - 1, node - 1, kLeakSiemens);
    return s;
}

} // namespace

double Reading::sigma(const Network& network) const
{
    double sum = 0;
    for (size_t i = 0; i < sensitivity.size(); ++i) {
        const double share = sensitivity[i] * network.elements()[i].spread.standardDeviation();
        sum += share * share;
    }
    return std::sqrt(sum);
}

double Reading::worstCase(const Network& network) const
{
    double sum = 0;
    for (size_t i = 0; i < sensitivity.size(); ++i)
        sum += std::abs(sensitivity[i]) * network.elements()[i].spread.tolerance;
    return sum;
}

Solution::Solution(std::unique_ptr<Factors> factors) : m_factors(std::move(factors)) {}
Solution::~Solution() = default;
Solution::Solution(Solution&&) noexcept = default;
Solution& Solution::operator=(Solution&&) noexcept = default;

const Network& Solution::network() const
{
    return m_factors->network;
}

double Solution::volts(Node a, Node b) const
{
    return Factors::across(m_factors->x, a, b);
}

const std::vector<Node>& Solution::floating() const
{
    return m_factors->floating;
}

Reading Solution::voltmeter(Node red, Node black, double meterOhms) const
{
    if (red == black)
        return {0, std::vector<double>(network().elements().size(), 0.0)};
    Factors& f = *m_factors;
    const Vector probe = f.between(red, black);
    const Vector z = f.solved(probe);
    const double sourceOhms = Factors::across(z, red, black);
    const double open = Factors::across(f.x, red, black);
    // The meter adds a conductance between the probes, a rank-one change of the system.
    const Vector loaded = f.x - z * (open / (meterOhms + sourceOhms));
    const Vector l = f.adjoint(probe) * (meterOhms / (meterOhms + sourceOhms));
    return {Factors::across(loaded, red, black), f.sensitivities(loaded, l, true)};
}

Reading Solution::ohmmeter(Node red, Node black) const
{
    if (red == black)
        return {0, std::vector<double>(network().elements().size(), 0.0)};
    Factors& f = *m_factors;
    const Vector probe = f.between(red, black);
    const Vector z = f.solved(probe); // voltages for a test current of 1 A
    return {Factors::across(z, red, black), f.sensitivities(z, f.adjoint(probe), false)};
}

Result<Solution> solve(Network network)
{
    if (auto error = contradiction(network))
        return tl::make_unexpected(*error);

    auto f = std::make_unique<Solution::Factors>();
    f->floating = floatingParts(network);
    int size = network.nodeCount() - 1;
    f->branch.reserve(network.elements().size());
    for (const Element& e : network.elements())
        f->branch.push_back(hasBranch(e) ? size++ : -1);
    if (size == 0) {
        f->network = std::move(network);
        return Solution(std::move(f));
    }

    const Stamps stamps = stamped(network, f->branch, f->floating, size);
    Sparse matrix(size, size);
    matrix.setFromTriplets(stamps.matrix.begin(), stamps.matrix.end());
    f->network = std::move(network);
    f->lu.compute(matrix);
    const Error noAnswer{ErrorCode::Network, "the network has no single answer: a controlled source feeds itself", {}};
    if (f->lu.info() != Eigen::Success)
        return tl::make_unexpected(noAnswer);
    f->x = f->lu.solve(stamps.rhs);
    const double scale = (matrix.cwiseAbs() * f->x.cwiseAbs()).maxCoeff() + stamps.rhs.cwiseAbs().maxCoeff();
    if (!f->x.allFinite() || !((matrix * f->x - stamps.rhs).cwiseAbs().maxCoeff() <= 1e-6 * scale))
        return tl::make_unexpected(noAnswer);
    return Solution(std::move(f));
}

Sweep::Sweep(const Solution& solution, std::vector<ElementIndex> varied, std::vector<Output> outputs)
{
    Solution::Factors& f = *solution.m_factors;
    const size_t count = varied.size();
    std::vector<Vector> answers; // A^-1 u_j
    for (ElementIndex index : varied) {
        const Element& e = f.network.element(index);
        m_columns.push_back({e.kind, e.value});
        Vector u;
        if (e.kind == Element::Kind::Resistor) {
            u = f.between(e.a, e.b);
        } else {
            u = Vector::Zero(f.size());
            u[f.branch[static_cast<size_t>(index)]] = 1;
        }
        answers.push_back(f.solved(u));
    }
    const auto along = [&](ElementIndex index, const Vector& v) {
        const Element& e = f.network.element(index);
        if (e.kind == Element::Kind::VoltageControlledVoltage)
            return Solution::Factors::across(v, e.c, e.d);
        return Solution::Factors::across(v, e.a, e.b);
    };
    for (size_t i = 0; i < count; ++i) {
        m_drive.push_back(along(varied[i], f.x));
        std::vector<double> row;
        for (size_t j = 0; j < count; ++j)
            row.push_back(along(varied[i], answers[j]));
        m_coupling.push_back(std::move(row));
    }
    for (const Output& o : outputs) {
        m_base.push_back(Solution::Factors::across(f.x, o.a, o.b));
        std::vector<double> row;
        for (size_t j = 0; j < count; ++j)
            row.push_back(Solution::Factors::across(answers[j], o.a, o.b));
        m_transfer.push_back(std::move(row));
    }
}

std::vector<double> Sweep::at(std::span<const double> values) const
{
    // x' = x + sum_s dE_s z_s - Z (I + D S)^-1 D W'(x + sum_s dE_s z_s), D the changes of conductance and gain.
    const auto count = static_cast<Eigen::Index>(m_columns.size());
    Vector change = Vector::Zero(count), shift = Vector::Zero(count);
    for (Eigen::Index j = 0; j < count; ++j) {
        const Column& column = m_columns[static_cast<size_t>(j)];
        const double value = values[static_cast<size_t>(j)];
        switch (column.kind) {
        case Element::Kind::Resistor:
            change[j] = 1 / std::max(value, kLeastOhms) - 1 / std::max(column.nominal, kLeastOhms);
            break;
        case Element::Kind::VoltageControlledVoltage:
            change[j] = column.nominal - value;
            break;
        case Element::Kind::VoltageSource:
        case Element::Kind::CurrentSource:
            shift[j] = value - column.nominal;
            break;
        }
    }
    Eigen::MatrixXd coupled = Eigen::MatrixXd::Identity(count, count);
    Vector driven = Vector::Zero(count);
    for (Eigen::Index i = 0; i < count; ++i) {
        double along = m_drive[static_cast<size_t>(i)];
        for (Eigen::Index j = 0; j < count; ++j) {
            const double s = m_coupling[static_cast<size_t>(i)][static_cast<size_t>(j)];
            coupled(i, j) += change[i] * s;
            along += shift[j] * s;
        }
        driven[i] = change[i] * along;
    }
    const Vector moved = shift - coupled.partialPivLu().solve(driven);
    std::vector<double> out;
    for (size_t o = 0; o < m_base.size(); ++o) {
        double volts = m_base[o];
        for (Eigen::Index j = 0; j < count; ++j)
            volts += m_transfer[o][static_cast<size_t>(j)] * moved[j];
        out.push_back(volts);
    }
    return out;
}

} // namespace vicegrip::circuit
