#pragma once

#include "core/base/result.h"
#include "core/log/cell.h"
#include "core/log/logged.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace vicegrip::log {

inline constexpr std::size_t kMostColumns = 4000;

/// How a log is laid out: what its first lines say.
struct Layout
{
    struct Field
    {
        std::string name, unit;
        bool operator==(const Field&) const = default;
    };

    char separator = ',', decimalMark = '.';
    std::vector<Field> fields; ///< all, in their order
    std::size_t time = 0; ///< field
    std::optional<std::size_t> day; ///< a date in a field of its own
    TimeForm form = TimeForm::Number;
    double second = 1; ///< of a number: its unit in seconds
    std::optional<std::size_t> events; ///< a field of marks and words
    std::size_t begin = 0; ///< byte the first row is at
    std::uint64_t line = 0; ///< of the first row, from 1
    std::string header,
        under; ///< the line that names the columns and the one with units under it, should they come again
    std::vector<Remark> remarks;
};

/// From the first lines of a file. Separators may be tabs, semicolons, bars and commas; lines above the one that names
/// the columns are passed over; a unit stands behind the name in brackets, or in a line of its own.
/// Errors: (Malformed) no line that names columns above a line of numbers, or the text is UTF-16; (TooBig) more columns
/// than kMostColumns; (Range) no column tells the time.
[[nodiscard]] Result<Layout> layoutOf(std::string_view head);

} // namespace vicegrip::log
