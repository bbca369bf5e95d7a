#include "core/proof/expected.h"

#include "core/base/phrase.h"
#include "core/electrics/sensor_model.h"
#include "core/job/facts.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace vicegrip::proof {
namespace {

/// Open is open, however many leaks make it up: where a meter may show it, it is allowed.
void allowOpen(Expectation& e)
{
    if (e.high >= job::kMost_ohm)
        e.high = std::numeric_limits<double>::infinity();
    if (e.due.si() >= job::kMost_ohm)
        e.due = job::Reading::beyond(e.dimension, e.condition);
    e.low = std::min(e.low, job::kMost_ohm);
}

} // namespace

void dueOnMeter(Expectation& e, const std::optional<electrics::Bounded>& reading, const job::Meter& meter)
{
    if (!reading) {
        e.trouble = phrase("this place is not in the network");
        return;
    }
    const bool volts = job::isLive(e.condition);
    const double share = volts ? meter.voltsShare : meter.ohmsShare, floor = volts ? meter.volts_v : meter.ohms_ohm,
                 leads = volts ? 0 : meter.lead_ohm;
    const auto error = [&](double shown) { return share * std::abs(shown) + floor; };
    e.due = e.reading(reading->value + leads);
    e.low = reading->low + leads - error(reading->low + leads);
    e.high = reading->high + leads + error(reading->high + leads);
    e.sigma = reading->sigma;
    if (e.dimension == units::Dimension::Resistance)
        allowOpen(e);
    e.subjects = reading->subjects;
}

namespace {

using electrics::Bounded;
using electrics::Path;
using job::Condition;
using units::Dimension;

class CircuitPromises
{
  public:
    CircuitPromises(const job::Job& job, electrics::Readings& readings, const job::Circuit& circuit,
                    const std::vector<Path>& paths, const scaling::Table* table)
        : m_job(job),
          m_readings(readings),
          m_circuit(circuit),
          m_paths(paths),
          m_table(table),
          m_sensor(*job::partOf(job, circuit)),
          m_input(job::findInput(job, circuit.input))
    {
    }

    /// What a meter shows at all places its leads can be put to, together.
    void measure(std::vector<Expectation>& all, Condition condition) const
    {
        std::vector<Expectation*> probed;
        std::vector<electrics::Leads> leads;
        for (Expectation& e : all) {
            if (e.station.kind != StationKind::Probe || !e.promises())
                continue;
            probed.push_back(&e);
            leads.push_back({e.station.point, e.blackPoint});
        }
        const auto readings =
            job::isLive(condition) ? m_readings.voltmeters(leads, m_job.meter) : m_readings.ohmmeters(leads);
        for (size_t i = 0; i < probed.size(); ++i) {
            dueOnMeter(*probed[i], readings[i], m_job.meter);
            if (readings[i])
                probed[i]->subjects = restsOn(condition, readings[i]->subjects);
        }
    }

    /// A signal that pulls its line down promises no reading at rest, but its two levels: along its wire, and at the
    /// input that counts them.
    void switches(std::vector<Expectation>& all) const
    {
        const auto output = parts::pulsesOf(m_sensor);
        for (Expectation& e : all) {
            if (!output || !job::isLive(e.condition) || e.promises() || e.station.role != parts::PinRole::Signal)
                continue;
            if (e.station.kind == StationKind::Probe && !e.blackPoint.owner.empty())
                e.switches =
                    electrics::pulseLevels(m_readings.car(), m_circuit, *output, e.station.point, e.blackPoint);
            else if (e.station.kind == StationKind::Input)
                e.switches = electrics::pulseLevels(m_readings.car(), m_circuit, *output);
            if (e.switches && !e.switches->swings())
                e.switches.reset(); // its wire is open, or nothing pulls it up: the trouble says so
        }
    }

    /// What the ECU reports: seen at the input, and in counts and value what follows from that.
    void report(std::vector<Expectation>& all) const
    {
        std::optional<Bounded> seen;
        for (Expectation& e : all) {
            if (e.station.kind == StationKind::Probe || !e.promises())
                continue;
            if (m_input != nullptr && parts::isSetOtherwise(*m_input, m_sensor)) {
                e.trouble =
                    phrase("the input is set to another kind of signal: the ECU shows nothing of it, or nonsense");
                continue;
            }
            if (!seen)
                seen = parts::countsValue(m_sensor) ? pulses(e.condition) : m_readings.inputVolts(m_job, m_circuit);
            if (seen)
                report(e, *seen);
            else
                e.trouble = phrase("the ECU has no power, or no input here");
        }
    }

  private:
    Bounded pulses(Condition condition) const
    {
        const double tolerance = parts::pulsesOf(m_sensor)->tolerance;
        const auto now = electrics::measurandUnder(condition, m_circuit, m_sensor, m_job.surroundings);
        const double hz = parts::hertzAt(m_sensor, now.value);
        const auto [least, most] =
            std::minmax({hz, parts::hertzAt(m_sensor, now.low), parts::hertzAt(m_sensor, now.high)});
        const double off = tolerance * hz, moved = (most - least) / 2;
        return Bounded{hz,
                       least * (1 - tolerance),
                       most * (1 + tolerance),
                       std::hypot(circuit::Spread{off}.standardDeviation(), circuit::Spread{moved}.standardDeviation()),
                       {"sensor " + m_circuit.device.value}};
    }

