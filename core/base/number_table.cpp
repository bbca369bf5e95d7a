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

/// Walks over the lines that hold something.
class Lines
{
  public:
    explicit Lines(std::string_view text) : m_rest(text) {}

    bool next()
    {
        while (!m_rest.empty()) {
            const size_t end = std::min(m_rest.find('\n'), m_rest.size());
            m_line = m_rest.substr(0, end);
            m_rest.remove_prefix(std::min(end + 1, m_rest.size()));
            ++m_number;
            const size_t shown = m_line.find_first_not_of(kBlank);
            if (shown != std::string_view::npos && m_line[shown] != '#')
                return true;
        }
        return false;
    }

    [[nodiscard]] std::string_view line() const { return m_line; }
    [[nodiscard]] int number() const { return m_number; }

  private:
    std::string_view m_rest, m_line;
    int m_number = 0;
};

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

/// Columns and their names from the first line; whether it names them.
bool isHeading(std::string_view line, char separator, NumberTable& out)
{
    bool heading = false;
    eachCell(line, separator, [&](std::string_view cell) {
        double value = 0;
        if (out.columns == 0)
            heading = !beginsLikeANumber(cell) && !readNumber(cell, separator == ',' ? '.' : ',', value);
        ++out.columns;
        out.names.emplace_back(cell);
        return true;
    });
    if (!heading)
        out.names.clear();
    return heading;
}

} // namespace

std::optional<double> readCell(std::string_view cell, char separator)
{
    double value = 0;
    return readNumber(withoutBlanks(cell), separator == ',' ? '.' : ',', value) ? std::optional(value) : std::nullopt;
}

Result<NumberTable> readNumbers(std::string_view text, size_t leastColumns)
{
    if (text.size() > kMostBytes)
        return fail(ErrorCode::TooBig, phrase("the text is longer than 512 MB"));
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    NumberTable out;
    char separator = ',';
    for (Lines lines(text); lines.next();) {
        const std::string_view line = lines.line();
        if (out.columns == 0) {
            separator = separatorOf(line);
            const bool heading = isHeading(line, separator, out);
            if (out.columns < leastColumns)
                return atLine(
                    ErrorCode::Range, lines.number(),
                    phrase("expected {} columns, found {}", std::to_string(leastColumns), std::to_string(out.columns)));
            const size_t rows = std::min(text.size() / (line.size() + 1), kForeseen);
            out.cells.reserve(rows * out.columns);
            out.lines.reserve(rows);
            if (heading)
                continue;
        }
        size_t cells = 0;
        std::string_view wrong;
        eachCell(line, separator, [&](std::string_view cell) {
            double value = 0;
            ++cells;
            if (!readNumber(cell, separator == ',' ? '.' : ',', value) && wrong.data() == nullptr)
                wrong = cell;
            if (cells <= out.columns)
                out.cells.push_back(value);
            return true;
        });
        if (cells != out.columns)
            return atLine(ErrorCode::Malformed, lines.number(),
                          phrase("{} columns, and {} before", std::to_string(cells), std::to_string(out.columns)));
        if (wrong.data() != nullptr)
            return atLine(ErrorCode::Malformed, lines.number(),
                          phrase("\"{}\" is not a finite number of a size that is measured", wrong.substr(0, kQuoted)));
        out.lines.push_back(lines.number());
    }
    if (out.lines.empty())
        return fail(ErrorCode::Range, text.empty() ? phrase("it is empty: there is no row of numbers")
                                                   : phrase("there is no row of numbers"));
    return out;
}

Result<NumberTable> readNumberFile(const std::filesystem::path& file, size_t leastColumns)
{
    return document::inFile(document::readFile(file, kMostBytes).and_then([&](const std::string& text) {
        return readNumbers(text, leastColumns);
    }),
                            file);
}

} // namespace vicegrip
