#include "core/trigger/recognise.h"

#include "core/base/phrase.h"
#include "core/trigger/periods.h"
#include "core/trigger/usual_wheels.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace vicegrip::trigger {
namespace {

constexpr double kAlike = 0.12; // how little a period stands out where all teeth are alike, as a logarithm

/// How far a row of periods is from itself, so many periods later: root mean square.
double offAfter(std::span<const double> out, std::size_t later)
{
    double sum = 0;
    std::size_t count = 0;
    for (std::size_t i = 1; i + later + 1 < out.size(); ++i, ++count)
        sum += (out[i + later] - out[i]) * (out[i + later] - out[i]);
    return count == 0 ? 0 : std::sqrt(sum / static_cast<double>(count));
}

/// How much faster than the slowest the fastest of a turn may be, as a logarithm: while cranking a ripple of 0.3, and
/// less by the square of the speed, as the flywheel's energy rises.
double speedsAt(double turn_s)
{
    constexpr double kMost = 0.65, kLeast = 0.1, kCranking_rpm = 400;
    const double slower = turn_s * kCranking_rpm / kMinute_s;
    return std::clamp(kMost * slower * slower, kLeast, kMost);
}

/// An odd number of cylinders makes the speed come again after two turns only. The wheel is half of that row, if its
/// halves differ by no gap.
bool isTwoTurns(std::span<const double> out, std::size_t row, double period_s)
{
    constexpr double kNoGap = 0.6; // of what compressions may make of the speed
    const std::size_t half = row / 2;
    std::vector<double> off;
    for (std::size_t i = 1; i + half + 1 < out.size(); ++i)
        off.push_back(std::abs(out[i + half] - out[i]));
    const double gap = *std::ranges::max_element(out);
    return row > 2 && !off.empty() &&
           *std::ranges::max_element(off) < std::min(kNoGap * speedsAt(period_s * static_cast<double>(half)), gap / 2);
}

/// The shortest row that comes again; none: nothing does.
std::optional<std::size_t> rowLength(std::span<const double> out, double period_s)
{
    double square = 0;
    for (const double q : out)
        square += q * q;
    const double unlike =
        std::sqrt(2 * square / static_cast<double>(out.size())); // of rows that have nothing in common
    const std::size_t most = std::min<std::size_t>(kMostTeeth, out.size() / 2);
    std::vector<double> off(most + 1, unlike);
    for (std::size_t later = 1; later <= most; ++later)
        off[later] = offAfter(out, later);
    constexpr double kBetter = 0.4, kSlack = 1.6, kNoise = 0.02;
    const double best = *std::min_element(off.begin() + 1, off.end());
    if (!(best < kBetter * unlike))
        return std::nullopt;
    std::size_t row = 1;
    while (row < most && off[row] > kSlack * best + kNoise * unlike)
        ++row;
    return row % 2 == 0 && isTwoTurns(out, row, period_s) ? row / 2 : row;
}

/// The logarithms of a turn's periods, each against its own turn's: the mean of all turns.
std::vector<double> turnOf(std::span<const double> periods, std::size_t row)
{
    std::vector<double> out(row, 0);
    const std::size_t turns = periods.size() / row;
    for (std::size_t i = 0; i < turns * row; ++i)
        out[i % row] += periods[i] / static_cast<double>(turns);
    return out;
}

double rootMeanSquare(std::span<const double> values)
{
    double sum = 0;
    for (const double v : values)
        sum += v * v;
    return values.empty() ? 0 : std::sqrt(sum / static_cast<double>(values.size()));
}

/// What a turn's periods would be of a wheel, as its steps from the one after the longest on.
struct Guess
{
    std::string line;
    std::vector<double> steps; ///< in pitches
};

/// How rough the speed would be from tooth to tooth, if it were this wheel, at the best place for it; without end where
/// no engine turns like that.
double roughness(const std::vector<double>& turn, const std::vector<double>& steps, double speeds)
{
    double best = std::numeric_limits<double>::max();
    for (std::size_t first = 0; first < turn.size(); ++first) {
        std::vector<double> speed = turn;
        for (std::size_t i = 0; i < turn.size(); ++i)
            speed[(first + i) % turn.size()] -= std::log(steps[i]);
        const auto [slowest, fastest] = std::ranges::minmax(speed);
        if (fastest - slowest < speeds)
            best = std::min(best, rootMeanSquare(standsOut(speed, true)));
    }
    return best;
}

/// Wheels that people make, with so many edges a turn: one gap of one to three places, or one more tooth.
std::vector<Guess> guesses(std::size_t row)
{
    constexpr int kMostMissing = 3;
    std::vector<Guess> out;
    const auto edges = static_cast<int>(row);
    for (int missing = 1; missing <= kMostMissing; ++missing) {
        Guess& g = out.emplace_back();
        g.line = std::to_string(edges + missing) + "-" + std::to_string(missing);
        g.steps.assign(row, 1);
        g.steps.back() = missing + 1;
    }
    if (row >= 4) {
        Guess& g = out.emplace_back();
        g.line = std::to_string(edges - 1) + "+1";
        g.steps.assign(row, 1);
        g.steps[row - 1] = g.steps[row - 2] = 0.5;
    }
    return out;
}

/// Round from an edge after a gap: so that its longest row of teeth comes first.
void turnToLongestRow(std::vector<double>& steps)
{
    std::vector<double> best = steps;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        std::rotate(steps.begin(), steps.begin() + 1, steps.end());
        if (steps.back() > 1 && (best.back() <= 1 || steps < best))
            best = steps;
    }
    steps = std::move(best);
}

