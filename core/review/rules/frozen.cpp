#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>
#include <numeric>
#include <vector>

/// A number that does not move though it should.
namespace vicegrip::review {

using log_columns::Meaning;
using log_columns::Quantity;
using units::Dimension;

namespace {

constexpr double kStandsQuick_s = 2,
                 kStandsSlow_s = 600; // within which a pressure moves, and a temperature of an engine that warms
constexpr std::size_t kLeastSamples = 20;
constexpr double kSpeedMoves = 0.15; // of the engine's speed, while the number stands still
constexpr double kFootMoves = 0.1; // of the stroke: at a steady foot much is regulated, and stands
constexpr double kLonger = 10; // than it stands otherwise: what is rounded to whole counts stands by itself
constexpr double kFine = 0.05; // of its range is a count of what a foot must move

/// How long it may stand still; none: for ever.
std::optional<double> mayStand(const Meaning& m)
{
    if (m.tells != job::Tells::Value)
        return std::nullopt;
    switch (m.quantity) {
    case Quantity::Manifold:
    case Quantity::Mixture:
    case Quantity::OilPressure:
        return kStandsQuick_s;
    case Quantity::Coolant:
    case Quantity::OilTemp:
    case Quantity::GearboxTemp:
    case Quantity::IntakeAir:
        return kStandsSlow_s;
    default:
        return m.circuit && (m.measures == Dimension::MassFlow || m.measures == Dimension::GaugePressure)
                   ? std::optional(kStandsQuick_s)
                   : std::nullopt;
    }
}

/// Whether the engine ran, and its speed moved, meanwhile.
bool speedMoves(std::span<const float> speed, const Stretch& run)
{
    float low = INFINITY, high = 0;
    for (std::size_t i = run.first; i <= run.last; ++i)
        if (speed[i] > 0) {
            low = std::min(low, speed[i]);
            high = std::max(high, speed[i]);
        }
    return high > 0 && high - low >= kSpeedMoves * high;
}

/// Whether the foot moved, where its throttle is logged.
bool footMoves(const Rows& rows, const Stretch& run)
{
    const auto column = rows.column(Quantity::Throttle);
    if (!column)
        return true;
    const auto [low, high] = std::ranges::minmax(rows.held(*column).subspan(run.first, run.last - run.first + 1));
    const Meaning& m = rows.meanings()[*column];
    return m.toSi(high) - m.toSi(low) >= kFootMoves;
}

/// Where a number goes furthest it may stand: a mixture lean whenever fuel is cut, oil at its valve, a pressure at the
/// end of a sensor that nobody knows.
Ends furthest(std::span<const float> values)
{
    const auto [least, most] = std::ranges::minmax(values);
    return {least, most};
}

/// Samples of a number that stands, from the first to the one after the last.
struct Still
{
    std::size_t begin = 0, end = 0;
    [[nodiscard]] std::size_t length() const { return end - begin; }
};
std::vector<Still> stillsIn(std::span<const float> values)
{
    std::vector<Still> out;
    for (std::size_t begin = 0; begin < values.size();) {
        std::size_t end = begin + 1;
        while (end < values.size() && values[end] == values[begin])
            ++end;
        out.push_back({begin, end});
        begin = end;
    }
    return out;
}

/// How long a number stands still, as a rule.
class Usual
{
  public:
    explicit Usual(const std::vector<Still>& all)
    {
        for (const Still& s : all)
            m_lengths.push_back(s.length());
        std::ranges::sort(m_lengths);
        std::inclusive_scan(m_lengths.begin(), m_lengths.end(), std::back_inserter(m_sums));
    }

    /// For how many samples in the middle of its time, with this one left out.
    [[nodiscard]] double without(std::size_t length) const
    {
        const auto own = static_cast<std::size_t>(std::ranges::lower_bound(m_lengths, length) - m_lengths.begin());
        const std::size_t half = (m_sums.back() - length + 1) / 2;
        const auto middle = static_cast<std::size_t>(std::ranges::lower_bound(m_sums, half) - m_sums.begin());
        if (middle < own)
            return static_cast<double>(m_lengths[middle]);
        const auto beyond = static_cast<std::size_t>(
            std::ranges::lower_bound(m_sums.begin() + static_cast<std::ptrdiff_t>(own), m_sums.end(), half + length) -
            m_sums.begin());
        return static_cast<double>(beyond < m_lengths.size() ? m_lengths[beyond] : m_sums.back());
    }

  private:
    std::vector<std::size_t> m_lengths, m_sums; ///< of all, rising; of those so far
};

bool isAtEnd(const Ends& ends, double value)
{
    constexpr double kNear = 0.012;
    const double span = ends.low && ends.high ? *ends.high - *ends.low : 0;
    return span > 0 && (value > *ends.high - kNear * span || value < *ends.low + kNear * span);
}

} // namespace

void frozenOf(const Rows& rows, std::size_t column, Findings& out)
{
    const auto stands = mayStand(rows.meanings()[column]);
    const auto speedColumn = rows.column(Quantity::EngineSpeed);
    if (!stands || !speedColumn)
        return;
    const Samples s = rows.samples(column);
    const auto speed = rows.held(*speedColumn);
    if (s.size() < kLeastSamples)
        return;
    const Ends known = endsAt(rows, column), ends = furthest(s.values);
    const std::vector<Still> stills = stillsIn(s.values);
    const Usual usual(stills);
    const Meaning& m = rows.meanings()[column];
    const bool follows = (m.quantity == Quantity::Manifold || m.measures == Dimension::MassFlow) &&
                         quantumOf(s.values) <= kFine * (*ends.high - *ends.low);
    Finding f{Rule::Frozen, Weight::Wrong, {column, *speedColumn}, {}, 0, {}, {}, {}};
    double longest = 0;
    float at = 0;
    for (const Still& still : stills) {
        const Stretch run{s.row(still.begin), s.row(still.end - 1)};
        const double seconds = rows.seconds(run);
        const float value = s.values[still.begin];
        if (still.length() < kLeastSamples || seconds < *stands || isAtEnd(known, value) || isAtEnd(ends, value) ||
            !speedMoves(speed, run) || !footMoves(rows, run) ||
            (!follows && static_cast<double>(still.length()) < kLonger * usual.without(still.length())))
            continue;
        keep(f, run);
        if (seconds > longest) {
            longest = seconds;
            at = value;
            std::swap(f.stretches.front(), f.stretches.back());
        }
    }
    if (f.times == 0)
        return;
    f.what = phrase("{} stood at {} for {} while the engine's speed changed", rows.name(column), rows.text(column, at),
                    secondsText(longest));
    f.todo = phrase("The ECU may use a substitute, or the logger repeats an old value: read the circuit in Meter, and "
                    "look for a stored code");
    out.push_back(std::move(f));
}

} // namespace vicegrip::review
