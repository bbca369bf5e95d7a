#include "core/log/write_log.h"

#include "core/base/csv.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <numeric>

namespace vicegrip::log {
namespace {

void append(std::string& out, auto value)
{
    char digits[48];
    const auto written = std::to_chars(std::begin(digits), std::end(digits), value);
    out.append(std::begin(digits), written.ptr);
}

} // namespace

std::string csvOf(const Log& log, std::size_t first, std::size_t last, const std::vector<std::size_t>& columns)
{
    std::vector<std::size_t> all(log.columns.size());
    std::iota(all.begin(), all.end(), std::size_t{0});
    const std::vector<std::size_t>& chosen = columns.empty() ? all : columns;
    std::vector<std::string> heading = {"time (s)"};
    for (const std::size_t c : chosen) {
        const auto& [name, unit, values] = log.columns[c];
        heading.push_back(unit.empty() ? name : name + " (" + unit + ")");
    }
    std::string out = csv::row(heading);
    last = std::min(last, log.rows());
    for (std::size_t i = first; i < last; ++i) {
        constexpr double kMicro = 1e6; // times of counters are no round numbers in binary
        append(out, std::round((log.time_s[i] - log.time_s[first]) * kMicro) / kMicro);
        for (const std::size_t c : chosen) {
            out += ',';
            if (const float v = log.columns[c].values[i]; !std::isnan(v))
                append(out, v);
        }
        out += "\r\n";
    }
    return out;
}

} // namespace vicegrip::log
