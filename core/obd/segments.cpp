#include "core/obd/segments.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace vicegrip::obd {
namespace {

constexpr size_t kFrame = 8;
constexpr std::uint8_t kFill = 0xCC; // bits that change often: fewer stuffed ones
enum Kind : std::uint8_t { kSingle = 0, kFirst = 1, kConsecutive = 2, kFlowControl = 3 };

tl::unexpected<Error> malformed(std::string sentence)
{
    return fail(ErrorCode::Malformed, std::move(sentence));
}

Bytes filled(Bytes frame)
{
    frame.resize(kFrame, kFill);
    return frame;
}

} // namespace

Bytes singleFrame(std::span<const std::uint8_t> message)
{
    Bytes frame = {static_cast<std::uint8_t>(std::min(message.size(), kFrame - 1))};
    const auto kept = message.first(std::min(message.size(), kFrame - 1));
    frame.insert(frame.end(), kept.begin(), kept.end());
    return filled(std::move(frame));
}

Bytes goOn()
{
    return filled({kFlowControl << 4, 0, 0});
}

Result<Assembler::Taken> Assembler::take(std::span<const std::uint8_t> frame)
{
    if (frame.empty())
        return malformed(phrase("a frame without a byte"));
    const int kind = frame[0] >> 4, low = frame[0] & 0xF;
    if (kind == kSingle) {
        giveUp();
        if (low == 0 || static_cast<size_t>(low) + 1 > std::min(frame.size(), kFrame))
            return malformed(phrase("a single frame of {} bytes says that it has {}", std::to_string(frame.size() - 1),
                                    std::to_string(low)));
        return Taken{Bytes(frame.begin() + 1, frame.begin() + 1 + low), false};
    }
    if (kind == kFirst) {
        giveUp();
        const size_t length = frame.size() < 2 ? 0 : static_cast<size_t>(low) << 8 | frame[1];
        if (frame.size() < kFrame || length < kFrame) // what fits one frame comes in one; 0 begins what is longer
            return malformed(phrase("a first frame of {} bytes begins a message of {}", std::to_string(frame.size()),
                                    std::to_string(length)));
        m_length = length;
        m_next = 1;
        m_message.assign(frame.begin() + 2, frame.begin() + kFrame);
        return Taken{std::nullopt, true};
    }
    if (kind == kConsecutive) {
        if (m_length == 0)
            return malformed(phrase("a frame goes on with a message that nobody began"));
        if (low != m_next) {
            const std::string due = std::to_string(m_next);
            giveUp();
            return malformed(phrase("frame {} came where {} was due", std::to_string(low), due));
        }
        const size_t wanted = std::min(kFrame - 1, m_length - m_message.size());
        if (frame.size() < wanted + 1) {
            giveUp();
            return malformed(phrase("a frame is too short for what is left of its message"));
        }
        m_message.insert(m_message.end(), frame.begin() + 1, frame.begin() + 1 + static_cast<std::ptrdiff_t>(wanted));
        m_next = (m_next + 1) & 0xF;
        if (m_message.size() < m_length)
            return Taken{};
        m_length = 0;
        return Taken{std::move(m_message), false};
    }
    if (kind == kFlowControl)
        return Taken{}; // to another
    return malformed(phrase("a frame of a kind that there is not"));
}

Bytes Segmenter::first()
{
    if (m_message.size() < kFrame) {
        m_at = m_message.size();
        return singleFrame(m_message);
    }
    Bytes frame = {static_cast<std::uint8_t>(kFirst << 4 | (m_message.size() >> 8 & 0xF)),
                   static_cast<std::uint8_t>(m_message.size() & 0xFF)};
    m_at = kFrame - 2;
    frame.insert(frame.end(), m_message.begin(), m_message.begin() + static_cast<std::ptrdiff_t>(m_at));
    return frame;
}

std::vector<Bytes> Segmenter::after(std::span<const std::uint8_t> flowControl)
{
    std::vector<Bytes> out;
    if (flowControl.size() < 3 || flowControl[0] != kFlowControl << 4) // 1: wait, 2: overflow
        return out;
    const size_t most = flowControl[1] == 0 ? kLongestMessage : flowControl[1];
    while (!isDone() && out.size() < most) {
        const size_t count = std::min(kFrame - 1, m_message.size() - m_at);
        const auto from = m_message.begin() + static_cast<std::ptrdiff_t>(m_at);
        Bytes frame = {static_cast<std::uint8_t>(kConsecutive << 4 | m_number)};
        frame.insert(frame.end(), from, from + static_cast<std::ptrdiff_t>(count));
        out.push_back(filled(std::move(frame)));
        m_at += count;
        m_number = (m_number + 1) & 0xF;
    }
    return out;
}

} // namespace vicegrip::obd
