#include "core/obd/responder.h"

#include "core/obd/values.h"

namespace vicegrip::obd {
namespace {

// ISO 15765-4: identifiers of requests and answers.
constexpr std::uint32_t kAskAll = 0x7DF, kFirstAnswer = 0x7E8, kLastAnswer = 0x7EF, kAskedBelow = 8;
constexpr std::uint32_t kAskAllLong = 0x18DB33F1, kAnswerLong = 0x18DAF100, kAskLong = 0x18DA00F1;

/// Codes as an answer has them: how many, then each.
Bytes listed(std::uint8_t service, const std::vector<Code>& codes)
{
    Bytes out = {static_cast<std::uint8_t>(service + kAnswer), static_cast<std::uint8_t>(codes.size())};
    for (const Code code : codes) {
        out.push_back(static_cast<std::uint8_t>(code.raw >> 8));
        out.push_back(static_cast<std::uint8_t>(code.raw & 0xFF));
    }
    return out;
}

} // namespace

std::uint32_t askAll(bool extended)
{
    return extended ? kAskAllLong : kAskAll;
}

bool isAnswer(std::uint32_t id, bool extended)
{
    return extended ? (id & ~0xFFU) == kAnswerLong : id >= kFirstAnswer && id <= kLastAnswer;
}

std::uint32_t unitAsked(std::uint32_t answersFrom, bool extended)
{
    return extended ? kAskLong | (answersFrom & 0xFF) << 8 : answersFrom - kAskedBelow;
}

std::optional<Bytes> Responder::answer(std::span<const std::uint8_t> request, Unit& unit) const
{
    const std::uint8_t service = request[0];
    if (service == kValue && request.size() == 2) {
        const std::uint8_t number = request[1];
        Bytes out = {kValue + kAnswer, number};
        std::optional<Bytes> data;
        if (number % 0x20 == 0) {
            std::set<std::uint8_t> has = unit.numbers;
            for (int base = 0xC0; base > 0; base -= 0x20) // a mask is there where something is behind it
                if (!has.empty() && *has.rbegin() > base)
                    has.insert(static_cast<std::uint8_t>(base));
            if (number == 0 || has.contains(number))
                data = maskOf(number, has);
        } else if (unit.numbers.contains(number)) {
            data = unit.value(number);
        }
        if (!data)
            return std::nullopt; // to a question to all who has nothing says nothing
        out.insert(out.end(), data->begin(), data->end());
        return out;
    }
    if (request.size() != 1)
        return std::nullopt;
    if (service == kStored || service == kPending)
        return listed(service, service == kStored ? unit.stored : unit.pending);
    if (service != kClear)
        return std::nullopt;
    if (!unit.clears)
        return Bytes{kRefused, kClear, kNotNow};
    unit.stored.clear();
    unit.pending.clear();
    return Bytes{kClear + kAnswer};
}

std::vector<CanFrame> Responder::take(const CanFrame& frame, Unit& unit)
{
    const bool mine =
        frame.extended == m_extended && (frame.id == askAll(m_extended) || frame.id == unitAsked(m_from, m_extended));
    std::vector<CanFrame> out;
    if (!mine || frame.data.empty())
        return out;
    if (m_answering && frame.data[0] >> 4 == 3) {
        for (Bytes& more : m_answering->after(frame.data))
            out.push_back(sent(std::move(more)));
        if (m_answering->isDone())
            m_answering.reset();
        return out;
    }
    const auto asked = m_asked.take(frame.data);
    if (!asked || !asked->message)
        return out; // what is asked here fits one frame
    if (auto said = answer(*asked->message, unit)) {
        m_answering.emplace(std::move(*said));
        out.push_back(sent(m_answering->first()));
        if (m_answering->isDone())
            m_answering.reset();
    }
    return out;
}

} // namespace vicegrip::obd
