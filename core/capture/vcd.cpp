#include "core/capture/vcd.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <map>
#include <optional>

namespace vicegrip::capture {
namespace {

constexpr double kNano_s = 1e-9;
constexpr std::size_t kMostChanges = 100'000'000;
constexpr std::size_t kSaid = 40; // letters of a word that is wrong

/// The words of the text, with the line each stands in.
class VcdWords
{
  public:
    explicit VcdWords(TextLines lines) : m_lines(std::move(lines)) {}

    /// Empty at the end. It holds until the next.
    std::string_view next()
    {
        for (;;) {
            const std::size_t from = m_rest.find_first_not_of(kBlank);
            if (from != std::string_view::npos) {
                const std::size_t end = std::min(m_rest.find_first_of(kBlank, from), m_rest.size());
                const std::string_view out = m_rest.substr(from, end - from);
                m_rest.remove_prefix(end);
                return out;
            }
            if (!m_lines.next())
                return {};
            m_rest = m_lines.line();
        }
    }

    /// What stands before $end.
    std::vector<std::string> section()
    {
        std::vector<std::string> out;
        constexpr std::size_t kMost = 1000; // of a comment that never ends no more is kept
        for (std::string_view word = next(); !word.empty() && word != "$end"; word = next())
            if (out.size() < kMost)
                out.emplace_back(word);
        return out;
    }

    [[nodiscard]] const TextLines& lines() const { return m_lines; }
    [[nodiscard]] tl::unexpected<Error> malformed(std::string sentence) const
    {
        return fail(ErrorCode::Malformed, std::move(sentence), {{}, {}, m_lines.number(), 0});
    }

  private:
    static constexpr std::string_view kBlank = " \t\r";

    TextLines m_lines;
    std::string_view m_rest;
};

/// "1 us", "10ns".
std::optional<double> scaleOf(const std::vector<std::string>& words)
{
    std::string all;
    for (const std::string& word : words)
        all += word;
    static const std::map<std::string, double, std::less<>> kUnits = {{"s", 1},     {"ms", 1e-3},  {"us", 1e-6},
                                                                      {"ns", 1e-9}, {"ps", 1e-12}, {"fs", 1e-15}};
    double number = 0;
    const auto [end, error] = std::from_chars(all.data(), all.data() + all.size(), number);
    const auto unit = kUnits.find(std::string_view(end, static_cast<std::size_t>(all.data() + all.size() - end)));
    return error == std::errc() && number > 0 && unit != kUnits.end() ? std::optional(number * unit->second)
                                                                      : std::nullopt;
}

class VcdReader
{
  public:
    explicit VcdReader(TextLines text) : m_words(std::move(text)) {}

    Result<Seen> read()
    {
        for (std::string_view word = m_words.next(); !word.empty(); word = m_words.next())
            if (const auto taken = take(word); !taken)
                return tl::make_unexpected(taken.error());
        if (m_words.lines().trouble())
            return tl::make_unexpected(*m_words.lines().trouble());
        if (m_seen.channels.empty())
            return fail(ErrorCode::Range, phrase("it declares no wire of one bit and no real"));
        const auto isEmpty = [](const Channel& c) { return c.volts.empty(); };
        if (std::ranges::all_of(m_seen.channels, isEmpty))
            return fail(ErrorCode::Range, phrase("none of its signals changes"));
        std::erase_if(m_seen.channels, isEmpty);
        m_seen.seconds = m_now_s - m_began_s.value_or(m_now_s);
        for (Channel& c : m_seen.channels)
            for (double& t : c.changes_s)
                t -= m_began_s.value_or(0);
        return std::move(m_seen);
    }

  private:
    Result<void> take(std::string_view word)
    {
        if (word.front() == '$')
            return takeCommand(word);
        if (word.front() == '#')
            return takeTime(word.substr(1));
        const char kind = static_cast<char>(std::tolower(static_cast<unsigned char>(word.front())));
        if (kind == 'b' || kind == 'r' || kind == 's') { // its mark is the next word
            const auto to = kind == 'b' ? bits(word.substr(1)) : kind == 'r' ? real(word.substr(1)) : std::nullopt;
            const std::string said(word.substr(0, kSaid));
            return takeChange(m_words.next(), to, said);
        }
        return takeChange(word.substr(1), bits(word.substr(0, 1)), word);
    }

