#include "core/findings/scale_checks.h"

#include "core/base/phrase.h"
#include "core/scaling/captured.h"
#include "core/throttle/limits.h"

#include <cmath>

namespace vicegrip::findings {
namespace {

using units::Dimension;

/// Units that people take for each other.
struct UnitsTaken
{
    Dimension dimension;
    const char *meant, *taken; ///< the number is right in `taken` and is read as `meant`
};
constexpr UnitsTaken kTaken[] = {
    {Dimension::AbsolutePressure, "kPa", "psi"},
    {Dimension::AbsolutePressure, "psi", "kPa"},
    {Dimension::AbsolutePressure, "kPa", "bar"},
    {Dimension::AbsolutePressure, "bar", "kPa"},
    {Dimension::AbsolutePressure, "bar", "psi"},
    {Dimension::AbsolutePressure, "psi", "bar"},
    {Dimension::AbsolutePressure, "kPa", "inHg"},
    {Dimension::GaugePressure, "bar", "psi"},
    {Dimension::GaugePressure, "psi", "bar"},
    {Dimension::GaugePressure, "kPa", "psi"},
    {Dimension::GaugePressure, "bar", "kPa"},
    {Dimension::Temperature, "°C", "°F"},
    {Dimension::Temperature, "°F", "°C"},
    {Dimension::Temperature, "°C", "K"},
    {Dimension::Speed, "km/h", "mph"},
    {Dimension::Speed, "mph", "km/h"},
};

constexpr double kNear = 0.04; ///< of what a mix-up would give, beside the promise's own width

std::string value(const parts::Part& s, double si)
{
    return units::format(si, s.measures, s.unit, s.unit == "bar" ? 2 : 1);
}

/// Whether a reading is where a mistake would put it, and nowhere near where it should be.
bool explains(double read, double wrong, const proof::Expectation& e)
{
    const double slack = std::max(kNear * std::abs(wrong - e.due.si()), (e.high - e.low) / 2);
    return std::abs(read - wrong) <= slack && (read < e.low || read > e.high) &&
           std::abs(wrong - e.due.si()) > (e.high - e.low);
}

} // namespace

std::optional<double> takenFor(const parts::Part& other, const parts::Part& fitted, double value)
{
    if (other.measures != fitted.measures || other.model == fitted.model)
        return std::nullopt;
    if (const auto* curve = parts::curveOf(fitted)) {
        const auto* taken = parts::curveOf(other);
        return taken == nullptr ? std::nullopt : std::optional(parts::kelvin(*taken, parts::ohms(*curve, value)));
    }
    const auto out = parts::spanOf(fitted), in = parts::spanOf(other);
    if (!out || !in || !out->straight || !in->straight || (out->at_supply_v > 0) != (in->at_supply_v > 0))
        return std::nullopt;
    double volts = std::lerp(out->low_v, out->high_v, (value - fitted.low) / (fitted.high - fitted.low));
    if (out->at_supply_v > 0)
        volts *= in->at_supply_v / out->at_supply_v;
    return other.low + (volts - in->low_v) / (in->high_v - in->low_v) * (other.high - other.low);
}

std::optional<MixUp> mixUpOf(const job::Job& job, const parts::Part& s, const proof::Expectation& e, double read,
                             std::span<const parts::Part> others)
{
    const double barometer = job.surroundings.barometer_pa;
    const double due = e.due.si();
    const std::string numbers = phrase("reads {} where {} is due: ", value(s, read), value(s, due));
    std::optional<MixUp> nearest;
    double distance = 0;
    const auto weigh = [&](double wrong, const auto& say) {
        if (!explains(read, wrong, e) || (nearest && std::abs(read - wrong) >= distance))
            return;
        distance = std::abs(read - wrong);
        nearest = say();
    };
    const auto barometerText = [&] {
        return units::format(barometer, Dimension::AbsolutePressure, s.unit, s.unit == "bar" ? 2 : 1);
    };
    if (s.measures == Dimension::AbsolutePressure)
        weigh(due - barometer, [&] {
            return MixUp{
                phrase("{}the barometer ({}) is missing, so the ECU's line is a gauge one", numbers, barometerText()),
                phrase("Send the table from here, or add the barometer to both ends of the ECU's line.")};
        });
    if (s.measures == Dimension::AbsolutePressure || s.measures == Dimension::GaugePressure)
        weigh(due + barometer, [&] {
            return MixUp{
                phrase("{}the barometer ({}) too much, so the ECU's line is an absolute one where it should not be",
                       numbers, barometerText()),
                phrase("Send the table from here, or take the barometer off both ends of the ECU's line.")};
        });
    for (const UnitsTaken& m : kTaken) {
        if (m.dimension != s.measures || s.unit != m.meant)
            continue;
        weigh(units::fromUnit(units::toUnit(due, s.measures, m.taken), s.measures, m.meant), [&] {
            return MixUp{
                phrase("{}that is {}, taken for {}", numbers, units::formatIn(due, s.measures, m.taken, 1), m.meant),
                phrase("{}{}, or send the table from here.", phrase("Set the ECU's unit for this input to "), m.taken)};
        });
    }
    if (nearest)
        return nearest; // a zero or a unit is likelier than one line out of many that happens to fit
    for (const parts::Part& other : others)
        if (const auto wrong = takenFor(other, s, due))
            weigh(*wrong, [&] {
                return MixUp{phrase("{}so it would with the line of \"{}\"", numbers, other.name),
                             phrase("That sensor's scaling may still be in the ECU: send the table from here.")};
            });
    return nearest;
}

void checkSupply(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                 const proof::CircuitView& view)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    if (sensor == nullptr || input == nullptr || sensor->feed != parts::Feed::SensorSupply)
        return;
    const std::string pin = parts::cavityOf(*sensor, parts::PinRole::Supply);
    const job::Device* device = job::find(job, circuit.device);
    for (const proof::Standing& s : proof::stations(view, job::Condition::KeyOn)) {
        if (pin.empty() || device == nullptr || s.place.station.point != job::PointRef{device->connector, pin} ||
            s.last == nullptr || s.state != proof::State::Failing || !s.place.promises())
            continue;
        const auto& read = s.last->reading.quantity();
        if (!read)
            continue;
        const double share = *read / s.last->expected - 1;
        const std::string percent = units::format(share, Dimension::Ratio, "%", 1);
        const bool follows = parts::curveOf(*sensor) == nullptr && !parts::traitsOf(*sensor).ownVolts;
        const bool forgiven = input->reference == parts::Reference::Ratiometric;
        out.push_back(
            {"supply-off", Severity::Fix, circuit.id,
             phrase("{}: its supply is {} where {} is due ({})", circuit.name,
                    units::format(*read, Dimension::Voltage, "V", 2),
                    units::format(s.last->expected, Dimension::Voltage, "V", 2), percent),
             !follows ? phrase("The sensor may fall out of its own limits.")
             : forgiven
                 ? phrase("If the ECU's own supply is as low, its input divides by it and forgives; if only the "
                          "sensor's is, the signal is {} off.",
                          percent)
                 : phrase("The signal follows its supply and this input does not: its volts are {} off.", percent),
             phrase("Measure the supply at the ECU's cavity: low there, something draws it down; right there, the wire "
                    "or a terminal between.")});
    }
}

