#pragma once

#include "core/recording/column.h"
#include "core/stream/stream.h"

#include <map>
#include <optional>
#include <string>

namespace vicegrip::recording {

/// Makes rows of what is heard. What was heard before a row is full is kept until it is: `finish` writes the last one.
class Writer
{
  public:
    explicit Writer(std::vector<Column> columns);

    /// The first line.
    [[nodiscard]] std::string header() const;
    /// Adds the lines that are complete to `out`. What no column is of is left out. Times are counted from the first.
    void take(const stream::Heard& heard, std::string& out);
    /// A mark at this moment: a number of its own, from 1.
    int mark(double time_s, std::string& out);
    void finish(std::string& out);

    [[nodiscard]] size_t values() const { return m_values; } ///< taken so far
    [[nodiscard]] int marks() const { return m_marks; }
    [[nodiscard]] double seconds() const { return m_last_s; } ///< from the first to the last

  private:
    void open(double time_s, std::string& out);
    void close(std::string& out);

    std::vector<Column> m_columns;
    std::map<std::pair<int, job::Tells>, size_t> m_at;
    std::vector<std::optional<double>> m_row;
    std::optional<double> m_began_s, m_row_s; ///< of the recording, of the row that is open
    double m_last_s = 0;
    size_t m_values = 0;
    int m_marks = 0, m_rowMark = 0;
};

} // namespace vicegrip::recording