    void report(Expectation& e, const Bounded& seen) const
    {
        const double full = !parts::countsValue(m_sensor) ? electrics::fullScaleVolts(m_job, *m_input)
                            : m_input->most_hz > 0        ? m_input->most_hz
                                                          : std::numeric_limits<double>::infinity();
        const auto clamped = [&](double reading) { return std::clamp(reading, 0.0, full); };
        const double step = scaling::readingStep(m_job, m_circuit);
        const double due = clamped(seen.value), low = clamped(seen.low - step), high = clamped(seen.high + step);
        e.subjects = restsOn(e.condition, seen.subjects);
        e.subjects.emplace_back("ECU");
        e.sigma = seen.sigma;
        if (e.station.kind == StationKind::Value) {
            e.subjects.push_back("scaling " + m_circuit.id.value);
            const auto [least, most] = scaling::valuesBetween(*m_table, low, high);
            const double outputStep = scaling::outputStep(m_sensor, m_circuit.scaling);
            e.due = e.reading(scaling::lookUp(*m_table, due));
            e.sigma = std::abs(scaling::lookUp(*m_table, clamped(due + seen.sigma)) -
                               scaling::lookUp(*m_table, clamped(due - seen.sigma))) /
                      2;
            e.low = least - outputStep;
            e.high = most + outputStep;
            return;
        }
        const double unit = e.station.kind == StationKind::Counts ? step : 1;
        e.due = e.reading(due / unit);
        e.low = low / unit;
        e.high = high / unit;
        e.sigma /= unit;
    }

    /// What every reading of the circuit rests on: its conductors, its sensor and, with the key on, its input.
    std::vector<std::string> restsOn(Condition condition, const std::vector<std::string>& influences) const
    {
        std::set<std::string> subjects(influences.begin(), influences.end());
        for (const Path& p : m_paths)
            subjects.insert(p.subjects.begin(), p.subjects.end());
        subjects.insert(job::partSubject(m_sensor, m_circuit.device));
        subjects.insert("circuit " + m_circuit.id.value);
        if (parts::isOnBus(m_sensor)) // whoever else hangs there may get a terminator, or lose one
            addNeighbours(subjects);
        if (job::isLive(condition))
            subjects.insert(m_circuit.output.empty() ? "input " + m_circuit.input.value
                                                     : "output " + m_circuit.output.value);
        subjects.erase("ECU"); // the firmware note matters to what the ECU reports, not to a meter
        return {subjects.begin(), subjects.end()};
    }

    void addNeighbours(std::set<std::string>& subjects) const
    {
        for (const job::Circuit& c : m_job.circuits)
            if (const parts::Part* part = job::partOf(m_job, c);
                part != nullptr && parts::isOnBus(*part) && c.output == m_circuit.output)
                subjects.insert(job::partSubject(*part, c.device));
        for (const parts::Ecu& unit : m_job.expanders)
            if (const parts::EcuOutput* port = parts::firstPort(unit); port != nullptr)
                subjects.insert("output " + port->id.value);
    }

    const job::Job& m_job;
    electrics::Readings& m_readings;
    const job::Circuit& m_circuit;
    const std::vector<Path>& m_paths;
    const scaling::Table* m_table;
    const parts::Part& m_sensor;
    const parts::EcuInput* m_input; ///< null for what is driven
};

std::vector<Expectation> voidAt(const std::vector<Place>& places)
{
    std::vector<Expectation> out;
    for (const Place& place : places)
        out.emplace_back().Place::operator=(place);
    return out;
}

} // namespace

std::vector<Expectation> expectations(const job::Job& job, electrics::Readings& readings, const job::Circuit& circuit,
                                      const std::vector<Path>& paths, const scaling::Table* table,
                                      const std::vector<Place>& places)
{
    std::vector<Expectation> out = voidAt(places);
    if (out.empty())
        return out;
    const CircuitPromises promises(job, readings, circuit, paths, table);
    promises.report(out);
    promises.measure(out, out.front().condition);
    promises.switches(out);
    return out;
}

std::vector<Expectation> nothingPromised(const std::vector<Place>& places, const std::string& trouble)
{
    std::vector<Expectation> out = voidAt(places);
    for (Expectation& e : out)
        if (e.promises())
            e.trouble = trouble;
    return out;
}

std::string dueText(const Expectation& e)
{
    if (e.promises())
        return job::readingText(e.due, e.unit);
    if (!e.switches)
        return {};
    return units::formatNumber(e.switches->low_v, 2) + " / " +
           units::format(e.switches->high_v, Dimension::Voltage, "V", 2);
}

std::string boundsText(const Expectation& e)
{
    const auto shown = [&](double si) { return job::readingText(e.reading(si), e.unit); };
    return units::rangeText(shown(e.low), shown(e.high));
}

} // namespace vicegrip::proof
