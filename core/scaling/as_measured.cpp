#include "core/scaling/as_measured.h"

#include "core/base/phrase.h"
#include "core/electrics/sensor_model.h"
#include "core/fit/monotone.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::scaling {
namespace {

constexpr double kLeastTolerance = 0.005;

tl::unexpected<Error> refused(std::string sentence)
{
    return fail(ErrorCode::Range, std::move(sentence));
}

/// What the sheet would have to be told for the sensor to do what it does at a true value: a line through the readings.
struct SaidLine
{
    double slope = 1, offset = 0;
    double worst = 0; ///< of the readings beside it, the other instrument's error with it, SI

    [[nodiscard]] double at(double value) const { return offset + slope * value; }
};

Result<SaidLine> saidLine(const job::Circuit& circuit, const CapturedVerdict& verdict, const std::vector<size_t>& in)
{
    std::vector<fit::Point> points;
    for (size_t i : in)
        points.push_back({circuit.captured[i].value, verdict.pairs[i].said});
    return fit::fitLine(points).map([&](const fit::Line& line) {
        SaidLine out{line.slope, line.intercept, 0};
        for (size_t k = 0; k < in.size(); ++k)
            out.worst = std::max(out.worst, std::abs(line.residuals[k]) + circuit.captured[in[k]].within);
        return out;
    });
}

Result<void> straighten(parts::Part& s, const SaidLine& line)
{
    const double span = s.high - s.low;
    if (!(line.slope > 0))
        return refused(phrase("the readings go against the sheet: are value and volts in their right columns?"));
    const auto along = [&](double low, double high, double value) {
        return std::lerp(low, high, (line.at(value) - s.low) / span);
    };
    const double tolerance = std::max(kLeastTolerance, line.worst / span);
    const auto sheet = parts::spanOf(s);
    if (!sheet || !parts::setSpan(s, along(sheet->low_v, sheet->high_v, s.low),
                                  along(sheet->low_v, sheet->high_v, s.high), tolerance))
        return refused(phrase("this sensor's curve is not fitted from readings: a throttle's limits are calibrated, a "
                              "bent one is the maker's"));
    return {};
}

Result<void> bend(parts::Part& s, const job::Circuit& circuit, const CapturedVerdict& verdict,
                  const std::vector<size_t>& in)
{
    std::vector<fit::Monotone::Breakpoint> breakpoints;
    for (size_t i : in) {
        const auto ohm = parts::elementValues(s, verdict.pairs[i].said);
        breakpoints.push_back({circuit.captured[i].value, ohm.front()});
    }
    const auto curve = fit::Monotone::through(std::move(breakpoints));
    if (!curve)
        return tl::make_unexpected(curve.error());
    const auto& at = curve->breakpoints();
    for (size_t i = 1; i < at.size(); ++i)
        if (at[i].y == at[i - 1].y || (at[i].y > at[i - 1].y) != (at.back().y > at.front().y))
            return refused(phrase("the readings turn back at {}: read it again, or set it aside",
                                  units::format(at[i].x, s.measures, s.unit, 1)));
    constexpr int kBetween = 4; // straight lines between so many miss the cubic by less than the ohms are known
    std::vector<parts::Resistive::Point> points;
    for (size_t i = 1; i < at.size(); ++i)
        for (int k = 0; k < kBetween; ++k) {
            const double value = std::lerp(at[i - 1].x, at[i].x, static_cast<double>(k) / kBetween);
            points.push_back({value, curve->at(value)});
        }
    points.push_back({at.back().x, at.back().y});
    double instrument = 0; // what the other instrument may be off by, as a share of the resistance
    for (size_t i : in) {
        const job::Captured& c = circuit.captured[i];
        const double ohm = curve->at(c.value);
        for (const double value : {c.value - c.within, c.value + c.within})
            instrument =
                std::max(instrument, std::abs(curve->at(std::clamp(value, at.front().x, at.back().x)) - ohm) / ohm);
    }
    const double sheet = parts::resistanceTolerance(s).value_or(0);
    if (!parts::setOhms(s, std::move(points), std::max({kLeastTolerance, std::min(sheet, 0.02), instrument})))
        return refused(phrase("this sensor's curve is not fitted from readings: a throttle's limits are calibrated, a "
                              "bent one is the maker's"));
    s.low = at.front().x;
    s.high = at.back().x;
    return {};
}

/// A thermistor's residuals, and what the other instrument may be off by, as shares of its resistance: a curve is known
/// no better than what it was measured with.
double tolerance(const fit::ThermistorFit& fit, const job::Circuit& circuit, const std::vector<size_t>& in)
{
    double worst = kLeastTolerance;
    for (size_t i = 0; i < in.size() && i < fit.residuals_k.size(); ++i) {
        const double kelvin = circuit.captured[in[i]].value;
        const parts::ResistanceCurve curve = fit.curve;
        const double ohm = parts::ohms(curve, kelvin);
        const double off = std::abs(fit.residuals_k[i]) + circuit.captured[in[i]].within;
        for (const double at : {kelvin - off, kelvin + off})
            worst = std::max(worst, std::abs(parts::ohms(curve, at) - ohm) / ohm);
    }
    return worst;
}

} // namespace

