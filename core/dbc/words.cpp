#include "core/dbc/words.h"

#include "core/base/phrase.h"
#include "core/base/utf8.h"

#include <charconv>
#include <cmath>
#include <utility>

namespace vicegrip::dbc {
namespace {

bool isSpace(char c)
{
    return c == ' ' || c == '\t' || c == '\r' || c == '\n' || c == '\f' || c == '\v';
}

bool isDigit(char c)
{
    return c >= '0' && c <= '9';
}

bool isLetter(char c)
{
    return (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z') || c == '_';
}

} // namespace

tl::unexpected<Error> Words::wrongAt(const Word& word, std::string sentence)
{
    return fail(ErrorCode::Malformed, std::move(sentence), {{}, {}, word.line, word.column});
}

void Words::pass(size_t count)
{
    for (; count > 0 && m_at < m_text.size(); --count, ++m_at) {
        ++m_column;
        if (m_text[m_at] == '\n') {
            ++m_line;
            m_column = 1;
        }
    }
}

Word Words::next()
{
    return std::exchange(m_now, read());
}

Word Words::read()
{
    while (m_at < m_text.size() && isSpace(m_text[m_at]))
        pass(1);
    Word out;
    out.line = m_line;
    out.column = m_column;
    out.leads = m_column == 1;
    if (m_at == m_text.size())
        return out;
    const size_t first = m_at;
    const char c = m_text[m_at];
    const auto whole = [&](Word::Kind kind, auto part) {
        while (m_at < m_text.size() && part(m_text[m_at]))
            pass(1);
        out.kind = kind;
        out.text = m_text.substr(first, m_at - first);
        return out;
    };
    if (c == '"') {
        pass(1);
        while (m_at < m_text.size() && m_text[m_at] != '"')
            pass(m_text[m_at] == '\\' ? 2 : 1);
        out.kind = Word::Kind::Text;
        out.text = m_text.substr(first + 1, m_at - first - 1);
        m_open = m_open || m_at == m_text.size();
        pass(1);
        return out;
    }
    if (isLetter(c))
        return whole(Word::Kind::Name, [](char n) { return isLetter(n) || isDigit(n); });
    const bool sign =
        (c == '-' || c == '+') && first + 1 < m_text.size() && (isDigit(m_text[first + 1]) || m_text[first + 1] == '.');
    if (isDigit(c) || sign || (c == '.' && first + 1 < m_text.size() && isDigit(m_text[first + 1]))) {
        char before = 'e'; // a sign may stand first, and in an exponent
        return whole(Word::Kind::Number, [&](char n) {
            const bool in = isDigit(n) || n == '.' || n == 'e' || n == 'E' ||
                            ((n == '-' || n == '+') && (before == 'e' || before == 'E'));
            before = n;
            return in;
        });
    }
    pass(1);
    out.kind = Word::Kind::Mark;
    out.text = m_text.substr(first, 1);
    return out;
}

Result<Word> Words::word(Word::Kind kind, const std::string& what)
{
    if (m_now.kind != kind)
        return wrong(phrase("{} is missing here", what));
    return next();
}

Result<void> Words::mark(std::string_view which)
{
    if (!m_now.is(which))
        return wrong(phrase("\"{}\" is missing here", std::string(which)));
    next();
    return {};
}

Result<double> Words::number(const std::string& what)
{
    const auto said = word(Word::Kind::Number, what);
    if (!said)
        return tl::make_unexpected(said.error());
    std::string_view text = said->text;
    if (text.starts_with('+'))
        text.remove_prefix(1);
    double out = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), out);
    if (error != std::errc() || end != text.data() + text.size() || !std::isfinite(out))
        return wrongAt(*said, phrase("{} is no number", std::string(said->text)));
    return out;
}

Result<std::uint64_t> Words::whole(const std::string& what, std::uint64_t most)
{
    const auto said = word(Word::Kind::Number, what);
    if (!said)
        return tl::make_unexpected(said.error());
    std::uint64_t out = 0;
    const auto [end, error] = std::from_chars(said->text.data(), said->text.data() + said->text.size(), out);
    if (error != std::errc() || end != said->text.data() + said->text.size() || out > most)
        return fail(ErrorCode::Range, phrase("{} goes from 0 to {}", what, std::to_string(most)),
                    {{}, {}, said->line, said->column});
    return out;
}

Result<std::pair<double, double>> Words::two(std::string_view open, std::string_view between, std::string_view close)
{
    std::pair<double, double> out;
    const auto take = [&](double& into) { return number(phrase("a number")).map([&](double value) { into = value; }); };
    return mark(open)
        .and_then([&] { return take(out.first); })
        .and_then([&] { return mark(between); })
        .and_then([&] { return take(out.second); })
        .and_then([&] { return mark(close); })
        .map([&] { return out; });
}

std::string shownText(std::string_view text)
{
    std::string out;
    const bool known = isUtf8(text);
    for (size_t i = 0; i < text.size(); ++i) {
        if (text[i] == '\\' && i + 1 < text.size() && (text[i + 1] == '"' || text[i + 1] == '\\'))
            ++i;
        const auto byte = static_cast<unsigned char>(text[i]);
        if (known || byte < 0x80) {
            out += text[i];
        } else { // ISO 8859-1: its numbers are those of ISO 10646
            out += static_cast<char>(0xC0U | byte >> 6U);
            out += static_cast<char>(0x80U | (byte & 0x3FU));
        }
    }
    return out;
}

} // namespace vicegrip::dbc
