#include "core/proof/place.h"

#include "core/base/phrase.h"
#include "core/electrics/sensor_model.h"
#include "core/scaling/table.h"

#include <cmath>

namespace vicegrip::proof {
namespace {

using electrics::Path;
using job::Condition;
using parts::PinRole;
using units::Dimension;

const Path* pathOf(const std::vector<Path>& paths, PinRole role)
{
    for (const Path& p : paths)
        if (p.role == role)
            return &p;
    return nullptr;
}

class CircuitPlaces
{
  public:
    CircuitPlaces(const job::Job& job, const electrics::Electrics* car, Condition condition,
                  const job::Circuit& circuit, const std::vector<Path>& paths)
        : m_job(job),
          m_car(car),
          m_condition(condition),
          m_circuit(circuit),
          m_paths(paths),
          m_sensor(*job::partOf(job, circuit)),
          m_negative(job::negativePost(job)),
          m_seen(job::isLive(condition) && seen())
    {
    }

    /// Where the leads go, or why there is nothing to read.
    Place atProbe(const Path& path, size_t index) const
    {
        Place p;
        p.condition = m_condition;
        p.station = {path.points[index].text(), StationKind::Probe, path.role, path.points[index],
                     job::spoken(m_job, path.points[index])};
        p.needed = m_condition == Condition::KeyOn
                       ? (parts::isSignal(path.role) ? index + 1 == path.points.size() : index == 0)
                       : parts::isOnBus(m_sensor) && path.role == PinRole::Signal && index == 0;
        if (job::isLive(m_condition))
            placeForVolts(p, path);
        else
            placeForOhms(p, path, index);
        if (m_car != nullptr && p.promises() && !(m_car->node(p.station.point) && m_car->node(p.blackPoint)))
            p.trouble = phrase("this place is not in the network");
        return p;
    }

    Place atEcu(StationKind kind, bool hasTable) const;

  private:
    /// Pulses need an input whose volts swing: a pull-up, a supply, a wire that is whole.
    bool seen() const
    {
        if (parts::isDriven(m_sensor))
            return false;
        if (!parts::countsValue(m_sensor))
            return m_car->reads(m_job, m_circuit);
        const auto levels = electrics::pulseLevels(*m_car, m_circuit, *parts::pulsesOf(m_sensor));
        return levels && levels->swings();
    }

    void placeForVolts(Place& p, const Path& path) const
    {
        p.dimension = Dimension::Voltage;
        p.unit = "V";
        p.blackPoint = m_negative;
        p.black = job::spoken(m_job, m_negative);
        if (!path.complete) {
            p.trouble = phrase("the {} leads nowhere from {}", parts::roleWords(m_sensor, path.role),
                               job::spoken(m_job, path.points.back()));
            return;
        }
        if (path.role == PinRole::Signal && parts::pulsesOf(m_sensor)) {
            p.trouble =
                phrase("it switches between the pull-up's volts and near 0 V: measure Hz, or turn the engine by hand");
            p.needed = false;
        }
    }

    void placeForOhms(Place& p, const Path& path, size_t index) const
    {
        p.dimension = Dimension::Resistance;
        p.unit = "Ω";
        const auto across = parts::isSignal(path.role) ? parts::acrossFrom(m_sensor, path.role) : std::nullopt;
        const Path* other = across ? pathOf(m_paths, *across) : nullptr;
        const bool through = other != nullptr;
        const Path& toward = through ? *other : path;
        // Beyond its own plug a feed has a fuse and a relay in it that stand open: the black lead stays at the plug.
        p.blackPoint = through && across == PinRole::Supply ? toward.points.front() : toward.points.back();
        p.black = job::spoken(m_job, p.blackPoint);
        if (through && parts::isOnBus(m_sensor)) { // side by side along the pair, with all that closes it in place
            p.blackPoint = toward.points[std::min(index, toward.points.size() - 1)];
            p.black = phrase("{}, every plug of the bus on", job::spoken(m_job, p.blackPoint));
        }
        if (!path.complete || !toward.complete)
            p.trouble =
                phrase("the {} leads nowhere", parts::roleWords(m_sensor, path.complete ? toward.role : path.role));
        else if (!through && index + 1 == path.points.size())
            p.trouble = phrase("the black lead is here");
    }

    const job::Job& m_job;
    const electrics::Electrics* m_car;
    Condition m_condition;
    const job::Circuit& m_circuit;
    const std::vector<Path>& m_paths;
    const parts::Part& m_sensor;
    job::PointRef m_negative;
    bool m_seen; ///< by the ECU
};

Place CircuitPlaces::atEcu(StationKind kind, bool hasTable) const
{
    const bool hertz = parts::countsValue(m_sensor);
    Place p;
    p.condition = m_condition;
    p.station.kind = kind;
    p.black = "ECU";
    if (!hertz && parts::signalOf(m_sensor) == parts::SignalKind::Frequency)
        p.trouble = phrase("the ECU counts teeth here");
    else if (hertz && kind == StationKind::Counts)
        p.trouble = phrase("it is counted in Hz");
    else if (!m_seen)
        p.trouble = m_condition == Condition::BatteryOff ? phrase("the ECU is off")
                                                         : phrase("the ECU has no power, or no input here");
    switch (kind) {
    case StationKind::Counts:
        p.station.key = "counts";
        p.station.label = "Counts";
        p.dimension = Dimension::Counts;
        p.unit = "counts";
        break;
    case StationKind::Value:
        p.station.key = "value";
        p.station.label = phrase("Value");
        p.needed = m_condition == Condition::KeyOn && parts::isInside(m_sensor); // no probe reaches it
        p.dimension = m_sensor.measures;
        p.unit = scaling::unitOf(m_sensor, m_circuit.scaling);
        if (!hasTable && m_seen)
            p.trouble = phrase("there is no table yet");
        break;
    default:
        p.station.key = "input";
        p.station.label = phrase("Input {}", m_circuit.input.value);
        p.dimension = hertz ? Dimension::Frequency : Dimension::Voltage;
        p.unit = scaling::readingUnit(p.dimension);
        break;
    }
    return p;
}

} // namespace

job::Reading Place::reading(double si) const
{
    return std::isinf(si) ? job::Reading::beyond(dimension, condition) : job::Reading::of(si, dimension, condition);
}

std::vector<Place> places(const job::Job& job, const electrics::Electrics* car, Condition condition,
                          const job::Circuit& circuit, const std::vector<Path>& paths, bool hasTable)
{
    std::vector<Place> out;
    const bool driven = job::actuatorOf(job, circuit) != nullptr;
    if (driven ? job::findOutput(job, circuit.output) == nullptr
               : job::sensorOf(job, circuit) == nullptr || job::findInput(job, circuit.input) == nullptr)
        return out;
    const CircuitPlaces of(job, car, condition, circuit, paths);
    const auto reported = [&] {
        for (const StationKind kind : {StationKind::Input, StationKind::Counts, StationKind::Value})
            out.push_back(of.atEcu(kind, hasTable));
    };
    for (const Path& path : paths) {
        for (size_t i = 0; i < path.points.size(); ++i)
            out.push_back(of.atProbe(path, i));
        if (path.role == PinRole::Signal && !driven)
            reported();
    }
    if (const parts::Part* sensor = job::sensorOf(job, circuit); sensor != nullptr && parts::isInside(*sensor))
        reported();
    return out;
}

} // namespace vicegrip::proof
