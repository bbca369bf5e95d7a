#include "core/can_log/can_log.h"

#include "core/base/phrase.h"

#include <array>
#include <charconv>
#include <cmath>
#include <cstdio>

namespace vicegrip::can_log {
namespace {

constexpr double kMost_s = 1e12; ///< no clock goes so far
constexpr size_t kShortId = 3, kLongId = 8, kClassic = 8, kFlexible = 64;
constexpr std::uint32_t kErrorFlag = 0x20000000, kLongMask = 0x1FFFFFFF, kShortMask = 0x7FF;
constexpr const char* kHexDigits = "0123456789ABCDEF";

int digitOf(char c)
{
    if (c >= '0' && c <= '9')
        return c - '0';
    if (c >= 'A' && c <= 'F')
        return c - 'A' + 10;
    return c >= 'a' && c <= 'f' ? c - 'a' + 10 : -1;
}

/// Takes a line apart from its beginning.
class Line
{
  public:
    explicit Line(std::string_view text) : m_text(text) {}

    [[nodiscard]] std::string_view left() const { return m_text.substr(m_at); }
    [[nodiscard]] bool take(char c)
    {
        const bool is = m_at < m_text.size() && m_text[m_at] == c;
        m_at += is ? 1 : 0;
        return is;
    }
    void takeSpaces()
    {
        while (take(' ') || take('\t')) {
        }
    }
    std::string_view until(std::string_view ends)
    {
        const size_t end = std::min(m_text.find_first_of(ends, m_at), m_text.size());
        const std::string_view out = m_text.substr(m_at, end - m_at);
        m_at = end;
        return out;
    }
    [[nodiscard]] tl::unexpected<Error> wrong(std::string sentence) const
    {
        return fail(ErrorCode::Malformed, std::move(sentence), {{}, {}, 0, static_cast<int>(m_at) + 1});
    }

  private:
    std::string_view m_text;
    size_t m_at = 0;
};

/// Pairs of digits, dots between them allowed.
Result<void> bytes(Line& line, Frame& frame)
{
    const std::string_view text = line.until(" \t\r");
    for (size_t i = 0; i < text.size();) {
        if (text[i] == '.') {
            ++i;
            continue;
        }
        const int high = digitOf(text[i]), low = i + 1 < text.size() ? digitOf(text[i + 1]) : -1;
        if (high < 0 || low < 0)
            return line.wrong(phrase("the data are pairs of hexadecimal digits"));
        frame.data.push_back(static_cast<std::uint8_t>(16 * high + low));
        i += 2;
    }
    if (frame.data.size() > (frame.flexible ? kFlexible : kClassic))
        return line.wrong(
            phrase("a frame has {} bytes at the most", std::to_string(frame.flexible ? kFlexible : kClassic)));
    return {};
}

} // namespace

Result<Frame> readLine(std::string_view text)
{
    Line line(text);
    Frame out;
    line.takeSpaces();
    if (!line.take('('))
        return line.wrong(phrase("a line begins with its time, (seconds)"));
    const std::string_view time = line.until(")");
    const auto [end, error] = std::from_chars(time.data(), time.data() + time.size(), out.time_s);
    if (error != std::errc() || end != time.data() + time.size() || !(std::abs(out.time_s) < kMost_s) ||
        !line.take(')'))
        return line.wrong(phrase("a line begins with its time, (seconds)"));
    line.takeSpaces();
    out.bus = line.until(" \t");
    line.takeSpaces();
    const std::string_view id = line.until("#");
    const auto [idEnd, idError] = std::from_chars(id.data(), id.data() + id.size(), out.id, 16);
    if (out.bus.empty() || idError != std::errc() || idEnd != id.data() + id.size() ||
        (id.size() != kShortId && id.size() != kLongId) || !line.take('#'))
        return line.wrong(phrase("after the bus stands an identifier of three or eight hexadecimal digits, and #"));
    out.error = id.size() == kLongId && (out.id & kErrorFlag) != 0;
    out.extended = id.size() == kLongId && !out.error;
    if (out.id > (id.size() == kShortId ? kShortMask : kLongMask | kErrorFlag))
        return line.wrong(phrase("an identifier has 11 or 29 bits"));
    out.id &= kLongMask;
    if (line.take('#')) {
        out.flexible = true;
        const int flags = line.left().empty() ? -1 : digitOf(line.left().front());
        if (flags < 0)
            return line.wrong(phrase("after ## stands a digit with the frame's flags"));
        out.flags = flags;
        (void)line.take(line.left().front());
    }
    if (line.left().starts_with('R') && !out.flexible) {
        out.remote = true;
        (void)line.until(" \t\r");
        return out;
    }
    return bytes(line, out).map([&] { return out; });
}

Result<void> read(std::string_view text, const std::function<bool(const Frame&)>& take)
{
    for (int number = 1; !text.empty(); ++number) {
        const size_t end = std::min(text.find('\n'), text.size());
        const std::string_view line = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        const size_t first = line.find_first_not_of(" \t\r");
        if (first == std::string_view::npos || line[first] == '#')
            continue;
        const auto frame = readLine(line);
        if (!frame) {
            Error error = frame.error();
            error.place.line = number;
            return tl::make_unexpected(error);
        }
        if (!take(*frame))
            return {};
    }
    return {};
}

std::string line(const Frame& frame)
{
    std::array<char, 64> head{};
    (void)std::snprintf(head.data(), head.size(), "(%.6f) ", frame.time_s);
    std::string out = head.data() + frame.bus;
    const bool isLong = frame.extended || frame.error;
    (void)std::snprintf(head.data(), head.size(), isLong ? " %08X#" : " %03X#",
                        frame.id | (frame.error ? kErrorFlag : 0));
    out += head.data();
    if (frame.flexible) {
        out += '#';
        out += kHexDigits[frame.flags & 0xF];
    }
    if (frame.remote)
        return out + 'R';
    for (const std::uint8_t byte : frame.data) {
        out += kHexDigits[byte >> 4U];
        out += kHexDigits[byte & 0xFU];
    }
    return out;
}

} // namespace vicegrip::can_log
