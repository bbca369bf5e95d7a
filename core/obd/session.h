#pragma once

#include "core/obd/described.h"
#include "core/obd/responder.h"
#include "core/obd/values.h"

#include <deque>
#include <string>
#include <utility>

namespace vicegrip::obd {

/// What one unit has said of itself.
struct UnitSaid
{
    struct Value
    {
        double value = 0, time_s = 0; ///< in the standard's unit; when it came
    };
    std::set<std::uint8_t> supported; ///< values it has
    std::map<std::uint8_t, Value> values;
    std::vector<Code> stored, pending;
    bool codesRead = false; ///< at least once
};

/// Asks the units on a bus for their values and codes, one question at a time and no oftener than ten in a second, and
/// keeps what they answer. A question is for up to six values, or for one where the units do not answer six. It has no
/// clock and no bus: whoever has both calls `poll` some fifty times a second and sends what it gives. Who never calls
/// it listens to what is answered to another.
class Session
{
  public:
    /// What is due to be sent now.
    [[nodiscard]] std::vector<CanFrame> poll(double now_s);
    /// Takes a frame of the bus; what must be sent at once because of it. Frames of others are passed by.
    [[nodiscard]] std::vector<CanFrame> take(double now_s, const CanFrame& frame);

    /// Values that came since this was called last, each as a frame of `described()`. What several units say of the
    /// same thing is taken of the first of them: that is the engine's (ISO 15765-4, common practice).
    [[nodiscard]] std::vector<Bytes> takeTold() { return std::exchange(m_told, {}); }

    /// Asks for the codes again.
    void readCodes();
    /// Tells all units to forget their codes. This also resets what they have learnt of their own readiness.
    void clearCodes();

    [[nodiscard]] const std::map<std::uint32_t, UnitSaid>& units() const { return m_units; } ///< by who answers
    [[nodiscard]] bool isFound() const { return !m_units.empty(); }
    [[nodiscard]] bool extended() const { return m_extended; } ///< 29 bits
    /// What went wrong in the last ten seconds; empty: nothing did.
    [[nodiscard]] const std::string& trouble() const { return m_trouble; }
    /// How many units have forgotten their codes since that was asked, and how many refused.
    [[nodiscard]] int cleared() const { return m_cleared; }
    [[nodiscard]] int refused() const { return m_refused; }

  private:
    void hear(double now_s, std::uint32_t from, const Bytes& message);
    void hearValues(double now_s, std::uint32_t from, std::span<const std::uint8_t> said);
    void hearValue(double now_s, std::uint32_t from, const Parameter& parameter, std::span<const std::uint8_t> data);
    void seeWhoAnswered();
    void complain(double now_s, std::string sentence);
    void hearRefusal(double now_s, const Bytes& message);
    void askMasks(std::uint32_t from, std::uint8_t base, const std::set<std::uint8_t>& has);
    [[nodiscard]] std::optional<Bytes> next();
    [[nodiscard]] bool isWaiting(double now_s) const;

    std::map<std::uint32_t, UnitSaid> m_units;
    std::map<std::uint32_t, Assembler> m_frames; ///< by who sends
    std::deque<Bytes> m_due; ///< questions before the values' turn
    std::vector<Bytes> m_told;
    std::set<std::uint8_t> m_unanswered; ///< of the values that were asked for last
    size_t m_atOnce = kMostAsked; ///< values in one question
    int m_short = 0; ///< questions in a row whose answers had not all of it
    std::uint8_t m_lastValue = 0; ///< whose turn it was
    double m_asked_s = -1e9, m_heard_s = -1e9, m_busyUntil_s = -1e9, m_trouble_s = -1e9;
    bool m_extended = false, m_looked = false;
    bool m_asks = false; ///< else it only listens
    std::string m_trouble;
    int m_cleared = 0, m_refused = 0;
};

} // namespace vicegrip::obd
