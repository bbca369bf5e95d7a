#pragma once

#include "core/base/result.h"

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

/// Reads a text whose cells stand between tabs, semicolons or commas: the first of these that the first line has.
/// Between tabs and semicolons a comma is a decimal mark. A byte-order mark, empty lines and lines that begin with #
/// are passed over. A first line whose first cell is no number, and does not begin like one, names the columns. Errors
/// (Malformed, with the line): a cell that is no number, or none that is measured, a row of another length;
/// (TooBig) above 512 MB; (Range) no row at all, or fewer columns than `leastColumns`.
[[nodiscard]] Result<NumberTable> readNumbers(std::string_view text, size_t leastColumns);

/// The same of a file, which is not copied: ten million rows are read in about the time the disk needs. Errors (Io,
/// TooBig) name the file.
[[nodiscard]] Result<NumberTable> readNumberFile(const std::filesystem::path& file, size_t leastColumns);

} // namespace vicegrip
