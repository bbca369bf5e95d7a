#pragma once

#include "core/obd/codes.h"
#include "core/obd/segments.h"

#include <functional>
#include <map>
#include <set>
#include <string>

namespace vicegrip::obd {

/// A frame to or from a unit.
struct CanFrame
{
    std::uint32_t id = 0;
    bool extended = false; ///< 29 bits
    Bytes data;
};

/// Identifiers of ISO 15765-4: who asks all units, who answers, and who is answered with a flow control.
[[nodiscard]] std::uint32_t askAll(bool extended);
[[nodiscard]] bool isAnswer(std::uint32_t id, bool extended);
[[nodiscard]] std::uint32_t unitAsked(std::uint32_t answersFrom, bool extended);
/// As people write it: "7E8", or "10" of the 29 bits, whose last byte is the unit's.
[[nodiscard]] std::string unitName(std::uint32_t answersFrom);

/// The services that are asked for here (SAE J1979). An answer has 0x40 more.
inline constexpr std::uint8_t kValue = 0x01, kStored = 0x03, kClear = 0x04, kPending = 0x07, kAnswer = 0x40,
                              kRefused = 0x7F;
inline constexpr size_t kMostAsked = 6; ///< values in one question (SAE J1979 over CAN)
inline constexpr std::uint8_t kStillBusy = 0x78, kNotNow = 0x22; ///< reasons of a refusal

/// A unit that answers as it should: the bench's.
class Responder
{
  public:
    struct Unit
    {
        /// The bytes of a value; none where it has none.
        std::function<std::optional<Bytes>(std::uint8_t number)> value;
        std::set<std::uint8_t> numbers; ///< of the values it has
        std::vector<Code> stored, pending;
        bool clears = true; ///< it may be cleared now
    };
    Responder(std::uint32_t answersFrom, bool extended) : m_from(answersFrom), m_extended(extended) {}

    /// What it answers to a frame; a cleared unit has no codes any more.
    [[nodiscard]] std::vector<CanFrame> take(const CanFrame& frame, Unit& unit);

  private:
    [[nodiscard]] static std::optional<Bytes> answer(std::span<const std::uint8_t> request, Unit& unit);
    [[nodiscard]] static std::optional<Bytes> dataOf(std::uint8_t number, const Unit& unit);
    [[nodiscard]] CanFrame sent(Bytes data) const { return {m_from, m_extended, std::move(data)}; }

    std::uint32_t m_from;
    bool m_extended;
    Assembler m_asked;
    std::optional<Segmenter> m_answering;
};

} // namespace vicegrip::obd
