#pragma once

#include "core/base/result.h"

#include <map>
#include <string>
#include <string_view>
#include <vector>

/// A table out of the text that a spreadsheet writes.
namespace vicegrip::lists {

struct Row
{
    int line = 0; ///< where it begins, from 1
    std::map<std::string, std::string> cells; ///< by column; trimmed
    size_t count = 0; ///< of its cells
};

struct Table
{
    std::vector<std::string> columns; ///< lower case, blanks as underscores
    std::vector<Row> rows; ///< those in which anything stands
};

/// RFC 4180, with semicolons or tabs for commas where the first row has more of them, and with the mark of UTF-8 before
/// it. Errors: Malformed (no UTF-8, a quote within a cell, one that is not closed, a column twice, no rows), TooBig.
[[nodiscard]] Result<Table> readTable(std::string_view text);

} // namespace vicegrip::lists
