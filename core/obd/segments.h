#pragma once

#include "core/base/result.h"

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

/// Messages of up to 4095 bytes in frames of eight (ISO 15765-2: single, first and consecutive frames, flow control).
namespace vicegrip::obd {

using Bytes = std::vector<std::uint8_t>;

inline constexpr size_t kLongestMessage = 4095;

/// A message of one to seven bytes as one frame, filled up to eight.
[[nodiscard]] Bytes singleFrame(std::span<const std::uint8_t> message);
/// "Go on, without pauses": what who hears a first frame answers.
[[nodiscard]] Bytes goOn();

/// Puts the frames of one sender together.
class Assembler
{
  public:
    struct Taken
    {
        std::optional<Bytes> message; ///< complete
        bool asksToGoOn = false; ///< a flow control is due
    };
    /// Malformed: a length that cannot be, a frame out of turn, one that nobody began. What was begun is given up then.
    [[nodiscard]] Result<Taken> take(std::span<const std::uint8_t> frame);
    [[nodiscard]] bool isOpen() const { return m_length > 0; } ///< more frames are to come
    void giveUp() { m_length = 0; }

  private:
    Bytes m_message;
    size_t m_length = 0; ///< that it is to have; 0: nothing was begun
    std::uint8_t m_next = 0; ///< the number its next frame must have
};

/// Takes a message apart for who answers: the first frame at once, the rest as the other side lets it.
class Segmenter
{
  public:
    explicit Segmenter(Bytes message) : m_message(std::move(message)) {}

    /// The single or the first frame.
    [[nodiscard]] Bytes first();
    /// What may be sent after a flow control; empty where it says wait, or is none, or all was sent.
    [[nodiscard]] std::vector<Bytes> after(std::span<const std::uint8_t> flowControl);
    [[nodiscard]] bool isDone() const { return m_at >= m_message.size(); }

  private:
    Bytes m_message;
    size_t m_at = 0;
    std::uint8_t m_number = 1;
};

} // namespace vicegrip::obd
