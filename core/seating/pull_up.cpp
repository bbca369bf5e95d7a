#include "core/seating/pull_up.h"

#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::seating {
namespace {

constexpr int kSteps = 200; ///< places along the range that are looked at

double volts(double sensorOhm, double pullUpOhm, double pullDownOhm, double supply_v)
{
    const double below = sensorOhm * pullDownOhm / (sensorOhm + pullDownOhm);
    return supply_v * below / (below + pullUpOhm);
}

double toleranceOf(parts::ESeries series)
{
    return series == parts::ESeries::E24 ? 0.05 : 0.01; // as the series are sold (IEC 60063)
}

std::string size(double si, const parts::Sensor& s, int decimals)
{
    const double shown = units::toUnit(si, s.measures, s.unit) - units::toUnit(0, s.measures, s.unit);
    return units::formatNumber(std::abs(shown), decimals) + " " + s.unit;
}

std::string spoken(double v)
{
    return units::format(v, units::Dimension::Voltage, "V", 2);
}

} // namespace

std::optional<double> ohmsAt(const parts::Sensor& sensor, double value)
{
    if (!std::holds_alternative<parts::Thermistor>(sensor.model) &&
        !std::holds_alternative<parts::Sender>(sensor.model))
        return std::nullopt;
    return electrics::elementValues(sensor, value)[0];
}

PullUpChoice withPullUp(const parts::Sensor& sensor, double low, double high, const parts::EcuInput& input,
                        double supply_v, double ohm, double tolerance)
{
    const bool ratiometric = input.reference == parts::Reference::Ratiometric;
    const double count_v = (ratiometric ? supply_v : input.span_v) / input.fullScale();
    const auto at = [&](double value, double pullUp) {
        return volts(*ohmsAt(sensor, value), pullUp, input.pull_down_ohm, supply_v);
    };
    const auto* thermistor = std::get_if<parts::Thermistor>(&sensor.model);
    PullUpChoice out;
    out.ohm = ohm;
    out.low_v = at(low, ohm);
    out.high_v = at(high, ohm);
    const double step = (high - low) / kSteps;
    for (int i = 0; i < kSteps; ++i) {
        const double value = low + (i + 0.5) * step;
        const double slope = std::abs(at(value + step / 2, ohm) - at(value - step / 2, ohm)) / step;
        const double perCount = slope > 0 ? count_v / slope : high - low;
        if (perCount > out.worstPerCount) {
            out.worstPerCount = perCount;
            out.worstAt = value;
        }
        const double moved = std::abs(at(value, ohm * (1 + tolerance)) - at(value, ohm));
        out.toleranceError = std::max(out.toleranceError, slope > 0 ? moved / slope : high - low);
        if (thermistor != nullptr) {
            const double across = at(value, ohm);
            out.selfHeating_k =
                std::max(out.selfHeating_k, across * across / *ohmsAt(sensor, value) / thermistor->dissipation_w_per_k);
        }
    }
    return out;
}

std::optional<PullUpChoice> bestPullUp(const parts::Sensor& sensor, double low, double high,
                                       const parts::EcuInput& input, double supply_v, parts::ESeries series)
{
    const auto first = ohmsAt(sensor, low), last = ohmsAt(sensor, high);
    if (!first || !last)
        return std::nullopt;
    const auto [least, most] = std::minmax({*first, *last});
    std::vector<PullUpChoice> all;
    for (double ohm : parts::preferredValues(series, std::max(least / 10, 10.0), std::max(most * 10, 100.0)))
        all.push_back(withPullUp(sensor, low, high, input, supply_v, ohm, toleranceOf(series)));
    return finest(all);
}

std::vector<PullUpChoice> switchedPullUps(const parts::Sensor& sensor, double low, double high,
                                          const parts::EcuInput& input, double supply_v)
{
    std::vector<PullUpChoice> out;
    if (input.pullUpFixed || !ohmsAt(sensor, low))
        return out;
    for (double ohm : input.pullUpChoices_ohm)
        out.push_back(withPullUp(sensor, low, high, input, supply_v, ohm, input.pull_up_tolerance));
    return out;
}

std::optional<PullUpChoice> finest(const std::vector<PullUpChoice>& choices)
{
    std::optional<PullUpChoice> best;
    double finestTooHot = 0;
    for (const PullUpChoice& choice : choices) {
        if (choice.selfHeating_k > kMostSelfHeating_k) {
            finestTooHot = finestTooHot == 0 ? choice.worstPerCount : std::min(finestTooHot, choice.worstPerCount);
            continue;
        }
        if (!best || choice.worstPerCount < best->worstPerCount)
            best = choice;
    }
    if (best)
        best->limitedByHeat = finestTooHot > 0 && finestTooHot < best->worstPerCount;
    return best;
}

std::string fineness(const PullUpChoice& choice, const parts::Sensor& sensor)
{
    return size(choice.worstPerCount, sensor, 2) + " a count";
}

std::string described(const PullUpChoice& c, const parts::Sensor& s)
{
    std::string out = "Spans " + spoken(c.low_v) + " to " + spoken(c.high_v) + "; at worst " + fineness(c, s) +
                      ", at " + units::format(c.worstAt, s.measures, s.unit, 0) +
                      "; its tolerance moves the value by " + size(c.toleranceError, s, 1) + " at most";
    if (c.selfHeating_k > 0)
        out += "; warms the sensor by " + units::formatNumber(c.selfHeating_k, 2) + " K at most";
    if (c.limitedByHeat)
        out += ", and a smaller one would warm it too much";
    return out + ".";
}

} // namespace vicegrip::seating
