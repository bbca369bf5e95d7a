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
    std::optional<PullUpChoice> best;
    double finestTooHot = 0;
    for (double ohm : parts::preferredValues(series, std::max(least / 10, 10.0), std::max(most * 10, 100.0))) {
        const PullUpChoice choice = withPullUp(sensor, low, high, input, supply_v, ohm, toleranceOf(series));
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

} // namespace vicegrip::seating
