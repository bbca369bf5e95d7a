#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>
#include <map>

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
template <class Each> void forStills(std::span<const float> values, const Each& each)
{
    for (std::size_t begin = 0; begin < values.size();) {
        std::size_t end = begin + 1;
        while (end < values.size() && values[end] == values[begin])
            ++end;
        each(Still{begin, end});
        begin = end;
    }
}

/// How long a number stands still, as a rule.
class Usual
{
  public:
    explicit Usual(std::span<const float> values) : m_samples(values.size())
    {
        forStills(values, [&](const Still& s) { ++m_times[s.length()]; });
    }

    /// For how many samples in the middle of its time, with one such length left out.
    [[nodiscard]] double without(std::size_t length) const
    {
        std::size_t sum = 0;
        for (const auto& [samples, times] : m_times) {
            sum += samples * (times - (samples == length ? 1 : 0));
            if (2 * sum >= m_samples - length)
                return static_cast<double>(samples);
        }
        return static_cast<double>(m_samples);
    }

  private:
    std::size_t m_samples;
    std::map<std::size_t, std::size_t> m_times; ///< by length
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
    std::optional<Usual> usual; // most numbers never stand
    const Meaning& m = rows.meanings()[column];
    const bool follows = (m.quantity == Quantity::Manifold || m.measures == Dimension::MassFlow) &&
                         quantumOf(s.values) <= kFine * (*ends.high - *ends.low);
    Finding f{Rule::Frozen, Weight::Wrong, {column, *speedColumn}, {}, 0, {}, {}, {}};
    double longest = 0;
    float at = 0;
    forStills(s.values, [&](const Still& still) {
        if (still.length() < kLeastSamples)
            return;
        const Stretch run{s.row(still.begin), s.row(still.end - 1)};
        const double seconds = rows.seconds(run);
        const float value = s.values[still.begin];
        if (seconds < *stands || isAtEnd(known, value) || isAtEnd(ends, value) || !speedMoves(speed, run) ||
            !footMoves(rows, run))
            return;
        if (!follows && !usual)
            usual.emplace(s.values);
        if (!follows && static_cast<double>(still.length()) < kLonger * usual->without(still.length()))
            return;
        keep(f, run);
        if (seconds > longest) {
            longest = seconds;
            at = value;
            std::swap(f.stretches.front(), f.stretches.back());
        }
    });
    if (f.times == 0)
        return;
    f.what = phrase("{} stood at {} for {} while the engine's speed changed", rows.name(column), rows.text(column, at),
                    secondsText(longest));
    f.todo = phrase("The ECU may use a substitute, or the logger repeats an old value: read the circuit in Meter, and "
                    "look for a stored code");
    out.push_back(std::move(f));
}

} // namespace vicegrip::review
