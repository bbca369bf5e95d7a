#include "core/scaling/budget.h"

#include "core/base/phrase.h"
#include "core/electrics/readings.h"
#include "core/fuel/blend.h"
#include "core/scaling/search_range.h"
#include "core/units/shown.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::scaling {
namespace {

using electrics::Electrics;
using electrics::Share;

/// Whose share it is, by the fact subject it bears.
BudgetPart partOf(const std::string& s, const job::Circuit& circuit)
{
    if (s == "sensor " + circuit.device.value || s == "track of " + circuit.device.value)
        return BudgetPart::Sensor;
    if (s == "battery" || s == "charging" || s.starts_with("supply") || s.starts_with("expander-supply"))
        return BudgetPart::Supply;
    if (s == "input " + circuit.input.value || s.starts_with("resistor "))
        return BudgetPart::PullUp;
    return BudgetPart::Wiring; // conductors, and what other consumers do to a shared ground
}

Result<Electrics> carAt(const job::Job& job, const job::Circuit& circuit, double value, job::Condition condition,
                        std::optional<double> battery_v = {})
{
    return electrics::build(job, {.condition = condition,
                                  .surroundings = job.surroundings,
                                  .measurands = {{circuit.id, value}},
                                  .battery_v = battery_v});
}

/// V or Hz per SI unit of the value.
double slopeAt(const Transfer& transfer, const job::ScalingSpec& spec, double value)
{
    const double step = 1e-4 * (spec.high - spec.low);
    const double low = std::max(value - step, spec.low), high = std::min(value + step, spec.high);
    return (transfer.reading(high) - transfer.reading(low)) / (high - low);
}

/// The table's largest error where the parts ahead of it may have moved the reading to.
double tableWithin(const Table& table, const Transfer& transfer, const job::ScalingSpec& spec, double value,
                   double ahead)
{
    double most = 0;
    constexpr int kPlaces = 8; // to each side
    for (int i = -kPlaces; i <= kPlaces; ++i) {
        const double x = std::clamp(value + ahead * i / kPlaces, spec.low, spec.high);
        most = std::max(most, std::abs(lookUp(table, transfer.reading(x)) - x));
    }
    return most;
}

/// How far the table's values between these readings, a count more to either side, lie from `from`.
double shownOff(const Table& table, const circuit::Interval& readings, double count, double from)
{
    const auto [least, most] = valuesBetween(table, readings.low - count, readings.high + count);
    return std::max(std::abs(least - from), std::abs(most - from));
}

bool fuelsByDensity(const job::Job& job)
{
    return !job.brief || job.brief->airMethod == job::AirMethod::SpeedDensity ||
           job.brief->airMethod == job::AirMethod::Hybrid;
}

/// The fuel that a content asks for is as much more as its stoichiometric ratio is less.
std::optional<MixtureCost> ofContent(const Budget& b)
{
    if (b.value < 0 || b.value > 1)
        return std::nullopt;
    const auto off = [&](double by) {
        const double at = fuel::stoichiometric(b.value);
        const double low = fuel::stoichiometric(std::max(0.0, b.value - by)),
                     high = fuel::stoichiometric(std::min(1.0, b.value + by));
        return std::max(std::abs(at / low - 1), std::abs(at / high - 1));
    };
    return MixtureCost{off(b.worst), off(b.sigma), phrase("fuel follows the content: dm/m = -dAFR/AFR")};
}

/// m = VE p V / (R T): what a sensor's error is as a share of the fuel.
std::optional<MixtureCost> mixtureOf(const job::Job& job, const job::Circuit& circuit, const parts::Part& sensor,
                                     const Budget& b)
{
    const auto share = [&](std::string how) {
        return MixtureCost{b.worst / b.value, b.sigma / b.value, std::move(how)};
    };
    if (sensor.kind == parts::PartUse::FlexFuel)
        return ofContent(b);
    if (b.value <= 0)
        return std::nullopt;
    switch (sensor.kind) {
    case parts::PartUse::ManifoldPressure:
        if (!fuelsByDensity(job) || (!circuit.function.empty() && circuit.function.value != "map"))
            return std::nullopt;
        return share(phrase("fuel follows the pressure: dm/m = dp/p"));
    case parts::PartUse::AirTemperature:
        if (!fuelsByDensity(job))
            return std::nullopt;
        if (b.worst >= b.value)
            return std::nullopt;
        // m = c / T: what is shown too low weighs more than what is shown too high.
        return MixtureCost{b.worst / (b.value - b.worst), b.sigma / b.value,
                           phrase("fuel goes against the temperature: dm/m = -dT/T, in kelvin")};
    case parts::PartUse::AirMass:
        return share(phrase("fuel follows the air: dm/m = dq/q"));
    case parts::PartUse::Wideband:
        return share(phrase("closed loop corrects to what this shows: the error is the mixture's"));
    default:
        return std::nullopt;
    }
}

} // namespace

