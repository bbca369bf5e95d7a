#include "core/base/in_parallel.h"
#include "core/base/median.h"
#include "core/base/phrase.h"
#include "core/electrics/wiring.h"
#include "core/review/rules.h"
#include "core/review/steps.h"

#include <algorithm>
#include <array>
#include <map>
#include <numeric>

/// Several inputs that step together when something is switched: they share a ground that a current lifts. A wideband
/// whose grounds return elsewhere than the ECU's reads an offset, which becomes a mixture error (common practice).
namespace vicegrip::review {

using log_columns::Meaning;
using log_columns::Quantity;
using units::Dimension;

namespace {

constexpr double kSure = 4.5; // deviations, of each of two at the same time
constexpr double kWindow_s = 1;
constexpr std::size_t kLeastWindow = 24, kMostWindow = 200;
constexpr std::size_t kEdges = 3; // of a consumer, before it is believed
constexpr double kSureOfEdges = 5;
constexpr double kLeast_v = 0.002; // less is a converter's count
constexpr double kSameVolts = 3; // one of them may step so many times what another does

/// An input that a ground's offset would move.
struct Input
{
    std::size_t column = 0;
    Samples samples;
    double noise = 0;
    double count = 0; ///< the least that the log tells of it
    bool slow = false; ///< what it measures cannot step by itself
};

struct Stepped
{
    std::size_t column = 0;
    double height = 0; ///< of the column, when the consumer goes on, or as it stepped
    std::optional<double> volts;
};

std::vector<Input> inputsOf(const Rows& rows)
{
    std::vector<Input> out;
    for (std::size_t c = 0; c < rows.log().columns.size(); ++c) {
        const Meaning& m = rows.meanings()[c];
        const parts::Part* sensor = rows.sensor(c);
        if (sensor == nullptr || parts::pulsesOf(*sensor) ||
            (m.tells != job::Tells::Value && m.tells != job::Tells::Volts))
            continue;
        Input i{c, rows.samples(c), 0, 0, sensor->measures == Dimension::Temperature};
        if (i.samples.size() < 4 * kLeastWindow)
            continue;
        i.count = quantumOf(i.samples.values);
        i.noise = std::max(noiseOf(i.samples.values), 0.3 * i.count); // 1/sqrt(12) of a count
        if (i.noise > 0)
            out.push_back(std::move(i));
    }
    return out;
}

std::size_t indexOf(const Samples& s, std::size_t row)
{
    return s.rows.empty() ? row : static_cast<std::size_t>(std::ranges::lower_bound(s.rows, row) - s.rows.begin());
}

double meanOf(std::span<const float> values)
{
    return std::accumulate(values.begin(), values.end(), 0.0) / static_cast<double>(values.size());
}

/// What a step of the column is at its input, V.
std::optional<double> voltsOf(const Rows& rows, std::size_t column, double before, double height)
{
    const auto a = rows.volts(column, before), b = rows.volts(column, before + height);
    return a && b ? std::optional(*b - *a) : std::nullopt;
}

/// The middle one of them, and how far off it may be: by the middle of what they are away from it, for some edges come
/// while something else moves. Of few the mean, and by their spread.
struct Agreed
{
    double height = 0, deviation = 0;
};
Agreed agreedOf(std::vector<double> heights)
{
    constexpr std::size_t kEnough = 6;
    constexpr double kOfNormal = 1.4826,
                     kOfMiddle = 1.2533; // a normal spread from the middle distance; pi / 2, its root
    const auto n = static_cast<double>(heights.size());
    if (heights.size() < kEnough) {
        const double mean = std::accumulate(heights.begin(), heights.end(), 0.0) / n;
        double squares = 0;
        for (const double h : heights)
            squares += (h - mean) * (h - mean);
        return {mean, std::sqrt(squares / (n - 1) / n)};
    }
    const double height = median(heights);
    for (double& h : heights)
        h = std::abs(h - height);
    return {height, kOfNormal * kOfMiddle * median(std::move(heights)) / std::sqrt(n)};
}

/// What an input does at an edge.
struct Edge
{
    double height = 0, before = 0;
    double unrest = 0; ///< how far it moves just before and just after, by itself
};

/// A step of an input at every edge of a consumer, what it did before and after taken off; none where there is none
/// that the edges agree on.
std::optional<Stepped> steppedWith(const Rows& rows, const Input& input,
                                   const std::vector<std::pair<std::size_t, int>>& edges, std::size_t width)
{
    std::vector<Edge> all;
    for (const auto& [row, sign] : edges) {
        const std::size_t at = indexOf(input.samples, row);
        if (at < 2 * width + 1 || at + 2 * width + 1 > input.samples.size())
            continue;
        const auto mean = [&](std::size_t first) { return meanOf(input.samples.values.subspan(first, width)); };
        const double a = mean(at - width - 1), b = mean(at + 1);
        const double rises = a - mean(at - 2 * width - 1), goesOn = mean(at + 1 + width) - b;
        all.push_back({sign * (b - a - (rises + goesOn) / 2), a, std::abs(rises) + std::abs(goesOn)});
    }
    if (all.size() < kEdges)
        return std::nullopt;
    // An edge while the input moves by itself tells nothing: those are asked that are as quiet as the quietest.
    constexpr double kAsQuiet = 4;
    std::ranges::stable_sort(all, {}, &Edge::unrest);
    const double quiet = std::max(all[kEdges - 1].unrest, input.noise);
    std::erase_if(all, [&](const Edge& e) { return e.unrest > kAsQuiet * quiet; });
    std::vector<double> heights;
    double before = 0;
    for (const Edge& e : all) {
        heights.push_back(e.height);
        before += e.before;
    }
    const auto n = static_cast<double>(heights.size());
    const Agreed agreed = agreedOf(heights);
    const double own = input.noise * std::sqrt(5 / static_cast<double>(width) / n); // as stepsIn has it
    if (std::abs(agreed.height) < kSureOfEdges * std::max(agreed.deviation, own))
        return std::nullopt;
    return Stepped{input.column, agreed.height, voltsOf(rows, input.column, before / n, agreed.height)};
}

/// Those whose steps are of about the same volts, and more than a count; what moved for another reason is of others.
std::vector<Stepped> together(std::vector<Stepped> all)
{
    std::erase_if(all, [](const Stepped& s) { return !s.volts || std::abs(*s.volts) < kLeast_v; });
    std::vector<Stepped> best;
    for (const Stepped& centre : all) {
        std::vector<Stepped> like;
        std::ranges::copy_if(all, std::back_inserter(like), [&](const Stepped& s) {
            const double ratio = *s.volts / *centre.volts;
            return ratio > 1 / kSameVolts && ratio < kSameVolts;
        });
        if (like.size() > best.size())
            best = std::move(like);
    }
    return best;
}

/// The places on the ground side of all these circuits, from the first that they share.
struct Shared
{
    std::string place, words;
};
std::optional<Shared> sharedGround(const Rows& rows, const std::vector<Stepped>& stepped)
{
    const electrics::Wiring wiring(rows.job());
    std::vector<std::vector<job::PointRef>> ways;
    for (const Stepped& s : stepped) {
        const job::Circuit* circuit = rows.circuit(s.column);
        if (circuit == nullptr)
            continue;
        for (const electrics::Path& p : wiring.paths(*circuit))
            if (p.role == parts::PinRole::Ground)
                ways.push_back(p.points);
    }
    if (ways.size() < 2)
        return std::nullopt;
    for (const job::PointRef& place : ways.front()) {
        const job::Joint* joint = wiring.joint(place);
        if (joint != nullptr &&
            std::ranges::all_of(ways, [&](const auto& way) { return std::ranges::find(way, place) != way.end(); }))
            return Shared{joint->id, joint->label};
    }
    return std::nullopt;
}

/// Whether the circuit's ground leads over this place.
bool isGroundedOver(const electrics::Wiring& wiring, const job::Circuit& circuit, const std::string& place)
{
    const auto paths = wiring.paths(circuit);
    return std::ranges::any_of(paths, [&](const electrics::Path& p) {
        return p.role == parts::PinRole::Ground &&
               std::ranges::any_of(p.points, [&](const job::PointRef& at) { return at.owner == place; });
    });
}

/// What such an offset makes of the mixture: of fuel by a manifold pressure on the same ground, of lambda by a
/// wideband. A manifold pressure moves too much by itself for its own steps to be seen.
std::string inMixture(const Rows& rows, const std::vector<Stepped>& stepped, const std::string& place, double volts)
{
    constexpr double kIdle_pa = 40e3; // where an offset weighs most (typical)
    const electrics::Wiring wiring(rows.job());
    for (const job::Circuit& circuit : rows.job().circuits) {
        const proof::CircuitView* view = analysis::find(rows.analysis(), circuit.id);
        const bool pressure = circuit.function.value == "map", lambda = circuit.function.value == "wideband";
        const bool said =
            std::ranges::any_of(stepped, [&](const Stepped& s) { return rows.circuit(s.column) == &circuit; });
        if ((!pressure && !lambda) || said || view == nullptr || !view->table || view->table->points.size() < 2 ||
            view->table->axis != units::Dimension::Voltage || !isGroundedOver(wiring, circuit, place))
            continue;
        const auto &first = view->table->points.front(), &last = view->table->points.back();
        const double off = std::abs(volts * (last.value - first.value) / (last.reading - first.reading));
        if (pressure)
            return phrase("{} hangs on it too, where that is {}, or {} % of fuel at 40 kPa", circuit.name,
                          log_columns::pressureDifferenceText(off), units::formatNumber(off / kIdle_pa * 100, 1));
        return phrase("{} hangs on it too, where that is λ {}", circuit.name, units::formatNumber(off, 3));
    }
    return {};
}

void report(const Rows& rows, std::vector<Stepped> stepped, std::optional<std::size_t> consumer,
            const std::vector<Stretch>& at, Findings& out)
{
    std::ranges::stable_sort(stepped, {}, [&](const Stepped& s) {
        const Quantity q = rows.meanings()[s.column].quantity;
        return q == Quantity::Manifold ? 0 : q == Quantity::Mixture ? 1 : 2;
    });
    Finding f{Rule::SharedGround, Weight::Wrong, {}, {}, 0, {}, {}, {}};
    std::string names, heights;
    double least = INFINITY, most = 0;
    for (const Stepped& s : stepped) {
        f.columns.push_back(s.column);
        names += (names.empty() ? "" : ", ") + rows.name(s.column);
        heights += (heights.empty() ? "" : ", ") + rows.difference(s.column, s.height);
        least = std::min(least, std::abs(*s.volts));
        most = std::max(most, std::abs(*s.volts));
    }
    for (const Stretch& s : at)
        keep(f, s);
    const std::string volts = units::formatNumber(least * 1e3, 0) == units::formatNumber(most * 1e3, 0)
                                  ? units::formatNumber(most * 1e3, 0)
                                  : units::formatNumber(least * 1e3, 0) + "–" + units::formatNumber(most * 1e3, 0);
    if (consumer) {
        f.columns.push_back(*consumer);
        f.what =
            phrase("{} step together when {} is switched: by {}, {} mV", names, rows.name(*consumer), heights, volts);
    } else {
        f.what = phrase("{} step together: by {}, {} mV", names, heights, volts);
    }
    if (const auto ground = sharedGround(rows, stepped)) {
        f.place = ground->place;
        if (const std::string mixture = inMixture(rows, stepped, ground->place, (least + most) / 2); !mixture.empty())
            f.what += "; " + mixture;
        f.todo =
            phrase("They share their ground from {} ({}) on: nothing that draws current may return over it. Give the "
                   "consumer a ground of its own, and measure the offset there while it is on",
                   ground->place, ground->words);
    } else {
        f.todo = phrase("The drawing shows no joint that their grounds share: look at the ECU's own ground, and for a "
                        "return that is not drawn");
    }
    out.push_back(std::move(f));
}

/// Rises and falls of what is on or off, by rows.
std::vector<std::pair<std::size_t, int>> edgesOf(std::span<const float> held)
{
    std::vector<std::pair<std::size_t, int>> out;
    for (std::size_t i = 1; i < held.size(); ++i)
        if (!std::isnan(held[i - 1]) && held[i] != held[i - 1])
            out.emplace_back(i, held[i] > held[i - 1] ? 1 : -1);
    return out;
}

/// Steps of slow inputs that come at the same time, two at least: nobody needs to have logged what was switched. A step
/// of one count is what rounding makes of any slope, and slopes that are alike are rounded at the same moment.
void withoutConsumer(const Rows& rows, const std::vector<Input>& inputs, std::size_t width, Findings& out)
{
    constexpr double kMoreThanOne = 1.5;
    std::vector<std::vector<Step>> steps(inputs.size());
    inParallel(inputs.size(), [&](std::size_t n) {
        if (inputs[n].slow)
            steps[n] = stepsIn(inputs[n].samples.values, width, inputs[n].noise, kSure);
    });
    std::map<std::size_t, std::vector<Stepped>> groups; // by the row of the first
    for (std::size_t n = 0; n < inputs.size(); ++n)
        if (const Input& i = inputs[n]; i.slow)
            for (const Step& s : steps[n]) {
                if (std::abs(s.height) < kMoreThanOne * i.count)
                    continue;
                const std::size_t row = i.samples.row(s.at), reach = std::max<std::size_t>(3, width / 4);
                auto near = groups.lower_bound(row > reach ? row - reach : 0);
                if (near == groups.end() || near->first > row + reach)
                    near = groups.emplace(row, std::vector<Stepped>{}).first;
                const double before = i.samples.values[s.at > width / 2 ? s.at - width / 2 : 0];
                near->second.push_back({i.column, s.height, voltsOf(rows, i.column, before, s.height)});
            }
    std::vector<Stretch> at;
    std::vector<Stepped> greatest;
    for (auto& [row, stepped] : groups) {
        const auto same = together(stepped);
        if (same.size() < 2)
            continue;
        at.push_back({row > width ? row - width : 0, std::min(row + width, rows.log().rows() - 1)});
        if (same.size() > greatest.size())
            greatest = same;
    }
    if (!at.empty())
        report(rows, greatest, std::nullopt, at, out);
}

} // namespace

void commonSteps(const Rows& rows, Findings& out)
{
    const std::vector<Input> inputs = inputsOf(rows);
    const std::size_t width =
        std::clamp(static_cast<std::size_t>(kWindow_s / rows.step_s()), kLeastWindow, kMostWindow);
    bool any = false;
    for (std::size_t c = 0; c < rows.log().columns.size(); ++c) {
        if (rows.meanings()[c].quantity != Quantity::Consumer)
            continue;
        const auto edges = edgesOf(rows.held(c));
        std::vector<Stepped> stepped;
        for (const Input& i : inputs)
            if (const auto s = steppedWith(rows, i, edges, width / 3))
                stepped.push_back(*s);
        stepped = together(std::move(stepped));
        if (stepped.size() < 2)
            continue;
        std::vector<Stretch> at;
        for (const auto& [row, sign] : edges)
            at.push_back({row > width ? row - width : 0, std::min(row + width, rows.log().rows() - 1)});
        report(rows, stepped, c, at, out);
        any = true;
    }
    if (!any)
        withoutConsumer(rows, inputs, width, out);
}

} // namespace vicegrip::review
