#pragma once

#include "core/base/result.h"
#include "core/recording/column.h"
#include "core/stream/stream.h"

#include <optional>
#include <string_view>

namespace vicegrip::recording {

inline constexpr size_t kLongestRow = 1U << 20; ///< bytes
inline constexpr size_t kMostColumns = 4000;

/// Hears a recording's rows again, for a job that need not be the one it was made with.
class Reader
{
  public:
    /// From the first line. A column whose input or whose unit the job has not is left out, and named in `left`.
    /// Malformed: it is no recording, with the column.
    [[nodiscard]] static Result<Reader> from(std::string_view header, const job::Job& job);

    /// Adds what one row tells to `out`, with its times as they stand there; the row's mark, 0: none. Malformed, with
    /// the column, where a cell is no number; what came before it in the row is left as if it had not come. Empty
    /// lines tell nothing.
    [[nodiscard]] Result<int> row(std::string_view line, std::vector<stream::Heard>& out) const;
    /// The time of a row alone.
    [[nodiscard]] static Result<double> time(std::string_view line);

    [[nodiscard]] const std::vector<std::string>& left() const { return m_left; }
    [[nodiscard]] const std::vector<std::optional<Column>>& columns() const { return m_columns; }

  private:
    std::vector<std::optional<Column>> m_columns; ///< after the time, in their order; none: left out
    std::vector<std::string> m_left;
    bool m_marks = false; ///< the last column holds marks
};

} // namespace vicegrip::recording