namespace {

/// What an input that the battery moves reads while it is charged.
void addCharging(Budget& b, circuit::Interval& within, const job::Job& job, const job::Circuit& circuit,
                 const Table& table)
{
    const auto car = carAt(job, circuit, b.value, job::Condition::Running);
    if (!car)
        return;
    electrics::Readings charged(*car);
    const auto volts = charged.inputVolts(job, circuit);
    if (!volts)
        return;
    within = {std::min(within.low, volts->low), std::max(within.high, volts->high)};
    BudgetLine& supply = b.lines[static_cast<size_t>(BudgetPart::Supply)];
    const auto moved = charged.inputRange(
        job, circuit, [&](const std::string& label) { return partOf(label, circuit) == BudgetPart::Supply; });
    if (moved)
        supply.worst = std::max(supply.worst, shownOff(table, *moved, 0, b.shown));
}

/// The parts that move the input's volts: each alone, and the range of all of them together, consumers running or not.
template <class AddSigma>
circuit::Interval addVolts(Budget& b, const job::Job& job, const job::Circuit& circuit, const Table& table,
                           const Electrics& atRest, job::Condition turning, const AddSigma& addSigma)
{
    // At the volts of rest, so that what differs is what the consumers do.
    const auto running = carAt(job, circuit, b.value, turning, job.battery.volts);
    electrics::Readings still(atRest);
    std::optional<electrics::Readings> moving;
    if (running)
        moving.emplace(*running);
    const auto all = moving ? moving->inputVolts(job, circuit) : std::nullopt;
    const auto alone = [&](electrics::Readings& readings, BudgetPart part) {
        const auto range =
            readings.inputRange(job, circuit, [&](const std::string& label) { return partOf(label, circuit) == part; });
        return range ? shownOff(table, *range, 0, b.shown) : 0;
    };
    std::array<double, kBudgetParts> heaviest{};
    bool onBattery = false;
    for (const Share& s : still.inputShares(job, circuit)) {
        const BudgetPart part = partOf(s.subject, circuit);
        onBattery |= s.subject == "battery";
        addSigma(part, s.sigma);
        if (s.worst > heaviest[static_cast<size_t>(part)]) {
            heaviest[static_cast<size_t>(part)] = s.worst;
            b.lines[static_cast<size_t>(part)].most = s.subject;
        }
    }
    for (const BudgetPart part : {BudgetPart::Sensor, BudgetPart::Supply, BudgetPart::Wiring, BudgetPart::PullUp})
        b.lines[static_cast<size_t>(part)].worst = alone(still, part);
    if (!all) {
        const auto volts = still.inputVolts(job, circuit);
        return volts ? circuit::Interval{volts->low, volts->high} : circuit::Interval{b.reading, b.reading};
    }
    BudgetLine& wiring = b.lines[static_cast<size_t>(BudgetPart::Wiring)];
    const double shared = alone(*moving, BudgetPart::Wiring);
    if (shared > 2 * wiring.worst)
        wiring.most = "running consumers";
    wiring.worst = std::max(wiring.worst, shared);
    addSigma(BudgetPart::Wiring, circuit::Spread{std::abs(all->value - b.reading)}.standardDeviation());
    circuit::Interval within{std::min(all->low, b.reading), std::max(all->high, b.reading)};
    if (onBattery && turning == job::Condition::Running)
        addCharging(b, within, job, circuit, table);
    return within;
}

} // namespace

std::string_view partName(BudgetPart part)
{
    static constexpr std::string_view kNames[kBudgetParts] = {key("sensor"),  key("supply"), key("wiring and grounds"),
                                                              key("pull-up"), key("counts"), key("table")};
    return kNames[static_cast<size_t>(part)];
}

