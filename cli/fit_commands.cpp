#include "cli/printing.h"
#include "core/base/number_table.h"
#include "core/fit/line.h"
#include "core/fit/monotone.h"
#include "core/fit/thermistor.h"
#include "core/units/shown.h"

#include <cmath>
#include <iostream>

namespace vicegrip::cli {
namespace {

constexpr double kZero_k = 273.15;

std::string digits(double value)
{
    return units::shortest(value);
}

int printed(const Json& json, const FitOptions& options, const std::vector<std::string>& lines)
{
    if (options.json)
        std::cout << json.dump(2) << '\n';
    else
        for (const std::string& line : lines)
            std::cout << line << '\n';
    return kFine;
}

int fitALine(const NumberTable& table, const FitOptions& options)
{
    std::vector<fit::Point> points;
    for (size_t i = 0; i < table.size(); ++i) {
        const auto row = table.row(i);
        points.push_back({row[0], row[1], row.size() > 3 ? row[2] : 0, // three columns: the last is y's
                          row.size() > 3   ? row[3]
                          : row.size() > 2 ? row[2]
                                           : 0});
    }
    const bool stated = table.columns > 2;
    const auto line = fit::fitLine(points);
    if (!line)
        return refuse(line.error(), kNoAnswer);
    size_t worst = 0;
    for (size_t i = 0; i < line->pulls.size(); ++i)
        if (std::abs(line->pulls[i]) > std::abs(line->pulls[worst]))
            worst = i;
    return printed({{"kind", "line"},
                    {"slope", line->slope},
                    {"slope_sigma", line->sigmaSlope},
                    {"intercept", line->intercept},
                    {"intercept_sigma", line->sigmaIntercept},
                    {"chi_squared", line->chiSquared},
                    {"freedom", line->freedom},
                    {"residuals", line->residuals},
                    {"worst_line", table.lines[worst]}},
                   options,
                   {"y = " + digits(line->intercept) + " + " + digits(line->slope) + " x",
                    "one sigma: intercept " + digits(line->sigmaIntercept) + ", slope " + digits(line->sigmaSlope),
                    "chi squared " + digits(line->chiSquared) + " with " + std::to_string(line->freedom) +
                        " degrees of freedom" +
                        (stated && line->chiSquared > fit::chiSquaredLimit(line->freedom)
                             ? ": they scatter more than their sigmas explain"
                             : ""),
                    "worst: line " + std::to_string(table.lines[worst]) + ", " + digits(line->residuals[worst]) +
                        " off, " + units::formatNumber(std::abs(line->pulls[worst]), 1) + " sigma"});
}

int fitANtc(const NumberTable& table, const FitOptions& options)
{
    std::vector<parts::TableCurve::Point> readings;
    std::vector<double> sigmas;
    for (size_t i = 0; i < table.size(); ++i) {
        const auto row = table.row(i);
        readings.push_back({row[0] + kZero_k, row[1]});
        if (row.size() > 2)
            sigmas.push_back(row[2]);
    }
    const auto found = fit::fitThermistor(readings, sigmas);
    if (!found)
        return refuse(found.error(), kNoAnswer);
    Json band = Json::array();
    double widest = 0;
    for (const auto& r : readings) {
        band.push_back(found->sigmaAt(r.ohm));
        widest = std::max(widest, found->sigmaAt(r.ohm));
    }
    return printed(
        {{"kind", "ntc"},
         {"a", found->curve.a},
         {"b", found->curve.b},
         {"c", found->curve.c},
         {"straight", found->straight},
         {"residuals_k", found->residuals_k},
         {"band_sigma_k", band},
         {"worst_k", found->worst_k}},
        options,
        {"1/T = A + B ln R + C (ln R)^3, K and Ohm", "A " + digits(found->curve.a), "B " + digits(found->curve.b),
         "C " + digits(found->curve.c) +
             (found->straight ? ": the readings would want it below 0, where no curve is; look whether one is off"
                              : ""),
         "worst reading " + units::formatDifference(found->worst_k, units::Dimension::TemperatureDifference, "K", 3) +
             " off",
         widest > 0
             ? "the curve itself within " +
                   units::formatDifference(widest, units::Dimension::TemperatureDifference, "K", 3) + " (one sigma)"
             : std::string("three readings tell nothing of the curve's own error")});
}

int fitMonotone(const NumberTable& table, const FitOptions& options)
{
    std::vector<fit::Monotone::Breakpoint> breakpoints;
    for (size_t i = 0; i < table.size(); ++i) {
        const auto row = table.row(i);
        breakpoints.push_back({row[0], row[1]});
    }
    const auto curve = fit::Monotone::through(breakpoints);
    if (!curve)
        return refuse(curve.error(), kNoAnswer);
    constexpr int kSteps = 100;
    Json points = Json::array();
    std::vector<std::string> lines = {"x,y"};
    const double from = curve->breakpoints().front().x, to = curve->breakpoints().back().x;
    for (int i = 0; i <= kSteps; ++i) {
        const double x = std::lerp(from, to, static_cast<double>(i) / kSteps);
        points.push_back({x, curve->at(x)});
        lines.push_back(digits(x) + "," + digits(curve->at(x)));
    }
    return printed({{"kind", "monotone"}, {"points", points}}, options, lines);
}

} // namespace

int fitPoints(const FitOptions& options)
{
    const auto table = readNumberFile(options.points, 2);
    if (!table)
        return refuse(table.error(), kUnreadable);
    if (options.kind == "ntc")
        return fitANtc(*table, options);
    return options.kind == "monotone" ? fitMonotone(*table, options) : fitALine(*table, options);
}

} // namespace vicegrip::cli
