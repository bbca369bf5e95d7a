#pragma once

#include "core/hand_test/due.h"
#include "core/trigger/wheel.h"

#include <optional>
#include <vector>

namespace vicegrip::hand_test {

/// Tooth by tooth through one turn: told by a meter that goes from a gap to a tooth, or by whoever stands there and
/// sees metal before the sensor.
class Count
{
  public:
    explicit Count(trigger::Wheel wheel) : m_wheel(std::move(wheel)) {}

    [[nodiscard]] const trigger::Wheel& wheel() const { return m_wheel; }
    [[nodiscard]] size_t due() const { return m_seen.size(); } ///< the tooth that comes next, from 0
    [[nodiscard]] bool isFull() const { return m_seen.size() >= m_wheel.teeth.size(); }
    [[nodiscard]] const std::vector<bool>& seen() const { return m_seen; } ///< of those that have passed
    [[nodiscard]] std::vector<int> missed() const; ///< by number from 1

    /// The tooth that is due stands before the sensor, and its signal is low, or it is not. Nothing after a full turn.
    void mark(bool seen);
    void takeBack(); ///< the last one

    /// A reading, in the order of time: a tooth after a gap is marked as seen.
    Shown take(const Due& due, double volts);

    [[nodiscard]] std::optional<double> tooth_v() const { return m_tooth_v; } ///< the highest of a tooth
    [[nodiscard]] std::optional<double> gap_v() const { return m_gap_v; } ///< the lowest of a gap

  private:
    trigger::Wheel m_wheel;
    std::vector<bool> m_seen;
    bool m_low = false; ///< it was, when it was read last
    std::optional<double> m_tooth_v, m_gap_v;
};

/// The angle of the wheel with the middle of a tooth (from 0) before the sensor, or of the gap before that one.
[[nodiscard]] double middleOf(const trigger::Wheel& wheel, size_t tooth, bool onTooth);

/// "tooth 17, 160° after the first": where one is, in degrees of the crank.
[[nodiscard]] std::string toothText(const trigger::Wheel& wheel, int number);

/// What missed teeth say, and what hands do about it; empty: none is missed.
[[nodiscard]] std::string missedText(const trigger::Wheel& wheel, const std::vector<int>& missed);

} // namespace vicegrip::hand_test
