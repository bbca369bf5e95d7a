#pragma once

#include "core/circuit/network.h"
#include "core/circuit/solution.h"

#include <Eigen/SparseCore>
#include <klu.h>

/// The factored system behind a Solution. Unknowns: the voltages of nodes 1.., then the branch currents of the voltage
/// sources. The factors are KLU's, which is made for circuit matrices (Davis and Palamadai Natarajan, "Algorithm 907:
/// KLU", ACM Trans. Mathematical Software 37, 2010). Only circuit/ includes this header.
namespace vicegrip::circuit {

using Vector = Eigen::VectorXd;
using VectorView = Eigen::Ref<const Vector>; ///< or a column of answers
using Matrix = Eigen::MatrixXd; ///< one right-hand side, or answer, a column
using Sparse = Eigen::SparseMatrix<double>;

/// A sparse LU factorisation.
class SparseFactors
{
  public:
    SparseFactors();
    ~SparseFactors();
    SparseFactors(const SparseFactors&) = delete;
    SparseFactors& operator=(const SparseFactors&) = delete;

    /// False when the matrix is singular.
    [[nodiscard]] bool factor(Sparse& matrix);

    [[nodiscard]] Matrix solved(Matrix rhs); ///< A x = rhs
    [[nodiscard]] Matrix transposed(Matrix rhs); ///< A' x = rhs

  private:
    klu_common m_common{};
    klu_symbolic* m_symbolic = nullptr;
    klu_numeric* m_numeric = nullptr;
    int m_size = 0;
};

/// What an element's sensitivity takes, packed for the pass over all of them that every reading makes.
struct Packed
{
    Element::Kind kind = Element::Kind::Resistor;
    Node a = 0, b = 0, c = 0, d = 0;
    int branch = -1; ///< row of its branch current
    double g2 = 0; ///< of a resistor, its conductance squared
};

struct Solution::Factors
{
    Network network;
    std::vector<Packed> packed; ///< as the network's elements
    std::vector<std::vector<Node>> floating;
    SparseFactors lu;
    Vector x;
    bool symmetric = true; ///< resistors and current sources only: A' = A

    [[nodiscard]] int size() const { return static_cast<int>(x.size()); }

    static int row(Node node) { return node - 1; }
    static double at(const VectorView& v, Node node) { return node == kReference ? 0 : v[row(node)]; }
    static double across(const VectorView& v, Node a, Node b) { return at(v, a) - at(v, b); }

    /// The vector that takes V(a) - V(b) from a solution.
    [[nodiscard]] Vector between(Node a, Node b) const;
    [[nodiscard]] Matrix between(const std::vector<Probes>& probes) const;

    /// d(output' x)/d(value) of every element, from the solution `xs` and the adjoint `share` l: l'(db/dp - dA/dp xs).
    [[nodiscard]] std::vector<double> sensitivities(const VectorView& xs, const VectorView& l, double share,
                                                    bool withSources) const;
};

} // namespace vicegrip::circuit
