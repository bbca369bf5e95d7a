#include "core/proof/expected.h"

#include "core/electrics/sensor_model.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace vicegrip::proof {
namespace {

using electrics::Bounded;
using electrics::Path;
using job::Condition;
using parts::PinRole;
using units::Dimension;

job::PointRef negativePost(const job::Job& job)
{
    for (const job::Joint& j : job.joints)
        if (j.kind == job::JointKind::BatteryNegative)
            return {j.id, {}};
    return {};
}

const Path* pathOf(const std::vector<Path>& paths, PinRole role)
{
    for (const Path& p : paths)
        if (p.role == role)
            return &p;
    return nullptr;
}

/// What every reading of the circuit rests on: its conductors, its sensor and, with the key on, its input.
std::vector<std::string> restsOn(const job::Circuit& circuit, const std::vector<Path>& paths, Condition condition,
                                 const std::vector<std::string>& influences)
{
    std::set<std::string> subjects(influences.begin(), influences.end());
    for (const Path& p : paths)
        subjects.insert(p.subjects.begin(), p.subjects.end());
    subjects.insert("sensor " + circuit.device.value);
    subjects.insert("circuit " + circuit.id.value);
    if (condition == Condition::KeyOn)
        subjects.insert("input " + circuit.input.value);
    subjects.erase("ECU"); // the firmware note matters to what the ECU reports, not to a meter
    return {subjects.begin(), subjects.end()};
}

class CircuitPromises
{
  public:
    CircuitPromises(const job::Job& job, electrics::Readings& readings, Condition condition,
                    const job::Circuit& circuit, const std::vector<Path>& paths)
        : m_job(job),
          m_readings(readings),
          m_condition(condition),
          m_circuit(circuit),
          m_paths(paths),
          m_sensor(*job::sensorOf(job, circuit)),
          m_negative(negativePost(job))
    {
    }

    /// Where the leads go, or why there is nothing to read.
    Expectation atProbe(const Path& path, size_t index) const
    {
        Expectation e;
        e.station = {path.points[index].text(), StationKind::Probe, path.role, path.points[index],
                     job::spoken(m_job, path.points[index])};
        e.needed = m_condition == Condition::KeyOn &&
                   (path.role == PinRole::Signal ? index + 1 == path.points.size() : index == 0);
        if (m_condition == Condition::KeyOn)
            placeForVolts(e, path);
        else
            placeForOhms(e, path, index);
        return e;
    }

    /// Puts the readings in where leads were placed.
    void measure(std::vector<Expectation>& all) const
    {
        std::vector<Expectation*> placed;
        std::vector<electrics::Leads> leads;
        for (Expectation& e : all) {
            if (e.station.kind != StationKind::Probe || !e.trouble.empty())
                continue;
            placed.push_back(&e);
            leads.push_back({e.station.point, e.blackPoint});
        }
        const bool volts = m_condition == Condition::KeyOn;
        const auto& meter = m_job.meter;
        const auto readings = volts ? m_readings.voltmeters(leads, meter) : m_readings.ohmmeters(leads);
        for (size_t i = 0; i < placed.size(); ++i)
            settle(*placed[i], readings[i], volts ? meter.voltsShare : meter.ohmsShare,
                   volts ? meter.volts_v : meter.ohms_ohm, volts ? 0 : meter.lead_ohm);
    }

    /// What the ECU sees, worked out once for its three stations.
    std::optional<Bounded> seen() const
    {
        if (m_condition != Condition::KeyOn)
            return std::nullopt;
        return parts::countsValue(m_sensor) ? seenHertz() : m_readings.inputVolts(m_job, m_circuit);
    }

    Expectation fromEcu(StationKind kind, const scaling::Table* table, const std::optional<Bounded>& seen) const;

