#include "core/seating/pull_up.h"

#include "core/base/phrase.h"
#include "core/electrics/sensor_model.h"
#include "core/units/shown.h"

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

std::string size(double si, const parts::Part& s, int decimals)
{
    return units::formatDifference(std::abs(si), s.measures, s.unit, decimals);
}

/// A sensor along a range, looked at once for all the pull-ups that are tried on it.
struct Along
{
    double low = 0, high = 0, step = 0;
    double atLow_ohm = 0, atHigh_ohm = 0;
    double dissipation_w_per_k = 0; ///< as it works; 0: it is no thermistor
    double stillOverMoving = 1;
    struct Place
    {
        double value = 0;
        double ohm = 0, before_ohm = 0, after_ohm = 0; ///< there, and half a step to either side
        double sensorError = 0; ///< how far the sensor's own tolerance puts it off, as a value
    };
    std::vector<Place> places;
};

/// None for a sensor without a resistance to read.
std::optional<Along> along(const parts::Part& sensor, double low, double high)
{
    if (!ohmsAt(sensor, low))
        return std::nullopt;
    Along out;
    out.low = low;
    out.high = high;
    out.step = (high - low) / kSteps;
    out.atLow_ohm = *ohmsAt(sensor, low);
    out.atHigh_ohm = *ohmsAt(sensor, high);
    const double tolerance = *parts::resistanceTolerance(sensor);
    if (const auto dissipation = parts::dissipationOf(sensor)) {
        out.stillOverMoving = sensor.kind == parts::PartUse::AirTemperature ? kMovingAir : 1;
        out.dissipation_w_per_k = *dissipation * out.stillOverMoving;
    }
    double before = out.atLow_ohm;
    for (int i = 0; i < kSteps; ++i) {
        const double value = low + (i + 0.5) * out.step, ohm = *ohmsAt(sensor, value);
        const double after = *ohmsAt(sensor, value + out.step / 2);
        const double slope = std::abs(after - before) / out.step;
        out.places.push_back({value, ohm, before, after, slope > 0 ? tolerance * ohm / slope : 0});
        before = after;
    }
    return out;
}

std::string spoken(double v)
{
    return units::format(v, units::Dimension::Voltage, "V", 2);
}

} // namespace

std::optional<double> ohmsAt(const parts::Part& sensor, double value)
{
    if (!parts::resistanceTolerance(sensor))
        return std::nullopt;
    return parts::elementValues(sensor, value)[0];
}

namespace {

PullUpChoice weighed(const Along& range, const parts::EcuInput& input, double supply_v, double ohm, double tolerance)
{
    const bool ratiometric = input.reference == parts::Reference::Ratiometric;
    const double count_v = (ratiometric ? supply_v : input.span_v) / input.fullScale();
    const double all = range.high - range.low;
    const auto at = [&](double sensorOhm, double pullUp) {
        return volts(sensorOhm, pullUp, input.pull_down_ohm, supply_v);
    };
    PullUpChoice out;
    out.ohm = ohm;
    out.low_v = at(range.atLow_ohm, ohm);
    out.high_v = at(range.atHigh_ohm, ohm);
    for (const Along::Place& place : range.places) {
        const double across = at(place.ohm, ohm);
        const double slope = std::abs(at(place.after_ohm, ohm) - at(place.before_ohm, ohm)) / range.step;
        const double perCount = slope > 0 ? count_v / slope : all;
        if (perCount > out.worstPerCount) {
            out.worstPerCount = perCount;
            out.worstAt = place.value;
        }
        (&place == &range.places.front() ? out.lowPerCount : out.highPerCount) = perCount;
        const double moved = std::abs(at(place.ohm, ohm * (1 + tolerance)) - across);
        const double resistorError = slope > 0 ? moved / slope : all;
        out.toleranceError = std::max(out.toleranceError, resistorError);
        if (range.dissipation_w_per_k == 0)
            continue;
        const double moving_k = across * across / place.ohm / range.dissipation_w_per_k;
        out.moving_k = std::max(out.moving_k, moving_k);
        out.heatShare = std::max(out.heatShare, moving_k / (place.sensorError + resistorError + perCount / 2));
    }
    out.still_k = out.moving_k * range.stillOverMoving;
    return out;
}

PullUpChoice bestOf(const Along& range, const parts::EcuInput& input, double supply_v, double tolerance)
{
    const auto [least, most] = std::minmax(range.atLow_ohm, range.atHigh_ohm);
    std::vector<PullUpChoice> all;
    for (double ohm :
         parts::preferredValues(parts::ESeries::E24, std::max(least / 10, 10.0), std::max(most * 10, 100.0)))
        all.push_back(weighed(range, input, supply_v, ohm, tolerance));
    return *finest(all); // a decade at least
}

} // namespace

