#include "core/review/before_after.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <tuple>

namespace vicegrip::review {
namespace {

using log_columns::Meaning;
using log_columns::Quantity;

constexpr std::array<std::pair<Purpose, std::string_view>, 4> kPurposes = {{{Purpose::Range, "range"},
                                                                            {Purpose::Reading, "reading"},
                                                                            {Purpose::Offset, "offset"},
                                                                            {Purpose::Temperature, "temperature"}}};
constexpr std::size_t kLeastRows = 5, kLeastConditions = 3;
constexpr double kClear = 2, kVeryClear = 3; // spreads

/// Throttle, engine speed and gear, in steps.
using Condition = std::tuple<int, int, int>;

struct Mean
{
    double sum = 0;
    std::size_t count = 0;
    [[nodiscard]] double value() const { return sum / static_cast<double>(count); }
};

/// A column's last value and its SI, row after row.
class LastOf
{
  public:
    LastOf(const Side& side, std::optional<std::size_t> column)
    {
        if (column) {
            m_values = &side.log.columns[*column].values;
            m_meaning = &side.meanings[*column];
        }
    }
    /// No number before the first; 0 where there is no such column.
    double at(std::size_t row)
    {
        if (m_values == nullptr)
            return 0;
        if (!std::isnan((*m_values)[row]))
            m_last = m_meaning->toSi((*m_values)[row]);
        return m_last;
    }

