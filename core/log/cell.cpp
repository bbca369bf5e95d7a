#include "core/log/cell.h"

#include "core/base/typed_text.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>

namespace vicegrip::log {
namespace {

constexpr double kDay_s = 86400;

/// A whole number that the text begins with, of so many digits at most; it goes on behind it.
std::optional<int> wholeNumber(std::string_view& text, size_t most)
{
    int out = 0;
    size_t n = 0;
    for (; n < text.size() && n < most && text[n] >= '0' && text[n] <= '9'; ++n)
        out = out * 10 + (text[n] - '0');
    if (n == 0)
        return std::nullopt;
    text.remove_prefix(n);
    return out;
}

bool take(std::string_view& text, std::string_view marks)
{
    if (text.empty() || marks.find(text.front()) == std::string_view::npos)
        return false;
    text.remove_prefix(1);
    return true;
}

/// "18:40:05.250", "40:05.25"; what follows is left in `text`.
std::optional<double> clockAt(std::string_view& text)
{
    std::array<int, 3> parts{};
    size_t n = 0;
    for (; n < parts.size(); ++n) {
        const auto part = wholeNumber(text, n == 0 ? 4 : 2);
        if (!part)
            return std::nullopt;
        parts[n] = *part;
        if (!take(text, ":")) {
            ++n;
            break;
        }
    }
    if (n < 2 || parts[n - 1] > 60 || (n == 3 && parts[1] > 59))
        return std::nullopt;
    double seconds = n == 3 ? 3600.0 * parts[0] + 60.0 * parts[1] + parts[2] : 60.0 * parts[0] + parts[1];
    if (take(text, ".,:")) { // a third colon divides milliseconds in some logs
        double scale = 0.1;
        const size_t before = text.size();
        for (; !text.empty() && text.front() >= '0' && text.front() <= '9'; text.remove_prefix(1), scale /= 10)
            seconds += scale * (text.front() - '0');
        if (before == text.size())
            return std::nullopt;
    }
    return seconds;
}

std::optional<double> dayAt(std::string_view& text)
{
    using namespace std::chrono;
    std::array<int, 3> parts{};
    for (size_t n = 0; n < parts.size(); ++n) {
        const auto part = wholeNumber(text, 4);
        if (!part || (n < 2 && !take(text, "-./")))
            return std::nullopt;
        parts[n] = *part;
    }
    if (parts[0] <= 31)
        std::swap(parts[0], parts[2]);
    if (parts[1] > 12)
        std::swap(parts[1], parts[2]);
    if (parts[0] < 100)
        parts[0] += 2000;
    const year_month_day date{year(parts[0]), month(static_cast<unsigned>(parts[1])),
                              day(static_cast<unsigned>(parts[2]))};
    if (!date.ok() || parts[0] < 1970)
        return std::nullopt;
    return static_cast<double>(sys_days(date).time_since_epoch().count());
}

} // namespace

std::string_view bare(std::string_view cell)
{
    const auto isBlank = [](char c) { return c == ' ' || c == '\t' || c == '\r' || c == '"'; };
    while (!cell.empty() && isBlank(cell.front()))
        cell.remove_prefix(1);
    while (!cell.empty() && isBlank(cell.back()))
        cell.remove_suffix(1);
    return cell;
}

std::string_view nextCell(std::string_view& rest, char separator, bool& more)
{
    size_t end = 0;
    bool quoted = false;
    for (; end < rest.size() && (quoted || rest[end] != separator); ++end)
        if (rest[end] == '"')
            quoted = !quoted;
    const std::string_view cell = rest.substr(0, end);
    more = end < rest.size();
    rest.remove_prefix(more ? end + 1 : end);
    return cell;
}

std::optional<double> numberOf(std::string_view cell, char decimalMark)
{
    cell = bare(cell);
    double value = 0;
    const char* const end = cell.data() + cell.size();
    if (cell.empty() || numberAt(cell.data(), end, decimalMark, value) != end || !std::isfinite(value))
        return std::nullopt;
    return value;
}

std::optional<double> switchOf(std::string_view cell)
{
    constexpr std::array<std::string_view, 5> kOn = {"on", "true", "yes", "open", "active"};
    constexpr std::array<std::string_view, 5> kOff = {"off", "false", "no", "closed", "inactive"};
    cell = bare(cell);
    std::array<char, 8> lower{}; // a log may have millions of them
    if (cell.size() > lower.size())
        return std::nullopt;
    std::ranges::transform(cell, lower.begin(),
                           [](char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c; });
    const std::string_view word(lower.data(), cell.size());
    if (std::ranges::find(kOn, word) != kOn.end())
        return 1;
    return std::ranges::find(kOff, word) != kOff.end() ? std::optional<double>(0) : std::nullopt;
}

bool isBlankCell(std::string_view cell)
{
    constexpr std::array<std::string_view, 9> kNothing = {"", "-", "--", "---", "n/a", "na", "nan", "null", "none"};
    return std::ranges::find(kNothing, typed::lower(std::string(bare(cell)))) != kNothing.end();
}

std::optional<double> dayOf(std::string_view cell)
{
    std::string_view rest = bare(cell);
    const auto day = dayAt(rest);
    return rest.empty() ? day : std::nullopt;
}

std::optional<double> timeOf(std::string_view cell, TimeForm form, char decimalMark)
{
    if (form == TimeForm::Number)
        return numberOf(cell, decimalMark);
    std::string_view rest = bare(cell);
    double days = 0;
    if (form == TimeForm::DateAndClock) {
        const auto day = dayAt(rest);
        if (!day || !take(rest, "T _"))
            return std::nullopt;
        while (take(rest, " ")) {
        }
        days = *day;
    }
    auto clock = clockAt(rest);
    if (!clock)
        return std::nullopt;
    while (take(rest, " ")) {
    }
    const std::string half = typed::lower(std::string(rest.substr(0, 2)));
    if (half == "am" || half == "pm") {
        const double hours = std::floor(*clock / 3600);
        if (hours < 1 || hours > 12)
            return std::nullopt;
        *clock += (half == "pm" && hours < 12 ? 12 : half == "am" && hours == 12 ? -12 : 0) * 3600.0;
        rest.remove_prefix(2);
    }
    if (!rest.empty() && form == TimeForm::DateAndClock && (rest == "Z" || rest.front() == '+' || rest.front() == '-'))
        rest = {}; // all rows are of one zone
    if (!rest.empty())
        return std::nullopt;
    return days * kDay_s + *clock;
}

} // namespace vicegrip::log
