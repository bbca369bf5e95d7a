#include "core/scaling/table.h"

#include "core/base/csv.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::scaling {
namespace {

constexpr int kPlacesPerSegment = 32;

double onGrid(double value, double step)
{
    return step > 0 ? std::round(value / step) * step : value;
}

double valueOnGrid(double si, const parts::Sensor& sensor, double step)
{
    return units::fromUnit(onGrid(units::toUnit(si, sensor.measures, sensor.unit), step), sensor.measures, sensor.unit);
}

tl::unexpected<Error> unusable(std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence));
}

/// The voltage must go one way over the range, and far enough for the points.
Result<void> checkTravel(const Transfer& transfer, const job::ScalingSpec& spec)
{
    const double start = transfer.volts(spec.low), end = transfer.volts(spec.high);
    const double least = std::max(spec.inputStep_v, 1e-4) * (spec.points - 1);
    if (std::abs(end - start) < least)
        return unusable(
            "the input moves only " + units::format(std::abs(end - start), units::Dimension::Voltage, "V", 3) +
            " over the range: " + std::to_string(spec.points) + " points do not fit. Is the pull-up missing?");
    constexpr int kSteps = 64;
    double before = start;
    for (int i = 1; i <= kSteps; ++i) {
        const double volts = transfer.volts(std::lerp(spec.low, spec.high, static_cast<double>(i) / kSteps));
        if ((volts - before) * (end - start) <= 0)
            return unusable("the input stops moving at " + units::format(volts, units::Dimension::Voltage, "V", 3) +
                            ": the range goes beyond what the sensor puts out");
        before = volts;
    }
    return {};
}

void findWorst(Table& table, const Transfer& transfer, const job::ScalingSpec& spec)
{
    table.worstAt = spec.low;
    table.worstAtVolts = transfer.volts(spec.low);
    for (size_t i = 1; i < table.points.size(); ++i) {
        for (int k = 0; k <= kPlacesPerSegment; ++k) {
            const double share = static_cast<double>(k) / kPlacesPerSegment;
            const double value =
                std::clamp(std::lerp(table.points[i - 1].value, table.points[i].value, share), spec.low, spec.high);
            const double volts = transfer.volts(value);
            const double error = std::abs(lookUp(table, volts) - value);
            if (error > table.worstError) {
                table.worstError = error;
                table.worstAt = value;
                table.worstAtVolts = volts;
            }
        }
    }
}

} // namespace

Result<Table> makeTable(const Transfer& transfer, const parts::Sensor& sensor, const job::ScalingSpec& spec)
{
    if (auto travel = checkTravel(transfer, spec); !travel)
        return tl::make_unexpected(travel.error());
    // Beyond full scale there are no counts: the table ends where the converter does.
    const auto readable = [&](double volts) { return std::clamp(volts, 0.0, transfer.fullScale()); };
    const auto [first, last] = std::minmax({readable(transfer.volts(spec.low)), readable(transfer.volts(spec.high))});
    Table table;
    for (int i = 0; i < spec.points; ++i) {
        const double volts =
            onGrid(std::lerp(first, last, static_cast<double>(i) / (spec.points - 1)), spec.inputStep_v);
        if (!table.points.empty() && volts <= table.points.back().volts)
            return unusable(std::to_string(spec.points) + " points do not fit on a voltage grid of " +
                            units::format(spec.inputStep_v, units::Dimension::Voltage, "V", 3));
        table.points.push_back(
            {volts, valueOnGrid(transfer.value(volts, spec.low, spec.high), sensor, spec.outputStep)});
    }
    findWorst(table, transfer, spec);
    return table;
}

double lookUp(const Table& table, double volts)
{
    if (table.points.empty())
        return 0;
    if (volts <= table.points.front().volts)
        return table.points.front().value;
    const auto upper = std::ranges::find_if(table.points, [&](const TablePoint& p) { return p.volts > volts; });
    if (upper == table.points.end())
        return table.points.back().value;
    const TablePoint &a = *(upper - 1), &b = *upper;
    return std::lerp(a.value, b.value, (volts - a.volts) / (b.volts - a.volts));
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

std::string toCsv(const Table& table, const parts::Sensor& sensor, const job::ScalingSpec& spec)
{
    const std::string unit = sensor.unit.empty() ? std::string(units::everydayUnit(sensor.measures)) : sensor.unit;
    std::string out = csv::row({"input (V)", "value (" + unit + ")"});
    for (const TablePoint& p : table.points)
        out += csv::row(
            {units::formatNumber(p.volts, decimalsOf(spec.inputStep_v)),
             units::formatNumber(units::toUnit(p.value, sensor.measures, sensor.unit), decimalsOf(spec.outputStep))});
    return out;
}

} // namespace vicegrip::scaling
