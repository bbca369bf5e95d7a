#include "core/parts/lines.h"

#include <utility>

/// An output of an ECU in a line: "INJ1: A15, low side 2 A, injector, to 250 Hz".
namespace vicegrip::parts {
namespace {

using OutputNames = fields::EnumNames<OutputKind>;

/// The kind a word begins with, and how many letters stand behind its name.
std::optional<std::pair<OutputKind, size_t>> kindAt(const std::string& word)
{
    for (const auto& [kind, name] : OutputNames::kNames)
        if (const std::string said = spaced(name);
            word.starts_with(said) && (word.size() == said.size() || word[said.size()] == ' '))
            return std::pair(kind, word.size() - said.size());
    return std::nullopt;
}

std::string allKinds()
{
    std::string out;
    for (const auto& [kind, name] : OutputNames::kNames)
        out += (out.empty() ? "" : ", ") + spaced(name);
    return out;
}

class OutputWords
{
  public:
    OutputWords(PartLines& lines, const Line& line) : m_lines(lines), m_line(line)
    {
        m_out.id.value = line.written;
        m_out.drives.clear();
    }

    void take(const std::string& typed)
    {
        const std::string word = lower(typed);
        const auto rest = [&](std::string_view start) { return trimmed(std::string_view(typed).substr(start.size())); };
        const auto quantity = [&](std::string_view start, Dimension dimension, std::string_view unit, double& to) {
            m_lines.quantity(m_line, rest(start), dimension, unit, to);
        };
        if (const auto kind = kindAt(word)) {
            m_out.drives.push_back(kind->first);
            if (kind->second > 0) // as it was typed: of units the case counts
                rating(kind->first, typed.substr(typed.size() - kind->second));
            if (!(m_out.most_a > 0))
                m_lines.complain(m_line, phrase("an output carries more than 0 A"));
        } else if (word.starts_with("to ")) {
            quantity("to", Dimension::Frequency, "Hz", m_out.most_hz);
        } else if (word == "unclamped") {
            m_out.clamped = false;
        } else if (word.starts_with("pull-up ")) {
            quantity("pull-up", Dimension::Resistance, "Ω", m_out.pull_up_ohm.emplace());
        } else if (word.starts_with("on ")) {
            quantity("on", Dimension::Resistance, "Ω", m_out.on_ohm);
        } else if (word.starts_with("off ")) {
            quantity("off", Dimension::Resistance, "Ω", m_out.off_ohm);
        } else if (word.starts_with("named ")) {
            m_out.name = rest("named");
        } else if (word.starts_with("for ")) {
            m_out.functions = wordsOf(rest("for"));
        } else {
            m_lines.complain(m_line, phrase("\"{}\" is not understood: expected {}, to 200 Hz, unclamped, pull-up 1k, "
                                            "for pump ...",
                                            typed, allKinds()));
        }
    }

    [[nodiscard]] EcuOutput done() { return std::move(m_out); }

  private:
    /// What stands behind a kind: the ohms it is closed by, the volts it puts out, the amperes it carries.
    void rating(OutputKind kind, const std::string& said)
    {
        if (kind == OutputKind::Bus)
            m_lines.quantity(m_line, said, Dimension::Resistance, "Ω", m_out.terminator_ohm);
        else if (kind == OutputKind::Logic)
            m_lines.quantity(m_line, said, Dimension::Voltage, "V", m_out.high_v);
        else
            m_lines.quantity(m_line, said, Dimension::Current, "A", m_out.most_a);
    }

    PartLines& m_lines;
    const Line& m_line;
    EcuOutput m_out;
};

} // namespace

bool isOutput(const std::vector<std::string>& words)
{
    return std::ranges::any_of(words, [](const std::string& w) { return kindAt(lower(w)).has_value(); });
}

EcuOutput outputFromWords(PartLines& lines, const Line& line, const std::vector<std::string>& words)
{
    OutputWords reads(lines, line);
    for (const std::string& word : words)
        reads.take(word);
    return reads.done();
}

std::string outputWords(const EcuOutput& o)
{
    std::string out;
    for (bool first = true; const OutputKind kind : o.drives) {
        out += ", " + spaced(fields::enumName(kind));
        if (kind == OutputKind::Logic)
            out += " " + units::shortest(o.high_v) + " V";
        else if (kind == OutputKind::Bus)
            out += o.terminator_ohm > 0 ? " " + shortOhms(o.terminator_ohm) : std::string();
        else if (std::exchange(first, false))
            out += " " + units::shortest(o.most_a) + " A";
    }
    if (o.most_hz > 0)
        out += ", to " + units::shortest(o.most_hz) + " Hz";
    if (!o.clamped)
        out += ", unclamped";
    if (o.pull_up_ohm)
        out += ", pull-up " + shortOhms(*o.pull_up_ohm);
    if (!o.isShared())
        out += ", on " + plainNumber(o.on_ohm) + " ohm, off " + shortOhms(o.off_ohm);
    if (!o.name.empty() && o.name.find(',') == std::string::npos)
        out += ", named " + o.name;
    if (!o.functions.empty())
        out += ", for";
    for (const std::string& f : o.functions)
        out += " " + f;
    return out;
}

} // namespace vicegrip::parts
