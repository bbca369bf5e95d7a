#include "core/wiggle/watch.h"

#include "core/base/median.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace vicegrip::wiggle {
namespace {

constexpr size_t kUsual = 50, kEnough = 25; // a second of an ECU that sends fifty times a second, and half of one
constexpr double kTrace_s = 60;
// Shorter gaps are of the bus, or of who sends: an ECU that lost its power takes longer to speak again (typical).
constexpr double kSilence_s = 0.5, kSilentPeriods = 5;
constexpr double kCatchUp_s = 0.05; // what waited while we did not listen comes at once
constexpr double kStays_s = 10; // that long is another level, and no drop-out
constexpr double kLettingGo_s = 0.5;
constexpr double kFar = 8, kNormal = 1.4826; // standard deviations; of one in a median absolute deviation

} // namespace

bool Watch::isOff(double reading) const
{
    return m_steady && std::abs(reading - *m_steady) > std::max(m_grain, kFar * m_noise);
}

void Watch::hear(double at_s, double reading)
{
    judgeSilence(at_s);
    if (m_last_s && at_s > *m_last_s) {
        const double gap = at_s - *m_last_s;
        if (m_period_s > 0 && gap > std::max(kSilence_s, kSilentPeriods * m_period_s) && m_steady && !m_out)
            m_silence = {{*m_last_s, at_s, *m_steady, {}, movedAt(*m_last_s)}, m_period_s, 0};
        else if (m_steady && !m_out)
            m_seconds[m_hands] += gap;
        m_period_s = m_period_s == 0 ? gap : std::min(2 * m_period_s, m_period_s + (gap - m_period_s) / 8);
    }
    m_last_s = at_s;
    m_trace.push_back({at_s, reading});
    while (m_trace.front().at_s < at_s - kTrace_s)
        m_trace.pop_front();
    m_least = std::min(m_least.value_or(reading), reading);
    m_most = std::max(m_most.value_or(reading), reading);
    if (!isOff(reading)) {
        if (m_out)
            end(at_s);
        learn(reading);
        return;
    }
    if (!m_out)
        m_out = {at_s, at_s, *m_steady, reading, movedAt(at_s)};
    if (std::abs(reading - m_out->steady) > std::abs(*m_out->deepest - m_out->steady))
        m_out->deepest = reading;
    if (at_s - m_out->from_s > kStays_s) { // it has another level now, or had one when all began
        m_out.reset();
        m_usual.clear();
        m_steady.reset();
        learn(reading);
    }
}

/// A window that stalls hears nothing either; but then all that was sent meanwhile comes at once.
void Watch::judgeSilence(double at_s)
{
    if (!m_silence)
        return;
    ++m_silence->heardSince;
    if (at_s < m_silence->gap.to_s + kCatchUp_s)
        return;
    const double due = (kCatchUp_s + 0.5 * (m_silence->gap.to_s - m_silence->gap.from_s)) / m_silence->period_s;
    if (static_cast<double>(m_silence->heardSince) < due)
        m_dropOuts.push_back(m_silence->gap);
    m_silence.reset();
}

void Watch::learn(double reading)
{
    m_usual.push_back(reading);
    if (m_usual.size() > kUsual)
        m_usual.pop_front();
    if (m_usual.size() < kEnough)
        return;
    m_steady = median({m_usual.begin(), m_usual.end()});
    std::vector<double> off;
    for (const double r : m_usual)
        off.push_back(std::abs(r - *m_steady));
    m_noise = kNormal * median(std::move(off));
}

void Watch::end(double at_s)
{
    m_out->to_s = at_s;
    m_dropOuts.push_back(*m_out);
    m_out.reset();
}

void Watch::handsAt(double at_s, std::optional<size_t> hold)
{
    m_handsBefore = std::exchange(m_hands, hold);
    m_handsSince_s = at_s;
    m_marks.push_back({at_s, hold});
}

std::optional<size_t> Watch::movedAt(double at_s) const
{
    return !m_hands && at_s < m_handsSince_s + kLettingGo_s ? m_handsBefore : m_hands;
}

void Watch::pause()
{
    m_last_s.reset();
    m_out.reset();
    m_silence.reset();
}

std::optional<double> Watch::outSince() const
{
    return m_out ? std::optional(m_out->from_s) : std::nullopt;
}

double Watch::seconds(std::optional<size_t> hold) const
{
    const auto it = m_seconds.find(hold);
    return it == m_seconds.end() ? 0 : it->second;
}

double Watch::seconds() const
{
    double out = 0;
    for (const auto& [hold, s] : m_seconds)
        out += s;
    return out;
}

} // namespace vicegrip::wiggle
