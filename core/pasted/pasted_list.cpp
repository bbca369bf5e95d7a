#include "core/pasted/pasted_list.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"

#include <algorithm>

namespace vicegrip::pasted {
namespace {

constexpr size_t kMostBytes = 1 << 20, kMostLines = 5000;

using typed::lower;

/// Sheets put quotes round what holds a mark.
std::string trimmed(std::string_view text)
{
    std::string out = typed::trimmed(text);
    if (out.size() > 1 && out.front() == '"' && out.back() == '"')
        out = typed::trimmed(std::string_view(out).substr(1, out.size() - 2));
    return out;
}

/// The first of tab, semicolon and bar that is there divides; else two spaces or more.
std::vector<std::string> cellsOf(std::string_view line)
{
    std::vector<std::string> out;
    for (const char mark : {'\t', ';', '|'}) {
        if (line.find(mark) == std::string_view::npos)
            continue;
        for (size_t from = 0; from <= line.size();) {
            const size_t to = std::min(line.find(mark, from), line.size());
            out.push_back(trimmed(line.substr(from, to - from)));
            from = to + 1;
        }
        if (mark == '|' && out.size() > 2 && out.front().empty() && out.back().empty())
            out = {out.begin() + 1, out.end() - 1}; // a bar at both ends frames the line
        return out;
    }
    for (size_t from = 0; from < line.size();) {
        const size_t to = std::min(line.find("  ", from), line.size());
        if (std::string cell = trimmed(line.substr(from, to - from)); !cell.empty())
            out.push_back(std::move(cell));
        from = to + 2;
    }
    return out;
}

struct Heading
{
    std::string column, unit;
};

/// "Length [cm]" -> length, cm. No column: the cell is no heading.
Heading headingOf(const std::string& cell, const std::vector<ListColumn>& columns)
{
    std::string words = lower(cell), unit;
    if (const auto open = words.find_first_of("[(,"); open != std::string::npos) {
        unit = trimmed(std::string_view(cell).substr(open + 1));
        while (!unit.empty() && (unit.back() == ']' || unit.back() == ')'))
            unit.pop_back();
        words = trimmed(std::string_view(words).substr(0, open));
    }
    static constexpr const char* kUnits[] = {"m", "cm", "mm", "ft", "in", "mm2", "mm²", "awg", "gauge"};
    if (const auto last = words.rfind(' '); unit.empty()) { // "length cm", or "cm" alone
        const std::string end = last == std::string::npos ? words : words.substr(last + 1);
        if (std::ranges::find(kUnits, end) != std::end(kUnits)) {
            unit = end;
            if (last != std::string::npos)
                words = trimmed(std::string_view(words).substr(0, last));
        }
    }
    for (const ListColumn& c : columns)
        if (std::ranges::find(c.headings, words) != c.headings.end())
            return {c.name, unit == "mm2" ? "mm²" : unit == "gauge" ? "AWG" : unit};
    return {};
}

} // namespace

Result<List> readList(std::string_view text, const std::vector<ListColumn>& columns)
{
    if (text.size() > kMostBytes)
        return fail(ErrorCode::TooBig, phrase("the text is longer than 1 MB"));
    List out;
    std::vector<std::string> order;
    for (const ListColumn& c : columns)
        order.push_back(c.name);
    int number = 0;
    bool begun = false;
    for (size_t from = 0; from <= text.size();) {
        const size_t to = std::min(text.find('\n', from), text.size());
        const std::string line = trimmed(text.substr(from, to - from));
        const std::string_view raw = text.substr(from, to - from); // a leading tab is an empty cell
        from = to + 1;
        ++number;
        if (line.empty() || line.front() == '#')
            continue;
        const std::vector<std::string> cells = cellsOf(raw);
        if (!begun) {
            begun = true;
            std::vector<std::string> named;
            int headings = 0;
            std::map<std::string, std::string> units;
            for (const std::string& cell : cells) {
                const Heading h = headingOf(cell, columns);
                headings += h.column.empty() ? 0 : 1;
                named.push_back(h.column);
                if (!h.unit.empty())
                    units[h.column] = h.unit;
            }
            if (headings >= 2) {
                order = named;
                out.units = units;
                continue;
            }
        }
        if (out.lines.size() >= kMostLines)
            return fail(ErrorCode::TooBig, phrase("the text has more than 5000 lines"));
        ListLine& l = out.lines.emplace_back(ListLine{number, line, {}});
        for (size_t i = 0; i < cells.size() && i < order.size(); ++i)
            if (!order[i].empty())
                l.cells[order[i]] = cells[i];
    }
    return out;
}

Result<job::PointRef> placeTyped(const job::Job& job, std::string_view typed)
{
    std::string words = trimmed(typed);
    for (const std::string_view prefix : {"plug ", "cavity ", "bulkhead ", "splice ", "stud ", "pin "})
        if (lower(words).starts_with(prefix))
            words = trimmed(std::string_view(words).substr(prefix.size()));
    if (words.empty())
        return fail(ErrorCode::Malformed, phrase("expected a place, such as CLT.1, A7 or S2"));
    const std::string asked = lower(words);
    if (asked == "battery +" || asked == "battery plus" || asked == "bat +")
        words = "BAT+";
    if (asked == "battery -" || asked == "battery –" || asked == "battery minus" || asked == "bat -")
        words = "BAT-";
    const auto same = [](const std::string& a, std::string_view b) { return lower(a) == lower(std::string(b)); };
    for (const job::Joint& j : job.joints)
        if (same(j.id, words))
            return job::PointRef{j.id, {}};
    const job::Connector* plug = nullptr;
    std::string wanted;
    for (const job::Connector& c : job.connectors) { // the longest name that fits: IAT-2 before IAT
        if (!lower(words).starts_with(lower(c.id)) || (plug != nullptr && plug->id.size() > c.id.size()))
            continue;
        std::string rest = words.substr(c.id.size());
        while (!rest.empty() && (rest.front() == '.' || rest.front() == ' ' || rest.front() == ':' ||
                                 rest.front() == '-' || rest.front() == '/'))
            rest.erase(0, 1);
        plug = &c;
        wanted = rest;
        for (const std::string& cavity : c.cavities)
            if (same(cavity, rest))
                return job::PointRef{c.id, cavity};
    }
    if (plug == nullptr)
        return fail(ErrorCode::Reference, phrase("no plug or joint is called \"{}\"", words));
    if (wanted.empty())
        return fail(ErrorCode::Reference, phrase("which cavity of {}? Expected, for instance, {}.{}", plug->id,
                                                 plug->id, plug->cavities.front()));
    return fail(ErrorCode::Reference, phrase("{} has no cavity {}", plug->id, wanted));
}

} // namespace vicegrip::pasted
