#include "core/scaling/coefficients.h"

#include "core/base/phrase.h"
#include "core/fit/thermistor.h"
#include "core/scaling/polynomial.h"
#include "core/scaling/worst_error.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::scaling {
namespace {

Result<std::vector<double>> steinhartHart(const Transfer& transfer, const parts::Part& sensor,
                                          const job::ScalingSpec& spec)
{
    if (parts::curveOf(sensor) == nullptr)
        return fail(ErrorCode::Range,
                    phrase("{} is no thermistor: Steinhart-Hart is a thermistor's formula", sensor.name));
    const auto pullUp = transfer.pullUp();
    if (!pullUp)
        return fail(ErrorCode::Range, phrase("there is no pull-up that the ECU could work the resistance out of"));
    constexpr int kPlaces = 40;
    std::vector<parts::TableCurve::Point> points;
    for (int i = 0; i <= kPlaces; ++i) {
        const double kelvin = std::lerp(spec.low, spec.high, static_cast<double>(i) / kPlaces);
        points.push_back({kelvin, ohmsOf(transfer.reading(kelvin), pullUp->ohm, pullUp->volts)});
    }
    return fit::fitThermistor(points).map([](const fit::ThermistorFit& fit) {
        return std::vector<double>{fit.curve.a, fit.curve.b, fit.curve.c};
    });
}

} // namespace

Result<Table> makeFormula(const Transfer& transfer, const parts::Part& sensor, const job::ScalingSpec& spec)
{
    auto terms = spec.takes == job::Takes::SteinhartHart
                     ? steinhartHart(transfer, sensor, spec)
                     : polynomialOf(transfer, sensor, spec, spec.degree).map([](Polynomial&& p) {
                           return std::move(p.coefficients);
                       });
    return std::move(terms).map([&](std::vector<double>&& numbers) {
        const PullUp pullUp = transfer.pullUp().value_or(PullUp{});
        Table table;
        table.axis = transfer.axis();
        table.unit = unitOf(sensor, spec);
        table.formula =
            Formula{spec.takes, std::move(numbers), sensor.measures, table.unit, table.axis, pullUp.ohm, pullUp.volts};
        constexpr int kDrawn = 64;
        for (int i = 0; i <= kDrawn; ++i) {
            const double value = std::lerp(spec.low, spec.high, static_cast<double>(i) / kDrawn);
            const double reading = transfer.reading(value);
            table.points.push_back({reading, valueOf(*table.formula, reading)});
        }
        findWorst(table, transfer, spec);
        std::ranges::sort(table.points, {}, &TablePoint::reading);
        table.evenError = table.worstError;
        return table;
    });
}

} // namespace vicegrip::scaling