Result<Budget> budgetAt(const job::Job& job, const job::Circuit& circuit, const Table& table, double value,
                        job::Condition turning)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr || input == nullptr)
        return fail(ErrorCode::Reference, phrase("{} has no sensor on an ECU input", circuit.name));
    if (!(value >= circuit.scaling.low && value <= circuit.scaling.high))
        return fail(ErrorCode::Range, phrase("that is outside the table's range, {}",
                                             units::formatRange(circuit.scaling.low, circuit.scaling.high,
                                                                sensor->measures, sensor->unit, 1)));
    const auto car = carAt(job, circuit, value, job::Condition::KeyOn);
    if (!car)
        return tl::make_unexpected(car.error());
    const auto transfer = Transfer::of(job, *car, circuit);
    if (!transfer)
        return fail(ErrorCode::Range,
                    phrase("{} is a trigger or a switch: no reading stands for a value", circuit.name));
    const double slope = slopeAt(*transfer, circuit.scaling, value);
    const bool counts = transfer->axis() == units::Dimension::Frequency;
    const double full = counts ? transfer->reading(circuit.scaling.high) : electrics::fullScaleVolts(job, *input);
    if (std::abs(slope) * (circuit.scaling.high - circuit.scaling.low) < 1e-3 * full)
        return fail(ErrorCode::Range,
                    phrase("the input does not move there: the sensor is at the end of what it puts out"));

    Budget b;
    b.value = value;
    b.reading = transfer->reading(value);
    b.shown = lookUp(table, b.reading);
    for (size_t i = 0; i < kBudgetParts; ++i)
        b.lines[i].part = static_cast<BudgetPart>(i);
    const auto lineOf = [&](BudgetPart part) -> BudgetLine& { return b.lines[static_cast<size_t>(part)]; };
    const auto addSigma = [&](BudgetPart part, double sigma) {
        lineOf(part).sigma = std::hypot(lineOf(part).sigma, sigma / std::abs(slope));
    };
    circuit::Interval within{b.reading, b.reading}; // of the input, everything at its worst
    if (counts) {
        const double off = parts::pulsesOf(*sensor)->tolerance * b.reading;
        within = {b.reading - off, b.reading + off};
        lineOf(BudgetPart::Sensor).worst = shownOff(table, within, 0, b.shown);
        lineOf(BudgetPart::Sensor).most = "sensor " + circuit.device.value;
        addSigma(BudgetPart::Sensor, circuit::Spread{off}.standardDeviation());
    } else {
        within = addVolts(b, job, circuit, table, *car, turning, addSigma);
    }
    const double count = readingStep(job, circuit);
    lineOf(BudgetPart::Counts).worst = shownOff(table, {b.reading, b.reading}, count, b.shown);
    addSigma(BudgetPart::Counts, count / std::sqrt(12.0)); // one step, evenly spread within it
    const auto [low, high] = searchRange(*transfer, circuit.scaling);
    for (const double reading : {within.low - count, within.high + count})
        b.ahead = std::max(b.ahead, std::abs(transfer->value(reading, low, high) - value));
    // Calibrated limits are no error of the table: they say where 0 and 100 % are on this engine.
    const double meant = circuit.limits ? b.shown : value;
    if (!circuit.limits) {
        lineOf(BudgetPart::Table).worst = tableWithin(table, *transfer, circuit.scaling, value, b.ahead);
        lineOf(BudgetPart::Table).sigma = std::abs(b.shown - value);
    }
    b.worst = shownOff(table, within, count, meant);
    for (const BudgetLine& line : b.lines)
        b.sigma = std::hypot(b.sigma, line.sigma);
    b.mixture = mixtureOf(job, circuit, *sensor, b);
    return b;
}

std::vector<Budget> budgetOver(const job::Job& job, const job::Circuit& circuit, const Table& table, int places,
                               job::Condition turning)
{
    std::vector<Budget> out;
    for (int i = 0; i < places; ++i) {
        const double share = (i + 0.5) / places;
        if (auto b =
                budgetAt(job, circuit, table, std::lerp(circuit.scaling.low, circuit.scaling.high, share), turning))
            out.push_back(std::move(*b));
    }
    return out;
}

std::string errorText(const parts::Part& sensor, double si)
{
    const double shown = units::differenceToUnit(si, sensor.measures, sensor.unit);
    const int decimals = shown >= 10 ? 1 : shown >= 0.1 ? 2 : 3;
    return "± " + units::formatDifference(si, sensor.measures, sensor.unit, decimals);
}

} // namespace vicegrip::scaling