std::vector<FitPlace> fitAlong(const CapturedVerdict& verdict, const Transfer& transfer, const parts::Part& sensor,
                               const job::ScalingSpec& spec)
{
    constexpr int kPlaces = 60;
    std::vector<FitPlace> out;
    for (int i = 0; i <= kPlaces && (verdict.line || verdict.thermistor || verdict.bent); ++i) {
        const double value = std::lerp(spec.low, spec.high, static_cast<double>(i) / kPlaces);
        if (verdict.line) {
            const double x = transfer.reading(value);
            out.push_back({value, verdict.line->at(x) - value, verdict.line->sigmaAt(x)});
        } else if (verdict.bent) { // no farther than it was read
            const auto& breakpoints = verdict.bent->breakpoints();
            if (value >= breakpoints.front().x && value <= breakpoints.back().x)
                out.push_back({value, verdict.bent->at(value) - value, 0});
        } else {
            const auto& sheet = *parts::curveOf(sensor);
            const double ohm = parts::ohms(sheet, value);
            out.push_back(
                {value, parts::kelvin(verdict.thermistor->curve, ohm) - value, verdict.thermistor->sigmaAt(ohm)});
        }
    }
    return out;
}

Result<parts::Part> asMeasured(const job::Circuit& circuit, const parts::Part& sensor, const CapturedVerdict& verdict)
{
    const auto in = partakers(circuit);
    if (in.size() < kFewestForACurve)
        return refused(phrase("three readings or more, far apart, make a curve"));
    if (verdict.suspect)
        return refused(phrase("one reading is contradicted by the others: read it again, or set it aside"));
    parts::Part out = sensor;
    if (parts::curveOf(out) != nullptr) {
        if (!verdict.thermistor ||
            !parts::setCurve(out, verdict.thermistor->curve, tolerance(*verdict.thermistor, circuit, in)))
            return refused(phrase("no Steinhart-Hart curve goes through these readings"));
    } else if (parts::resistanceTolerance(out)) {
        if (auto bent = bend(out, circuit, verdict, in); !bent)
            return tl::make_unexpected(bent.error());
    } else {
        const auto line = saidLine(circuit, verdict, in);
        if (!line)
            return tl::make_unexpected(line.error());
        if (auto straight = straighten(out, *line); !straight)
            return tl::make_unexpected(straight.error());
    }
    constexpr std::string_view kMark = ", as measured";
    if (!out.name.ends_with(kMark))
        out.name += kMark;
    out.id = parts::PartId{circuit.id.value + "-as-measured"};
    if (auto sound = parts::checkPart(out); !sound)
        return tl::make_unexpected(sound.error());
    return out;
}

} // namespace vicegrip::scaling
