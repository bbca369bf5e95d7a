#include "core/log/layout_of_log.h"

#include "core/alike/alike.h"
#include "core/base/median.h"
#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/base/utf8.h"
#include "core/units/units.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace vicegrip::log {
namespace {

using Cells = std::vector<std::string_view>;

constexpr size_t kTold = 60; // lines that say how a log is laid out
constexpr size_t kLooked = 2000; // lines that the header is looked for in

struct Line
{
    std::string_view text;
    size_t begin = 0;
};

/// The complete lines of a text; the last one too where the text ends with it.
std::vector<Line> linesOf(std::string_view text)
{
    std::vector<Line> out;
    for (size_t at = 0; at < text.size() && out.size() < kLooked;) {
        size_t end = text.find('\n', at);
        if (end == std::string_view::npos)
            end = text.size();
        std::string_view line = text.substr(at, end - at);
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        out.push_back({line, at});
        at = end + 1;
    }
    return out;
}

Cells cellsOf(std::string_view line, char separator)
{
    Cells out;
    bool more = true;
    while (more && out.size() <= kMostColumns)
        out.push_back(bare(nextCell(line, separator, more)));
    return out;
}

bool isTime(std::string_view cell)
{
    return timeOf(cell, TimeForm::Clock, '.') || timeOf(cell, TimeForm::DateAndClock, '.') || dayOf(cell);
}

bool isNumber(std::string_view cell)
{
    return numberOf(cell, '.') || numberOf(cell, ',');
}

/// Whether it is a row of numbers: at least half of what stands in it.
bool isRow(const Cells& cells)
{
    size_t numbers = 0, words = 0;
    for (const std::string_view c : cells)
        if (isNumber(c) || isTime(c))
            ++numbers;
        else if (!isBlankCell(c))
            ++words;
    return numbers > 0 && numbers >= words;
}

bool namesColumns(const Cells& cells)
{
    size_t names = 0;
    for (const std::string_view c : cells) {
        if (isNumber(c) || isTime(c))
            return false;
        names += isBlankCell(c) ? 0 : 1;
    }
    return names > 0;
}

bool isUnit(std::string_view cell)
{
    constexpr std::array<std::string_view, 12> kOthers = {"s",     "sec",   "ms", "us", "min",      "deg",
                                                          "1/min", "r/min", "g",  "%v", "hh:mm:ss", "state"};
    std::string word(cell);
    if (word.size() > 2 && (word.front() == '[' || word.front() == '('))
        word = word.substr(1, word.size() - 2);
    for (int d = 0; d <= static_cast<int>(units::Dimension::Counts); ++d)
        if (!word.empty() && units::measures(word, static_cast<units::Dimension>(d)))
            return true;
    return std::ranges::find(kOthers, typed::lower(word)) != kOthers.end();
}

/// A line of units has some that are known, and nothing long.
bool namesUnits(const Cells& cells)
{
    constexpr size_t kLongest = 12;
    const auto known = std::ranges::count_if(cells, isUnit);
    const bool isShort = std::ranges::all_of(cells, [](std::string_view c) { return c.size() <= kLongest; });
    return known > 0 && isShort && !std::ranges::any_of(cells, isNumber);
}

/// Latin-1 and its kin have the degree sign in one byte, which is no UTF-8.
std::string inUtf8(std::string_view text)
{
    std::string out;
    for (size_t i = 0; i < text.size(); ++i) {
        const auto byte = static_cast<unsigned char>(text[i]);
        const size_t tail = byte >= 0xF0 ? 3 : byte >= 0xE0 ? 2 : byte >= 0xC2 ? 1 : 0;
        bool whole = byte < 0x80 || (tail > 0 && i + tail < text.size());
        for (size_t k = 1; whole && k <= tail; ++k)
            whole = !begins(text[i + k]);
        if (whole) {
            out.append(text.substr(i, tail + 1));
            i += tail;
        } else {
            out += static_cast<char>(0xC0 | byte >> 6);
            out += static_cast<char>(0x80 | (byte & 0x3F));
        }
    }
    return out;
}

/// "Boost (kPa)", "Boost [kPa]": name and unit.
Layout::Field fieldOf(std::string_view cell)
{
    std::string text = inUtf8(cell);
    for (const auto& [opens, closes] : {std::pair('(', ')'), std::pair('[', ']')}) {
        const size_t at = text.rfind(opens);
        if (at != std::string::npos && at > 0 && text.ends_with(closes)) {
            std::string unit = text.substr(at + 1, text.size() - at - 2);
            return {typed::trimmed(text.substr(0, at)), typed::trimmed(unit)};
        }
    }
    return {typed::trimmed(text), {}};
}

struct Head
{
    char separator = ',';
    size_t row = 0; ///< the first row of numbers, of the lines
    size_t header = 0;
    bool under = false; ///< a line of units lies between
    Cells names;
};

/// Where the columns are named, if this separates them: two rows of numbers alike, or the only one, under words.
std::optional<Head> headWith(char separator, const std::vector<Line>& lines)
{
    Cells above, before;
    for (size_t i = 0; i < lines.size(); ++i) {
        const Cells cells = cellsOf(lines[i].text, separator);
        const size_t width = cells.size();
        if (width >= 2 && isRow(cells) && before.size() >= 2 && namesColumns(before) &&
            (before.size() == width || before.size() + 1 == width || before.size() == width + 1)) {
            const bool under = !above.empty() && above.size() == before.size() && namesUnits(before) &&
                               namesColumns(above) && !namesUnits(above);
            return Head{separator, i, i - (under ? 2 : 1), under, under ? above : before};
        }
        if (lines[i].text.find_first_not_of(" \t\r") == std::string_view::npos)
            continue; // an empty line between names and numbers parts nothing
        above = std::exchange(before, cells);
    }
    return std::nullopt;
}

std::optional<Head> headOf(const std::vector<Line>& lines)
{
    for (const char separator : {'\t', ';', '|', ','})
        if (auto head = headWith(separator, lines))
            return head;
    return std::nullopt;
}

/// A unit of time in seconds; none where it is none.
std::optional<double> secondsOf(const std::string& unit)
{
    const std::string u = typed::lower(unit);
    if (u == "s" || u == "sec" || u == "secs" || u == "second" || u == "seconds")
        return 1;
    if (u == "ms" || u == "msec" || u == "millis" || u == "milliseconds")
        return 1e-3;
    if (u == "us" || u == "µs" || u == "μs" || u == "usec" || u == "micros" || u == "microseconds")
        return 1e-6;
    if (u == "min" || u == "minutes")
        return 60;
    return u == "h" || u == "hours" ? std::optional(3600.0) : std::nullopt;
}

constexpr std::array<std::string_view, 12> kTimes = {"time", "timestamp", "elapsed", "seconds",  "sec",  "t",
                                                     "ms",   "millis",    "clock",   "datetime", "zeit", "secs"};

bool isAbout(const std::string& name, std::span<const std::string_view> words)
{
    const auto own = alike::wordsOf(alike::apart(name));
    return std::ranges::any_of(words, [&](std::string_view w) { return own.contains(std::string(w)); });
}

/// The rows that tell: cells of the first ones, each as long as the header.
std::vector<Cells> firstRows(const std::vector<Line>& lines, const Layout& layout, size_t row)
{
    std::vector<Cells> out;
    for (; row < lines.size() && out.size() < kTold; ++row)
        if (Cells cells = cellsOf(lines[row].text, layout.separator); cells.size() >= layout.fields.size())
            out.push_back(std::move(cells));
    return out;
}

/// How a column tells the time, if it does.
std::optional<TimeForm> formOf(const std::vector<Cells>& rows, size_t field, char decimalMark)
{
    for (const TimeForm form : {TimeForm::Number, TimeForm::DateAndClock, TimeForm::Clock}) {
        const auto told = std::ranges::count_if(
            rows, [&](const Cells& row) { return timeOf(row[field], form, decimalMark).has_value(); });
        if (2 * static_cast<size_t>(told) > rows.size())
            return form;
    }
    return std::nullopt;
}

/// Whether it goes up as a clock does, in half of its steps at the least: rows may be late and a counter may wrap, and
/// an injection time goes up and down.
bool goesUp(const std::vector<Cells>& rows, size_t field, char decimalMark)
{
    std::optional<double> before;
    size_t steps = 0, up = 0;
    for (const Cells& row : rows)
        if (const auto at = numberOf(row[field], decimalMark)) {
            steps += before ? 1 : 0;
            up += before && *at > *before ? 1 : 0;
            before = at;
        }
    constexpr size_t kFew = 3; // steps that show nothing yet
    return steps < kFew || 2 * up >= steps;
}

/// Whether the first rows' times rise.
bool rises(const std::vector<Cells>& rows, size_t field, char decimalMark)
{
    std::optional<double> before;
    for (const Cells& row : rows) {
        const auto at = timeOf(row[field], TimeForm::Number, decimalMark);
        if (!at || (before && *at <= *before))
            return false;
        before = at;
    }
    return rows.size() > 1;
}

/// What a number of no unit counts: an epoch by its size, milliseconds where it goes in whole steps of several.
double unitOfNumbers(const std::vector<Cells>& rows, const Layout& layout, std::string& said)
{
    constexpr double kEpoch_s = 1e8, kEpoch_ms = 1e11, kEpoch_us = 1e14; // a date since 1973 is above, of each
    std::vector<double> steps;
    bool whole = true;
    double before = NAN, greatest = 0;
    for (const Cells& row : rows) {
        const auto at = numberOf(row[layout.time], layout.decimalMark);
        if (!at)
            continue;
        greatest = std::max(greatest, *at);
        whole = whole && *at == std::floor(*at);
        if (*at > before)
            steps.push_back(*at - before);
        before = *at;
    }
    double unit = 1;
    if (greatest > kEpoch_s)
        unit = greatest > kEpoch_us ? 1e-6 : greatest > kEpoch_ms ? 1e-3 : 1;
    else if (whole && !steps.empty() && median(steps) >= 2)
        unit = 1e-3;
    said = unit == 1 ? "s" : unit == 1e-3 ? "ms" : "µs";
    return unit;
}

/// Finds the column of time, and how it tells it.
Result<void> findTime(Layout& layout, const std::vector<Cells>& rows)
{
    constexpr std::array<std::string_view, 3> kDays = {"date", "day", "datum"};
    std::optional<size_t> found, day;
    for (size_t f = 0; f < layout.fields.size(); ++f) {
        const auto& [name, unit] = layout.fields[f];
        const auto form = formOf(rows, f, layout.decimalMark);
        const bool isDay =
            !rows.empty() && std::ranges::all_of(rows, [&](const Cells& r) { return dayOf(r[f]).has_value(); });
        if (isDay && isAbout(name, kDays))
            day = day.value_or(f);
        else if (form && isAbout(name, kTimes) &&
                 (form != TimeForm::Number ||
                  ((unit.empty() || secondsOf(unit)) && goesUp(rows, f, layout.decimalMark)))) {
            if (found)
                layout.remarks.push_back(
                    {phrase("two columns tell the time: \"{}\" is taken", layout.fields[*found].name), layout.line,
                     name});
            else
                found = f;
        }
    }
    if (!found && !layout.fields.empty() && rises(rows, 0, layout.decimalMark)) {
        found = 0;
        layout.remarks.push_back({phrase("no column is called time: the first one, which rises, is taken for it"),
                                  layout.line, layout.fields[0].name});
    }
    if (!found)
        return fail(ErrorCode::Range,
                    phrase("no column tells the time: one called \"time\" is needed, in seconds or as a clock"),
                    {{}, {}, static_cast<int>(layout.line), 0});
    layout.time = *found;
    layout.form = formOf(rows, *found, layout.decimalMark).value_or(TimeForm::Number);
    if (layout.form == TimeForm::Clock)
        layout.day = day;
    if (layout.form != TimeForm::Number)
        return {};
    auto& [name, unit] = layout.fields[*found];
    for (const std::string& word : alike::wordsOf(name))
        if (unit.empty() && word != "t" && secondsOf(word))
            unit = word;
    if (const auto seconds = secondsOf(unit)) {
        layout.second = *seconds;
        return {};
    }
    std::string said;
    layout.second = unitOfNumbers(rows, layout, said);
    layout.remarks.push_back({phrase("the time has no unit: taken as {}, by its steps", said), layout.line, name});
    return {};
}

} // namespace

