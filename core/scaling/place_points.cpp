#include "core/scaling/place_points.h"

#include "core/scaling/breakpoints.h"
#include "core/scaling/search_range.h"
#include "core/scaling/worst_error.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <tuple>

namespace vicegrip::scaling {
namespace {

double onGrid(double value, double step)
{
    return step > 0 ? std::round(value / step) * step : value;
}

/// The grids of an ECU, and what truly stands at their places.
class Placing
{
  public:
    Placing(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec)
        : m_transfer(transfer),
          m_sensor(sensor),
          m_spec(spec),
          m_unit(unitOf(sensor, spec)),
          m_step(gridStep(transfer, spec)),
          m_range(searchRange(transfer, spec))
    {
        // Beyond full scale there are no counts: the table ends where the converter does.
        const auto readable = [&](double reading) { return std::clamp(reading, 0.0, transfer.fullScale()); };
        std::tie(m_first, m_last) =
            std::minmax({readable(transfer.reading(spec.low)), readable(transfer.reading(spec.high))});
    }

    [[nodiscard]] std::optional<Table> at(const std::vector<double>& readings) const
    {
        std::vector<TablePoint> points;
        for (double reading : readings)
            points.push_back({reading, held(onCurve(reading))});
        return table(std::move(points));
    }

    [[nodiscard]] std::vector<double> even() const
    {
        std::vector<double> out;
        for (int i = 0; i < m_spec.points; ++i)
            out.push_back(onGrid(std::lerp(m_first, m_last, static_cast<double>(i) / (m_spec.points - 1)), m_step));
        return out;
    }

    /// None when two points fall together.
    [[nodiscard]] std::optional<Table> table(std::vector<TablePoint> points) const
    {
        for (size_t i = 1; i < points.size(); ++i)
            if (points[i].reading <= points[i - 1].reading)
                return std::nullopt;
        Table out;
        out.axis = m_transfer.axis();
        out.unit = m_unit;
        out.points = std::move(points);
        findWorst(out, m_transfer, m_spec);
        out.evenError = out.worstError;
        return out;
    }

    /// The curve on the input's grid, between the range's ends: at most so many places, the sensor's kinks among them;
    /// where the grid has few, places between them too, which are only looked at.
    [[nodiscard]] std::vector<Sample> curve() const;

    /// The best placing on the curve, and those with values beside it.
    struct Placings
    {
        std::vector<std::vector<TablePoint>> all;
        /// No placing on the curve leaves less: the least there is by the places that are looked at, and a table is
        /// wrong by that much at one of them. 0 where there are too many to tell.
        double least = 0;
    };
    [[nodiscard]] Placings placings() const;

    /// Moves one point at a time, by its reading or, where values may lie beside the curve, by its value, until no move
    /// makes the worst error less.
    [[nodiscard]] Table mended(Table table) const;

  private:
    /// A reading on the grid may lie a little beyond the range's end, and has its own value there where the output goes
    /// on: the end's value would bend the first segment.
    [[nodiscard]] double onCurve(double reading) const
    {
        constexpr double kSame = 1e-6;
        const double value = m_transfer.value(reading, m_range.first, m_range.second);
        if (std::abs(m_transfer.reading(value) - reading) > kSame * std::max(1.0, std::abs(reading)))
            return std::clamp(value, m_spec.low, m_spec.high);
        return value;
    }

    /// A value as the ECU holds it, SI.
    [[nodiscard]] double held(double si) const
    {
        return units::fromUnit(onGrid(units::toUnit(si, m_sensor.measures, m_unit), m_spec.outputStep),
                               m_sensor.measures, m_unit);
    }

    [[nodiscard]] bool rises() const { return m_transfer.reading(m_spec.high) > m_transfer.reading(m_spec.low); }
    [[nodiscard]] bool beside() const { return m_spec.breakpoints == job::Breakpoints::Free; }

