#include "core/scaling/budget.h"

#include "core/fuel/blend.h"

#include <algorithm>
#include <cmath>

namespace vicegrip::scaling {
namespace {

using electrics::Electrics;
using electrics::Share;

/// Whose share it is, by the fact subject it bears.
BudgetPart partOf(const Share& share, const job::Circuit& circuit)
{
    const std::string& s = share.subject;
    if (s == "sensor " + circuit.device.value || s == "track of " + circuit.device.value)
        return BudgetPart::Sensor;
    if (s == "battery" || s.starts_with("supply") || s.starts_with("expander-supply"))
        return BudgetPart::Supply;
    if (s == "input " + circuit.input.value || s.starts_with("resistor "))
        return BudgetPart::PullUp;
    return BudgetPart::Wiring; // conductors, and what other consumers do to a shared ground
}

Result<Electrics> carAt(const job::Job& job, const job::Circuit& circuit, double value, bool running)
{
    return electrics::build(job, {.condition = job::Condition::KeyOn,
                                  .surroundings = job.surroundings,
                                  .felt = {{circuit.id, value}},
                                  .running = running});
}

/// V or Hz per SI unit of the value.
double slopeAt(const Transfer& transfer, const job::ScalingSpec& spec, double value)
{
    const double step = 1e-4 * (spec.high - spec.low);
    const double low = std::max(value - step, spec.low), high = std::min(value + step, spec.high);
    return (transfer.reading(high) - transfer.reading(low)) / (high - low);
}

/// The table's largest error where the other parts may have moved the reading to.
double tableWithin(const Table& table, const Transfer& transfer, const job::ScalingSpec& spec, double value,
                   const Budget& others)
{
    double reach = 0, most = 0;
    for (const BudgetLine& line : others.lines)
        reach += line.worst;
    constexpr int kPlaces = 8; // to each side
    for (int i = -kPlaces; i <= kPlaces; ++i) {
        const double x = std::clamp(value + reach * i / kPlaces, spec.low, spec.high);
        most = std::max(most, std::abs(lookUp(table, transfer.reading(x)) - x));
    }
    return most;
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
    return MixtureCost{off(b.worst), off(b.sigma), "fuel follows the content: dm/m = -dAFR/AFR"};
}

/// m = VE p V / (R T): what a sensor's error is as a share of the fuel.
std::optional<MixtureCost> mixtureOf(const job::Job& job, const job::Circuit& circuit, const parts::Sensor& sensor,
                                     const Budget& b)
{
    const auto share = [&](std::string how) {
        return MixtureCost{b.worst / b.value, b.sigma / b.value, std::move(how)};
    };
    if (sensor.kind == parts::SensorKind::FlexFuel)
        return ofContent(b);
    if (b.value <= 0)
        return std::nullopt;
    switch (sensor.kind) {
    case parts::SensorKind::ManifoldPressure:
        if (!fuelsByDensity(job) || (!circuit.function.empty() && circuit.function.value != "map"))
            return std::nullopt;
        return share("fuel follows the pressure: dm/m = dp/p");
    case parts::SensorKind::AirTemperature:
        if (!fuelsByDensity(job))
            return std::nullopt;
        return share("fuel goes against the temperature: dm/m = -dT/T, in kelvin");
    case parts::SensorKind::AirMass:
        return share("fuel follows the air: dm/m = dq/q");
    case parts::SensorKind::Wideband:
        return share("closed loop corrects to what this shows: the error is the mixture's");
    default:
        return std::nullopt;
    }
}

} // namespace

std::string_view partName(BudgetPart part)
{
    static constexpr std::string_view kNames[kBudgetParts] = {"sensor",  "supply", "wiring and grounds",
                                                              "pull-up", "counts", "table"};
    return kNames[static_cast<size_t>(part)];
}

Result<Budget> budgetAt(const job::Job& job, const job::Circuit& circuit, const Table& table, double value)
{
    const parts::Sensor* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr || input == nullptr)
        return fail(ErrorCode::Reference, circuit.name + " has no sensor on an ECU input");
    if (!(value >= circuit.scaling.low && value <= circuit.scaling.high))
        return fail(ErrorCode::Range, "that is outside the table's range, " +
                                          units::format(circuit.scaling.low, sensor->measures, sensor->unit, 1) +
                                          " to " +
                                          units::format(circuit.scaling.high, sensor->measures, sensor->unit, 1));
    const auto car = carAt(job, circuit, value, false);
    if (!car)
        return tl::make_unexpected(car.error());
    const auto transfer = Transfer::of(job, *car, circuit);
    if (!transfer)
        return fail(ErrorCode::Range, circuit.name + " is a trigger or a switch: no reading stands for a value");
    const double slope = slopeAt(*transfer, circuit.scaling, value);
    const bool counts = transfer->axis() == units::Dimension::Frequency;
    const double full = counts ? transfer->reading(circuit.scaling.high) : electrics::fullScaleVolts(job, *input);
    if (std::abs(slope) * (circuit.scaling.high - circuit.scaling.low) < 1e-3 * full)
        return fail(ErrorCode::Range, "the input does not move there: the sensor is at the end of what it puts out");

