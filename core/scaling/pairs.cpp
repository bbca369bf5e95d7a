#include "core/scaling/pairs.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"
#include "core/units/shown.h"

#include <algorithm>
#include <cctype>

namespace vicegrip::scaling {
namespace {

constexpr size_t kMostLines = 1000; ///< as many as a job keeps

/// The two cells of a line. A blank parts them only where nothing else does, and then not a number from its unit.
std::vector<std::string> cellsOf(const std::string& line)
{
    for (const char mark : {'\t', ';'}) {
        if (const size_t at = line.find(mark); at != std::string::npos)
            return {typed::trimmed(line.substr(0, at)), typed::trimmed(line.substr(at + 1))};
    }
    // A comma with a blank beside it parts; one between digits is a decimal mark.
    if (const size_t at = line.find(", "); at != std::string::npos)
        return {typed::trimmed(line.substr(0, at)), typed::trimmed(line.substr(at + 2))};
    if (std::ranges::count(line, ',') == 1 && line.find('.') != std::string::npos) // "20.5,2.31"
        return {typed::trimmed(line.substr(0, line.find(','))), typed::trimmed(line.substr(line.find(',') + 1))};
    for (size_t at = line.find(' '); at != std::string::npos; at = line.find(' ', at + 1)) {
        const size_t next = line.find_first_not_of(' ', at);
        const bool number = next != std::string::npos &&
                            (std::isdigit(static_cast<unsigned char>(line[next])) != 0 || line[next] == '-');
        if (number)
            return {typed::trimmed(line.substr(0, at)), typed::trimmed(line.substr(at))};
    }
    return {line};
}

PairLine pairOf(const std::string& line, int number, const parts::Part& sensor, const std::string& when)
{
    const auto cells = cellsOf(line);
    if (cells.size() < 2 || cells[1].empty())
        return {number, {}, phrase("expected a value and volts, such as 20 {}; 2.51 V", sensor.unit)};
    const auto value = units::parsePasted(typed::withPoints(cells[0]), sensor.measures, sensor.unit);
    if (!value)
        return {number, {}, value.error().sentence};
    const auto volts = units::parse(typed::withPoints(cells[1]), units::Dimension::Voltage, "V");
    if (!volts)
        return {number, {}, volts.error().sentence};
    if (*volts < -100 || *volts > 100)
        return {number, {}, phrase("no input of an ECU shows that: expected volts")};
    job::Captured pair;
    pair.value = *value;
    pair.volts = *volts;
    pair.when = when;
    return {number, std::move(pair),
            units::format(*value, sensor.measures, sensor.unit, 1) + " at " +
                units::format(*volts, units::Dimension::Voltage, "V", 3)};
}

} // namespace

std::vector<PairLine> readPairs(std::string_view text, const parts::Part& sensor, const std::string& when)
{
    std::vector<PairLine> out;
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    int number = 0;
    while (!text.empty()) {
        const size_t end = text.find('\n');
        const std::string line = typed::trimmed(text.substr(0, end));
        text = end == std::string_view::npos ? std::string_view() : text.substr(end + 1);
        ++number;
        if (line.empty() || line.front() == '#')
            continue;
        const bool heading = out.empty() && std::ranges::none_of(line, [](unsigned char c) { return std::isdigit(c); });
        if (heading)
            continue;
        if (out.size() == kMostLines) {
            out.push_back(
                {number, {}, phrase("a circuit keeps {} readings: the rest is left out", std::to_string(kMostLines))});
            break;
        }
        out.push_back(pairOf(line, number, sensor, when));
    }
    return out;
}

} // namespace vicegrip::scaling