    Result<void> takeCommand(std::string_view word)
    {
        if (word == "$dumpvars" || word == "$dumpall" || word == "$dumpon" || word == "$dumpoff" || word == "$end")
            return {}; // changes follow, as anywhere
        const auto words = m_words.section();
        if (word == "$timescale") {
            const auto scale = scaleOf(words);
            if (!scale)
                return m_words.malformed(phrase("expected a time scale such as 1 ns"));
            m_scale_s = *scale;
        } else if (word == "$var" && words.size() >= 4) {
            const bool known = words[0] == "real" || words[1] == "1";
            m_channels[words[2]] = known ? std::optional(m_seen.channels.size()) : std::nullopt;
            if (known)
                m_seen.channels.push_back({words[3], {}, {}});
        } else if (word == "$var") {
            return m_words.malformed(phrase("expected a kind, a width, a mark and a name"));
        }
        return {};
    }

    Result<void> takeTime(std::string_view digits)
    {
        unsigned long long ticks = 0;
        const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), ticks);
        if (error != std::errc() || end != digits.data() + digits.size())
            return m_words.malformed(phrase("expected a time in whole ticks after #"));
        if (m_scale_s <= 0)
            return m_words.malformed(phrase("a time comes before the time scale was said"));
        const double now_s = static_cast<double>(ticks) * m_scale_s;
        if (m_began_s && now_s < m_now_s)
            return m_words.malformed(phrase("time goes back"));
        m_began_s = m_began_s.value_or(now_s);
        m_now_s = now_s;
        return {};
    }

    Result<void> takeChange(std::string_view id, std::optional<float> to, std::string_view word)
    {
        const auto channel = m_channels.find(id);
        if (channel == m_channels.end())
            return m_words.malformed(
                phrase("\"{}\" is no change of a signal that was declared", std::string(word.substr(0, kSaid))));
        if (!to || !channel->second)
            return {}; // unknown, floating, or wider than one bit
        Channel& c = m_seen.channels[*channel->second];
        if (!c.volts.empty() && c.volts.back() == *to)
            return {};
        if (!c.changes_s.empty() && c.changes_s.back() == m_now_s) {
            c.volts.back() = *to; // of changes at once the last holds
            return {};
        }
        if (++m_changes > kMostChanges)
            return fail(ErrorCode::TooBig, phrase("it has more than {} million changes", "100"),
                        {{}, {}, m_words.lines().number(), 0});
        c.changes_s.push_back(m_now_s);
        c.volts.push_back(*to);
        return {};
    }

    static std::optional<float> bits(std::string_view level)
    {
        return level == "0" ? std::optional(0.F) : level == "1" ? std::optional(1.F) : std::nullopt;
    }

    static std::optional<float> real(std::string_view number)
    {
        float out = 0;
        const auto [end, error] = std::from_chars(number.data(), number.data() + number.size(), out);
        return error == std::errc() && std::isfinite(out) ? std::optional(out) : std::nullopt;
    }

    VcdWords m_words;
    Seen m_seen;
    std::map<std::string, std::optional<std::size_t>, std::less<>> m_channels; ///< by their mark; none: passed over
    double m_scale_s = 0, m_now_s = 0;
    std::size_t m_changes = 0;
    std::optional<double> m_began_s;
};

} // namespace

Result<Seen> readVcd(TextLines text)
{
    return VcdReader(std::move(text)).read();
}

std::string writeVcd(const Seen& seen)
{
    constexpr char kFirstMark = '!';
    constexpr std::size_t kMarks = 94;
    std::string out = "$timescale 1 ns $end\n$scope module capture $end\n";
    std::vector<std::pair<long long, std::string>> changes;
    for (std::size_t i = 0; i < std::min(kMarks, seen.channels.size()); ++i) {
        const Channel& c = seen.channels[i];
        const std::string mark(1, static_cast<char>(kFirstMark + static_cast<char>(i)));
        std::string name = c.name;
        std::ranges::replace_if(
            name, [](char l) { return l == ' ' || l == '\t' || l == '\n'; }, '_');
        out += "$var wire 1 " + mark + ' ' + (name.empty() ? "signal" : name) + " $end\n";
        for (std::size_t k = 0; k < c.changes_s.size(); ++k)
            changes.emplace_back(std::llround(c.changes_s[k] / kNano_s), (c.volts[k] > 0 ? "1" : "0") + mark);
    }
    out += "$upscope $end\n$enddefinitions $end\n";
    std::ranges::stable_sort(changes, {}, [](const auto& change) { return change.first; });
    long long now = -1;
    for (const auto& [at, change] : changes) {
        if (at != now)
            out += '#' + std::to_string(at) + '\n';
        now = at;
        out += change + '\n';
    }
    return out + '#' + std::to_string(std::max(now, std::llround(seen.seconds / kNano_s))) + '\n';
}

} // namespace vicegrip::capture
