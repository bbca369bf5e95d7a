#pragma once

#include <array>
#include <cstddef>
#include <span>
#include <vector>

namespace vicegrip::trigger {

/// When an edge is due: where the cubic through the two before it and the two after it puts it, over the angles of the
/// wheel (Lagrange's form). A speed that rises, or swings with every compression, makes little of it; an edge that is
/// taken for another tooth makes half a step.
class Due
{
  public:
    /// `steps`: from each edge of the wheel to the next, round its turn.
    explicit Due(std::span<const double> steps);

    [[nodiscard]] std::size_t teeth() const { return m_weights.size(); }

    /// How far the middle of five edges is off, if it is this tooth: as a share of the mean of the two steps beside it.
    [[nodiscard]] double off(std::span<const double, 5> times_s, std::size_t tooth) const;

  private:
    std::vector<std::array<double, 4>> m_weights; ///< of the four round each tooth
};

} // namespace vicegrip::trigger
