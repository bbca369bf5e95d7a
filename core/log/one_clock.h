#pragma once

#include <cstddef>
#include <optional>

namespace vicegrip::log {

/// Puts the times of rows on one clock that begins with 0 at the first: counters that wrap (16, 31 and 32 bits, signed
/// or not), midnights, logs that begin anew.
class OneClock
{
  public:
    enum class What { Goes, Late, Wraps, BeginsAnew };
    struct At
    {
        double time_s = 0;
        What what =
            What::Goes; ///< Late: a little before the row above, as where two rates are written between each other
    };

    /// `tick_s` is the unit of a counter; `ofDay`: the times are of a clock that goes back to 0 at midnight.
    OneClock(double tick_s, bool ofDay) : m_tick_s(tick_s), m_ofDay(ofDay) {}

    /// The row's time. `anew`: a header stands above it.
    At at(double told_s, bool anew);

  private:
    [[nodiscard]] std::optional<double> wrapOf(double back_s) const;

    double m_tick_s;
    bool m_ofDay, m_any = false;
    double m_offset_s = 0, m_latest_s = 0;
};

} // namespace vicegrip::log
