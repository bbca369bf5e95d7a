#include "core/review/rows.h"

#include "core/base/in_parallel.h"
#include "core/base/median.h"
#include "core/base/phrase.h"

#include <algorithm>

namespace vicegrip::review {
namespace {

constexpr std::size_t kSampled = 20'000; ///< samples that noise and steps are taken from, evenly over the log

} // namespace

Rows::Rows(const log::Log& log, const std::vector<log_columns::Meaning>& meanings, const analysis::Analysis& analysis)
    : m_log(log), m_meanings(meanings), m_analysis(analysis), m_empty(log.columns.size()), m_held(log.columns.size())
{
    inParallel(log.columns.size(), [&](std::size_t c) {
        m_empty[c] = static_cast<std::size_t>(
            std::ranges::count_if(log.columns[c].values, [](float v) { return std::isnan(v); }));
    });
    std::vector<double> steps;
    const std::size_t stride = std::max<std::size_t>(1, log.rows() / kSampled);
    for (std::size_t i = 1; i < log.rows(); i += stride)
        if (log.time_s[i] > log.time_s[i - 1])
            steps.push_back(log.time_s[i] - log.time_s[i - 1]);
    m_step_s = steps.empty() ? 1 : median(std::move(steps));
}

Samples Rows::samples(std::size_t column) const
{
    const std::vector<float>& all = m_log.columns[column].values;
    Samples out;
    const std::size_t empty = m_empty[column];
    if (empty == 0) {
        out.values = all;
        return out;
    }
    out.packed.reserve(all.size() - empty);
    out.rows.reserve(all.size() - empty);
    for (std::size_t i = 0; i < all.size(); ++i)
        if (!std::isnan(all[i])) {
            out.packed.push_back(all[i]);
            out.rows.push_back(static_cast<std::uint32_t>(i));
        }
    out.values = out.packed;
    return out;
}

std::span<const float> Rows::held(std::size_t column) const
{
    const std::vector<float>& all = m_log.columns[column].values;
    if (m_empty[column] == 0)
        return all;
    const std::lock_guard lock(m_holding);
    auto& held = m_held[column];
    if (held)
        return *held;
    held = std::make_unique<std::vector<float>>(all);
    for (std::size_t i = 1; i < held->size(); ++i)
        if (std::isnan((*held)[i]))
            (*held)[i] = (*held)[i - 1];
    return *held;
}

const job::Circuit* Rows::circuit(std::size_t column) const
{
    const auto& id = m_meanings[column].circuit;
    return id ? job::find(job(), *id) : nullptr;
}

const parts::Part* Rows::sensor(std::size_t column) const
{
    const job::Circuit* c = circuit(column);
    return c == nullptr ? nullptr : job::sensorOf(job(), *c);
}

const proof::CircuitView* Rows::view(std::size_t column) const
{
    const auto& id = m_meanings[column].circuit;
    return id ? analysis::find(m_analysis, *id) : nullptr;
}

std::optional<double> Rows::volts(std::size_t column, double value) const
{
    const log_columns::Meaning& m = m_meanings[column];
    if (m.circuit && m.tells == job::Tells::Volts)
        return m.toSi(value);
    const proof::CircuitView* v = view(column);
    if (v == nullptr || !v->table || v->table->axis != units::Dimension::Voltage || m.tells != job::Tells::Value ||
        v->table->points.size() < 2)
        return std::nullopt;
    // Along the table's lines, as the ECU went the other way.
    const auto& points = v->table->points;
    const double si = m.toSi(value);
    for (std::size_t i = 1; i < points.size(); ++i) {
        const double a = points[i - 1].value, b = points[i].value;
        if (a != b && si >= std::min(a, b) && si <= std::max(a, b))
            return std::lerp(points[i - 1].reading, points[i].reading, (si - a) / (b - a));
    }
    return std::nullopt;
}

void keep(Finding& finding, const Stretch& stretch)
{
    ++finding.times;
    if (finding.stretches.size() < kMostShown)
        finding.stretches.push_back(stretch);
}

std::string secondsText(double seconds)
{
    if (seconds < 100)
        return units::formatNumber(seconds, seconds < 10 ? 2 : 1) + " s";
    const long whole = std::lround(seconds);
    return phrase("{} min {} s", std::to_string(whole / 60), std::to_string(whole % 60));
}

double noiseOf(std::span<const float> values)
{
    constexpr double kToDeviation = 1.4826;
    std::vector<double> off;
    const std::size_t stride = std::max<std::size_t>(1, values.size() / kSampled);
    for (std::size_t i = 1; i + 1 < values.size(); i += stride)
        off.push_back(std::abs(values[i] - (static_cast<double>(values[i - 1]) + values[i + 1]) / 2));
    return off.empty() ? 0 : kToDeviation * median(std::move(off)) / std::sqrt(1.5);
}

double quantumOf(std::span<const float> values)
{
    std::vector<double> steps;
    const std::size_t stride = std::max<std::size_t>(1, values.size() / kSampled);
    for (std::size_t i = 1; i < values.size(); i += stride)
        if (values[i] != values[i - 1])
            steps.push_back(std::abs(static_cast<double>(values[i]) - values[i - 1]));
    if (steps.empty())
        return 0;
    std::ranges::sort(steps);
    return steps[steps.size() / 100]; // a float's rounding may leave some that are less
}

} // namespace vicegrip::review
