#include "core/log/rows_of_piece.h"

#include "core/base/measurable.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <limits>

namespace vicegrip::log {
namespace {

constexpr float kNothing = std::numeric_limits<float>::quiet_NaN();
constexpr std::size_t kQuoted = 40, kSaid = 200; // bytes of what is wrong, of what is said
constexpr std::size_t kMostEvents = 10'000; // of a piece

/// A value as it is kept; what nothing could have measured is nothing.
float kept(double value)
{
    return isMeasurable(value) ? static_cast<float>(value) : kNothing;
}

class RowReader
{
  public:
    /// There are `most` lines at the most.
    RowReader(const Layout& layout, Piece& out, std::size_t most) : m_layout(layout), m_out(out)
    {
        for (auto& values : out.values) {
            values.resize(most);
            m_row.push_back(values.data());
        }
        out.time_s.reserve(most);
        out.lines.reserve(most);
    }
    ~RowReader()
    {
        for (auto& values : m_out.values)
            values.resize(m_out.time_s.size());
    }
    RowReader(const RowReader&) = delete;
    RowReader& operator=(const RowReader&) = delete;

    /// False where other columns begin.
    bool take(std::string_view line, std::uint32_t number)
    {
        m_number = number;
        m_time = m_day = std::numeric_limits<double>::quiet_NaN();
        m_said = {};
        m_words.clear();
        const std::size_t cells = read(line);
        const std::size_t fields = m_layout.fields.size();
        if (std::isfinite(m_time) && cells == fields) {
            keep();
            return true;
        }
        if (line.find_first_not_of(" \t\r") == line.npos)
            return true;
        return takeOther(line, cells);
    }

  private:
    /// Fills the row and counts the cells; behind the last column only blank ones do not count.
    std::size_t read(std::string_view line)
    {
        const char *p = line.data(), *const end = p + line.size();
        const std::size_t fields = m_layout.fields.size();
        for (std::size_t f = 0;; ++f) {
            const char* const begin = p;
            double value = 0;
            while (p != end && *p == ' ')
                ++p;
            const char* after = f < fields ? numberAt(p, end, m_layout.decimalMark, value) : nullptr;
            while (after != nullptr && after != end && *after == ' ')
                ++after;
            if (after != nullptr && (after == end || *after == m_layout.separator)) {
                p = after;
                put(f, value);
            } else if (begin == end || *begin == m_layout.separator) { // the most usual of all others
                p = begin;
                if (f < fields)
                    *m_row[f] = kNothing;
            } else {
                std::string_view rest(begin, static_cast<std::size_t>(end - begin));
                bool more = false;
                const std::string_view cell = nextCell(rest, m_layout.separator, more);
                p = cell.data() + cell.size();
                if (f < fields)
                    putWords(f, cell);
                else if (!isBlankCell(cell))
                    return f + 1;
            }
            if (p == end)
                return std::min(f + 1, fields);
            ++p;
        }
    }

    void put(std::size_t f, double value)
    {
        *m_row[f] = kept(value);
        if (f == m_layout.time && m_layout.form == TimeForm::Number)
            m_time = isMeasurable(value) ? value * m_layout.second : m_time;
    }

    void putWords(std::size_t f, std::string_view cell)
    {
        *m_row[f] = kNothing;
        if (f == m_layout.time) {
            m_time =
                timeOf(cell, m_layout.form, m_layout.decimalMark).value_or(std::numeric_limits<double>::quiet_NaN()) *
                (m_layout.form == TimeForm::Number ? m_layout.second : 1);
        } else if (f == m_layout.day) {
            m_day = dayOf(cell).value_or(m_day);
        } else if (const auto number = numberOf(cell, m_layout.decimalMark)) {
            *m_row[f] = kept(*number);
        } else if (const auto state = switchOf(cell)) {
            *m_row[f] = static_cast<float>(*state);
        } else if (f == m_layout.events) {
            m_said = bare(cell);
        } else if (!isBlankCell(cell)) {
            m_words.emplace_back(f, cell);
        }
    }

