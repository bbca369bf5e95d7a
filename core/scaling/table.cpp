#include "core/scaling/table.h"

#include "core/base/phrase.h"
#include "core/scaling/coefficients.h"
#include "core/scaling/place_points.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::scaling {
namespace {

tl::unexpected<Error> unusable(std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence));
}

/// The voltage must go one way over the range, and far enough for the points.
Result<void> checkTravel(const Transfer& transfer, const job::ScalingSpec& spec)
{
    const double start = transfer.reading(spec.low), end = transfer.reading(spec.high);
    const int points = spec.asFormula() ? 2 : spec.points;
    const double least = std::max(gridStep(transfer, spec), 1e-4) * (points - 1);
    if (std::abs(end - start) < least)
        return unusable(phrase("the input moves only {} over the range: {} points do not fit. Is the {}",
                               readingText(std::abs(end - start), transfer.axis()), std::to_string(points),
                               (transfer.axis() == units::Dimension::Voltage ? phrase("pull-up missing?")
                                                                             : phrase("range the sensor's own?"))));
    constexpr int kSteps = 64;
    double before = start;
    for (int i = 1; i <= kSteps; ++i) {
        const double reading = transfer.reading(std::lerp(spec.low, spec.high, static_cast<double>(i) / kSteps));
        if ((reading - before) * (end - start) <= 0)
            return unusable(phrase("the input stops moving at {}: the range goes beyond what the sensor puts out",
                                   readingText(reading, transfer.axis())));
        before = reading;
    }
    return {};
}

Result<Table> tableOfFixed(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    if (spec.fixed.size() < 2)
        return unusable(phrase("the ECU's own points are not given: expected two or more, rising"));
    auto table = fixedTable(transfer, sensor, spec);
    if (!table)
        return unusable(phrase("the ECU's own points do not rise"));
    if (table->points.front().value == table->points.back().value)
        return unusable(phrase("all of the ECU's own points lie beyond what the input does over the range"));
    return std::move(*table);
}

} // namespace

Result<Table> makeTable(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    if (auto travel = checkTravel(transfer, spec); !travel)
        return tl::make_unexpected(travel.error());
    if (spec.asFormula())
        return makeFormula(transfer, sensor, spec);
    if (spec.breakpoints == job::Breakpoints::Fixed)
        return tableOfFixed(transfer, sensor, spec);
    auto even = evenTable(transfer, sensor, spec);
    if (!even)
        return unusable(phrase("{} points do not fit on a grid of {}", std::to_string(spec.points),
                               readingText(gridStep(transfer, spec), transfer.axis())));
    if (spec.breakpoints == job::Breakpoints::Even)
        return std::move(*even);
    auto chosen = bestTable(transfer, sensor, spec);
    constexpr double kWorthIt = 1 - 1e-6;
    if (!chosen || chosen->worstError >= even->worstError * kWorthIt)
        return std::move(*even); // the steps of the ECU's grids leave nothing to gain
    chosen->evenError = even->worstError;
    return std::move(*chosen);
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

ValueRange valuesBetween(const Table& table, double low, double high)
{
    std::vector<double> places = {low, high};
    for (const TablePoint& p : table.points)
        if (p.reading > low && p.reading < high)
            places.push_back(p.reading);
    constexpr int kWithin = 32; // of a formula, which may turn between its ends
    for (int i = 1; table.formula && i < kWithin; ++i)
        places.push_back(std::lerp(low, high, static_cast<double>(i) / kWithin));
    ValueRange out{lookUp(table, low), lookUp(table, low)};
    for (const double reading : places) {
        const double value = lookUp(table, reading);
        out.least = std::min(out.least, value);
        out.most = std::max(out.most, value);
    }
    return out;
}

units::Dimension axisOf(const parts::Part& sensor)
{
    return parts::countsValue(sensor) ? units::Dimension::Frequency : units::Dimension::Voltage;
}

std::string unitOf(const parts::Part& sensor, const job::ScalingSpec& spec)
{
    if (!spec.unit.empty())
        return spec.unit;
    return sensor.unit.empty() ? std::string(units::everydayUnit(sensor.measures)) : sensor.unit;
}

double outputStep(const parts::Part& sensor, const job::ScalingSpec& spec)
{
    const std::string unit = unitOf(sensor, spec);
    return units::differenceFromUnit(spec.outputStep, sensor.measures, unit);
}

double gridStep(const Transfer& transfer, const job::ScalingSpec& spec)
{
    return spec.takes == job::Takes::Counts && transfer.countStep() > 0 ? transfer.countStep() : spec.inputStep;
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
