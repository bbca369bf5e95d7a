#include "core/obd/session.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace vicegrip::obd {
namespace {

constexpr double kBetween_s = 0.1; // polite: ten questions a second
constexpr double kOpen_s = 1; // ISO 15765-2: N_Cr, from one frame of a message to the next
constexpr double kLook_s = 1; // from one look for units to the next, with the other identifiers
constexpr double kBusy_s = 5; // ISO 14229-1: after "still busy"
constexpr double kTrouble_s = 10; // it is said so long
constexpr int kShort = 3; // answers that lack something, one after the other: units that answer one value at a time
constexpr size_t kMostUnits = 16, kMostDue = 64, kMostTold = 1000;

} // namespace

void Session::readCodes()
{
    if (m_due.size() + 2 > kMostDue)
        return;
    m_due.push_back({kStored});
    m_due.push_back({kPending});
}

void Session::clearCodes()
{
    m_cleared = m_refused = 0;
    m_due.push_front({kClear});
    readCodes();
}

bool Session::isWaiting(double now_s) const
{
    if (now_s - m_asked_s < kBetween_s || now_s < m_busyUntil_s)
        return true;
    const bool open = std::ranges::any_of(m_frames, [](const auto& one) { return one.second.isOpen(); });
    return open && now_s - m_heard_s < kOpen_s;
}

std::vector<CanFrame> Session::poll(double now_s)
{
    if (!std::exchange(m_asks, true))
        m_units.clear(); // what was answered to others is half of it
    if (now_s - m_trouble_s > kTrouble_s)
        m_trouble.clear();
    if (isWaiting(now_s))
        return {};
    for (auto& [from, frames] : m_frames)
        if (frames.isOpen()) { // its rest did not come
            frames.giveUp();
            complain(now_s, phrase("Unit {} began an answer and did not end it.", unitName(from)));
        }
    seeWhoAnswered();
    if (!isFound()) {
        if (now_s - m_asked_s < kLook_s)
            return {};
        if (std::exchange(m_looked, true))
            m_extended = !m_extended;
        m_asked_s = now_s;
        const Bytes question = {kValue, 0};
        return {{askAll(m_extended), m_extended, singleFrame(question)}};
    }
    const auto question = next();
    if (!question)
        return {};
    m_asked_s = now_s;
    return {{askAll(m_extended), m_extended, singleFrame(*question)}};
}

/// What was put first, then each value that some unit has in its turn.
std::optional<Bytes> Session::next()
{
    if (!m_due.empty()) {
        Bytes out = std::move(m_due.front());
        m_due.pop_front();
        return out;
    }
    std::set<std::uint8_t> wanted;
    for (const auto& [from, unit] : m_units)
        for (const Parameter& p : parameters())
            if (unit.supported.contains(p.number))
                wanted.insert(p.number);
    if (wanted.empty())
        return std::nullopt;
    Bytes out = {kValue};
    for (size_t i = 0; i < std::min(m_atOnce, wanted.size()); ++i) {
        const auto after = wanted.upper_bound(m_lastValue);
        m_lastValue = after == wanted.end() ? *wanted.begin() : *after;
        out.push_back(m_lastValue);
        m_unanswered.insert(m_lastValue);
    }
    return out;
}

/// Some units answer the first value of a question and leave the others, or all of it.
void Session::seeWhoAnswered()
{
    if (m_unanswered.empty()) {
        m_short = 0;
    } else if (++m_short >= kShort) {
        m_atOnce = m_atOnce == 1 ? kMostAsked : 1;
        m_short = 0;
    }
    m_unanswered.clear();
}

void Session::complain(double now_s, std::string sentence)
{
    m_trouble = std::move(sentence);
    m_trouble_s = now_s;
}