    const Transfer& m_transfer;
    const parts::Part& m_sensor;
    const job::ScalingSpec& m_spec;
    std::string m_unit;
    double m_step; ///< of the readings
    std::pair<double, double> m_range; ///< values a reading may stand for
    double m_first = 0, m_last = 0;
};

std::vector<Sample> Placing::curve() const
{
    // The inverse by straight lines between 1025 values and the kinks: nearer to it than a thousandth of any table's
    // error.
    constexpr int kValues = 1024;
    constexpr size_t kPlaces = 4096;
    const auto [low, high] = m_range;
    std::vector<double> values;
    for (int i = 0; i <= kValues; ++i)
        values.push_back(std::lerp(low, high, static_cast<double>(i) / kValues));
    struct Place
    {
        double reading;
        bool breakpoint;
    };
    // Where points may lie, and between few of those as many places that are looked at as can be placed exactly.
    const double step = std::max(m_step, (m_last - m_first) / kPlaces);
    const auto steps = static_cast<size_t>(std::ceil((m_last - m_first) / step - 1e-9));
    const size_t between = std::max<size_t>(kExactSamples / 2 / (steps + 1), 1);
    std::vector<Place> places;
    for (size_t i = 0; i <= steps * between; ++i) {
        const double reading = m_first + static_cast<double>(i) * step / static_cast<double>(between);
        places.push_back(i % between == 0 ? Place{std::min(onGrid(reading, m_step), onGrid(m_last, m_step)), true}
                                          : Place{reading, false});
    }
    for (const double kink : m_transfer.kinks()) {
        if (kink <= m_spec.low || kink >= m_spec.high)
            continue;
        values.push_back(kink);
        const double reading = m_transfer.reading(kink);
        places.push_back({std::clamp(onGrid(reading, m_step), m_first, m_last), true});
        if (between > 1)
            places.push_back({reading, false});
    }
    std::vector<TablePoint> inverse;
    for (const double value : values)
        inverse.push_back({m_transfer.reading(value), value});
    std::ranges::sort(inverse, {}, &TablePoint::reading);
    std::ranges::sort(places, {}, [](const Place& p) { return std::pair(p.reading, !p.breakpoint); });
    std::vector<Sample> out;
    size_t at = 1;
    double lastBreakpoint = -std::numeric_limits<double>::infinity();
    const double same = 0.1 * step / static_cast<double>(between);
    for (const Place& place : places) {
        const bool inRange = place.reading >= m_first && place.reading <= m_last;
        if (place.breakpoint ? place.reading - lastBreakpoint < 0.5 * m_step : !inRange)
            continue;
        if (!out.empty() && place.reading - out.back().x < same) {
            if (!place.breakpoint)
                continue;
            if (!out.back().breakpoint)
                out.pop_back(); // what is only looked at gives way
        }
        if (place.breakpoint)
            lastBreakpoint = place.reading;
        while (at + 1 < inverse.size() && inverse[at].reading < place.reading)
            ++at;
        const TablePoint &a = inverse[at - 1], &b = inverse[at];
        const double share = b.reading > a.reading ? (place.reading - a.reading) / (b.reading - a.reading) : 0;
        const double value =
            inRange ? std::lerp(a.value, b.value, std::clamp(share, 0.0, 1.0)) : onCurve(place.reading);
        out.push_back({place.reading, value, held(value) - value, place.breakpoint});
    }
    return out;
}

Placing::Placings Placing::placings() const
{
    auto places = curve();
    const auto count = static_cast<size_t>(m_spec.points);
    if (std::cmp_less(std::ranges::count(places, true, &Sample::breakpoint), count))
        return {};
    Placings out;
    const auto onTheCurve = [&] {
        auto& points = out.all.emplace_back();
        const auto breakpoints = bestBreakpoints(places, count);
        for (size_t k : breakpoints)
            points.push_back({places[k].x, places[k].y + places[k].rounding});
        return worstOff(places, breakpoints);
    };
    const double least = onTheCurve();
    if (places.size() <=
        kExactSamples) { // on few steps a point beyond the range does better, now and then, with the value of its end
        for (Sample& s : places)
            if (s.x < m_first || s.x > m_last) {
                s.y = std::clamp(s.y, m_spec.low, m_spec.high);
                s.rounding = held(s.y) - s.y;
            }
        out.least = std::min(least, onTheCurve());
        places = curve();
    }
    if (!beside())
        return out;
    for (Sample& s : places)
        s.rounding = 0; // values are chosen beside the curve, and rounded then
    for (const double endShare : {0.0, 0.5}) {
        const auto breakpoints = bestBreakpoints(places, count, endShare);
        const auto values = bestValues(places, breakpoints);
        auto& points = out.all.emplace_back();
        for (size_t k = 0; k < breakpoints.size(); ++k)
            points.push_back({places[breakpoints[k]].x, held(values[k])});
    }
    return out;
}

Table Placing::mended(Table best) const
{
    constexpr std::array kSteps = {1, -1, 2, -2, 4, -4, 8, -8, 16, -16, 32, -32};
    constexpr int kRounds = 200;
    const double valueStep = outputStep(m_sensor, m_spec);
    for (int round = 0; round < kRounds; ++round) {
        const double before = best.worstError;
        // Only the points beside the worst place can make it less.
        const auto right = std::ranges::lower_bound(best.points, best.worstAtReading, {}, &TablePoint::reading);
        const auto upper = static_cast<size_t>(right - best.points.begin());
        const auto tryPoint = [&](size_t k, TablePoint p) {
            p.reading = onGrid(p.reading, m_step);
            if (p.reading < 0 || p.reading > m_transfer.fullScale() || p == best.points[k])
                return;
            if ((k > 0 && p.reading <= best.points[k - 1].reading) ||
                (k + 1 < best.points.size() && p.reading >= best.points[k + 1].reading))
                return;
            Table tried = best;
            tried.points[k] = p;
            // What changes lies between the point's neighbours: a look there is enough to turn most down.
            double low = k > 0 ? onCurve(tried.points[k - 1].reading) : rises() ? m_spec.low : m_spec.high;
            double high = k + 1 < tried.points.size() ? onCurve(tried.points[k + 1].reading)
                          : rises()                   ? m_spec.high
                                                      : m_spec.low;
            std::tie(low, high) =
                std::minmax({std::clamp(low, m_spec.low, m_spec.high), std::clamp(high, m_spec.low, m_spec.high)});
            if (worstBetween(tried, m_transfer, m_spec, low, high) >= best.worstError)
                return;
            findWorst(tried, m_transfer, m_spec);
            if (tried.worstError < best.worstError)
                best = std::move(tried);
        };
        for (const size_t k : {upper - 1, upper}) {
            if (k >= best.points.size())
                continue;
            for (const int steps : kSteps) {
                const TablePoint now = best.points[k];
                const double reading = now.reading + steps * m_step;
                const double off = beside() ? now.value - onCurve(now.reading) : 0;
                tryPoint(k, {reading, held(onCurve(reading) + off)});
                if (beside() && valueStep > 0)
                    tryPoint(k, {best.points[k].reading, held(best.points[k].value + steps * valueStep)});
            }
        }
        if (!(best.worstError < before * (1 - 1e-9)))
            break;
    }
    return best;
}

} // namespace

std::optional<Table> evenTable(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    const Placing placing(transfer, sensor, spec);
    return placing.at(placing.even());
}

std::optional<Table> fixedTable(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    return Placing(transfer, sensor, spec).at(spec.fixed);
}

std::optional<Table> bestTable(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    const Placing placing(transfer, sensor, spec);
    std::optional<Table> best;
    Placing::Placings placings = placing.placings();
    for (auto& points : placings.all)
        if (auto table = placing.table(std::move(points))) {
            Table mended = placing.mended(std::move(*table));
            if (!best || mended.worstError < best->worstError)
                best = std::move(mended);
        }
    constexpr double kGap = 1.02; // where what lies between the places is worse than they tell, nothing is proved
    if (best)
        best->leastThereIs = spec.breakpoints == job::Breakpoints::Best && best->worstError <= kGap * placings.least;
    return best;
}

} // namespace vicegrip::scaling
