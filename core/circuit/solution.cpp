#include "core/circuit/solution.h"

#include "core/base/phrase.h"
#include "core/circuit/factors.h"
#include "core/circuit/topology.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::circuit {
namespace {

constexpr double kLeakSiemens = 1e-9; // ties a floating part to the reference
constexpr double kUnnoticedLoading = 1e-4; // of a reading

double conductance(const Element& e)
{
    return 1 / std::max(e.value, kLeastOhms);
}

bool hasBranch(const Element& e)
{
    return e.kind == Element::Kind::VoltageSource || e.kind == Element::Kind::VoltageControlledVoltage;
}

} // namespace

SparseFactors::SparseFactors()
{
    klu_defaults(&m_common);
}

SparseFactors::~SparseFactors()
{
    klu_free_numeric(&m_numeric, &m_common);
    klu_free_symbolic(&m_symbolic, &m_common);
}

bool SparseFactors::factor(Sparse& matrix)
{
    matrix.makeCompressed();
    m_size = static_cast<int>(matrix.rows());
    m_symbolic = klu_analyze(m_size, matrix.outerIndexPtr(), matrix.innerIndexPtr(), &m_common);
    if (m_symbolic == nullptr)
        return false;
    m_numeric = klu_factor(matrix.outerIndexPtr(), matrix.innerIndexPtr(), matrix.valuePtr(), m_symbolic, &m_common);
    return m_numeric != nullptr;
}

Matrix SparseFactors::solved(Matrix rhs)
{
    klu_solve(m_symbolic, m_numeric, m_size, static_cast<int>(rhs.cols()), rhs.data(), &m_common);
    return rhs;
}

Matrix SparseFactors::transposed(Matrix rhs)
{
    klu_tsolve(m_symbolic, m_numeric, m_size, static_cast<int>(rhs.cols()), rhs.data(), &m_common);
    return rhs;
}

Vector Solution::Factors::between(Node a, Node b) const
{
    return between({{a, b}});
}

Matrix Solution::Factors::between(const std::vector<Probes>& probes) const
{
    Matrix out = Matrix::Zero(size(), static_cast<Eigen::Index>(probes.size()));
    for (size_t i = 0; i < probes.size(); ++i)
        for (const auto& [node, sign] : {std::pair(probes[i].red, 1.0), {probes[i].black, -1.0}})
            if (node != kReference)
                out(row(node), static_cast<Eigen::Index>(i)) += sign;
    return out;
}

std::vector<double> Solution::Factors::sensitivities(const VectorView& xs, const VectorView& l, double share,
                                                     bool withSources) const
{
    std::vector<double> out(packed.size());
    for (size_t i = 0; i < packed.size(); ++i) {
        const Packed& e = packed[i];
        switch (e.kind) {
        case Element::Kind::Resistor:
            out[i] = share * across(l, e.a, e.b) * across(xs, e.a, e.b) * e.g2;
            break;
        case Element::Kind::VoltageSource:
            out[i] = withSources ? share * l[e.branch] : 0;
            break;
        case Element::Kind::CurrentSource:
            out[i] = withSources ? share * across(l, e.b, e.a) : 0;
            break;
        case Element::Kind::VoltageControlledVoltage:
            out[i] = share * l[e.branch] * across(xs, e.c, e.d);
            break;
        }
    }
    return out;
}

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

Stamps stamped(const Network& network, const std::vector<Packed>& packed,
               const std::vector<std::vector<Node>>& floating, int size)
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
            s.voltageBranch(e, packed[i].branch);
            s.rhs[packed[i].branch] = e.value;
            break;
        case Element::Kind::CurrentSource:
            if (e.a != kReference)
                s.rhs[e.a - 1] -= e.value;
            if (e.b != kReference)
                s.rhs[e.b - 1] += e.value;
            break;
        case Element::Kind::VoltageControlledVoltage:
            s.voltageBranch(e, packed[i].branch);
            s.put(packed[i].branch, e.c - 1, -e.value);
            s.put(packed[i].branch, e.d - 1, e.value);
            break;
        }
    }
    for (const auto& part : floating)
        s.put(part.front() - 1, part.front() - 1, kLeakSiemens);
    return s;
}

} // namespace

