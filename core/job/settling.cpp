#include "core/job/settling.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::job {

bool isSettled(std::span<const Reading> readings, const Meter& meter)
{
    if (readings.size() < kSettled)
        return false;
    const auto last = readings.last(kSettled);
    const auto beyond = std::ranges::count_if(last, [](const Reading& r) { return !r.quantity(); });
    if (beyond > 0)
        return beyond == static_cast<std::ptrdiff_t>(kSettled);
    const auto [least, most] = std::ranges::minmax(last, {}, &Reading::si);
    const bool volts = least.dimension() == units::Dimension::Voltage;
    const double error =
        (volts ? meter.voltsShare : meter.ohmsShare) * std::max(std::abs(least.si()), std::abs(most.si())) +
        (volts ? meter.volts_v : meter.ohms_ohm);
    return most.si() - least.si() <= error;
}

} // namespace vicegrip::job
