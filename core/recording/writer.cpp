#include "core/recording/writer.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace vicegrip::recording {
namespace {

constexpr double kOneRow_s = 0.002;

void addNumber(std::string& out, double value)
{
    char text[64];
    const auto end = std::to_chars(std::begin(text), std::end(text), value, std::chars_format::general, 9);
    out.append(text, end.ptr);
}

} // namespace

Writer::Writer(std::vector<Column> columns) : m_columns(std::move(columns)), m_row(m_columns.size())
{
    for (size_t i = 0; i < m_columns.size(); ++i)
        m_at[{m_columns[i].input, m_columns[i].tells}] = i;
}

std::string Writer::header() const
{
    std::string out = "time (s)";
    for (const Column& c : m_columns)
        out += "," + heading(c);
    return out + ",mark\n";
}

void Writer::take(const stream::Heard& heard, std::string& out)
{
    const auto at = m_at.find({heard.input, heard.tells});
    if (at == m_at.end() || !std::isfinite(heard.value))
        return;
    if (m_row_s && m_row[at->second])
        close(out);
    open(heard.time_s, out);
    m_row[at->second] = toColumn(m_columns[at->second], heard.value);
    ++m_values;
}

int Writer::mark(double time_s, std::string& out)
{
    if (m_rowMark != 0)
        close(out);
    open(time_s, out);
    m_rowMark = ++m_marks;
    return m_marks;
}

/// The row of this moment is the open one, or the next.
void Writer::open(double time_s, std::string& out)
{
    if (m_row_s && time_s - *m_row_s > kOneRow_s)
        close(out);
    m_began_s = m_began_s.value_or(time_s);
    m_row_s = m_row_s.value_or(time_s);
    m_last_s = std::max(m_last_s, time_s - *m_began_s);
}

void Writer::close(std::string& out)
{
    char time[64];
    const auto end = std::to_chars(std::begin(time), std::end(time), std::max(0.0, *m_row_s - *m_began_s),
                                   std::chars_format::fixed, 4);
    out.append(time, end.ptr);
    for (std::optional<double>& cell : m_row) {
        out += ',';
        if (cell)
            addNumber(out, *cell);
        cell.reset();
    }
    out += ',';
    if (m_rowMark != 0)
        out += std::to_string(m_rowMark);
    out += '\n';
    m_rowMark = 0;
    m_row_s.reset();
}

void Writer::finish(std::string& out)
{
    if (m_row_s)
        close(out);
}

} // namespace vicegrip::recording
