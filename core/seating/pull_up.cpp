#include "core/seating/pull_up.h"

#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace vicegrip::seating {
namespace {

constexpr int kSteps = 200; ///< places along the range that are looked at

double volts(double sensorOhm, double pullUpOhm, double pullDownOhm, double supply_v)
{
    const double below = sensorOhm * pullDownOhm / (sensorOhm + pullDownOhm);
    return supply_v * below / (below + pullUpOhm);
}

std::string size(double si, const parts::Sensor& s, int decimals)
{
    const double shown = units::toUnit(si, s.measures, s.unit) - units::toUnit(0, s.measures, s.unit);
    return units::formatNumber(std::abs(shown), decimals) + " " + s.unit;
}

/// How far the sensor's own tolerance puts its resistance off, as a value.
double sensorError(const parts::Sensor& sensor, double value, double step)
{
    const auto* thermistor = std::get_if<parts::Thermistor>(&sensor.model);
    const double tolerance =
        thermistor != nullptr ? thermistor->tolerance : std::get<parts::Sender>(sensor.model).tolerance;
    const double slope = std::abs(*ohmsAt(sensor, value + step / 2) - *ohmsAt(sensor, value - step / 2)) / step;
    return slope > 0 ? tolerance * *ohmsAt(sensor, value) / slope : 0;
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
        (i == 0 ? out.lowPerCount : out.highPerCount) = perCount;
        const double moved = std::abs(at(value, ohm * (1 + tolerance)) - at(value, ohm));
        const double resistorError = slope > 0 ? moved / slope : high - low;
        out.toleranceError = std::max(out.toleranceError, resistorError);
        if (thermistor == nullptr)
            continue;
        const double across = at(value, ohm);
        const double still_k = across * across / *ohmsAt(sensor, value) / thermistor->dissipation_w_per_k;
        const double moving_k = still_k / (sensor.kind == parts::SensorKind::AirTemperature ? kMovingAir : 1);
        const double inDoubt = sensorError(sensor, value, step) + resistorError + perCount / 2;
        out.still_k = std::max(out.still_k, still_k);
        out.moving_k = std::max(out.moving_k, moving_k);
        out.heatShare = std::max(out.heatShare, moving_k / inDoubt);
    }
    return out;
}

std::optional<PullUpChoice> bestPullUp(const parts::Sensor& sensor, double low, double high,
                                       const parts::EcuInput& input, double supply_v, double tolerance)
{
    const auto first = ohmsAt(sensor, low), last = ohmsAt(sensor, high);
    if (!first || !last)
        return std::nullopt;
    const auto [least, most] = std::minmax({*first, *last});
    std::vector<PullUpChoice> all;
    for (double ohm :
         parts::preferredValues(parts::ESeries::E24, std::max(least / 10, 10.0), std::max(most * 10, 100.0)))
        all.push_back(withPullUp(sensor, low, high, input, supply_v, ohm, tolerance));
    return finest(all);
}

std::vector<PullUpChoice> pullUpTable(const parts::Sensor& sensor, double low, double high,
                                      const parts::EcuInput& input, const parts::Ecu& unit, double tolerance)
{
    std::vector<PullUpChoice> out;
    const auto best = bestPullUp(sensor, low, high, input, unit.supply.volts, tolerance);
    if (!best)
        return out;
    std::map<double, std::string> values;
    for (double times : {0.5, 1.0, 2.0})
        values.emplace(parts::nearestValue(parts::ESeries::E24, times * best->ohm), std::string());
    if (std::holds_alternative<parts::Thermistor>(sensor.model))
        for (double usual : kUsualPullUps_ohm)
            values[usual] = "usual";
    for (const parts::EcuInput& other : unit.inputs)
        if (other.pull_up_ohm && other.takes(parts::InputMode::Analog))
            values[*other.pull_up_ohm] = "as here";
    for (const auto& [ohm, expectedBy] : values) {
        out.push_back(withPullUp(sensor, low, high, input, unit.supply.volts, ohm, tolerance));
        out.back().expectedBy = expectedBy;
    }
    return out;
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
    bool finerIsTooWarm = false;
    const auto before = [](const PullUpChoice& a, const PullUpChoice& b) {
        return a.tooWarm() != b.tooWarm() ? b.tooWarm()
               : a.tooWarm()              ? a.heatShare < b.heatShare
                                          : a.worstPerCount < b.worstPerCount;
    };
    for (const PullUpChoice& choice : choices)
        if (!best || before(choice, *best))
            best = choice;
    for (const PullUpChoice& choice : choices)
        finerIsTooWarm |= choice.tooWarm() && choice.worstPerCount < best->worstPerCount;
    if (best)
        best->limitedByHeat = finerIsTooWarm;
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
    if (c.still_k > 0)
        out += c.moving_k < c.still_k ? "; warms the sensor by up to " + units::formatNumber(c.moving_k, 2) +
                                            " K in moving air, " + units::formatNumber(c.still_k, 1) + " K in still air"
                                      : "; warms the sensor by up to " + units::formatNumber(c.still_k, 2) + " K";
    if (c.tooWarm())
        out += ", which is more than its reading is in doubt by anyway";
    else if (c.limitedByHeat)
        out += ", and a smaller one would warm it too much";
    return out + ".";
}

} // namespace vicegrip::seating
