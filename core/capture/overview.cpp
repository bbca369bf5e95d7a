#include "core/capture/overview.h"

#include <algorithm>

namespace vicegrip::capture {
namespace {

constexpr std::size_t kFirst = 64, kNext = 8;

void widen(Overview::Extent& extent, const Overview::Extent& by)
{
    extent.low = std::min(extent.low, by.low);
    extent.high = std::max(extent.high, by.high);
}

} // namespace

Overview::Overview(std::span<const float> volts) : m_volts(volts)
{
    std::vector<Extent> level;
    level.reserve(volts.size() / kFirst + 1);
    for (std::size_t i = 0; i < volts.size(); i += kFirst) {
        const auto block = volts.subspan(i, std::min(kFirst, volts.size() - i));
        Extent extent{block.front(), block.front()};
        for (const float v : block) { // two comparisons each: these are vectors to the compiler
            extent.low = v < extent.low ? v : extent.low;
            extent.high = v > extent.high ? v : extent.high;
        }
        level.push_back(extent);
    }
    while (level.size() > 1) {
        std::vector<Extent> above;
        above.reserve(level.size() / kNext + 1);
        for (std::size_t i = 0; i < level.size(); ++i)
            if (i % kNext == 0)
                above.push_back(level[i]);
            else
                widen(above.back(), level[i]);
        m_levels.push_back(std::move(level));
        level = std::move(above);
    }
    m_levels.push_back(std::move(level));
}

Overview::Extent Overview::of(std::size_t first, std::size_t last) const
{
    if (m_volts.empty())
        return {};
    first = std::min(first, m_volts.size() - 1);
    last = std::clamp(last, first + 1, m_volts.size());
    Extent out{m_volts[first], m_volts[first]};
    std::size_t width = kFirst; // of one entry
    std::size_t level = 0;
    std::size_t at = first;
    for (; at < last && at % kFirst != 0; ++at)
        widen(out, {m_volts[at], m_volts[at]});
    while (at < last) { // up while whole entries fit, and down again
        while (level + 1 < m_levels.size() && at % (width * kNext) == 0 && at + width * kNext <= last) {
            width *= kNext;
            ++level;
        }
        while (width > kFirst && at + width > last) {
            width /= kNext;
            --level;
        }
        if (at + width > last)
            break;
        widen(out, m_levels[level][at / width]);
        at += width;
    }
    for (; at < last; ++at)
        widen(out, {m_volts[at], m_volts[at]});
    return out;
}

} // namespace vicegrip::capture