  private:
    const std::vector<float>* m_values = nullptr;
    const Meaning* m_meaning = nullptr;
    double m_last = NAN;
};

std::map<Condition, Mean> means(const Side& side, std::size_t column, bool byGear)
{
    constexpr double kThrottle = 0.1, kSpeed_rpm = 250;
    std::map<Condition, Mean> out;
    LastOf throttle(side, log_columns::columnOf(side.meanings, Quantity::Throttle));
    LastOf speed(side, log_columns::columnOf(side.meanings, Quantity::EngineSpeed));
    LastOf gear(side, byGear ? log_columns::columnOf(side.meanings, Quantity::Gear) : std::nullopt);
    const Meaning& m = side.meanings[column];
    const auto& values = side.log.columns[column].values;
    for (std::size_t i = 0; i < values.size(); ++i) {
        const double t = throttle.at(i), n = speed.at(i) * 60, g = gear.at(i);
        if (std::isnan(values[i]) || std::isnan(t) || std::isnan(n) || std::isnan(g))
            continue;
        Mean& mean = out[{static_cast<int>(std::floor(t / kThrottle)), static_cast<int>(std::floor(n / kSpeed_rpm)),
                          static_cast<int>(std::lround(g))}];
        mean.sum += m.toSi(values[i]);
        ++mean.count;
    }
    return out;
}

std::optional<std::size_t> sameColumn(const Side& of, std::size_t column, const Side& in)
{
    const Meaning& m = of.meanings[column];
    for (std::size_t c = 0; c < in.log.columns.size(); ++c) {
        const Meaning& o = in.meanings[c];
        if (m.circuit                       ? o.circuit == m.circuit && o.tells == m.tells
            : m.quantity != Quantity::Other ? o.quantity == m.quantity
                                            : in.log.columns[c].name == of.log.columns[column].name)
            return c;
    }
    return std::nullopt;
}

const Finding* foundOf(const Side& side, std::size_t column, Rule rule)
{
    const auto it = std::ranges::find_if(side.review.findings, [&](const Finding& f) {
        return f.rule == rule && std::ranges::find(f.columns, column) != f.columns.end() &&
               (rule == Rule::SharedGround || f.columns.front() == column);
    });
    return it == side.review.findings.end() ? nullptr : &*it;
}

double mostOf(const log::Column& column)
{
    float most = -INFINITY;
    for (const float v : column.values)
        most = v > most ? v : most;
    return most;
}

/// "1.2 ± 0.3 kPa".
std::string differenceWords(const Side& side, std::size_t column, const Compared& c)
{
    const Meaning& m = side.meanings[column];
    return log_columns::differenceText(m, c.difference / m.scale) + " ± " +
           log_columns::differenceText(m, c.spread / std::abs(m.scale));
}

void judgeRange(const Side& before, const Side& after, Compared& c)
{
    const std::string name = after.log.columns[c.after].name;
    const auto text = [](const Side& s, std::size_t column) {
        return log_columns::valueText(s.meanings[column], mostOf(s.log.columns[column]));
    };
    const Finding* ended = foundOf(before, c.before, Rule::End);
    const Finding* ends = foundOf(after, c.after, Rule::End);
    const double rose = after.meanings[c.after].toSi(mostOf(after.log.columns[c.after])) -
                        before.meanings[c.before].toSi(mostOf(before.log.columns[c.before]));
    c.did = ended != nullptr && ends == nullptr && rose > 0;
    if (c.did)
        c.verdict = phrase("{} reads up to {} now and stops nowhere; before it stopped at {}: the range is enough.",
                           name, text(after, c.after), text(before, c.before));
    else if (ends != nullptr)
        c.verdict = phrase("{} still stops, now at {}.", name, text(after, c.after));
    else if (ended != nullptr)
        c.verdict = phrase("{} goes to {} only, and stopped at {} before: drive it as far, then compare.", name,
                           text(after, c.after), text(before, c.before));
    else
        c.verdict = phrase("{} stopped at no end before, so the change was not for its range.", name);
}

void judgeOffset(const Side& before, const Side& after, Compared& c)
{
    const std::string name = after.log.columns[c.after].name;
    const Finding* stepped = foundOf(before, c.before, Rule::SharedGround);
    const Finding* steps = foundOf(after, c.after, Rule::SharedGround);
    c.did = stepped != nullptr && steps == nullptr;
    if (c.did)
        c.verdict = phrase("{} steps with the others no more; at the same condition it reads {} otherwise.", name,
                           differenceWords(after, c.after, c));
    else if (steps != nullptr)
        c.verdict = phrase("{} still steps together with others: {}", name, steps->what);
    else
        c.verdict = phrase("{} did not step with others before, so no offset was there to take away.", name);
}

void judgeValue(const Side& after, Compared& c)
{
    const std::string name = after.log.columns[c.after].name, words = differenceWords(after, c.after, c);
    const std::string of = std::to_string(c.conditions);
    c.did = std::abs(c.difference) > kClear * c.spread;
    if (!c.did)
        c.verdict = phrase("{}: no difference that is more than its spread ({}, over {} conditions).", name, words, of);
    else if (c.purpose == Purpose::Temperature)
        c.verdict = c.difference < 0
                        ? phrase("{} is cooler at the same condition: {}, over {} conditions.", name, words, of)
                        : phrase("{} is warmer at the same condition: {}, over {} conditions.", name, words, of);
    else
        c.verdict = phrase("{} reads otherwise at the same condition: {}, over {} conditions.", name, words, of);
    if (c.purpose == Purpose::Temperature && c.difference > 0)
        c.did = false;
}

} // namespace

std::string_view purposeName(Purpose purpose)
{
    return std::ranges::find(kPurposes, purpose, &std::pair<Purpose, std::string_view>::first)->second;
}

Result<Purpose> purposeFromName(std::string_view name)
{
    const auto it = std::ranges::find(kPurposes, name, &std::pair<Purpose, std::string_view>::second);
    if (it == kPurposes.end())
        return fail(ErrorCode::Malformed, phrase("\"{}\" is no purpose: range, reading, offset or temperature", name));
    return it->first;
}

Result<Compared> compare(const Side& before, const Side& after, std::size_t column, Purpose purpose)
{
    const auto old = sameColumn(after, column, before);
    if (!old)
        return fail(ErrorCode::Range, phrase("the older log has no {}", after.log.columns[column].name));
    Compared out{purpose, *old, column, 0, 0, 0, false, {}};
    const bool byGear =
        log_columns::columnOf(before.meanings, Quantity::Gear) && log_columns::columnOf(after.meanings, Quantity::Gear);
    const auto then = means(before, *old, byGear), now = means(after, column, byGear);
    double weights = 0, sum = 0, squares = 0, weightSquares = 0;
    for (const auto& [condition, mean] : now) {
        const auto it = then.find(condition);
        if (it == then.end() || mean.count < kLeastRows || it->second.count < kLeastRows)
            continue;
        const auto weight = static_cast<double>(std::min(mean.count, it->second.count));
        const double d = mean.value() - it->second.value();
        weights += weight;
        weightSquares += weight * weight;
        sum += weight * d;
        squares += weight * d * d;
        ++out.conditions;
    }
    if (out.conditions < kLeastConditions)
        return fail(
            ErrorCode::Range,
            phrase("the logs have {} conditions in common, and three at the least are needed: the same gear, the "
                   "same throttle and the same engine speed",
                   std::to_string(out.conditions)));
    out.difference = sum / weights;
    const double effective = weights * weights / weightSquares; // Kish 1965: conditions of unequal weight
    const double variance = std::max(0.0, squares / weights - out.difference * out.difference);
    out.spread = effective > 1 ? std::sqrt(variance / (effective - 1)) : std::sqrt(variance);
    if (purpose == Purpose::Range)
        judgeRange(before, after, out);
    else if (purpose == Purpose::Offset)
        judgeOffset(before, after, out);
    else
        judgeValue(after, out);
    return out;
}

std::vector<Compared> compareAll(const Side& before, const Side& after)
{
    std::vector<Compared> out;
    for (std::size_t c = 0; c < after.log.columns.size(); ++c) {
        if (!after.meanings[c].circuit)
            continue;
        const auto old = sameColumn(after, c, before);
        if (!old)
            continue;
        const bool temperature = after.meanings[c].measures == units::Dimension::Temperature;
        const bool ended = foundOf(before, *old, Rule::End) != nullptr;
        const bool stepped = foundOf(before, *old, Rule::SharedGround) != nullptr;
        const auto add = [&](Purpose purpose) {
            if (auto compared = compare(before, after, c, purpose))
                out.push_back(std::move(*compared));
        };
        if (ended)
            add(Purpose::Range);
        if (stepped)
            add(Purpose::Offset);
        if (ended || stepped)
            continue;
        auto compared = compare(before, after, c, temperature ? Purpose::Temperature : Purpose::Reading);
        if (compared && std::abs(compared->difference) > kVeryClear * compared->spread)
            out.push_back(std::move(*compared));
    }
    return out;
}

} // namespace vicegrip::review
