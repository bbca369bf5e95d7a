#include "core/scaling/coefficients.h"

#include "core/fit/thermistor.h"

#include <array>
#include <charconv>
#include <cmath>

namespace vicegrip::scaling {
namespace {

Result<Coefficients> polynomial(int degree, const Transfer& transfer, const parts::Sensor& sensor,
                                const job::ScalingSpec& spec)
{
    return polynomialOf(transfer, sensor, spec, degree).map([&](const Polynomial& p) {
        const std::string unit = unitOf(sensor, spec);
        Coefficients out;
        out.formula = "value (" + unit + ") of x (" + readingUnit(transfer.axis()) + "): c0 + c1 x";
        if (degree > 1)
            out.formula += degree > 2 ? " + c2 x² + …" : " + c2 x²";
        out.shows = [p, transfer, unit, measures = sensor.measures](double value) {
            return units::fromUnit(p.at(transfer.reading(value)), measures, unit);
        };
        for (size_t i = 0; i < p.coefficients.size(); ++i)
            out.terms.emplace_back("c" + std::to_string(i), p.coefficients[i]);
        out.worst = units::fromUnit(p.worst, sensor.measures, unit) - units::fromUnit(0, sensor.measures, unit);
        return out;
    });
}

Result<Coefficients> steinhartHart(const parts::Sensor& sensor, const parts::EcuInput& input,
                                   const job::ScalingSpec& spec)
{
    const auto* thermistor = std::get_if<parts::Thermistor>(&sensor.model);
    if (thermistor == nullptr)
        return fail(ErrorCode::Range, sensor.name + " is no thermistor");
    constexpr int kPlaces = 40;
    std::vector<parts::TableCurve::Point> points;
    for (int i = 0; i <= kPlaces; ++i) {
        const double kelvin = std::lerp(spec.low, spec.high, static_cast<double>(i) / kPlaces);
        points.push_back({kelvin, parts::ohms(thermistor->curve, kelvin)});
    }
    return fit::fitThermistor(points).map([&](const fit::ThermistorFit& fit) {
        const parts::ResistanceCurve fitted = fit.curve;
        return Coefficients{"1/T = A + B ln R + C (ln R)³, K and Ω",
                            {{"A", fit.curve.a}, {"B", fit.curve.b}, {"C", fit.curve.c}},
                            fit.worst_k,
                            input.pull_up_ohm
                                ? "The ECU must know its pull-up: " + units::formatOhms(*input.pull_up_ohm)
                                : "The ECU must know its pull-up, and this input has none.",
                            [fitted, sheet = thermistor->curve](double kelvin) {
                                return parts::kelvin(fitted, parts::ohms(sheet, kelvin));
                            }};
    });
}

} // namespace

Result<Coefficients> coefficientsOf(Form form, int degree, const Transfer& transfer, const parts::Sensor& sensor,
                                    const parts::EcuInput& input, const job::ScalingSpec& spec)
{
    return form == Form::Polynomial ? polynomial(degree, transfer, sensor, spec) : steinhartHart(sensor, input, spec);
}

std::string toLines(const Coefficients& coefficients)
{
    std::string out;
    for (const auto& [name, number] : coefficients.terms) {
        constexpr int kDigits = 9;
        std::array<char, 32> digits{};
        const auto end =
            std::to_chars(digits.data(), digits.data() + digits.size(), number, std::chars_format::general, kDigits);
        out += name + '\t' + std::string(digits.data(), end.ptr) + '\n';
    }
    return out;
}

} // namespace vicegrip::scaling
