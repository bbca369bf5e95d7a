#include "core/lists/csv_table.h"

#include "core/base/csv.h"
#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/base/utf8.h"

#include <algorithm>
#include <csv.h>
#include <memory>
#include <set>
#include <utility>

namespace vicegrip::lists {
namespace {

constexpr size_t kMostBytes = 4 << 20, kMostRows = 50000;

char markOf(std::string_view text)
{
    text.remove_prefix(std::min(text.find_first_not_of("\r\n"), text.size()));
    const std::string_view first = text.substr(0, text.find('\n'));
    return *std::ranges::max_element(std::string_view(",;\t"), {},
                                     [&](char c) { return std::ranges::count(first, c); });
}

std::string columnName(const std::string& cell)
{
    std::string out = typed::lower(cell);
    std::ranges::replace(out, ' ', '_');
    return out;
}

/// What the parser hands over, cell by cell.
struct Handed
{
    std::vector<std::vector<std::string>> rows;
    std::vector<std::string> row;
    std::vector<int> lines; ///< where each of `rows` begins
    int line = 1, begins = 1;

    static void cell(void* text, size_t length, void* to)
    {
        const std::string_view typed(text == nullptr ? "" : static_cast<const char*>(text), length);
        static_cast<Handed*>(to)->row.emplace_back(csv::unguarded(typed::trimmed(typed)));
    }
    static void end(int, void* to)
    {
        auto& h = *static_cast<Handed*>(to);
        if (std::ranges::any_of(h.row, [](const std::string& c) { return !c.empty(); })) {
            h.rows.push_back(std::exchange(h.row, {}));
            h.lines.push_back(h.begins);
        }
        h.row.clear();
    }
};

/// Line by line, so that it is known which a row begins in.
Result<Handed> parsed(std::string_view text)
{
    csv_parser parser;
    csv_init(&parser, CSV_STRICT | CSV_STRICT_FINI | CSV_EMPTY_IS_NULL);
    const std::unique_ptr<csv_parser, decltype(&csv_free)> freed(&parser, &csv_free);
    csv_set_delim(&parser, static_cast<unsigned char>(markOf(text)));
    Handed out;
    std::ptrdiff_t quotes = 0;
    const auto wrong = [&] {
        return fail(ErrorCode::Malformed,
                    phrase("a quote is not closed, or stands within a cell: a cell with quotes has them at its two "
                           "ends, and twice within"),
                    {{}, {}, out.begins, 0});
    };
    for (size_t from = 0; from < text.size(); ++out.line) {
        const size_t to = std::min(text.find('\n', from), text.size() - 1) + 1;
        const std::string_view line = text.substr(from, to - from);
        if (quotes % 2 == 0) // no cell goes on from the line before
            out.begins = out.line;
        quotes += std::ranges::count(line, '"');
        if (csv_parse(&parser, line.data(), line.size(), &Handed::cell, &Handed::end, &out) != line.size())
            return wrong();
        if (out.rows.size() > kMostRows + 1)
            return fail(ErrorCode::TooBig, phrase("the list has more than 50 000 rows"));
        from = to;
    }
    if (csv_fini(&parser, &Handed::cell, &Handed::end, &out) != 0)
        return wrong();
    return out;
}

} // namespace

Result<Table> readTable(std::string_view text)
{
    if (text.size() > kMostBytes)
        return fail(ErrorCode::TooBig, phrase("the list is longer than 4 MB"));
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    if (!isUtf8(text) || text.find('\0') != std::string_view::npos)
        return fail(ErrorCode::Malformed, phrase("it is no text in UTF-8: save it as CSV in UTF-8"));
    return parsed(text).and_then([](Handed handed) -> Result<Table> {
        if (handed.rows.empty())
            return fail(ErrorCode::Malformed, phrase("the list is empty"));
        Table out;
        std::set<std::string> seen;
        for (const std::string& cell : handed.rows.front()) {
            out.columns.push_back(columnName(cell));
            if (!cell.empty() && !seen.insert(out.columns.back()).second)
                return fail(ErrorCode::Malformed, phrase("the column \"{}\" stands there twice", out.columns.back()),
                            {{}, {}, handed.lines.front(), 0});
        }
        for (size_t r = 1; r < handed.rows.size(); ++r) {
            Row& row = out.rows.emplace_back(Row{handed.lines[r], {}, handed.rows[r].size()});
            for (size_t i = 0; i < std::min(row.count, out.columns.size()); ++i)
                if (!out.columns[i].empty())
                    row.cells[out.columns[i]] = std::move(handed.rows[r][i]);
        }
        return out;
    });
}

} // namespace vicegrip::lists
