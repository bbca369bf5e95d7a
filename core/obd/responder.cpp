#include "core/obd/responder.h"

#include "core/obd/values.h"

#include <array>

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

std::string unitName(std::uint32_t answersFrom)
{
    constexpr std::array kDigits = {'0', '1', '2', '3', '4', '5', '6', '7', '8', '9', 'A', 'B', 'C', 'D', 'E', 'F'};
    std::string out;
    for (std::uint32_t rest = answersFrom > kLastAnswer ? answersFrom & 0xFF : answersFrom; rest > 0; rest >>= 4)
        out.insert(out.begin(), kDigits[rest & 0xF]);
    return out.empty() ? "0" : out;
}

std::uint32_t unitAsked(std::uint32_t answersFrom, bool extended)
{
    return extended ? kAskLong | (answersFrom & 0xFF) << 8 : answersFrom - kAskedBelow;
}

std::optional<Bytes> Responder::dataOf(std::uint8_t number, const Unit& unit)
{
    if (number % 0x20 != 0)
        return unit.numbers.contains(number) ? unit.value(number) : std::nullopt;
    std::set<std::uint8_t> has = unit.numbers;
    for (int base = 0xC0; base > 0; base -= 0x20) // a mask is there where something is behind it
        if (!has.empty() && *has.rbegin() > base)
            has.insert(static_cast<std::uint8_t>(base));
    return number == 0 || has.contains(number) ? std::optional(maskOf(number, has)) : std::nullopt;
}

std::optional<Bytes> Responder::answer(std::span<const std::uint8_t> request, Unit& unit)
{
    const std::uint8_t service = request[0];
    if (service == kValue && request.size() >= 2 && request.size() <= 1 + kMostAsked) {
        Bytes out = {kValue + kAnswer};
        for (const std::uint8_t number : request.subspan(1))
            if (const auto data = dataOf(number, unit)) {
                out.push_back(number);
                out.insert(out.end(), data->begin(), data->end());
            }
        // To a question to all who has nothing says nothing.
        return out.size() > 1 ? std::optional(std::move(out)) : std::nullopt;
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