    Budget b;
    b.value = value;
    b.reading = transfer->reading(value);
    b.shown = lookUp(table, b.reading);
    std::array<double, kBudgetParts> heaviest{};
    const auto add = [&](BudgetPart part, double worst, double sigma, const std::string& subject) {
        const auto i = static_cast<size_t>(part);
        BudgetLine& line = b.lines[i];
        line.part = part;
        line.worst += worst;
        line.sigma = std::hypot(line.sigma, sigma);
        if (worst > heaviest[i]) {
            heaviest[i] = worst;
            line.most = subject;
        }
    };
    for (size_t i = 0; i < kBudgetParts; ++i)
        b.lines[i].part = static_cast<BudgetPart>(i);
    const auto fromReading = [&](BudgetPart part, double worst, double sigma, const std::string& subject) {
        add(part, worst / std::abs(slope), sigma / std::abs(slope), subject);
    };
    if (counts) {
        const double off = std::get<parts::OpenCollector>(sensor->model).tolerance * b.reading;
        fromReading(BudgetPart::Sensor, off, circuit::Spread{off}.standardDeviation(),
                    "sensor " + circuit.device.value);
    } else {
        for (const Share& s : car->inputShares(job, circuit))
            fromReading(partOf(s, circuit), s.worst, s.sigma, s.subject);
        const auto running = carAt(job, circuit, value, true);
        const auto at = running ? running->inputVolts(job, circuit) : std::nullopt;
        const double shift = at ? std::abs(at->value - b.reading) : 0;
        if (shift > 1e-6)
            fromReading(BudgetPart::Wiring, shift, circuit::Spread{shift}.standardDeviation(), "running consumers");
    }
    const double count = readingStep(job, circuit);
    fromReading(BudgetPart::Counts, count, count / std::sqrt(12.0), {}); // one step, evenly spread within it
    // Taught limits are no error of the table: they say where 0 and 100 % are on this engine.
    if (!circuit.stops)
        add(BudgetPart::Table, tableWithin(table, *transfer, circuit.scaling, value, b), std::abs(b.shown - value), {});

    for (const BudgetLine& line : b.lines) {
        b.worst += line.worst;
        b.sigma = std::hypot(b.sigma, line.sigma);
    }
    b.mixture = mixtureOf(job, circuit, *sensor, b);
    return b;
}

std::vector<Budget> budgetOver(const job::Job& job, const job::Circuit& circuit, const Table& table, int places)
{
    std::vector<Budget> out;
    for (int i = 0; i < places; ++i) {
        const double share = (i + 0.5) / places;
        if (auto b = budgetAt(job, circuit, table, std::lerp(circuit.scaling.low, circuit.scaling.high, share)))
            out.push_back(std::move(*b));
    }
    return out;
}

} // namespace vicegrip::scaling