  private:
    /// Pulses at rest; none where the input's volts do not swing: no pull-up, no supply, a wire that is open.
    std::optional<Bounded> seenHertz() const
    {
        const auto& output = std::get<parts::OpenCollector>(m_sensor.model);
        const auto levels = electrics::pulseLevels(m_readings.car(), m_circuit, output);
        if (!levels || !levels->swings())
            return std::nullopt;
        const auto rest = electrics::atRest(m_circuit, m_job.surroundings);
        const double hz = parts::hertzAt(m_sensor, rest.value);
        const auto [least, most] = std::minmax({hz, parts::hertzAt(m_sensor, rest.value - rest.tolerance),
                                                parts::hertzAt(m_sensor, rest.value + rest.tolerance)});
        const double off = output.tolerance * hz, moved = (most - least) / 2;
        return Bounded{hz,
                       least * (1 - output.tolerance),
                       most * (1 + output.tolerance),
                       std::hypot(circuit::Spread{off}.standardDeviation(), circuit::Spread{moved}.standardDeviation()),
                       {"sensor " + m_circuit.device.value}};
    }

    void placeForVolts(Expectation& e, const Path& path) const
    {
        e.dimension = Dimension::Voltage;
        e.unit = "V";
        e.blackPoint = m_negative;
        e.black = job::spoken(m_job, m_negative);
        if (!path.complete) {
            e.trouble = "the " + std::string(fields::enumName(path.role)) + " leads nowhere from " +
                        job::spoken(m_job, path.points.back());
            return;
        }
        if (path.role == PinRole::Signal && std::holds_alternative<parts::OpenCollector>(m_sensor.model)) {
            e.trouble = "it switches between the pull-up's volts and near 0 V: measure Hz, or turn the engine by hand";
            e.needed = false;
        }
    }

    void placeForOhms(Expectation& e, const Path& path, size_t index) const
    {
        e.dimension = Dimension::Resistance;
        e.unit = "Ω";
        const Path* ground = pathOf(m_paths, PinRole::Ground);
        const bool through = path.role == PinRole::Signal && parts::isPassive(m_sensor) && ground != nullptr;
        const Path& toward = through ? *ground : path;
        e.blackPoint = toward.points.back();
        e.black = job::spoken(m_job, e.blackPoint);
        if (!path.complete || !toward.complete) {
            e.trouble =
                "the " + std::string(fields::enumName(path.complete ? toward.role : path.role)) + " leads nowhere";
            return;
        }
        if (!through && index + 1 == path.points.size())
            e.trouble = "the black lead is here";
    }

    void settle(Expectation& e, const std::optional<Bounded>& reading, double meterShare, double meterFloor,
                double leads) const
    {
        if (!reading) {
            e.trouble = "this place is not in the network";
            return;
        }
        const auto meter = [&](double shown) { return meterShare * std::abs(shown) + meterFloor; };
        e.value = reading->value + leads;
        e.low = reading->low + leads - meter(reading->low + leads);
        e.high = reading->high + leads + meter(reading->high + leads);
        e.sigma = reading->sigma;
        if (e.dimension == Dimension::Resistance)
            allowOverload(e);
        e.subjects = restsOn(m_circuit, m_paths, m_condition, reading->subjects);
    }

    /// Open is open, however many leaks make it up: where a meter may show overload, what is recorded for it is
    /// allowed.
    static void allowOverload(Expectation& e)
    {
        if (e.high >= kOverload_ohm)
            e.high = std::max(e.high, kOpen_ohm);
        if (e.value >= kOverload_ohm)
            e.value = kOpen_ohm;
        e.low = std::min(e.low, kOverload_ohm);
    }

