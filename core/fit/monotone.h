#pragma once

#include "core/base/result.h"

#include <vector>

/// A smooth curve through readings of a sender that neither overshoots nor turns back between them.
namespace vicegrip::fit {

class Monotone
{
  public:
    struct Knot
    {
        double x = 0, y = 0;
    };

    /// Errors (Range): fewer than two knots, two of the same x.
    [[nodiscard]] static Result<Monotone> through(std::vector<Knot> knots);

    /// The value at x; beyond the ends the end's own.
    [[nodiscard]] double at(double x) const;

    [[nodiscard]] const std::vector<Knot>& knots() const { return m_knots; } ///< by rising x

  private:
    std::vector<Knot> m_knots;
    std::vector<double> m_slopes;
};

} // namespace vicegrip::fit
