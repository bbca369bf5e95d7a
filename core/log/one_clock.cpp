#include "core/log/one_clock.h"

#include <cmath>

namespace vicegrip::log {
namespace {

constexpr double kMidnight_s = 86400;
constexpr double kLate_s = 2; ///< of a row that was written late
constexpr double kGap_s = 1; ///< between one log and the next
constexpr double kNear = 0.02; ///< of a wrap: what may have been missed about it

} // namespace

/// What a counter goes back by when it wraps.
std::optional<double> OneClock::wrapOf(double back_s) const
{
    if (m_ofDay && back_s > kMidnight_s / 2)
        return kMidnight_s;
    for (const int bits : {16, 31, 32}) {
        const double wrap_s = std::ldexp(m_tick_s, bits);
        if (m_tick_s < 1 && back_s <= wrap_s && back_s > wrap_s * (1 - kNear))
            return wrap_s;
    }
    return std::nullopt;
}

OneClock::At OneClock::at(double told_s, bool anew)
{
    if (!m_any) {
        m_any = true;
        m_offset_s = -told_s;
        return {};
    }
    At out{told_s + m_offset_s};
    const double back_s = m_latest_s - out.time_s;
    if (back_s > 0 || anew) {
        if (const auto wrap = anew ? std::nullopt : wrapOf(back_s)) {
            m_offset_s += *wrap;
            out = {told_s + m_offset_s, What::Wraps};
        } else if (!anew && back_s <= kLate_s && out.time_s >= 0) {
            out.what = What::Late;
            return out;
        } else if (back_s > 0) {
            m_offset_s += back_s + kGap_s;
            out = {told_s + m_offset_s, What::BeginsAnew};
        } else {
            out.what = What::BeginsAnew;
        }
    }
    m_latest_s = out.time_s;
    return out;
}

} // namespace vicegrip::log