    const job::Job& m_job;
    electrics::Readings& m_readings;
    Condition m_condition;
    const job::Circuit& m_circuit;
    const std::vector<Path>& m_paths;
    const parts::Sensor& m_sensor;
    job::PointRef m_negative;
};

Expectation CircuitPromises::fromEcu(StationKind kind, const scaling::Table* table,
                                     const std::optional<Bounded>& seen) const
{
    const parts::EcuInput& input = *job::findInput(m_job, m_circuit.input);
    Expectation e;
    e.station.kind = kind;
    const bool hertz = parts::countsValue(m_sensor);
    const double full = hertz ? (input.most_hz > 0 ? input.most_hz : std::numeric_limits<double>::infinity())
                              : electrics::fullScaleVolts(m_job, input);
    const double step = scaling::readingStep(m_job, m_circuit);
    const auto clamped = [&](double reading) { return std::clamp(reading, 0.0, full); };
    double low = 0, high = 0;
    if (!hertz && parts::signalOf(m_sensor) == parts::SignalKind::Frequency) {
        e.trouble = "the ECU counts teeth here";
    } else if (hertz && kind == StationKind::Counts) {
        e.trouble = "it is counted in Hz";
    } else if (seen) {
        low = clamped(seen->low - step);
        high = clamped(seen->high + step);
        e.value = clamped(seen->value);
        e.sigma = seen->sigma;
        e.subjects = restsOn(m_circuit, m_paths, m_condition, seen->subjects);
        e.subjects.emplace_back("ECU");
    } else {
        e.trouble = m_condition == Condition::BatteryOff ? "the ECU is off" : "the ECU has no power, or no input here";
    }
    e.low = low;
    e.high = high;
    e.black = "ECU";
    switch (kind) {
    case StationKind::Counts:
        e.station.key = "counts";
        e.station.label = "Counts";
        e.dimension = Dimension::Counts;
        e.unit = "counts";
        for (double* v : {&e.value, &e.low, &e.high, &e.sigma})
            *v /= step;
        break;
    case StationKind::Value: {
        e.station.key = "value";
        e.station.label = "Value";
        e.dimension = m_sensor.measures;
        e.unit = scaling::unitOf(m_sensor, m_circuit.scaling);
        if (table == nullptr) {
            e.trouble = seen ? "there is no table yet" : e.trouble;
            break;
        }
        e.subjects.push_back("scaling " + m_circuit.id.value);
        const auto [least, most] = scaling::valuesBetween(*table, low, high);
        e.value = scaling::lookUp(*table, e.value);
        const double outputStep = scaling::outputStep(m_sensor, m_circuit.scaling);
        e.low = least - outputStep;
        e.high = most + outputStep;
        break;
    }
    default:
        e.station.key = "input";
        e.station.label = "Input " + input.id.value;
        e.dimension = hertz ? Dimension::Frequency : Dimension::Voltage;
        e.unit = scaling::readingUnit(e.dimension);
        break;
    }
    return e;
}

int valueDecimals(const Expectation& e)
{
    switch (e.dimension) {
    case Dimension::Temperature:
        return 1;
    case Dimension::AbsolutePressure:
    case Dimension::GaugePressure:
        return e.unit == "bar" ? 2 : 1;
    case Dimension::Lambda:
        return 3;
    case Dimension::Counts:
        return 0;
    case Dimension::Ratio:
    case Dimension::Frequency:
        return 1;
    default:
        return 3;
    }
}

} // namespace

std::vector<Expectation> expectations(const job::Job& job, electrics::Readings& readings, Condition condition,
                                      const job::Circuit& circuit, const std::vector<Path>& paths,
                                      const scaling::Table* table)
{
    std::vector<Expectation> out;
    if (job::sensorOf(job, circuit) == nullptr || job::findInput(job, circuit.input) == nullptr)
        return out;
    const CircuitPromises promises(job, readings, condition, circuit, paths);
    const std::optional<Bounded> seen = promises.seen();
    for (const Path& path : paths) {
        for (size_t i = 0; i < path.points.size(); ++i)
            out.push_back(promises.atProbe(path, i));
        if (path.role == PinRole::Signal)
            for (StationKind kind : {StationKind::Input, StationKind::Counts, StationKind::Value})
                out.push_back(promises.fromEcu(kind, table, seen));
    }
    promises.measure(out);
    return out;
}

std::string readingText(const Expectation& e, double value)
{
    if (e.dimension == Dimension::Resistance) {
        if (value >= kOverload_ohm)
            return "open";
        if (value >= 1000)
            return units::formatNumber(value / 1000, 3) + " kΩ";
        return units::formatNumber(value, value < 100 ? 2 : 1) + " Ω";
    }
    return units::format(value, e.dimension, e.unit, valueDecimals(e));
}

std::string boundsText(const Expectation& e)
{
    std::string low = readingText(e, e.low);
    const std::string high = readingText(e, e.high);
    if (low == high)
        return low;
    const size_t space = low.rfind(' ');
    const bool sameUnit = space != std::string::npos && high.ends_with(low.substr(space));
    return (sameUnit ? low.substr(0, space) : low) + " to " + high;
}

} // namespace vicegrip::proof
