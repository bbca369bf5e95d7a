#pragma once

#include <memory>
#include <optional>
#include <span>
#include <utility>
#include <vector>

struct glp_prob;

/// Unknowns whose worst error is least: a linear programme that grows a demand at a time (GLPK, dual simplex).
///
///     LeastWorst line(2);                                 // offset and slope
///     line.approach({{0, 1}, {1, x}}, y);                 // for every (x, y)
///     const auto best = line.solved();                    // none when the programme has no answer
///
/// Values near 0 to 1 suit the solver's tolerances.
namespace vicegrip::fit {

class LeastWorst
{
  public:
    using Terms = std::vector<std::pair<int, double>>; ///< unknown, from 0, and its factor

    explicit LeastWorst(int unknowns);

    /// The sum of the terms is to be `value`; by how much it may be off is what is made least.
    void approach(const Terms& terms, double value);
    /// The sum of the terms must not be below `least`.
    void demand(const Terms& terms, double least);

    [[nodiscard]] std::optional<std::vector<double>> solved();

  private:
    void add(const Terms& terms, double offFactor, int bound, double limit);

    std::unique_ptr<glp_prob, void (*)(glp_prob*)> m_problem;
    int m_unknowns;
};

} // namespace vicegrip::fit
