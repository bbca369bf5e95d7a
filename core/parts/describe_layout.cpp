#include "core/base/phrase.h"
#include "core/parts/lines.h"

#include <algorithm>
#include <array>
#include <sstream>

namespace vicegrip::parts {
namespace {

using units::Dimension;

constexpr std::string_view kKnown =
    key("expected name, rows, pitch, row pitch, terminal, missing, print, key, letters");

std::vector<std::string> split(const std::string& text, char at)
{
    std::vector<std::string> out;
    std::istringstream in(text);
    for (std::string part; std::getline(in, part, at);)
        out.push_back(trimmed(part));
    return out;
}

std::vector<std::string> wordsOf(const std::string& text)
{
    std::istringstream in(text);
    std::vector<std::string> out;
    for (std::string word; in >> word;)
        out.push_back(word);
    return out;
}

class LayoutReader
{
  public:
    explicit LayoutReader(const std::vector<TerminalFamily>& families) : m_families(families) {}

    Described<Layout> read(std::string_view text)
    {
        const std::vector<Line> lines = linesOf(text);
        m_layout.rows.clear();
        for (const Line& l : lines) // what rows are read by comes first
            if (l.key == "letters")
                yes(l, m_layout.letters);
            else if (l.key == "terminal")
                family(l, l.value);
        for (const Line& l : lines)
            fact(l);
        return finish();
    }

  private:
    void complain(const Line& l, std::string sentence) { m_out.complaints.push_back({l.number, std::move(sentence)}); }

    void yes(const Line& l, bool& to)
    {
        const std::string said = lower(l.value);
        to = said == "yes";
        if (said != "yes" && said != "no")
            complain(l, phrase("expected yes or no"));
    }

    void length(const Line& l, const std::string& typed, double& to)
    {
        if (const auto v = units::parse(typed, Dimension::Length, "mm"); !v)
            complain(l, v.error().sentence);
        else if (!(*v > 0))
            complain(l, "a pitch is above 0 mm");
        else
            to = *v;
    }

    template <class E> void oneOf(const Line& l, const std::string& word, E& to)
    {
        std::string known;
        for (const auto& [value, name] : fields::EnumNames<E>::kNames) {
            if (word == name) {
                to = value;
                return;
            }
            known += (known.empty() ? "" : ", ") + std::string(name);
        }
        complain(l, phrase("\"{}\" is not understood: expected one of {}", word, known));
    }

    /// Takes a family into the layout by its id or name.
    TerminalId family(const Line& l, const std::string& wanted)
    {
        const auto known = std::ranges::find_if(m_families, [&](const TerminalFamily& t) {
            return t.id.value == wanted || lower(t.name) == lower(wanted);
        });
        if (known == m_families.end()) {
            std::string all;
            for (const TerminalFamily& t : m_families)
                all += (all.empty() ? "" : ", ") + t.id.value;
            complain(l, phrase("no terminal family is called \"{}\": expected one of {}", wanted, all));
            return {};
        }
        if (std::ranges::find(m_layout.terminals, known->id, &TerminalFamily::id) == m_layout.terminals.end())
            m_layout.terminals.push_back(*known);
        return known->id;
    }

    bool number(const Line& l, const std::string& typed, int& to)
    {
        const auto n = cavityNumber(m_layout.letters, typed);
        if (!n || *n > 999) {
            complain(l, phrase("\"{}\" is no cavity: expected {}", typed,
                               (m_layout.letters ? "letters such as A" : "a number from 1 to 999")));
            return false;
        }
        to = *n;
        return true;
    }

    bool amount(const Line& l, const std::string& typed, double& to)
    {
        const auto n = units::parse(typed, Dimension::Counts);
        if (!n || *n < 0 || *n > 100) {
            complain(l, phrase("\"{}\" is no number of pitches: expected 0 to 100", typed));
            return false;
        }
        to = *n;
        return true;
    }

    /// "27-30 of blade-2.8 gap 1 staggered"
    void run(const Line& l, const std::string& text, Row& row)
    {
        const std::vector<std::string> words = wordsOf(text);
        Run out;
        bool numbered = false;
        for (size_t i = 0; i < words.size(); ++i) {
            const std::string word = lower(words[i]);
            const bool more = i + 1 < words.size();
            if (word == "staggered")
                row.offset = 0.5;
            else if (word == "offset" && more)
                amount(l, words[++i], row.offset);
            else if (word == "gap" && more)
                amount(l, words[++i], out.gap);
            else if (word == "of" && more)
                out.terminal = family(l, words[++i]);
            else if (word == "pitch" && more) {
                std::string size = words[++i];
                if (i + 1 < words.size() && lower(words[i + 1]) == "mm")
                    size += words[++i];
                length(l, size, out.pitch_m);
            } else if (!numbered) {
                const auto dash = words[i].find('-');
                numbered = number(l, words[i].substr(0, dash), out.first) &&
                           number(l, dash == std::string::npos ? words[i] : words[i].substr(dash + 1), out.last);
                if (!numbered)
                    return;
            } else {
                complain(l, phrase("\"{}\" is not understood: expected staggered, offset, gap, of or pitch", words[i]));
                return;
            }
        }
        if (numbered)
            row.runs.push_back(std::move(out));
        else
            complain(l, phrase("a row says which cavities it has, such as 1-15"));
    }

