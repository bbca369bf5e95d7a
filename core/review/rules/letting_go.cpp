#include "core/base/phrase.h"
#include "core/review/rules.h"

#include <algorithm>
#include <utility>
#include <vector>

/// Contacts that let go for a moment, and noise that gets in: values that leave and come back.
namespace vicegrip::review {

using log_columns::Meaning;
using log_columns::Quantity;

namespace {

constexpr double kBack_s = 0.5; // a drop-out is over by then
constexpr double kDeep = 0.25, kBackTo = 0.1; // of the span
constexpr double kSpikeNoise = 10, kSpikeShare = 0.02; // of the noise, of the span
/// Twenty rows a second, as clocks tell them: what a foot or a gear moves may go there and back by itself between
/// slower ones.
constexpr double kQuickRow_s = 0.0525;

bool isWatched(const Rows& rows, std::size_t column)
{
    const Meaning& m = rows.meanings()[column];
    switch (m.quantity) {
    case Quantity::AskedPressure:
    case Quantity::AskedMixture:
    case Quantity::Correction:
    case Quantity::Gear:
    case Quantity::Consumer:
        return false;
    case Quantity::Battery:
    case Quantity::Supply:
    case Quantity::Ethanol:
        return true;
    default:
        return (m.quantity != Quantity::Other || m.circuit) &&
               (m.measures == units::Dimension::Temperature || rows.step_s() <= kQuickRow_s);
    }
}

/// What the column could move over: its ends, or what it does move over but for the outermost.
double spanOf(const Rows& rows, std::size_t column, const Samples& s)
{
    const Ends ends = endsAt(rows, column);
    if (ends.low && ends.high)
        return *ends.high - *ends.low;
    std::vector<float> some;
    const std::size_t stride = std::max<std::size_t>(1, s.size() / 10'000);
    for (std::size_t i = 0; i < s.size(); i += stride)
        some.push_back(s.values[i]);
    std::ranges::sort(some);
    return static_cast<double>(some[some.size() - 1 - some.size() / 100]) - some[some.size() / 100];
}

/// What else tells that a foot, a gear or the engine moved: then a value that leaves and comes back is believed.
///
/// A throttle that closes for half a second and opens again is a gear change when the manifold says so too, and a
/// mixture goes lean when fuel is cut; a contact that lets go does so when all else stands.
class Witnesses
{
  public:
    Witnesses(const Rows& rows, std::size_t column) : m_rows(rows)
    {
        using enum Quantity;
        const Meaning& of = rows.meanings()[column];
        const bool foot = of.quantity == Throttle || of.quantity == SecondThrottle || of.quantity == Pedal ||
                          of.quantity == SecondPedal;
        const bool air = of.quantity == Manifold || of.quantity == Charge || isAirMass(of);
        if (!foot && !air && of.quantity != Mixture && of.quantity != EngineSpeed)
            return;
        if (of.quantity == Mixture)
            m_before_s = kExhaust_s;
        for (std::size_t c = 0; c < rows.log().columns.size(); ++c) {
            const Meaning& m = rows.meanings()[c];
            const bool sees = m.quantity == Throttle || m.quantity == Pedal ? !foot
                              : m.quantity == Manifold || isAirMass(m)      ? !air
                                                                            : m.quantity == EngineSpeed;
            if (c != column && sees)
                m_all.emplace_back(c, kMoved * spanOf(rows, c, rows.samples(c)));
        }
    }

    [[nodiscard]] bool sawIt(const Stretch& at) const
    {
        const auto& time = m_rows.log().time_s;
        const auto row = [&](double t) {
            return static_cast<std::size_t>(std::ranges::lower_bound(time, t) - time.begin());
        };
        const std::size_t first = row(time[at.first] - m_before_s);
        const std::size_t last = std::min(row(time[at.last] + kAround_s), time.size() - 1);
        return std::ranges::any_of(m_all, [&](const auto& witness) {
            const auto [low, high] = std::ranges::minmax(m_rows.held(witness.first).subspan(first, last - first + 1));
            return high - low > witness.second;
        });
    }

  private:
    static constexpr double kAround_s = 0.3, kExhaust_s = 1; // until the gas has come to the sensor
    static constexpr double kMoved = 0.05; // of its span

    static bool isAirMass(const Meaning& m) { return m.circuit && m.measures == units::Dimension::MassFlow; }

    const Rows& m_rows;
    double m_before_s = kAround_s;
    std::vector<std::pair<std::size_t, double>> m_all; ///< columns, and by how much they must move
};

/// "3.1 a second at 1,900 rpm, 9.4 at 6,000 rpm", where that goes with the engine's speed; empty otherwise.
std::string withSpeed(const Rows& rows, const std::vector<std::size_t>& at)
{
    const auto column = rows.column(Quantity::EngineSpeed);
    constexpr std::size_t kEnoughRows = 30;
    if (!column || at.size() < kEnoughRows)
        return {};
    const auto speed = rows.held(*column);
    const Meaning& m = rows.meanings()[*column];
    double sum = 0;
    std::size_t running = 0;
    for (const float v : speed)
        if (v > 0) {
            sum += v;
            ++running;
        }
    if (running == 0)
        return {};
    const double middle = sum / static_cast<double>(running);
    struct Half
    {
        double rows = 0, spikes = 0, speed = 0;
    } slow, fast;
    for (const float v : speed)
        if (v > 0) {
            Half& h = v < middle ? slow : fast;
            h.rows += 1;
            h.speed += v;
        }
    for (const std::size_t row : at)
        if (speed[row] > 0)
            (speed[row] < middle ? slow : fast).spikes += 1;
    if (slow.rows == 0 || fast.rows == 0 || slow.spikes == 0)
        return {};
    const auto rate = [&](const Half& h) { return h.spikes / (h.rows * rows.step_s()); };
    const auto rpm = [&](const Half& h) { return m.toSi(h.speed / h.rows) * 60; };
    const double grows = rate(fast) / rate(slow), faster = rpm(fast) / rpm(slow);
    constexpr double kLike = 0.35;
    if (faster < 1.2 || std::abs(grows / faster - 1) > kLike)
        return {};
    return phrase("{} a second at {} rpm, {} at {} rpm", units::formatNumber(rate(slow), 1),
                  units::formatNumber(rpm(slow), 0), units::formatNumber(rate(fast), 1),
                  units::formatNumber(rpm(fast), 0));
}

} // namespace

void lettingGoOf(const Rows& rows, std::size_t column, Findings& out)
{
    if (!isWatched(rows, column))
        return;
    const Samples s = rows.samples(column);
    if (s.size() < 10)
        return;
    const double span = spanOf(rows, column, s), noise = noiseOf(s.values), quantum = quantumOf(s.values);
    if (!(span > 0))
        return;
    const double spike = std::max({kSpikeNoise * noise, 4 * quantum, kSpikeShare * span}),
                 deep = std::max(kDeep * span, kSpikeNoise * noise);
    Finding dropped{Rule::DropOut, Weight::Wrong, {column}, {}, 0, {}, {}, {}};
    Finding spikes{Rule::Spikes, Weight::Doubtful, {column}, {}, 0, {}, {}, {}};
    const Witnesses witnesses(rows, column);
    std::vector<std::size_t> spikeRows;
    double deepest = 0, highest = 0, longest_s = 0;
    for (std::size_t i = 1; i + 1 < s.size(); ++i) {
        const double before = s.values[i - 1], v = s.values[i], jump = v - before;
        if (std::abs(jump) <= std::min(spike, deep))
            continue;
        const double after = s.values[i + 1];
        if (std::abs(jump) > deep) { // down at once, and back at once
            std::size_t end = i;
            while (end + 1 < s.size() && std::abs(s.values[end] - before) > kBackTo * span &&
                   rows.log().time_s[s.row(end)] - rows.log().time_s[s.row(i)] <= kBack_s)
                ++end;
            const double back = std::abs(static_cast<double>(s.values[end]) - s.values[end - 1]);
            const double seconds = rows.log().time_s[s.row(end)] - rows.log().time_s[s.row(i - 1)];
            if (end > i && std::abs(s.values[end] - before) <= kBackTo * span && back > deep / 2 &&
                seconds <= kBack_s + rows.step_s()) {
                if (!witnesses.sawIt({s.row(i - 1), s.row(end)})) {
                    keep(dropped, {s.row(i - 1), s.row(end)});
                    if (std::abs(jump) > std::abs(deepest))
                        deepest = jump;
                    longest_s = std::max(longest_s, seconds);
                }
                i = end;
                continue;
            }
        }
        const double off = v - (before + after) / 2;
        if (std::abs(off) > spike && std::abs(after - before) < 0.3 * std::abs(off) &&
            !witnesses.sawIt({s.row(i - 1), s.row(i + 1)})) {
            spikeRows.push_back(s.row(i));
            keep(spikes, {s.row(i - 1), s.row(i + 1)});
            highest = std::abs(off) > std::abs(highest) ? off : highest;
            ++i;
        }
    }
    const std::string name = rows.name(column);
    if (dropped.times > 0) {
        dropped.what = phrase("{} lets go: {} times, by up to {} for up to {}", name, std::to_string(dropped.times),
                              rows.difference(column, deepest), secondsText(longest_s));
        dropped.todo = phrase("A contact that comes and goes: watch it while hands move the wires (Meter, Wiggle)");
        out.push_back(std::move(dropped));
    }
    constexpr std::size_t kFew = 3;
    if (spikes.times >= kFew) {
        const std::string grows = withSpeed(rows, spikeRows);
        spikes.what = phrase("{} has {} spikes of up to {}", name, std::to_string(spikes.times),
                             rows.difference(column, highest));
        if (!grows.empty())
            spikes.what += ": " + grows;
        spikes.todo = grows.empty()
                          ? phrase("Look where its wire lies beside coils, injectors or a motor, and at its shield")
                          : phrase("They grow with the engine's speed, as ignition does: keep the wire away from "
                                   "coils, or shield it");
        out.push_back(std::move(spikes));
    }
}

} // namespace vicegrip::review