std::string lineOfGaps(const std::vector<double>& steps)
{
    std::string empty;
    int place = 0;
    for (const double step : steps) {
        ++place; // of the tooth
        for (int more = 1; more < static_cast<int>(step); ++more)
            empty += (empty.empty() ? "" : ", ") + std::to_string(++place);
    }
    const std::string line = std::to_string(place) + " without " + empty;
    const auto same = readWheel(line);
    for (const std::string_view usual : wheelsOfManyGaps())
        if (same && *readWheel(usual) == *same)
            return std::string(usual);
    return line;
}

/// A wheel of whole places with several gaps: each period against the middle one of those round it.
std::optional<Guess> withManyGaps(const std::vector<double>& turn)
{
    constexpr std::size_t kBeside = 3, kFewest = 8;
    constexpr double kMost = 4, kMostGaps = 1.0 / 3; // of the teeth
    const std::size_t n = turn.size();
    if (n < kFewest)
        return std::nullopt;
    Guess out;
    std::size_t gaps = 0;
    for (std::size_t i = 0; i < n; ++i) {
        std::vector<double> beside;
        for (std::size_t k = 1; k <= kBeside; ++k) {
            beside.push_back(turn[(i + k) % n]);
            beside.push_back(turn[(i + n - k) % n]);
        }
        std::ranges::sort(beside); // more than half of them may not be gaps: of six the third
        const double step = std::round(std::exp(turn[i] - beside[kBeside - 1]));
        if (step > kMost)
            return std::nullopt;
        out.steps.push_back(std::max(1.0, step));
        gaps += step > 1 ? 1 : 0;
    }
    if (gaps < 2 || static_cast<double>(gaps) > kMostGaps * static_cast<double>(n))
        return std::nullopt;
    turnToLongestRow(out.steps);
    out.line = lineOfGaps(out.steps);
    return out;
}

/// The line of the wheel that makes the speed smoothest, if it makes it much smoother than no wheel at all.
std::optional<std::string> knownWheel(const std::vector<double>& turn, double speeds)
{
    constexpr double kSmoother = 0.45;
    std::optional<std::string> out;
    double best = kSmoother * rootMeanSquare(standsOut(turn, true));
    std::vector<Guess> all = guesses(turn.size());
    if (auto many = withManyGaps(turn))
        all.push_back(std::move(*many));
    for (const Guess& g : all)
        if (const double rough = roughness(turn, g.steps, speeds); rough < best) {
            best = rough;
            out = g.line;
        }
    return out;
}

/// The steps of a turn, which add up to it, if its speed is the same all the way round.
std::vector<double> stepsIn(const std::vector<double>& turn, double turn_deg)
{
    double sum = 0;
    for (const double p : turn)
        sum += std::exp(p);
    std::vector<double> out;
    for (const double p : turn)
        out.push_back(std::exp(p) / sum * turn_deg);
    return out;
}

/// Every leading edge, from the one after the longest step.
std::string withAngles(const std::vector<double>& steps)
{
    const auto longest = static_cast<std::size_t>(std::ranges::max_element(steps) - steps.begin());
    std::string out = std::to_string(steps.size()) + " at ";
    double at_deg = 0;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        out += (i > 0 ? ", " : "") + units::formatNumber(at_deg, 1);
        at_deg += steps[(longest + 1 + i) % steps.size()];
    }
    return out + " degrees";
}

} // namespace

Result<Recognised> recognise(std::span<const double> times_s, double turn_deg)
{
    constexpr std::size_t kFewest = 6, kEnough = 20000; // edges
    times_s = times_s.first(std::min(times_s.size(), kEnough));
    const std::vector<double> periods = logPeriods(times_s);
    if (periods.size() < kFewest)
        return fail(ErrorCode::Range,
                    phrase("{} edges are too few to know a wheel by", std::to_string(times_s.size())));
    const std::vector<double> out = standsOut(periods, false);
    if (std::ranges::all_of(out, [](double q) { return std::abs(q) < kAlike; }))
        return fail(ErrorCode::Range, phrase("all teeth are alike: how many make a turn cannot be told by them alone"));
    const double period_s = (times_s.back() - times_s.front()) / static_cast<double>(periods.size());
    const auto row = rowLength(out, period_s * kCrankTurn_deg / turn_deg);
    if (!row || *row < 2)
        return fail(ErrorCode::Range, phrase("no row of teeth comes again in {} edges: is it one wheel, and more than "
                                             "two turns of it?",
                                             std::to_string(times_s.size())));
    const std::vector<double> turn = turnOf(periods, *row);
    const double speeds = speedsAt(period_s * static_cast<double>(*row) * kCrankTurn_deg / turn_deg);
    Recognised found;
    found.turns = periods.size() / *row;
    found.scatter = offAfter(out, *row);
    found.line = (turn_deg > kCrankTurn_deg ? "cam " : "") +
                 knownWheel(turn, speeds).value_or(withAngles(stepsIn(turn, turn_deg)));
    auto wheel = readWheel(found.line);
    if (!wheel)
        return tl::make_unexpected(wheel.error());
    found.wheel = std::move(*wheel);
    return found;
}

} // namespace vicegrip::trigger