    void keep()
    {
        for (const auto& [f, cell] : m_words)
            m_out.words[f].add(m_number, bare(cell));
        constexpr double kWholeDay_s = 86400;
        m_out.time_s.push_back(std::isfinite(m_day) ? m_day * kWholeDay_s + m_time : m_time);
        m_out.lines.push_back(m_number);
        if (!m_said.empty())
            say(m_said, m_out.time_s.size() - 1);
        else if (m_layout.events && *m_row[*m_layout.events] > 0)
            say(m_layout.fields[*m_layout.events].name + " " + std::to_string(std::lround(*m_row[*m_layout.events])),
                m_out.time_s.size() - 1);
        for (float*& value : m_row)
            ++value;
    }

    void say(std::string_view text, std::size_t row)
    {
        if (m_out.events.size() < kMostEvents)
            m_out.events.push_back({row, std::string(text.substr(0, kSaid))});
    }

    /// A line that is no row.
    bool takeOther(std::string_view line, std::size_t cells)
    {
        const std::size_t fields = m_layout.fields.size();
        if (line == m_layout.header) {
            m_out.begins.push_back(m_out.time_s.size());
            return true;
        }
        if (!m_layout.under.empty() && line == m_layout.under)
            return true;
        if (std::isfinite(m_time)) {
            m_out.cut.add(m_number, line);
            return true;
        }
        const auto last = m_row.begin() + static_cast<std::ptrdiff_t>(std::min(cells, fields));
        const bool numbers = std::any_of(m_row.begin(), last, [](const float* v) { return !std::isnan(*v); });
        if (numbers) {
            (cells >= fields ? m_out.timeless : m_out.cut).add(m_number, line);
        } else if (namesOthers(line)) {
            m_out.other = m_number;
            return false;
        } else {
            say(bare(line), m_out.time_s.size());
        }
        return true;
    }

    /// A line of words names other columns where it has several, or one for the time.
    [[nodiscard]] bool namesOthers(std::string_view line) const
    {
        std::size_t words = 0;
        bool more = true, time = false;
        for (std::string_view rest = line; more;) {
            const std::string_view cell = bare(nextCell(rest, m_layout.separator, more));
            words += isBlankCell(cell) ? 0 : 1;
            time = time || cell.starts_with(m_layout.fields[m_layout.time].name);
        }
        return words >= 3 || (words == 2 && time);
    }

    const Layout& m_layout;
    Piece& m_out;
    std::vector<float*> m_row; ///< where each field's value of the row goes
    std::vector<std::pair<std::size_t, std::string_view>> m_words;
    double m_time = 0, m_day = 0;
    std::string_view m_said;
    std::uint32_t m_number = 0;
};

} // namespace

void Trouble::add(std::uint64_t at, std::string_view what)
{
    if (count++ > 0)
        return;
    line = at;
    sample = what.substr(0, kQuoted);
}

void Trouble::add(const Trouble& later, std::uint64_t first)
{
    if (count == 0 && later.count > 0) {
        line = first + later.line;
        sample = later.sample;
    }
    count += later.count;
}

void Piece::clear(std::size_t fields)
{
    time_s.clear();
    lines.clear();
    values.resize(fields);
    for (auto& v : values)
        v.clear();
    begins.clear();
    events.clear();
    words.assign(fields, {});
    cut = timeless = {};
    other.reset();
    lineCount = 0;
}

void readPiece(std::string_view text, const Layout& layout, Piece& out)
{
    out.clear(layout.fields.size());
    RowReader rows(layout, out, static_cast<std::size_t>(std::ranges::count(text, '\n')) + 1);
    for (std::size_t at = 0; at < text.size();) {
        const auto* mark = static_cast<const char*>(std::memchr(text.data() + at, '\n', text.size() - at));
        const std::size_t end = mark == nullptr ? text.size() : static_cast<std::size_t>(mark - text.data());
        std::string_view line = text.substr(at, end - at);
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        at = end + 1;
        if (!rows.take(line, out.lineCount++))
            return;
    }
}

} // namespace vicegrip::log
