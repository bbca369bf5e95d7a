#include "core/wiggle/holds.h"

#include "core/base/phrase.h"
#include "core/electrics/electrics.h"
#include "core/electrics/sensor_model.h"
#include "core/electrics/unit_ways.h"

#include <algorithm>
#include <map>

namespace vicegrip::wiggle {
namespace {

using job::PointRef;

/// Hertz at rest, for a circuit whose pulses stand for a value; 0 for any other.
double hertzAtRest(const job::Job& job, const job::Circuit& circuit)
{
    const parts::Part* sensor = job::sensorOf(job, circuit);
    return sensor == nullptr || !parts::countsValue(*sensor)
               ? 0
               : parts::hertzAt(*sensor, electrics::atRest(circuit, job.surroundings).value);
}

class Walk
{
  public:
    explicit Walk(const job::Job& job) : m_job(job), m_wiring(job) {}

    void along(const electrics::Path& path)
    {
        for (const std::string& subject : path.subjects)
            if (subject.starts_with("wire "))
                wire(job::WireId{subject.substr(5)}, path.points);
    }

    [[nodiscard]] const electrics::Wiring& wiring() const { return m_wiring; }
    [[nodiscard]] std::vector<Hold> take() { return std::move(m_out); }

  private:
    /// Both halves of a mated pair are one place.
    size_t placeOf(const std::string& owner)
    {
        if (const auto known = m_places.find(owner); known != m_places.end())
            return known->second;
        const job::Connector* plug = job::findConnector(m_job, owner);
        const bool mated = plug != nullptr && plug->kind == job::ConnectorKind::Inline && !plug->mates.empty();
        if (mated && m_places.contains(plug->mates)) {
            Hold& pair = m_out[m_places[plug->mates]];
            pair.keys.push_back(owner);
            return m_places[owner] = m_places[plug->mates];
        }
        m_out.push_back({.name = job::spoken(m_job, {owner, {}}), .keys = {owner}, .may = {}, .between = false});
        return m_places[owner] = m_out.size() - 1;
    }

    /// Its near end, what lies between, its far end, as the way goes.
    void wire(const job::WireId& id, const std::vector<PointRef>& points)
    {
        const auto w = std::ranges::find(m_job.wires, id, &job::Wire::id);
        if (w == m_job.wires.end() || std::ranges::find(m_seen, id) != m_seen.end())
            return;
        m_seen.push_back(id);
        const bool back = std::ranges::find(points, w->to) < std::ranges::find(points, w->from);
        const PointRef &near = back ? w->to : w->from, &far = back ? w->from : w->to;
        const size_t from = placeOf(near.owner);
        const auto pair = std::minmax(near.owner, far.owner);
        auto [bundle, isNew] = m_bundles.emplace(std::pair<std::string, std::string>(pair), m_out.size());
        if (isNew)
            m_out.push_back(
                {.name = phrase("Wires {} to {}", near.owner, far.owner), .keys = {}, .may = {}, .between = true});
        const size_t to = placeOf(far.owner);
        m_out[from].may.push_back({{id, near}, {}});
        m_out[to].may.push_back({{id, far}, {}});
        Hold& hold = m_out[bundle->second];
        hold.may.push_back({{id, {}}, {}});
        hold.keys.push_back(hold.may.back().what.heldAs());
    }

    const job::Job& m_job;
    electrics::Wiring m_wiring;
    std::vector<Hold> m_out;
    std::map<std::string, size_t> m_places;
    std::map<std::pair<std::string, std::string>, size_t> m_bundles;
    std::vector<job::WireId> m_seen;
};

} // namespace

std::optional<double> readsWith(const job::Job& job, const job::Circuit& circuit, job::Condition condition,
                                const faults::FaultList& faults)
{
    const auto car = electrics::build(
        job, {.condition = condition, .surroundings = job.surroundings, .faults = faults, .bounded = false});
    if (!car || !car->reads(job, circuit))
        return std::nullopt;
    if (const double hertz = hertzAtRest(job, circuit); hertz > 0) {
        const auto output = parts::pulsesOf(*job::sensorOf(job, circuit));
        const auto levels = output ? electrics::pulseLevels(*car, circuit, *output) : std::nullopt;
        return levels && levels->swings() ? hertz : 0;
    }
    const auto volts = car->inputVolts(job, circuit);
    if (!volts)
        return std::nullopt;
    return std::clamp(volts->value, 0.0, electrics::fullScaleVolts(job, *job::findInput(job, circuit.input)));
}

double grainOf(const job::Job& job, const job::Circuit& circuit)
{
    constexpr double kCounts = 4, kOfPulses = 0.02;
    if (const double hertz = hertzAtRest(job, circuit); hertz > 0)
        return kOfPulses * hertz;
    const parts::EcuInput* input = job::findInput(job, circuit.input);
    return input == nullptr ? 0 : kCounts * electrics::countVolts(job, *input);
}

std::vector<Hold> holds(const job::Job& job, const job::CircuitId& id, job::Condition condition)
{
    const job::Circuit* circuit = job::find(job, id);
    if (circuit == nullptr || job::findInput(job, circuit->input) == nullptr || job::sensorOf(job, *circuit) == nullptr)
        return {};
    const auto steady = readsWith(job, *circuit, condition, {});
    if (!steady)
        return {};
    Walk walk(job);
    for (const electrics::Path& path : walk.wiring().paths(*circuit))
        walk.along(path);
    for (const electrics::Path& path : electrics::unitWays(job, walk.wiring(), *circuit))
        walk.along(path);
    std::vector<Hold> out = walk.take();
    std::map<job::WireId, std::optional<double>> known; // a wire reads the same wherever it is open
    const double grain = grainOf(job, *circuit);
    for (Hold& hold : out) {
        for (MayLetGo& may : hold.may) {
            if (!known.contains(may.what.wire))
                known[may.what.wire] = readsWith(job, *circuit, condition, {faults::OpenWire{may.what.wire}});
            may.reads = known[may.what.wire];
        }
        std::erase_if(hold.may, [&](const MayLetGo& m) { return m.reads && std::abs(*m.reads - *steady) < grain; });
    }
    std::erase_if(out, [](const Hold& h) { return h.may.empty(); }); // fuses alone lead there, or nothing would show
    return out;
}

std::optional<size_t> holdOf(const std::vector<Hold>& holds, const std::vector<faults::Loose>& what)
{
    for (size_t h = 0; h < holds.size() && !what.empty(); ++h)
        if (std::ranges::find(holds[h].may, what.front(), &MayLetGo::what) != holds[h].may.end())
            return h;
    return std::nullopt;
}

} // namespace vicegrip::wiggle
