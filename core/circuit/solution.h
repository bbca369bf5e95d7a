#pragma once

#include "core/base/result.h"
#include "core/circuit/network.h"

#include <array>
#include <memory>
#include <span>
#include <vector>

/// The DC answer of a network by modified nodal analysis (Ho, Ruehli, Brennan: "The modified nodal approach to network
/// analysis", IEEE Trans. Circuits and Systems 22, 1975), with the adjoint sensitivities of any reading (Director and
/// Rohrer, "The generalized adjoint network and network sensitivities", IEEE Trans. Circuit Theory 16, 1969).
namespace vicegrip::circuit {

/// What an instrument across two nodes shows, and how each element moves it.
struct Reading
{
    double value = 0; ///< V or Ohm
    std::vector<double> sensitivity; ///< d value / d element value, one per element

    /// Standard deviation from the elements' own: sqrt(sum (s * sigma)^2).
    [[nodiscard]] double sigma(const Network& network) const;
    /// Worst case from the elements' tolerances: sum |s| * tolerance.
    [[nodiscard]] double worstCase(const Network& network) const;
};

/// Where a meter's two leads are.
struct Probes
{
    Node red = kReference, black = kReference;
    bool operator==(const Probes&) const = default;
};

class Solution
{
  public:
    ~Solution();
    Solution(Solution&&) noexcept;
    Solution& operator=(Solution&&) noexcept;
    Solution(const Solution&) = delete;
    Solution& operator=(const Solution&) = delete;

    [[nodiscard]] const Network& network() const;

    /// V(a) - V(b).
    [[nodiscard]] double volts(Node a, Node b = kReference) const;

    /// The voltages a meter of `meterOhms` shows, one reading at a time; its loading is part of the answer. Several
    /// together are quicker than one by one.
    [[nodiscard]] std::vector<Reading> voltmeters(const std::vector<Probes>& probes, double meterOhms) const;

    [[nodiscard]] Reading voltmeter(Node red, Node black, double meterOhms) const
    {
        return voltmeters({{red, black}}, meterOhms).front();
    }

    /// The resistances between two nodes each, with every independent source dead (V = 0, I = 0 is only true of the
    /// right-hand side: leave voltage sources out of a network that is measured in ohms).
    [[nodiscard]] std::vector<Reading> ohmmeters(const std::vector<Probes>& probes) const;
    [[nodiscard]] Reading ohmmeter(Node red, Node black) const { return ohmmeters({{red, black}}).front(); }

    /// The parts that nothing ties to the reference, each as its nodes; each was tied to it by 1 GOhm so that it has an
    /// answer.
    [[nodiscard]] const std::vector<std::vector<Node>>& floating() const;

    struct Factors;

  private:
    friend Result<Solution> solve(Network network);
    friend class Sweep;
    friend class Columns;
    explicit Solution(std::unique_ptr<Factors> factors);
    std::unique_ptr<Factors> m_factors;
};

/// Solves. Errors (Network): an element on a node that does not exist, a value that is not a number or a resistance
/// below zero, voltage sources in a loop (they contradict each other, or share a current nothing decides), or a network
/// without one answer.
[[nodiscard]] Result<Solution> solve(Network network);

/// Voltages as a few elements take other values, without solving again: each change is of rank one, so the answer
/// follows from the first factors (Sherman, Morrison, Woodbury). Exact, not a linearisation.
class Sweep
{
  public:
    struct Output
    {
        Node a = 0;
        Node b = 0;
    };

    /// As many elements, and as many outputs, as one sweep takes.
    static constexpr size_t kMost = 4;
    using Values = std::array<double, kMost>;

    /// `varied` may hold resistors, voltage sources and controlled sources; current sources are not needed. What goes
    /// beyond kMost is left out.
    Sweep(const Solution& solution, const std::vector<ElementIndex>& varied, const std::vector<Output>& outputs);

    /// The outputs' voltages with the varied elements at `values` (same order as `varied`, at least as many).
    [[nodiscard]] Values at(std::span<const double> values) const;

  private:
    size_t m_count = 0, m_outputs = 0;
    std::array<Element::Kind, kMost> m_kind{};
    Values m_nominal{};
    std::array<Values, kMost> m_coupling{}; ///< w_i' A^-1 u_j
    Values m_drive{}; ///< w_i' x
    std::array<Values, kMost> m_transfer{}; ///< output_o' A^-1 u_j
    Values m_base{}; ///< output_o' x
};

} // namespace vicegrip::circuit