    void rows(const Line& l)
    {
        for (const std::string& part : split(l.value, ';')) {
            if (part.empty())
                continue;
            if (lower(part).starts_with("print ")) {
                oneOf(l, trimmed(lower(part).substr(6)), m_layout.printed);
                continue;
            }
            Row row;
            for (const std::string& each : split(part, ','))
                run(l, each, row);
            if (!row.runs.empty())
                m_layout.rows.push_back(std::move(row));
        }
    }

    void fact(const Line& l)
    {
        if (l.key == "letters" || l.key == "terminal")
            return;
        if (l.key == "name")
            m_layout.name = l.value;
        else if (l.key == "id")
            m_layout.id.value = l.value;
        else if (l.key == "rows")
            rows(l);
        else if (l.key == "pitch")
            length(l, l.value, m_layout.pitch_m);
        else if (l.key == "row pitch")
            length(l, l.value, m_layout.rowPitch_m);
        else if (l.key == "print")
            oneOf(l, lower(l.value), m_layout.printed);
        else if (l.key == "key")
            oneOf(l, lower(l.value), m_layout.key);
        else if (l.key == "missing") {
            for (const std::string& each : split(l.value, ','))
                if (int n = 0; number(l, each, n))
                    m_layout.missing.push_back(n);
        } else
            complain(l, phrase("\"{}\" is not understood: {}", l.written, phrase(kKnown)));
    }

    Described<Layout> finish()
    {
        if (m_layout.name.empty())
            m_out.complaints.push_back({0, phrase("it needs a name")});
        if (m_layout.id.empty())
            m_layout.id.value = idFrom(m_layout.name);
        if (m_layout.rows.empty() && m_out.complaints.empty())
            m_out.complaints.push_back({0, phrase("it needs rows, such as rows: 1-13; 14-26")});
        if (m_layout.terminals.empty() && m_out.complaints.empty())
            m_out.complaints.push_back({0, phrase("it needs a terminal family")});
        if (m_out.complaints.empty()) {
            const std::string text = fields::toJson(m_layout).dump();
            if (const auto sound = readLayout(nlohmann::json::parse(text)); !sound)
                m_out.complaints.push_back({0, sound.error().sentence});
            else
                m_out.part = *sound;
        }
        return std::move(m_out);
    }

    const std::vector<TerminalFamily>& m_families;
    Layout m_layout;
    Described<Layout> m_out;
};

std::string textOf(const Layout& layout, const Run& run)
{
    std::string out = cavityName(layout, run.first);
    if (run.last != run.first)
        out += "-" + cavityName(layout, run.last);
    if (run.gap > 0)
        out += " gap " + units::shortest(run.gap);
    if (!run.terminal.empty())
        out += " of " + run.terminal.value;
    if (run.pitch_m > 0)
        out += " pitch " + millimetres(run.pitch_m);
    return out;
}

} // namespace

Described<Layout> layoutFromText(std::string_view text, const std::vector<TerminalFamily>& families)
{
    return LayoutReader(families).read(text);
}

std::string textOf(const Layout& layout)
{
    std::string rows;
    for (const Row& row : layout.rows) {
        rows += rows.empty() ? "" : "; ";
        for (size_t i = 0; i < row.runs.size(); ++i)
            rows += (i == 0 ? "" : ", ") + textOf(layout, row.runs[i]);
        if (row.offset == 0.5)
            rows += " staggered";
        else if (row.offset > 0)
            rows += " offset " + units::shortest(row.offset);
    }
    std::string out = "name: " + layout.name + "\nid: " + layout.id.value + "\n";
    if (layout.letters)
        out += "letters: yes\n";
    for (const TerminalFamily& t : layout.terminals)
        out += "terminal: " + t.id.value + "\n";
    out += "pitch: " + millimetres(layout.pitch_m) + "\nrow pitch: " + millimetres(layout.rowPitch_m) +
           "\nrows: " + rows + "\nprint: " + std::string(fields::enumName(layout.printed)) +
           "\nkey: " + std::string(fields::enumName(layout.key)) + "\n";
    for (size_t i = 0; i < layout.missing.size(); ++i)
        out += (i == 0 ? "missing: " : ", ") + cavityName(layout, layout.missing[i]);
    return layout.missing.empty() ? out : out + "\n";
}

} // namespace vicegrip::parts
