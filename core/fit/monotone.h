#pragma once

#include "core/base/result.h"

#include <vector>

/// A smooth curve through readings of a sensor whose output is bent, that neither overshoots nor turns back between
/// them.
namespace vicegrip::fit {

class Monotone
{
  public:
    struct Breakpoint
    {
        double x = 0, y = 0;
    };

    /// Errors (Range): fewer than two breakpoints, two of the same x.
    [[nodiscard]] static Result<Monotone> through(std::vector<Breakpoint> breakpoints);

    /// The value at x; beyond the ends the end's own.
    [[nodiscard]] double at(double x) const;

    [[nodiscard]] const std::vector<Breakpoint>& breakpoints() const { return m_breakpoints; } ///< by rising x

  private:
    std::vector<Breakpoint> m_breakpoints;
    std::vector<double> m_slopes;
};

} // namespace vicegrip::fit
