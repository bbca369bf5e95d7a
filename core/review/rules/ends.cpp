#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>

/// A reading that stops where its sensor or table ends, or below what was asked while the command went on; and one
/// beyond what its sensor can tell. A log that flattens while more is asked is a sensor out of range, not the boost
/// (common practice, no source).
namespace vicegrip::review {

using log_columns::Meaning;
using log_columns::Quantity;
using units::Dimension;

namespace {

constexpr double kStill_s = 0.3;
constexpr std::size_t kStillSamples = 6;
constexpr double kStillShare = 0.0015; // of what the column moves over
constexpr double kAtEnd = 0.012; // of the span: what sensor and table may be off by there
constexpr double kBeyond = 0.03; // of the span
constexpr double kAskedMore = 0.005; // of the value, beside what the reading itself moves

/// Ends that a good car does not come to. A throttle, a level, a switch stand at theirs every day; a pressure above the
/// air's is 0 at rest; a mixture is as lean as can be shown whenever fuel is cut.
bool mindsHigh(const Meaning& m)
{
    return m.measures == Dimension::AbsolutePressure || m.measures == Dimension::GaugePressure ||
           m.measures == Dimension::Temperature || m.measures == Dimension::MassFlow;
}
bool mindsLow(const Meaning& m)
{
    return m.measures == Dimension::AbsolutePressure || m.measures == Dimension::Temperature ||
           m.measures == Dimension::Lambda;
}

struct Level
{
    double at = 0;
    std::vector<Stretch> runs; ///< of rows
};

/// Where the column stands still at its top, or its bottom, though it moves elsewhere: stretches in which it moves by
/// less than `play`, all at one level that hardly any sample is beyond.
std::optional<Level> stillAt(const Rows& rows, const Samples& s, double sign, double play)
{
    struct Run
    {
        Stretch rows;
        double level = 0;
    };
    std::vector<Run> runs;
    for (std::size_t begin = 0; begin + kStillSamples <= s.size();) {
        double low = s.values[begin], high = low, sum = 0;
        std::size_t i = begin;
        for (; i < s.size(); ++i) {
            const double v = s.values[i];
            if (std::max(high, v) - std::min(low, v) > play)
                break;
            low = std::min(low, v);
            high = std::max(high, v);
            sum += v;
        }
        const Stretch run{s.row(begin), s.row(i - 1)};
        if (i - begin >= kStillSamples && rows.seconds(run) >= kStill_s)
            runs.push_back({run, sum / static_cast<double>(i - begin)});
        begin = i;
    }
    if (runs.empty())
        return std::nullopt;
    Level out;
    out.at = std::ranges::max(runs, {}, [&](const Run& r) { return sign * r.level; }).level;
    constexpr double kBeyondIt = 0.001; // of all samples
    const auto above = std::ranges::count_if(s.values, [&](float v) { return sign * (v - out.at) > play; });
    if (static_cast<double>(above) > kBeyondIt * static_cast<double>(s.size()))
        return std::nullopt;
    for (const Run& r : runs)
        if (std::abs(r.level - out.at) <= play)
            out.runs.push_back(r.rows);
    return out;
}

/// The most that was asked while the reading stood there; none where nothing more was.
std::optional<double> askedBeyond(const Rows& rows, std::size_t column, const Level& level, double play)
{
    const auto asked = rows.column(Quantity::AskedPressure);
    const Quantity q = rows.meanings()[column].quantity;
    const bool charged = q == Quantity::Charge || (q == Quantity::Manifold && !rows.column(Quantity::Charge));
    if (!asked || !charged)
        return std::nullopt;
    const Meaning &own = rows.meanings()[column], &theirs = rows.meanings()[*asked];
    const auto held = rows.held(*asked);
    double most = level.at;
    for (const Stretch& r : level.runs)
        for (std::size_t i = r.first; i <= r.last; ++i)
            if (!std::isnan(held[i]))
                most = std::max(most, own.fromSi(theirs.toSi(held[i])));
    return most > level.at + play + kAskedMore * std::abs(level.at) ? std::optional(most) : std::nullopt;
}

/// What ends there.
std::string endWords(const Rows& rows, std::size_t column, double at)
{
    const parts::Part* sensor = rows.sensor(column);
    const Meaning& m = rows.meanings()[column];
    if (sensor == nullptr || m.tells != job::Tells::Value)
        return {};
    const double span = sensor->high - sensor->low, si = m.toSi(at);
    if (std::min(std::abs(si - sensor->high), std::abs(si - sensor->low)) <= kAtEnd * span)
        return phrase("the end of the sensor's range");
    return phrase("the end of its table in the ECU");
}

void addEnd(const Rows& rows, std::size_t column, const Level& level, std::optional<double> asked, bool known,
            Findings& out)
{
    Finding f{Rule::End, Weight::Wrong, {column}, {}, 0, {}, {}, {}};
    for (const Stretch& r : level.runs)
        keep(f, r);
    std::ranges::stable_sort(f.stretches, std::greater(), [&](const Stretch& r) { return rows.seconds(r); });
    const std::string name = rows.name(column), at = rows.text(column, level.at);
    if (asked) {
        f.columns.push_back(*rows.column(Quantity::AskedPressure));
        f.what = known ? phrase("{} stops at {}, {}, while up to {} was asked", name, at,
                                endWords(rows, column, level.at), rows.text(column, *asked))
                       : phrase("{} stops at {} while up to {} was asked, and does not even waver there", name, at,
                                rows.text(column, *asked));
        f.todo =
            phrase("The sensor is out of range, not the boost: what is above is not known. A sensor that reads what "
                   "is asked, and some more, is needed before the boost is judged");
    } else {
        f.what = phrase("{} stops at {}, {}", name, at, endWords(rows, column, level.at));
        f.todo = phrase("What lies beyond is not known: fit a sensor with more range, or lengthen the table where the "
                        "sensor goes on");
    }
    out.push_back(std::move(f));
}

void addBeyond(const Rows& rows, std::size_t column, const Samples& s, Findings& out)
{
    const parts::Part* sensor = rows.sensor(column);
    const Meaning& m = rows.meanings()[column];
    if (sensor == nullptr || m.tells != job::Tells::Value || !(sensor->high > sensor->low))
        return;
    const double a = m.fromSi(sensor->low), b = m.fromSi(sensor->high), span = std::abs(b - a);
    const double low = std::min(a, b) - kBeyond * span, high = std::max(a, b) + kBeyond * span;
    Finding f{Rule::Beyond, Weight::Wrong, {column}, {}, 0, {}, {}, {}};
    double furthest = 0, beyond = 0;
    for (std::size_t i = 0; i < s.size(); ++i) {
        const double v = s.values[i];
        if (v >= low && v <= high)
            continue;
        const std::size_t begin = i;
        for (; i < s.size() && (s.values[i] < low || s.values[i] > high); ++i) {
            const double off = std::max(low - s.values[i], s.values[i] - high);
            if (off > beyond) {
                beyond = off;
                furthest = s.values[i];
            }
        }
        keep(f, {s.row(begin), s.row(i - 1)});
    }
    if (f.times == 0)
        return;
    f.what = phrase("{} goes to {}, which its sensor cannot tell (from {} to {})", rows.name(column),
                    rows.text(column, furthest), rows.text(column, std::min(a, b)), rows.text(column, std::max(a, b)));
    f.todo = phrase("An open or shorted wire, or a table of another sensor: read the circuit's places in Meter");
    out.push_back(std::move(f));
}

} // namespace

Ends endsAt(const Rows& rows, std::size_t column)
{
    const parts::Part* sensor = rows.sensor(column);
    const Meaning& m = rows.meanings()[column];
    if (sensor == nullptr || m.tells != job::Tells::Value || !(sensor->high > sensor->low))
        return {};
    double low = sensor->low, high = sensor->high;
    if (const proof::CircuitView* view = rows.view(column);
        view != nullptr && view->table && !view->table->points.empty()) {
        const auto [least, most] = std::ranges::minmax(view->table->points, {}, &scaling::TablePoint::value);
        low = std::max(low, least.value);
        high = std::min(high, most.value);
    }
    return {std::min(m.fromSi(low), m.fromSi(high)), std::max(m.fromSi(low), m.fromSi(high))};
}

void endsOf(const Rows& rows, std::size_t column, Findings& out)
{
    const Meaning& m = rows.meanings()[column];
    const bool isOwn = m.circuit || m.quantity == Quantity::Manifold || m.quantity == Quantity::Charge;
    if (!isOwn)
        return;
    const Samples s = rows.samples(column);
    if (s.size() < kStillSamples)
        return;
    addBeyond(rows, column, s, out);
    const auto [least, most] = std::ranges::minmax(s.values);
    const double moves = static_cast<double>(most) - least;
    if (!(moves > 0))
        return;
    const double quantum = quantumOf(s.values);
    const double play = std::max(kStillShare * moves, 1.5 * quantum);
    const Ends ends = endsAt(rows, column);
    const double span = ends.high && ends.low ? *ends.high - *ends.low : moves;
    if (mindsHigh(m))
        if (const auto top = stillAt(rows, s, 1, play)) {
            const bool known = ends.high && std::abs(*ends.high - top->at) <= kAtEnd * span;
            const auto asked = askedBeyond(rows, column, *top, play);
            if (known || asked)
                addEnd(rows, column, *top, asked, known, out);
        }
    if (mindsLow(m) && ends.low)
        if (const auto bottom = stillAt(rows, s, -1, play))
            if (std::abs(*ends.low - bottom->at) <= kAtEnd * span)
                addEnd(rows, column, *bottom, {}, true, out);
}

} // namespace vicegrip::review
