#include "app/live/latest.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::app {

void Latest::hear(const stream::Heard& heard)
{
    auto& told = m_told[heard.input][static_cast<size_t>(heard.tells)];
    if (std::isfinite(heard.value))
        told = Told{heard.value, heard.time_s};
    else
        told.reset();
}

std::optional<InputNow> Latest::sample(int input, double now_s) const
{
    const auto told = m_told.constFind(input);
    if (told == m_told.cend())
        return std::nullopt;
    const auto fresh = [&](job::Tells what) -> std::optional<double> {
        const auto& t = (*told)[static_cast<size_t>(what)];
        return t && now_s - t->time_s <= kFresh_s ? std::optional(t->value) : std::nullopt;
    };
    using enum job::Tells;
    const InputNow out{fresh(Volts), fresh(Value), fresh(Counts), fresh(Hertz), fresh(LowTime)};
    return out.volts || out.value || out.counts || out.hertz ? std::optional(out) : std::nullopt;
}

std::optional<double> Latest::staleFor_s(int input, std::initializer_list<job::Tells> kinds, double now_s) const
{
    const auto told = m_told.constFind(input);
    if (told == m_told.cend())
        return std::nullopt;
    std::optional<double> last;
    for (const job::Tells kind : kinds)
        if (const auto& t = (*told)[static_cast<size_t>(kind)])
            last = std::max(last.value_or(t->time_s), t->time_s);
    return last && now_s - *last > kFresh_s ? std::optional(now_s - *last) : std::nullopt;
}

} // namespace vicegrip::app
