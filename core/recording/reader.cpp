#include "core/recording/reader.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"

#include <fast_float/fast_float.h>

#include <algorithm>
#include <cmath>

namespace vicegrip::recording {
namespace {

constexpr std::string_view kTime = "time (s)", kMark = "mark";

tl::unexpected<Error> wrong(std::string sentence, size_t column)
{
    return fail(ErrorCode::Malformed, std::move(sentence), {{}, {}, 0, static_cast<int>(column) + 1});
}

/// Calls `take` with each cell and where it begins; stops where it says no.
template <class Take> void cells(std::string_view line, Take take)
{
    while (!line.empty() && (line.back() == '\r' || line.back() == '\n'))
        line.remove_suffix(1);
    for (size_t at = 0;;) {
        const size_t end = std::min(line.find(',', at), line.size());
        if (!take(line.substr(at, end - at), at) || end == line.size())
            return;
        at = end + 1;
    }
}

std::optional<double> number(std::string_view cell)
{
    double value = 0;
    const auto [end, error] = fast_float::from_chars(cell.data(), cell.data() + cell.size(), value);
    return error == std::errc() && end == cell.data() + cell.size() && std::isfinite(value) ? std::optional(value)
                                                                                            : std::nullopt;
}

std::optional<Column> columnFrom(std::string_view heading, const std::vector<Column>& known)
{
    std::string unit;
    if (heading.ends_with(')'))
        if (const size_t open = heading.rfind(" ("); open != std::string_view::npos) {
            unit = heading.substr(open + 2, heading.size() - open - 3);
            heading = heading.substr(0, open);
        }
    for (Column c : known)
        if (c.name.value + " " + std::string(fields::enumName(c.tells)) == heading) {
            const bool fits = c.tells == job::Tells::Value
                                  ? unit.empty() ? c.unit.empty() : units::measures(unit, c.measures)
                                  : unit == c.unit;
            if (!fits)
                return std::nullopt;
            c.unit = unit; // in which it was written
            return c;
        }
    return std::nullopt;
}

} // namespace

Result<Reader> Reader::from(std::string_view header, const job::Job& job)
{
    Reader out;
    const std::vector<Column> known = columnsOf(job);
    size_t count = 0;
    Result<void> sound;
    cells(header, [&](std::string_view cell, size_t at) {
        if (count++ == 0) {
            if (cell != kTime)
                sound = wrong(phrase("this is not a recording: its first column is not \"{}\"", kTime), at);
            return sound.has_value();
        }
        if (count > kMostColumns) {
            sound = wrong(phrase("a recording has at most {} columns", std::to_string(kMostColumns)), at);
            return false;
        }
        out.m_marks = cell == kMark;
        out.m_columns.push_back(out.m_marks ? std::nullopt : columnFrom(cell, known));
        if (!out.m_columns.back() && !out.m_marks)
            out.m_left.emplace_back(cell);
        return true;
    });
    if (!sound)
        return tl::make_unexpected(sound.error());
    return out;
}

Result<double> Reader::time(std::string_view line)
{
    const std::string_view cell = line.substr(0, line.find(','));
    if (const auto t = number(cell); t && *t >= 0)
        return *t;
    return wrong(phrase("expected a time in seconds"), 0);
}

Result<int> Reader::row(std::string_view line, std::vector<stream::Heard>& out) const
{
    if (typed::trimmed(line).empty())
        return 0;
    const auto time_s = time(line);
    if (!time_s)
        return tl::make_unexpected(time_s.error());
    const size_t before = out.size();
    size_t i = 0;
    int mark = 0;
    Result<void> sound;
    bool first = true;
    cells(line, [&](std::string_view cell, size_t at) {
        if (std::exchange(first, false))
            return true;
        if (i >= m_columns.size()) {
            sound = wrong(phrase("the row has more cells than the first line"), at);
            return false;
        }
        const size_t column = i++;
        if (cell.empty())
            return true;
        const auto value = number(cell);
        if (!value) {
            sound = wrong(phrase("expected a number"), at);
            return false;
        }
        if (m_columns[column])
            out.push_back(
                {m_columns[column]->input, m_columns[column]->tells, *time_s, fromColumn(*m_columns[column], *value)});
        else if (m_marks && column + 1 == m_columns.size() && *value >= 0 && *value < 1e9)
            mark = static_cast<int>(*value);
        return true;
    });
    if (sound)
        return mark;
    out.resize(before);
    return tl::make_unexpected(sound.error());
}

} // namespace vicegrip::recording
