#include "core/scaling/captured.h"

#include "core/base/median.h"
#include "core/base/phrase.h"
#include "core/scaling/budget.h"
#include "core/scaling/search_range.h"
#include "core/units/shown.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace vicegrip::scaling {
namespace {

/// A difference of the circuit's value, with its sign.
std::string difference(const parts::Part& s, double si)
{
    const double shown = units::differenceToUnit(si, s.measures, s.unit);
    const double size = std::abs(shown);
    return (shown > 0 ? "+" : "") + units::formatDifference(si, s.measures, s.unit,
                                                            size >= 10    ? 1
                                                            : size >= 0.1 ? 2
                                                                          : 4);
}

std::optional<size_t> suspectOf(const CapturedVerdict& v, const std::vector<size_t>& in)
{
    constexpr double kNormal = 1.4826, kFar = 3.5;
    if (in.size() < 4)
        return std::nullopt; // of three, nobody knows which one is wrong
    std::optional<size_t> suspect;
    for (size_t i : in) {
        std::vector<double> others, apart;
        for (size_t j : in)
            if (j != i)
                others.push_back(v.pairs[j].off);
        const double middle = median(others);
        for (double o : others)
            apart.push_back(std::abs(o - middle));
        const double distance = std::abs(v.pairs[i].off - middle);
        if (distance <= std::max(kFar * kNormal * median(apart), v.pairs[i].allowed))
            continue;
        if (suspect)
            return std::nullopt; // two contradict the rest: that is no single slip
        suspect = i;
    }
    return suspect;
}

void fitThem(CapturedVerdict& v, const job::Circuit& circuit, const parts::Part& sensor, const std::vector<size_t>& in,
             double step)
{
    if (in.size() < kFewestForACurve)
        return;
    const bool stated = std::ranges::all_of(in, [&](size_t i) { return circuit.captured[i].within > 0; });
    v.weighed = stated;
    const auto sigma = [&](size_t i) {
        return stated ? circuit::Spread{circuit.captured[i].within}.standardDeviation() : 0;
    };
    if (const auto* curve = parts::curveOf(sensor)) {
        std::vector<parts::TableCurve::Point> points;
        std::vector<double> sigmas;
        for (size_t i : in) { // the resistance that makes these volts is that of the temperature they mean
            points.push_back({circuit.captured[i].value, parts::ohms(*curve, v.pairs[i].said)});
            if (stated)
                sigmas.push_back(sigma(i));
        }
        if (auto fitted = fit::fitThermistor(points, sigmas))
            v.thermistor = std::move(*fitted);
        return;
    }
    if (parts::isBent(sensor) && !parts::countsValue(sensor)) {
        std::vector<fit::Monotone::Breakpoint> breakpoints; // bent: no line stands for it
        for (size_t i : in)
            breakpoints.push_back({v.pairs[i].said, circuit.captured[i].value});
        if (auto curve = fit::Monotone::through(std::move(breakpoints)))
            v.bent = std::move(*curve);
        return;
    }
    std::vector<fit::Point> points;
    const double count = stated ? step / std::sqrt(12.0) : 0; // evenly spread within one step
    for (size_t i : in)
        points.push_back({circuit.captured[i].volts, circuit.captured[i].value, count, sigma(i)});
    if (auto line = fit::fitLine(points))
        v.line = std::move(*line);
}

/// What a probe's error that is the same everywhere does where the mixture is set.
std::string atOne(const parts::Part& sensor, double off)
{
    if (sensor.kind != parts::PartUse::Wideband)
        return {};
    return phrase(
        " Where it shows λ 1.000 the mixture is λ {}: run the controller's signal ground to the ECU's sensor ground.",
        units::formatNumber(1 - off, 3));
}

/// Whether the errors grow in proportion to the value's way along the range: another span than the sheet's. Then in
/// words, with the span that is meant.
std::string spanSentence(const CapturedVerdict& v, const parts::Part& sensor, const job::Circuit& circuit,
                         const std::vector<size_t>& in, double allowed)
{
    const bool straight = parts::spanOf(sensor).has_value();
    const auto ends = std::ranges::minmax(in, {}, [&](size_t i) { return circuit.captured[i].value; });
    const size_t first = ends.min, last = ends.max;
    const double run = circuit.captured[last].value - circuit.captured[first].value;
    const double rise = v.pairs[last].off - v.pairs[first].off;
    if (!straight || !(run > 0) || std::abs(rise) <= allowed)
        return {};
    const auto line = [&](double value) {
        return v.pairs[first].off + rise * (value - circuit.captured[first].value) / run;
    };
    for (size_t i : in)
        if (std::abs(v.pairs[i].off - line(circuit.captured[i].value)) > allowed)
            return {};
    const auto shown = [&](double si) {
        return units::format(si, sensor.measures, sensor.unit, sensor.measures == units::Dimension::Lambda ? 3 : 1);
    };
    return phrase("The error grows along the range, {} at {} and {} at {}: another span than its sheet's. Look what it "
                  "is set to, or make its readings the sensor's curve.",
                  difference(sensor, line(sensor.low)), shown(sensor.low), difference(sensor, line(sensor.high)),
                  shown(sensor.high));
}

std::string sentenceOf(const CapturedVerdict& v, const parts::Part& sensor, const job::Circuit& circuit,
                       const std::vector<size_t>& in)
{
    if (!v.enough)
        return phrase("Two readings or more, far apart, tell whether the sensor agrees with its sheet.");
    if (v.suspect) {
        const job::Captured& c = circuit.captured[*v.suspect];
        return phrase(
            "The reading at {} is {} off while the others agree with each other: read it again, or set it aside.",
            units::format(c.value, sensor.measures, sensor.unit, 1), difference(sensor, v.pairs[*v.suspect].off));
    }
    if (v.agrees)
        return phrase("The sensor agrees with its sheet within tolerance at all {} readings.",
                      std::to_string(in.size()));
    std::vector<double> offs;
    double allowed = 0;
    for (size_t i : in) {
        offs.push_back(v.pairs[i].off);
        allowed = std::max(allowed, v.pairs[i].allowed);
    }
    const auto [least, most] = std::ranges::minmax(offs);
    if (most - least < allowed && std::abs(median(offs)) > (most - least))
        return phrase(
            "All readings are {} off, by as much everywhere: a ground that stands above the ECU's, or another zero.{}",
            difference(sensor, median(offs)), atOne(sensor, median(offs)));
    if (auto span = spanSentence(v, sensor, circuit, in, allowed); !span.empty())
        return span;
    const auto worst = std::ranges::max_element(in, {}, [&](size_t i) { return std::abs(v.pairs[i].off); });
    return phrase("The sensor does not follow its sheet: {} off at {}, where ± {} is allowed. Another sensor, or "
                  "another pull-up than planned.",
                  difference(sensor, v.pairs[*worst].off),
                  units::format(circuit.captured[*worst].value, sensor.measures, sensor.unit, 1),
                  difference(sensor, v.pairs[*worst].allowed).substr(1));
}

} // namespace