double Reading::sigma(const Network& network) const
{
    double sum = 0;
    for (size_t i = 0; i < sensitivity.size(); ++i) {
        if (sensitivity[i] == 0)
            continue;
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

const std::vector<std::vector<Node>>& Solution::floating() const
{
    return m_factors->floating;
}

std::vector<Reading> Solution::voltmeters(const std::vector<Probes>& probes, double meterOhms) const
{
    Factors& f = *m_factors;
    const Matrix adjoint = f.lu.transposed(f.between(probes));
    std::vector<Reading> out;
    for (size_t i = 0; i < probes.size(); ++i) {
        const auto [red, black] = probes[i];
        const auto l = adjoint.col(static_cast<Eigen::Index>(i));
        // The resistance behind the probes, e' A^-1 e, is there already: it is l' e.
        const double sourceOhms = Factors::across(l, red, black);
        const double open = Factors::across(f.x, red, black);
        const double share = meterOhms / (meterOhms + sourceOhms);
        // The meter adds a conductance between the probes, a rank-one change of the system. It scales the reading by
        // `share` and moves the solution the sensitivities are taken at, which is worth a solve only where it loads
        // noticeably.
        if (sourceOhms < kUnnoticedLoading * meterOhms) {
            out.push_back({open * share, f.sensitivities(f.x, l, share, true)});
            continue;
        }
        const Vector loaded = f.x - f.lu.solved(f.between(red, black)) * (open / (meterOhms + sourceOhms));
        out.push_back({open * share, f.sensitivities(loaded, l, share, true)});
    }
    return out;
}

std::vector<Reading> Solution::ohmmeters(const std::vector<Probes>& probes) const
{
    Factors& f = *m_factors;
    const Matrix tests = f.between(probes);
    const Matrix volts = f.lu.solved(tests); // for a test current of 1 A
    const Matrix adjoint = f.symmetric ? volts : f.lu.transposed(tests);
    std::vector<Reading> out;
    for (size_t i = 0; i < probes.size(); ++i) {
        const auto column = static_cast<Eigen::Index>(i);
        const auto v = volts.col(column);
        out.push_back(
            {Factors::across(v, probes[i].red, probes[i].black), f.sensitivities(v, adjoint.col(column), 1, false)});
    }
    return out;
}

Result<Solution> solve(Network network)
{
    if (auto error = contradiction(network))
        return tl::make_unexpected(*error);

    auto f = std::make_unique<Solution::Factors>();
    f->floating = floatingParts(network);
    int size = network.nodeCount() - 1;
    f->packed.reserve(network.elements().size());
    for (const Element& e : network.elements()) {
        const double g = e.kind == Element::Kind::Resistor ? conductance(e) : 0;
        f->packed.push_back({e.kind, e.a, e.b, e.c, e.d, hasBranch(e) ? size++ : -1, g * g});
    }
    if (size == 0) {
        f->network = std::move(network);
        return Solution(std::move(f));
    }

    const Stamps stamps = stamped(network, f->packed, f->floating, size);
    Sparse matrix(size, size);
    matrix.setFromTriplets(stamps.matrix.begin(), stamps.matrix.end());
    f->network = std::move(network);
    f->symmetric = std::ranges::none_of(f->network.elements(), hasBranch);
    const Error noAnswer{
        ErrorCode::Network, phrase("the network has no single answer: a controlled source feeds itself"), {}};
    if (!f->lu.factor(matrix))
        return tl::make_unexpected(noAnswer);
    f->x = f->lu.solved(stamps.rhs);
    const double scale = (matrix.cwiseAbs() * f->x.cwiseAbs()).maxCoeff() + stamps.rhs.cwiseAbs().maxCoeff();
    if (!f->x.allFinite() || !((matrix * f->x - stamps.rhs).cwiseAbs().maxCoeff() <= 1e-6 * scale))
        return tl::make_unexpected(noAnswer);
    return Solution(std::move(f));
}

} // namespace vicegrip::circuit
