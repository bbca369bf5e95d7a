#include "core/scaling/table.h"

#include "core/scaling/coefficients.h"
#include "core/scaling/knots.h"
#include "core/scaling/reach.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <tuple>

namespace vicegrip::scaling {
namespace {

constexpr int kSearchedPerSegment = 32;

double onGrid(double value, double step)
{
    return step > 0 ? std::round(value / step) * step : value;
}

double valueOnGrid(double si, const parts::Sensor& sensor, const job::ScalingSpec& spec)
{
    const std::string unit = unitOf(sensor, spec);
    return units::fromUnit(onGrid(units::toUnit(si, sensor.measures, unit), spec.outputStep), sensor.measures, unit);
}

tl::unexpected<Error> unusable(std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence));
}

/// The voltage must go one way over the range, and far enough for the points.
Result<void> checkTravel(const Transfer& transfer, const job::ScalingSpec& spec)
{
    const double start = transfer.reading(spec.low), end = transfer.reading(spec.high);
    const int points = spec.asFormula() ? 2 : spec.points;
    const double least = std::max(spec.inputStep, 1e-4) * (points - 1);
    if (std::abs(end - start) < least)
        return unusable(
            "the input moves only " + readingText(std::abs(end - start), transfer.axis()) +
            " over the range: " + std::to_string(points) + " points do not fit. Is the " +
            (transfer.axis() == units::Dimension::Voltage ? "pull-up missing?" : "range the sensor's own?"));
    constexpr int kSteps = 64;
    double before = start;
    for (int i = 1; i <= kSteps; ++i) {
        const double reading = transfer.reading(std::lerp(spec.low, spec.high, static_cast<double>(i) / kSteps));
        if ((reading - before) * (end - start) <= 0)
            return unusable("the input stops moving at " + readingText(reading, transfer.axis()) +
                            ": the range goes beyond what the sensor puts out");
        before = reading;
    }
    return {};
}

/// A point as it is chosen, before rounding, and the value that truly stands at its reading.
struct Knot
{
    double reading = 0, value = 0, truth = 0;
};

/// Over the whole range: between the knots, and from the outermost to its ends, which rounding or a converter's full
/// scale may leave out.
void findWorst(Table& table, const std::vector<Knot>& knots, const Transfer& transfer, const job::ScalingSpec& spec)
{
    std::vector<double> places = {spec.low, spec.high};
    for (const Knot& k : knots)
        places.push_back(std::clamp(k.truth, spec.low, spec.high));
    std::ranges::sort(places);
    table.worstError = -1;
    for (size_t i = 1; i < places.size(); ++i) {
        for (int k = 0; k <= kSearchedPerSegment; ++k) {
            const double value = std::lerp(places[i - 1], places[i], static_cast<double>(k) / kSearchedPerSegment);
            const double reading = transfer.reading(value);
            const double error = std::abs(lookUp(table, reading) - value);
            if (error > table.worstError) {
                table.worstError = error;
                table.worstAt = value;
                table.worstAtReading = reading;
            }
        }
    }
}

/// The curve on the input's grid, between two readings: at most so many places.
std::vector<Sample> curveOf(const Transfer& transfer, const job::ScalingSpec& spec, double first, double last)
{
    // The inverse by straight lines between 1025 values: nearer to it than a thousandth of any table's error.
    constexpr int kValues = 1024;
    constexpr size_t kPlaces = 4096;
    std::vector<TablePoint> inverse;
    const auto [low, high] = reachOf(transfer, spec);
    for (int i = 0; i <= kValues; ++i) {
        const double value = std::lerp(low, high, static_cast<double>(i) / kValues);
        inverse.push_back({transfer.reading(value), value});
    }
    if (inverse.front().reading > inverse.back().reading)
        std::ranges::reverse(inverse);
    const double step = std::max(spec.inputStep, (last - first) / kPlaces);
    std::vector<Sample> out;
    size_t at = 1;
    for (size_t i = 0; i <= kPlaces; ++i) {
        const double reading =
            std::min(onGrid(first + static_cast<double>(i) * step, spec.inputStep), onGrid(last, spec.inputStep));
        if (!out.empty() && reading <= out.back().x)
            break;
        while (at + 1 < inverse.size() && inverse[at].reading < reading)
            ++at;
        const TablePoint &a = inverse[at - 1], &b = inverse[at];
        out.push_back({reading, std::lerp(a.value, b.value,
                                          std::clamp((reading - a.reading) / (b.reading - a.reading), 0., 1.))});
    }
    return out;
}