PullUpChoice withPullUp(const parts::Part& sensor, double low, double high, const parts::EcuInput& input,
                        double supply_v, double ohm, double tolerance)
{
    return weighed(*along(sensor, low, high), input, supply_v, ohm, tolerance);
}

std::optional<PullUpChoice> bestPullUp(const parts::Part& sensor, double low, double high, const parts::EcuInput& input,
                                       double supply_v, double tolerance)
{
    const auto range = along(sensor, low, high);
    return range ? std::optional(bestOf(*range, input, supply_v, tolerance)) : std::nullopt;
}

std::vector<PullUpChoice> pullUpTable(const parts::Part& sensor, double low, double high, const parts::EcuInput& input,
                                      const parts::Ecu& unit, double tolerance)
{
    std::vector<PullUpChoice> out;
    const auto range = along(sensor, low, high);
    if (!range)
        return out;
    const double best = bestOf(*range, input, unit.supply.volts, tolerance).ohm;
    std::map<double, std::string> values;
    for (double times : {0.5, 1.0, 2.0})
        values.emplace(parts::nearestValue(parts::ESeries::E24, times * best), std::string());
    if (range->dissipation_w_per_k > 0)
        for (double usual : kUsualPullUps_ohm)
            values[usual] = "usual";
    for (const parts::EcuInput& other : unit.inputs)
        if (other.pull_up_ohm && other.takes(parts::InputMode::Analog))
            values[*other.pull_up_ohm] = phrase("as here");
    for (const auto& [ohm, expectedBy] : values) {
        out.push_back(weighed(*range, input, unit.supply.volts, ohm, tolerance));
        out.back().expectedBy = expectedBy;
    }
    return out;
}

std::vector<PullUpChoice> switchedPullUps(const parts::Part& sensor, double low, double high,
                                          const parts::EcuInput& input, double supply_v)
{
    std::vector<PullUpChoice> out;
    const auto range = input.pullUpFixed || input.pullUpChoices_ohm.empty() ? std::nullopt : along(sensor, low, high);
    for (double ohm : range ? input.pullUpChoices_ohm : std::vector<double>{})
        out.push_back(weighed(*range, input, supply_v, ohm, input.pull_up_tolerance));
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

std::string fineness(const PullUpChoice& choice, const parts::Part& sensor)
{
    return phrase("{} a count", size(choice.worstPerCount, sensor, 2));
}

std::string described(const PullUpChoice& c, const parts::Part& s)
{
    const auto warming = [](double k, int decimals) {
        return units::formatDifference(k, units::Dimension::TemperatureDifference, "K", decimals);
    };
    std::string out = phrase("Spans {} to {}; at worst {}, at {}; its tolerance moves the value by {} at most",
                             spoken(c.low_v), spoken(c.high_v), fineness(c, s),
                             units::format(c.worstAt, s.measures, s.unit, 0), size(c.toleranceError, s, 1));
    if (c.still_k > 0)
        out += c.moving_k < c.still_k ? phrase("; warms the sensor by up to {} in moving air, {} in still air",
                                               warming(c.moving_k, 2), warming(c.still_k, 1))
                                      : phrase("; warms the sensor by up to {}", warming(c.still_k, 2));
    if (c.tooWarm())
        out += phrase(", which is more than its reading is in doubt by anyway");
    else if (c.limitedByHeat)
        out += phrase(", and a smaller one would warm it too much");
    return out + ".";
}

} // namespace vicegrip::seating
