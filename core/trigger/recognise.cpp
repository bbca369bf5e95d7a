#include "core/trigger/recognise.h"

#include "core/base/phrase.h"
#include "core/trigger/edge_due.h"
#include "core/trigger/periods.h"
#include "core/trigger/usual_wheels.h"
#include "core/units/units.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
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
    constexpr double kMost = 0.9, kLeast = 0.1, kCranking_rpm = 400;
    const double slower = turn_s * kCranking_rpm / kMinute_s;
    return std::clamp(kMost * slower * slower, kLeast, kMost);
}

/// An odd number of cylinders makes the speed come again after two turns only. The wheel is half of that row, if its
/// halves differ by no gap.
bool isTwoTurns(std::span<const double> out, std::size_t row, double period_s)
{
    constexpr double kNoGap = 0.55; // of what compressions may make of the speed
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

/// What a turn's periods would be of a wheel, as its steps from the one after the longest on.
struct Guess
{
    std::string line;
    std::vector<double> steps; ///< in pitches
};

/// The times of a turn's edges and of two more on either side, from the logarithms of its periods.
std::vector<double> timesRound(const std::vector<double>& turn)
{
    const std::size_t n = turn.size();
    std::vector<double> out = {0};
    for (std::size_t i = 0; i < n + 4; ++i)
        out.push_back(out.back() + std::exp(turn[(2 * n + i - 2) % n]));
    return out;
}

std::vector<double> logsOf(const std::vector<double>& steps)
{
    std::vector<double> out;
    for (const double s : steps)
        out.push_back(std::log(s));
    return out;
}

/// A turn as it was seen, against wheels that it may be; its speeds differ by so much at most, as a logarithm.
class Turn
{
  public:
    explicit Turn(const std::vector<double>& turn) : m_turn(turn), m_times(timesRound(turn)) {}

    /// How far its edges would be off, as shares of a step, by when they are due.
    [[nodiscard]] double offDue(const std::vector<double>& steps, double speeds) const
    {
        const Due due(steps);
        return roughness(logsOf(steps), speeds, [&](std::size_t i, std::size_t tooth) {
            return due.off(std::span<const double, 5>(m_times.begin() + static_cast<std::ptrdiff_t>(i), 5), tooth);
        });
    }

    /// How much its speeds would stand out from those beside them, as logarithms.
    [[nodiscard]] double uneven(const std::vector<double>& steps, double speeds) const
    {
        const std::vector<double> seen = standsOut(m_turn, true), logs = logsOf(steps), due = standsOut(logs, true);
        return roughness(logs, speeds, [&](std::size_t i, std::size_t tooth) { return seen[i] - due[tooth]; });
    }

  private:
    /// Root mean square of what each edge is off, as this wheel at the best place for it; without end where no engine
    /// turns like that.
    template <class Off>
    [[nodiscard]] double roughness(const std::vector<double>& logSteps, double speeds, const Off& off) const
    {
        constexpr double kEnd = std::numeric_limits<double>::max();
        const std::size_t n = m_turn.size();
        double best = kEnd;
        for (std::size_t first = 0; first < n; ++first) { // the step that begins at the first edge
            double slowest = -kEnd, fastest = kEnd, square = 0;
            for (std::size_t i = 0; i < n && square < best && slowest - fastest < speeds; ++i) {
                const std::size_t tooth = (first + i) % n;
                const double slowness = m_turn[i] - logSteps[tooth], one = off(i, tooth);
                slowest = std::max(slowest, slowness);
                fastest = std::min(fastest, slowness);
                square += one * one;
            }
            if (slowest - fastest < speeds)
                best = std::min(best, square);
        }
        return best < kEnd ? std::sqrt(best / static_cast<double>(n)) : kEnd;
    }

    const std::vector<double>& m_turn;
    std::vector<double> m_times;
};

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

/// How much better a wheel must fit than one that people would rather make: those divide a turn into an even number of
/// places, and leave out one or two.
double rarity(const Guess& guess)
{
    constexpr double kRare = 1.6, kMostMissing = 2;
    const double places = std::accumulate(guess.steps.begin(), guess.steps.end(), 0.0);
    const bool even = std::fmod(std::round(places), 2) == 0;
    return even && *std::ranges::max_element(guess.steps) <= kMostMissing + 1 ? 1 : kRare;
}

using Roughness = double (Turn::*)(const std::vector<double>& steps, double speeds) const;

/// The wheel by which a turn is much less rough than by teeth that are all alike.
std::optional<std::string> smoothest(const std::vector<Guess>& all, const Turn& turn, double speeds, Roughness by)
{
    constexpr double kSmoother = 0.45, kAny = std::numeric_limits<double>::max();
    const double most = kSmoother * (turn.*by)(std::vector<double>(all.front().steps.size(), 1), kAny);
    std::optional<std::string> out;
    double best = kAny;
    for (const Guess& g : all)
        if (const double rough = (turn.*by)(g.steps, speeds), rare = rarity(g); rough < most && rough * rare < best) {
            best = rough * rare;
            out = g.line;
        }
    return out;
}

/// The line of the wheel that it is by when its edges are due; or, of few edges, and where compressions come so fast
/// that no speed lies between them, by how even it makes the speed.
std::optional<std::string> knownWheel(const std::vector<double>& turn, double speeds)
{
    constexpr std::size_t kFew = 8; // four of them are most of a turn
    std::vector<Guess> all = guesses(turn.size());
    if (auto many = withManyGaps(turn))
        all.push_back(std::move(*many));
    const Turn seen(turn);
    std::optional<std::string> out;
    if (turn.size() >= kFew)
        out = smoothest(all, seen, speeds, &Turn::offDue);
    return out ? out : smoothest(all, seen, speeds, &Turn::uneven);
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
