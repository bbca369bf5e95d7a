#include "core/trigger/edges.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace vicegrip::trigger {
namespace {

constexpr double kBeyond = 0.002; // of the time it is at a level or beyond it
constexpr std::size_t kBlock = 64; // samples that are looked at together

struct Extent
{
    double low_v = 0, high_v = 0;
};

/// Where it is for all but kBeyond of the time at each end, by a histogram of its whole range.
std::optional<Extent> extentOf(std::span<const float> volts)
{
    constexpr std::size_t kBins = 4096, kMost = 1 << 22;
    const std::size_t stride = volts.size() / kMost + 1;
    float least = 0, most = 0;
    bool any = false;
    for (std::size_t i = 0; i < volts.size(); i += stride)
        if (std::isfinite(volts[i])) {
            least = any ? std::min(least, volts[i]) : volts[i];
            most = any ? std::max(most, volts[i]) : volts[i];
            any = true;
        }
    if (!any || !(most > least))
        return std::nullopt;
    const double width = (static_cast<double>(most) - least) / kBins;
    std::array<std::size_t, kBins> bins{};
    std::size_t all = 0;
    for (std::size_t i = 0; i < volts.size(); i += stride)
        if (std::isfinite(volts[i])) {
            ++bins[std::min(kBins - 1, static_cast<std::size_t>((static_cast<double>(volts[i]) - least) / width))];
            ++all;
        }
    const double beyond = kBeyond * static_cast<double>(all);
    std::size_t low = 0, high = kBins - 1;
    for (double seen = static_cast<double>(bins[low]); seen <= beyond && low < high;)
        seen += static_cast<double>(bins[++low]);
    for (double seen = static_cast<double>(bins[high]); seen <= beyond && high > low;)
        seen += static_cast<double>(bins[--high]);
    const Extent out{least + width * (static_cast<double>(low) + 0.5),
                     least + width * (static_cast<double>(high) + 0.5)};
    return out.high_v > out.low_v ? std::optional(out) : std::nullopt;
}

} // namespace

std::optional<Levels> levelsOf(std::span<const float> volts)
{
    constexpr double kThird = 1.0 / 3;
    const auto e = extentOf(volts);
    if (!e)
        return std::nullopt;
    return Levels{std::lerp(e->low_v, e->high_v, kThird), std::lerp(e->low_v, e->high_v, 2 * kThird),
                  std::midpoint(e->low_v, e->high_v)};
}

std::optional<Levels> coilLevels(std::span<const float> volts)
{
    constexpr double kArmed = 0.3; // of the smaller peak (typical)
    const auto e = extentOf(volts);
    if (!e || !(e->low_v < 0 && e->high_v > 0))
        return std::nullopt;
    const double armed = kArmed * std::min(-e->low_v, e->high_v);
    return Levels{-armed, armed, 0};
}

EdgeFinder::EdgeFinder(const Levels& levels, double began_s, double step_s)
    : m_levels(levels), m_began_s(began_s), m_step_s(step_s)
{
}

void EdgeFinder::step(float before, float now, std::vector<Edge>& out)
{
    const double middle = m_levels.middle_v;
    if (before < middle && now >= middle)
        m_up_s = timeAt((middle - before) / (static_cast<double>(now) - before));
    else if (before >= middle && now < middle)
        m_down_s = timeAt((middle - before) / (static_cast<double>(now) - before));
    if (now > m_levels.high_v && m_state != State::High) {
        if (m_state == State::Low && m_up_s)
            out.push_back({*m_up_s, true});
        m_state = State::High;
    } else if (now < m_levels.low_v && m_state != State::Low) {
        if (m_state == State::High && m_down_s)
            out.push_back({*m_down_s, false});
        m_state = State::Low;
    }
}

void EdgeFinder::take(std::span<const float> volts, std::vector<Edge>& out)
{
    const auto middle = static_cast<float>(m_levels.middle_v);
    for (std::size_t from = 0; from < volts.size();) {
        const auto block = volts.subspan(from, std::min(kBlock, volts.size() - from));
        // A block that stays where the signal is on one side of the middle has no edge: most are such.
        const bool high = m_state == State::High && m_last >= middle, low = m_state == State::Low && m_last < middle;
        bool quiet = high || low;
        if (high) {
            float least = block[0];
            for (const float v : block)
                least = v < least ? v : least;
            quiet = least >= middle;
        } else if (low) {
            float most = block[0];
            for (const float v : block)
                most = v > most ? v : most;
            quiet = most < middle;
        }
        if (quiet) {
            m_index += block.size();
            m_last = block.back();
        } else {
            for (const float now : block) {
                if (std::isfinite(now)) {
                    if (m_index == 0)
                        m_last = now;
                    step(m_last, now, out);
                    m_last = now;
                }
                ++m_index;
            }
        }
        from += block.size();
    }
}

std::vector<Edge> edgesIn(std::span<const float> volts, const Levels& levels, double step_s)
{
    std::vector<Edge> out;
    EdgeFinder(levels, 0, step_s).take(volts, out);
    return out;
}

std::vector<Edge> edgesOfChanges(std::span<const double> changes_s, std::span<const float> volts, const Levels& levels)
{
    std::vector<Edge> out;
    std::optional<bool> high;
    for (std::size_t i = 0; i < std::min(changes_s.size(), volts.size()); ++i) {
        const bool up = volts[i] > levels.high_v;
        if (!up && !(volts[i] < levels.low_v))
            continue;
        if (high && *high != up)
            out.push_back({changes_s[i], up});
        high = up;
    }
    return out;
}

std::vector<double> timesOf(std::span<const Edge> edges, bool rising)
{
    std::vector<double> out;
    for (const Edge& e : edges)
        if (e.rising == rising)
            out.push_back(e.time_s);
    return out;
}

} // namespace vicegrip::trigger