/// The knots' readings and values before rounding, as the spec wants them chosen.
class Chooser
{
  public:
    Chooser(const Transfer& transfer, const job::ScalingSpec& spec)
        : m_transfer(transfer), m_spec(spec), m_reach(reachOf(transfer, spec))
    {
        // Beyond full scale there are no counts: the table ends where the converter does.
        const auto readable = [&](double reading) { return std::clamp(reading, 0.0, transfer.fullScale()); };
        std::tie(m_first, m_last) =
            std::minmax({readable(transfer.reading(spec.low)), readable(transfer.reading(spec.high))});
    }

    [[nodiscard]] std::vector<Knot> even() const
    {
        std::vector<Knot> out;
        for (int i = 0; i < m_spec.points; ++i)
            out.push_back(onCurve(
                onGrid(std::lerp(m_first, m_last, static_cast<double>(i) / (m_spec.points - 1)), m_spec.inputStep)));
        return out;
    }

    [[nodiscard]] std::vector<Knot> fixed() const
    {
        std::vector<Knot> out;
        for (double reading : m_spec.fixed)
            out.push_back(onCurve(reading));
        return out;
    }

    /// Empty when the grid has not so many places.
    [[nodiscard]] std::vector<Knot> chosen() const
    {
        const auto curve = curveOf(m_transfer, m_spec, m_first, m_last);
        if (curve.size() < static_cast<size_t>(m_spec.points))
            return {};
        const auto knots = bestKnots(curve, static_cast<size_t>(m_spec.points));
        std::vector<Knot> out;
        if (m_spec.knots == job::Knots::Free) {
            const auto values = bestValues(curve, knots);
            for (size_t k = 0; k < knots.size(); ++k)
                out.push_back({curve[knots[k]].x, values[k], curve[knots[k]].y});
        } else {
            for (size_t k : knots)
                out.push_back(onCurve(curve[k].x));
        }
        return out;
    }

  private:
    /// A reading on the grid may lie a little beyond the range's end, and has its own value there where the output goes
    /// on: the end's value would bend the first segment.
    [[nodiscard]] Knot onCurve(double reading) const
    {
        constexpr double kSame = 1e-6;
        double value = m_transfer.value(reading, m_reach.first, m_reach.second);
        if (std::abs(m_transfer.reading(value) - reading) > kSame * std::max(1.0, std::abs(reading)))
            value = std::clamp(value, m_spec.low, m_spec.high);
        return {reading, value, value};
    }

    const Transfer& m_transfer;
    const job::ScalingSpec& m_spec;
    std::pair<double, double> m_reach; ///< values a reading may stand for
    double m_first = 0, m_last = 0;
};

/// Rounds, and searches for the worst error. None when two points fall together.
std::optional<Table> finished(const std::vector<Knot>& knots, const Transfer& transfer, const parts::Sensor& sensor,
                              const job::ScalingSpec& spec)
{
    Table table;
    table.axis = transfer.axis();
    table.unit = unitOf(sensor, spec);
    for (const Knot& k : knots) {
        if (!table.points.empty() && k.reading <= table.points.back().reading)
            return std::nullopt;
        table.points.push_back({k.reading, valueOnGrid(k.value, sensor, spec)});
    }
    findWorst(table, knots, transfer, spec);
    table.evenError = table.worstError;
    return table;
}

Result<Table> fixedTable(const Chooser& chooser, const Transfer& transfer, const parts::Sensor& sensor,
                         const job::ScalingSpec& spec)
{
    if (spec.fixed.size() < 2)
        return unusable("the ECU's own points are not given: expected two or more, rising");
    auto table = finished(chooser.fixed(), transfer, sensor, spec);
    if (!table)
        return unusable("the ECU's own points do not rise");
    if (table->points.front().value == table->points.back().value)
        return unusable("all of the ECU's own points lie beyond what the input does over the range");
    return std::move(*table);
}

} // namespace