std::vector<CanFrame> Session::take(double now_s, const CanFrame& frame)
{
    if (!m_asks)
        m_extended = frame.extended; // another asks
    if (frame.extended != m_extended || !isAnswer(frame.id, frame.extended))
        return {};
    if (!m_frames.contains(frame.id) && m_frames.size() >= kMostUnits)
        return {};
    Assembler& frames = m_frames[frame.id];
    m_heard_s = now_s;
    const auto taken = frames.take(frame.data);
    if (!taken) {
        complain(now_s, phrase("Unit {}: {}.", unitName(frame.id), taken.error().sentence));
        return {};
    }
    if (taken->message)
        hear(now_s, frame.id, *taken->message);
    if (!taken->asksToGoOn)
        return {};
    return {{unitAsked(frame.id, frame.extended), frame.extended, goOn()}};
}

void Session::hear(double now_s, std::uint32_t from, const Bytes& message)
{
    if (message[0] == kRefused) {
        hearRefusal(now_s, message);
        return;
    }
    m_busyUntil_s = now_s; // who was busy has answered
    if (message[0] == kValue + kAnswer) {
        hearValues(now_s, from, std::span(message).subspan(1));
        return;
    }
    const auto unit = m_units.find(from);
    if (unit == m_units.end())
        return;
    if (message[0] == kStored + kAnswer || message[0] == kPending + kAnswer) {
        auto& codes = message[0] == kStored + kAnswer ? unit->second.stored : unit->second.pending;
        codes = codesOf(std::span(message).subspan(1));
        unit->second.codesRead = true;
    } else if (message[0] == kClear + kAnswer) {
        ++m_cleared;
    }
}

/// Each value's number and bytes, one after the other; what comes after one that is not known cannot be told apart.
void Session::hearValues(double now_s, std::uint32_t from, std::span<const std::uint8_t> said)
{
    constexpr size_t kMask = 4;
    while (said.size() >= 2) {
        const std::uint8_t number = said[0];
        said = said.subspan(1);
        const Parameter* p = findParameter(number);
        const size_t bytes = number % 0x20 == 0 ? kMask
                             : p != nullptr     ? static_cast<size_t>(p->bytes)
                                                : said.size() + 1;
        if (bytes > said.size())
            return;
        const auto data = said.first(bytes);
        said = said.subspan(bytes);
        if (p != nullptr) {
            hearValue(now_s, from, *p, data);
            continue;
        }
        const bool isNew = !m_units.contains(from);
        askMasks(from, number, supported(number, data));
        if (isNew)
            readCodes();
    }
}

void Session::hearValue(double now_s, std::uint32_t from, const Parameter& parameter,
                        std::span<const std::uint8_t> data)
{
    if (m_asks && !m_units.contains(from))
        return; // it was not asked
    m_unanswered.erase(parameter.number);
    m_units[from].values[parameter.number] = {valueOf(parameter, data).value_or(0), now_s};
    const auto first =
        std::ranges::find_if(m_units, [&](const auto& one) { return one.second.values.contains(parameter.number); });
    if (first->first == from && m_told.size() < kMostTold)
        m_told.push_back(asDescribed(parameter.number, data));
}

void Session::hearRefusal(double now_s, const Bytes& message)
{
    if (message.size() < 3)
        return;
    if (message[2] == kStillBusy) {
        m_busyUntil_s = now_s + kBusy_s;
        return;
    }
    m_busyUntil_s = now_s;
    if (message[1] != kClear)
        return;
    ++m_refused;
    complain(now_s, message[2] == kNotNow ? phrase("A unit does not clear its codes now: key on, engine stopped.")
                                          : phrase("A unit refuses to clear its codes."));
}

/// What it has of these, and the next mask where it says that there is one.
void Session::askMasks(std::uint32_t from, std::uint8_t base, const std::set<std::uint8_t>& has)
{
    m_units[from].supported.insert(has.begin(), has.end());
    const int more = base + 0x20;
    const Bytes question = {kValue, static_cast<std::uint8_t>(more)};
    if (more <= 0xE0 && has.contains(static_cast<std::uint8_t>(more)) &&
        std::ranges::find(m_due, question) == m_due.end())
        m_due.push_front(question);
}

} // namespace vicegrip::obd
