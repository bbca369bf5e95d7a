#include "core/base/number_table.h"

#include "core/base/document.h"
#include "core/base/measurable.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <fast_float/fast_float.h>

namespace vicegrip {
namespace {

constexpr size_t kMostBytes = size_t{512} << 20;
constexpr size_t kForeseen = size_t{1} << 24; ///< rows that room is made for at once
constexpr size_t kQuoted = 40; ///< of a cell that is wrong
constexpr std::string_view kBlank = " \t\r\"";

char separatorOf(std::string_view line)
{
    for (const char mark : {'\t', ';'})
        if (line.find(mark) != std::string_view::npos)
            return mark;
    return ',';
}

bool isBlank(char c)
{
    return c == ' ' || c == '\t' || c == '\r' || c == '"';
}

std::string_view withoutBlanks(std::string_view cell)
{
    while (!cell.empty() && isBlank(cell.front()))
        cell.remove_prefix(1);
    while (!cell.empty() && isBlank(cell.back()))
        cell.remove_suffix(1);
    return cell;
}

bool readNumber(std::string_view cell, char decimalMark, double& value)
{
    if (cell.starts_with('+'))
        cell.remove_prefix(1);
    const char *const begin = cell.data(), *const end = begin + cell.size();
    auto answer = fast_float::from_chars(begin, end, value);
    if (answer.ptr != end && *answer.ptr == ',' && decimalMark == ',') // a spreadsheet may mix both marks
        answer = fast_float::from_chars_advanced(begin, end, value,
                                                 fast_float::parse_options(fast_float::chars_format::general, ','));
    return answer.ec == std::errc() && answer.ptr == end && isMeasurable(value); // and so finite
}

tl::unexpected<Error> atLine(ErrorCode code, int line, std::string sentence)
{
    return fail(code, std::move(sentence), {{}, {}, line, 0});
}

template <class Take> void eachCell(std::string_view line, char separator, Take take)
{
    for (;;) {
        const auto* mark = static_cast<const char*>(std::memchr(line.data(), separator, line.size()));
        const size_t width = mark == nullptr ? line.size() : static_cast<size_t>(mark - line.data());
        if (!take(withoutBlanks(line.substr(0, width))) || mark == nullptr)
            return;
        line.remove_prefix(width + 1);
    }
}

/// "0x10", "1e999" and "--5" are numbers gone wrong and name no column.
bool beginsLikeANumber(std::string_view cell)
{
    const size_t first = cell.find_first_not_of("+-.,");
    return first != std::string_view::npos && cell[first] >= '0' && cell[first] <= '9';
}

/// The cells of the first line; whether they name the columns.
bool isHeading(std::string_view line, char separator, std::vector<std::string>& names)
{
    bool heading = false;
    eachCell(line, separator, [&](std::string_view cell) {
        double value = 0;
        if (names.empty())
            heading = !beginsLikeANumber(cell) && !readNumber(cell, separator == ',' ? '.' : ',', value);
        names.emplace_back(cell);
        return true;
    });
    return heading;
}

Result<NumberTable> tableOf(NumberRows rows)
{
    if (rows.text().size() > kMostBytes)
        return fail(ErrorCode::TooBig, phrase("the text is longer than 512 MB"));
    NumberTable out;
    for (;;) {
        const auto there = rows.next();
        if (!there)
            return tl::make_unexpected(there.error());
        if (!*there)
            return out;
        const auto row = rows.row();
        if (out.columns == 0) {
            out.columns = row.size();
            out.names = rows.names();
            const size_t line = std::max<size_t>(1, rows.text().line().size() + 1);
            const size_t foreseen = std::min<size_t>(rows.text().size() / line, kForeseen);
            out.cells.reserve(foreseen * out.columns);
            out.lines.reserve(foreseen);
        }
        out.cells.insert(out.cells.end(), row.begin(), row.end());
        out.lines.push_back(rows.line());
    }
}

} // namespace

std::optional<double> readCell(std::string_view cell, char separator)
{
    double value = 0;
    return readNumber(withoutBlanks(cell), separator == ',' ? '.' : ',', value) ? std::optional(value) : std::nullopt;
}

bool NumberRows::nextLine()
{
    while (m_lines.next()) {
        const std::string_view line = m_lines.line();
        const size_t shown = line.find_first_not_of(kBlank);
        if (shown != std::string_view::npos && line[shown] != '#')
            return true;
    }
    return false;
}

/// What the first line says of the columns; whether a row is at hand.
Result<bool> NumberRows::begin()
{
    if (!nextLine())
        return end();
    m_separator = separatorOf(m_lines.line());
    const bool heading = isHeading(m_lines.line(), m_separator, m_names);
    m_columns = m_names.size();
    if (m_columns < m_leastColumns)
        return atLine(
            ErrorCode::Range, m_lines.number(),
            phrase("expected {} columns, found {}", std::to_string(m_leastColumns), std::to_string(m_columns)));
    if (!heading)
        m_names.clear();
    return heading ? (nextLine() ? Result<bool>(true) : end()) : Result<bool>(true);
}

Result<bool> NumberRows::end() const
{
    if (m_lines.trouble())
        return tl::make_unexpected(*m_lines.trouble());
    if (m_any)
        return false;
    return fail(ErrorCode::Range, m_lines.size() == 0 ? phrase("it is empty: there is no row of numbers")
                                                      : phrase("there is no row of numbers"));
}

Result<bool> NumberRows::next()
{
    if (m_columns == 0) {
        const auto there = begin();
        if (!there || !*there)
            return there;
    } else if (!nextLine()) {
        return end();
    }
    std::string_view wrong;
    m_row.clear();
    size_t cells = 0;
    const char decimalMark = m_separator == ',' ? '.' : ',';
    eachCell(m_lines.line(), m_separator, [&](std::string_view cell) {
        double value = 0;
        ++cells;
        if (!readNumber(cell, decimalMark, value) && wrong.data() == nullptr)
            wrong = cell;
        if (cells <= m_columns)
            m_row.push_back(value);
        return true;
    });
    if (cells != m_columns)
        return atLine(ErrorCode::Malformed, m_lines.number(),
                      phrase("{} columns, and {} before", std::to_string(cells), std::to_string(m_columns)));
    if (wrong.data() != nullptr)
        return atLine(ErrorCode::Malformed, m_lines.number(),
                      phrase("\"{}\" is not a finite number of a size that is measured", wrong.substr(0, kQuoted)));
    m_any = true;
    return true;
}

Result<NumberTable> readNumbers(std::string_view text, size_t leastColumns)
{
    return tableOf(NumberRows(TextLines(text), leastColumns));
}

Result<NumberTable> readNumberFile(const std::filesystem::path& file, size_t leastColumns)
{
    return document::inFile(TextLines::ofFile(file).and_then(
                                [&](TextLines&& lines) { return tableOf(NumberRows(std::move(lines), leastColumns)); }),
                            file);
}

} // namespace vicegrip
