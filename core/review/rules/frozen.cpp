#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>

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

/// A number whose ends nobody knows has them where it goes furthest: a mixture stands lean whenever fuel is cut, and a
/// pressure at its sensor's end.
Ends furthest(std::span<const float> values)
{
    const auto [least, most] = std::ranges::minmax(values);
    return {least, most};
}

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
    const Ends known = endsAt(rows, column);
    const Ends ends = known.low ? known : furthest(s.values);
    Finding f{Rule::Frozen, Weight::Wrong, {column, *speedColumn}, {}, 0, {}, {}, {}};
    double longest = 0;
    float at = 0;
    for (std::size_t begin = 0; begin < s.size();) {
        std::size_t end = begin + 1;
        while (end < s.size() && s.values[end] == s.values[begin])
            ++end;
        const Stretch run{s.row(begin), s.row(end - 1)};
        const double seconds = rows.seconds(run);
        if (end - begin >= kLeastSamples && seconds >= *stands && !isAtEnd(ends, s.values[begin]) &&
            speedMoves(speed, run)) {
            keep(f, run);
            if (seconds > longest) {
                longest = seconds;
                at = s.values[begin];
                std::swap(f.stretches.front(), f.stretches.back());
            }
        }
        begin = end;
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