void checkReadings(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                   const proof::CircuitView& view)
{
    if (!view.table || circuit.limits || scaling::partakers(circuit).size() < 2)
        return;
    const auto verdict = scaling::compareCaptured(job, circuit, *view.table);
    if (!verdict || verdict->agrees)
        return;
    out.push_back(
        {"readings-disagree", Severity::Fix, circuit.id, circuit.name + ": " + verdict->sentence,
         phrase("What the ECU shows is not what another instrument shows, and its table follows the sheet."),
         phrase("Scale, Readings: take away what makes the difference, or make the readings the sensor's curve.")});
}

void checkLimits(std::vector<Finding>& out, const job::Job& job, const job::Facts& facts, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr || circuit.input.empty() || !throttle::takesLimits(*sensor))
        return;
    const std::string again = phrase("Stroke it twice at Scale, Throttle limits, and give the ECU the limits.");
    if (!circuit.limits) {
        out.push_back({"limits-not-calibrated", Severity::Fix, circuit.id,
                       phrase("{}: its closed and open limits have not been calibrated", circuit.name),
                       phrase("Until they are, the ECU may take a shut throttle for one a third open."), again});
        return;
    }
    const job::ThrottleLimits& s = *circuit.limits;
    if (const auto why = throttle::staleLimits(facts, s))
        out.push_back({"limits-stale", Severity::Fix, circuit.id,
                       phrase("{}: the calibrated limits ({} closed, {} open) are stale: {}", circuit.name,
                              units::format(s.closed_v, Dimension::Voltage, "V", 2),
                              units::format(s.open_v, Dimension::Voltage, "V", 2), *why),
                       phrase("The stops may stand elsewhere now: 0 % may not be shut."), again});
}

void checkValues(std::vector<Finding>& out, const job::Job& job, const job::Circuit& circuit,
                 const proof::CircuitView& view)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    if (sensor == nullptr)
        return;
    for (const proof::Standing& s : proof::stations(view, job::Condition::KeyOn)) {
        if (s.place.station.kind != proof::StationKind::Value || s.last == nullptr || !s.place.promises() ||
            s.state != proof::State::Failing)
            continue;
        const auto& read = s.last->reading.quantity();
        if (!read)
            continue;
        if (auto e = mixUpOf(job, *sensor, proof::promisedThen(s.place, *s.last), *read, job.parts))
            out.push_back({"value-mix-up", Severity::Stop, circuit.id, circuit.name + " " + e->what,
                           phrase("Every value from this input is wrong by as much, and fuel and timing follow it."),
                           e->todo});
    }
}

} // namespace vicegrip::findings
