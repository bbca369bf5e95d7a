#include "core/hand_test/count.h"

#include "core/base/phrase.h"
#include "core/units/units.h"

#include <algorithm>

namespace vicegrip::hand_test {

std::vector<int> Count::missed() const
{
    std::vector<int> out;
    for (size_t i = 0; i < m_seen.size(); ++i)
        if (!m_seen[i])
            out.push_back(static_cast<int>(i) + 1);
    return out;
}

void Count::mark(bool seen)
{
    if (!isFull())
        m_seen.push_back(seen);
}

void Count::takeBack()
{
    if (!m_seen.empty())
        m_seen.pop_back();
}

Shown Count::take(const Due& due, double volts)
{
    const Shown shown = shownBy(due, volts);
    if (shown == Shown::Tooth) {
        if (!m_low)
            mark(true);
        m_tooth_v = std::max(m_tooth_v.value_or(volts), volts);
    } else if (shown == Shown::Gap) {
        m_gap_v = std::min(m_gap_v.value_or(volts), volts);
    }
    if (shown != Shown::Neither) // between two levels it is still the one it was
        m_low = shown == Shown::Tooth;
    return shown;
}

double middleOf(const trigger::Wheel& wheel, size_t tooth, bool onTooth)
{
    const trigger::Tooth& t = wheel.teeth[tooth];
    if (onTooth)
        return (t.from_deg + t.to_deg) / 2;
    const size_t before = (tooth + wheel.teeth.size() - 1) % wheel.teeth.size();
    const double ended = wheel.teeth[before].to_deg - (before >= tooth ? wheel.turn_deg : 0);
    return (ended + t.from_deg) / 2;
}

std::string toothText(const trigger::Wheel& wheel, int number)
{
    const auto& teeth = wheel.teeth;
    const double from = teeth.front().from_deg, at = teeth[static_cast<size_t>(number) - 1].from_deg - from;
    return number == 1 ? phrase("tooth 1, the first after the gap")
                       : phrase("tooth {}, {}° after the first", std::to_string(number), units::formatNumber(at, 0));
}

std::string missedText(const trigger::Wheel& wheel, const std::vector<int>& missed)
{
    const auto teeth = wheel.teeth.size();
    if (missed.empty())
        return {};
    if (missed.size() >= teeth)
        return phrase("No tooth is seen. Look, in this order: its supply at the plug; supply and ground exchanged; a "
                      "tooth that does not pass under the strip in its face; the air gap.");
    const bool inARow = missed.back() - missed.front() + 1 == static_cast<int>(missed.size());
    if (missed.size() == 1)
        return phrase("Not seen: {}. Look at that tooth: chipped, bent or dirty, or the gap is too wide right there.",
                      toothText(wheel, missed.front()));
    if (inARow)
        return phrase(
            "Not seen: teeth {} to {} in a row. The wheel stands farther away there: feelers at four places of "
            "a turn say how far it runs out.",
            std::to_string(missed.front()), std::to_string(missed.back()));
    return phrase("Not seen: {} teeth here and there. The gap is at its limit: turn the sensor in, then count again.",
                  std::to_string(missed.size()));
}

} // namespace vicegrip::hand_test