Result<Table> makeTable(const Transfer& transfer, const parts::Sensor& sensor, const job::ScalingSpec& spec)
{
    if (auto travel = checkTravel(transfer, spec); !travel)
        return tl::make_unexpected(travel.error());
    if (spec.asFormula())
        return makeFormula(transfer, sensor, spec);
    const Chooser chooser(transfer, spec);
    if (spec.knots == job::Knots::Fixed)
        return fixedTable(chooser, transfer, sensor, spec);
    auto even = finished(chooser.even(), transfer, sensor, spec);
    if (!even)
        return unusable(std::to_string(spec.points) + " points do not fit on a grid of " +
                        readingText(spec.inputStep, transfer.axis()));
    if (spec.knots == job::Knots::Even)
        return std::move(*even);
    auto chosen = finished(chooser.chosen(), transfer, sensor, spec);
    if (!chosen || chosen->points.empty() || chosen->worstError > even->worstError)
        return std::move(*even); // the steps of the ECU's grids leave nothing to gain
    chosen->evenError = even->worstError;
    return std::move(*chosen);
}

Table tableOfStops(const job::Stops& stops, const parts::Sensor& sensor, const job::ScalingSpec& spec)
{
    Table table;
    table.unit = unitOf(sensor, spec);
    table.points = {{stops.shut_v, spec.low}, {stops.open_v, spec.high}};
    if (stops.shut_v > stops.open_v)
        std::swap(table.points[0], table.points[1]);
    return table;
}

double lookUp(const Table& table, double reading)
{
    if (table.formula)
        return valueOf(*table.formula, reading);
    if (table.points.empty())
        return 0;
    if (reading <= table.points.front().reading)
        return table.points.front().value;
    const auto upper = std::ranges::find_if(table.points, [&](const TablePoint& p) { return p.reading > reading; });
    if (upper == table.points.end())
        return table.points.back().value;
    const TablePoint &a = *(upper - 1), &b = *upper;
    return std::lerp(a.value, b.value, (reading - a.reading) / (b.reading - a.reading));
}

units::Dimension axisOf(const parts::Sensor& sensor)
{
    return parts::countsValue(sensor) ? units::Dimension::Frequency : units::Dimension::Voltage;
}

std::string unitOf(const parts::Sensor& sensor, const job::ScalingSpec& spec)
{
    if (!spec.unit.empty())
        return spec.unit;
    return sensor.unit.empty() ? std::string(units::everydayUnit(sensor.measures)) : sensor.unit;
}

double outputStep(const parts::Sensor& sensor, const job::ScalingSpec& spec)
{
    const std::string unit = unitOf(sensor, spec);
    return units::fromUnit(spec.outputStep, sensor.measures, unit) - units::fromUnit(0, sensor.measures, unit);
}

double readingStep(const job::Job& job, const job::Circuit& circuit)
{
    return axisOf(*job::sensorOf(job, circuit)) == units::Dimension::Frequency
               ? circuit.scaling.inputStep
               : electrics::countVolts(job, *job::findInput(job, circuit.input));
}

std::string readingUnit(units::Dimension axis)
{
    return axis == units::Dimension::Frequency ? "Hz" : axis == units::Dimension::Counts ? "counts" : "V";
}

std::string readingText(double reading, units::Dimension axis)
{
    return units::format(reading, axis, readingUnit(axis), axis == units::Dimension::Frequency ? 1 : 3);
}

int decimalsOf(double step)
{
    if (!(step > 0))
        return 3;
    for (int decimals = 0; decimals < 9; ++decimals) {
        const double scaled = step * std::pow(10, decimals);
        if (std::abs(scaled - std::round(scaled)) < 1e-6)
            return decimals;
    }
    return 9;
}

Thresholds faultThresholds(const Transfer& transfer, const job::ScalingSpec& spec)
{
    constexpr double kLeastRoom = 0.1;
    const auto [first, last] = std::minmax({transfer.reading(spec.low), transfer.reading(spec.high)});
    Thresholds out;
    if (first > kLeastRoom)
        out.below = first / 2;
    if (transfer.axis() == units::Dimension::Voltage && transfer.fullScale() - last > kLeastRoom)
        out.above = std::midpoint(last, transfer.fullScale());
    return out;
}

} // namespace vicegrip::scaling