std::vector<size_t> partakers(const job::Circuit& circuit)
{
    std::vector<size_t> out;
    for (size_t i = 0; i < circuit.captured.size(); ++i)
        if (!circuit.captured[i].setAside)
            out.push_back(i);
    return out;
}

namespace {

/// What is allowed along the range. A thousand readings need no thousand networks: a few dozen places, and between two
/// of them the larger.
class Allowed
{
  public:
    Allowed(const job::Job& job, const job::Circuit& circuit, const Table& table)
        : m_job(job), m_circuit(circuit), m_table(table)
    {
    }

    [[nodiscard]] double at(double value)
    {
        constexpr int kPlaces = 32;
        const job::ScalingSpec& spec = m_circuit.scaling;
        const double inside = std::clamp(value, spec.low, spec.high);
        if (m_circuit.captured.size() <= kPlaces)
            return aheadAt(inside);
        const double place = (inside - spec.low) / (spec.high - spec.low) * kPlaces;
        const auto grid = [&](double k) { return aheadAt(std::lerp(spec.low, spec.high, k / kPlaces)); };
        return std::max(grid(std::floor(place)), grid(std::ceil(place)));
    }

  private:
    double aheadAt(double value)
    {
        const auto [it, added] = m_known.try_emplace(value, 0);
        if (added)
            if (const auto budget = budgetAt(m_job, m_circuit, m_table, value))
                it->second = budget->ahead;
        return it->second;
    }

    const job::Job& m_job;
    const job::Circuit& m_circuit;
    const Table& m_table;
    std::map<double, double> m_known;
};

} // namespace

Result<CapturedVerdict> compareCaptured(const job::Job& job, const job::Circuit& circuit, const Table& table)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    auto car = electrics::build(job, {.surroundings = job.surroundings});
    if (!car)
        return tl::make_unexpected(car.error());
    const auto transfer = Transfer::of(job, *car, circuit);
    if (!transfer || sensor == nullptr)
        return fail(ErrorCode::Range, phrase("{} has no volts that stand for a value", circuit.name));
    const auto [low, high] = searchRange(*transfer, circuit.scaling);
    CapturedVerdict out;
    Allowed allowed(job, circuit, table);
    for (const job::Captured& c : circuit.captured) {
        CapturedView view;
        view.expected_v = transfer->reading(c.value);
        view.said = transfer->value(c.volts, low, high);
        view.off = view.said - c.value;
        view.allowed = allowed.at(c.value) + c.within;
        view.agrees = std::abs(view.off) <= view.allowed;
        out.pairs.push_back(view);
    }
    const auto in = partakers(circuit);
    out.enough = in.size() >= 2;
    out.agrees = out.enough && std::ranges::all_of(in, [&](size_t i) { return out.pairs[i].agrees; });
    out.suspect = suspectOf(out, in);
    fitThem(out, circuit, *sensor, in, readingStep(job, circuit));
    out.sentence = sentenceOf(out, *sensor, circuit, in);
    return out;
}

} // namespace vicegrip::scaling
