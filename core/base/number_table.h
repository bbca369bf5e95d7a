#pragma once

#include "core/base/text_lines.h"

#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// Columns of numbers from another program: a CSV, a spreadsheet, a logger.
namespace vicegrip {

struct NumberTable
{
    std::vector<std::string> names; ///< of the columns, where the first line names them; else empty
    size_t columns = 0;
    std::vector<double> cells; ///< row by row
    std::vector<int> lines; ///< of the text, from 1, for each row

    [[nodiscard]] size_t size() const { return lines.size(); }
    [[nodiscard]] std::span<const double> row(size_t i) const { return std::span(cells).subspan(i * columns, columns); }
};

/// One cell of such a text as a finite number; blanks and quotes round it are passed over.
[[nodiscard]] std::optional<double> readCell(std::string_view cell, char separator);

/// The rows of a text whose cells stand between tabs, semicolons or commas: the first of these that the first line has.
/// Between tabs and semicolons a comma is a decimal mark. A byte-order mark, empty lines and lines that begin with #
/// are passed over. A first line whose first cell is no number, and does not begin like one, names the columns.
class NumberRows
{
  public:
    NumberRows(TextLines lines, size_t leastColumns) : m_lines(std::move(lines)), m_leastColumns(leastColumns) {}

    /// Goes to the next row; false at the end. Errors (Malformed, with the line): a cell that is no number, or none
    /// that is measured, a row of another length; (Range) no row at all, or fewer columns than `leastColumns`; those
    /// of TextLines.
    [[nodiscard]] Result<bool> next();
    [[nodiscard]] std::span<const double> row() const { return m_row; }
    [[nodiscard]] int line() const { return m_lines.number(); }
    [[nodiscard]] const std::vector<std::string>& names() const { return m_names; } ///< as NumberTable's
    [[nodiscard]] const TextLines& text() const { return m_lines; }

  private:
    [[nodiscard]] bool nextLine();
    [[nodiscard]] Result<bool> begin();
    [[nodiscard]] Result<bool> end() const;

    TextLines m_lines;
    size_t m_leastColumns, m_columns = 0;
    char m_separator = ',';
    bool m_any = false;
    std::vector<std::string> m_names;
    std::vector<double> m_row;
};

/// All rows. Errors: as NumberRows; (TooBig) above 512 MB.
[[nodiscard]] Result<NumberTable> readNumbers(std::string_view text, size_t leastColumns);

/// The same of a file. Errors name it.
[[nodiscard]] Result<NumberTable> readNumberFile(const std::filesystem::path& file, size_t leastColumns);

} // namespace vicegrip