Result<Layout> layoutOf(std::string_view head)
{
    if (head.starts_with("\xFF\xFE") || head.starts_with("\xFE\xFF") || head.substr(0, kTold).find('\0') != head.npos)
        return fail(ErrorCode::Malformed, phrase("it is no text in UTF-8: save it as CSV in UTF-8"), {{}, {}, 1, 0});
    const size_t mark = head.starts_with("\xEF\xBB\xBF") ? 3 : 0;
    const std::vector<Line> lines = linesOf(head.substr(mark));
    const auto found = headOf(lines);
    if (!found)
        return fail(ErrorCode::Malformed, phrase("there is no line that names the columns above one of numbers"),
                    {{}, {}, 1, 0});
    Layout out;
    out.separator = found->separator;
    out.begin = mark + lines[found->row].begin;
    out.line = found->row + 1;
    out.header = lines[found->header].text;
    if (found->names.size() > kMostColumns)
        return fail(ErrorCode::TooBig, phrase("it has more than {} columns", std::to_string(kMostColumns)),
                    {{}, {}, static_cast<int>(found->header + 1), 0});
    const Cells units = found->under ? cellsOf(lines[found->header + 1].text, found->separator) : Cells();
    if (found->under)
        out.under = lines[found->header + 1].text;
    for (size_t f = 0; f < found->names.size(); ++f) {
        out.fields.push_back(fieldOf(found->names[f]));
        if (f < units.size() && out.fields.back().unit.empty() && !isBlankCell(units[f]))
            out.fields.back().unit = fieldOf("x " + std::string(units[f])).unit.empty()
                                         ? inUtf8(units[f])
                                         : fieldOf("x " + std::string(units[f])).unit;
    }
    while (!out.fields.empty() && out.fields.back().name.empty()) // a separator at the end of every line
        out.fields.pop_back();
    constexpr std::array<std::string_view, 6> kEvents = {"mark", "marks", "marker", "event", "events", "note"};
    for (size_t f = 0; f < out.fields.size(); ++f)
        if (!out.events && isAbout(out.fields[f].name, kEvents))
            out.events = f;
    const std::vector<Cells> rows = firstRows(lines, out, found->row);
    const bool commas =
        out.separator != ',' && std::ranges::any_of(rows, [](const Cells& row) {
            return std::ranges::any_of(row, [](std::string_view c) { return numberOf(c, ',') && !numberOf(c, '.'); });
        });
    const bool quoted = out.separator == ',' && std::ranges::any_of(rows, [](const Cells& row) {
                            return std::ranges::any_of(
                                row, [](std::string_view c) { return c.find(',') != c.npos && numberOf(c, ','); });
                        });
    out.decimalMark = commas || quoted ? ',' : '.';
    if (auto time = findTime(out, rows); !time)
        return tl::make_unexpected(time.error());
    return out;
}

} // namespace vicegrip::log
