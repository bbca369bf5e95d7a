#include "core/electrics/wiring.h"

#include <algorithm>
#include <map>
#include <optional>
#include <queue>

namespace vicegrip::electrics {

Wiring::Wiring(const job::Job& job) : m_job(job)
{
    std::map<parts::OutputId, size_t> legs;
    for (const parts::Ecu* unit : job::units(job))
        for (const parts::EcuPin& pin : unit->pins)
            m_ecuPins[job::PointRef::fromText(pin.at)] = {&pin, pin.output.empty() ? 0 : legs[pin.output]++};
    for (const job::Joint& j : job.joints)
        m_joints.try_emplace(j.id, &j);
    for (const job::Device& d : job.devices)
        m_devices.try_emplace(d.id.value, &d);
    for (const parts::Part& s : job.parts)
        m_parts.try_emplace(s.id.value, &s);
    for (const job::Wire& w : job.wires)
        connect(w.from, w.to, Kind::Wire, "wire " + w.id.value);
    for (const job::Switch& s : job.switches)
        connect(s.from, s.to, Kind::Switch, "switch " + s.id);
    for (const job::Connector& c : job.connectors) {
        if (c.kind != job::ConnectorKind::Inline)
            continue;
        m_pairs.try_emplace(c.id, &c);
        if (c.id < c.mates)
            for (const std::string& cavity : c.cavities)
                if (m_index.contains({c.id, cavity}) && m_index.contains({c.mates, cavity}))
                    connect({c.id, cavity}, {c.mates, cavity}, Kind::Pair, {});
    }
    for (const job::Resistor& r : job.resistors)
        if (r.kind == job::ResistorKind::Series)
            connect(r.from, r.to, Kind::Series, "resistor " + r.id);
}

size_t Wiring::nodeOf(const job::PointRef& point)
{
    const auto [it, added] = m_index.try_emplace(point, m_places.size());
    if (added) {
        const auto pin = m_ecuPins.find(point);
        m_places.push_back({point, joint(point), pin == m_ecuPins.end() ? UnitPin{} : pin->second, {}});
    }
    return it->second;
}

void Wiring::connect(const job::PointRef& a, const job::PointRef& b, Kind kind, const std::string& subject)
{
    const size_t from = nodeOf(a), to = nodeOf(b);
    m_places[from].edges.push_back({to, m_subjects.size(), kind});
    m_places[to].edges.push_back({from, m_subjects.size(), kind});
    m_subjects.push_back(subject);
}

const job::Joint* Wiring::joint(const job::PointRef& place) const
{
    const auto it = m_joints.find(place.owner);
    return it == m_joints.end() ? nullptr : it->second;
}

const parts::EcuPin* Wiring::ecuPin(const job::PointRef& place) const
{
    const auto it = m_ecuPins.find(place);
    return it == m_ecuPins.end() ? nullptr : it->second.pin;
}

bool Wiring::ends(const Place& place, parts::PinRole role, const job::Circuit& circuit)
{
    using job::JointKind;
    using parts::EcuPinRole;
    const parts::EcuPin* pin = place.unit.pin;
    const auto isPin = [&](EcuPinRole as) { return pin != nullptr && pin->role == as; };
    const auto isJoint = [&](JointKind as) { return place.joint != nullptr && place.joint->kind == as; };
    switch (role) {
    case parts::PinRole::Signal:
    case parts::PinRole::Signal2:
    case parts::PinRole::Signal3:
    case parts::PinRole::Signal4:
        return (isPin(EcuPinRole::Input) && pin->input == circuit.input) ||
               (isPin(EcuPinRole::Output) && pin->output == circuit.output && place.unit.leg == parts::legOf(role));
    case parts::PinRole::Supply:
        return isPin(EcuPinRole::SensorSupply) || isJoint(JointKind::BatteryPositive);
    case parts::PinRole::Ground:
        return isPin(EcuPinRole::SensorGround) || isJoint(JointKind::Stud) || isJoint(JointKind::BatteryNegative);
    }
    return false;
}

std::vector<const job::Joint*> Wiring::groundEnds() const
{
    std::vector<const job::Joint*> out;
    for (const parts::EcuPin& pin : m_job.ecu.pins) {
        const auto at = m_index.find(job::PointRef::fromText(pin.at));
        if (pin.role != parts::EcuPinRole::PowerGround || at == m_index.end())
            continue;
        for (const Edge& edge : m_places[at->second].edges)
            if (edge.kind == Kind::Wire && m_places[edge.to].joint != nullptr)
                out.push_back(m_places[edge.to].joint);
    }
    return out;
}

/// Breadth first, from one place after another: what a search has touched is wiped before the next, and no more.
class Wiring::Search
{
  public:
    explicit Search(const Wiring& wiring) : m_wiring(wiring), m_steps(wiring.m_places.size()) {}

    template <class Ends> Path way(const job::PointRef& from, Ends ends)
    {
        Path path{parts::PinRole::Signal, {from}, {}, false};
        const auto start = m_wiring.m_index.find(from);
        if (start == m_wiring.m_index.end())
            return path;
        for (const size_t node : m_open)
            m_steps[node] = {};
        m_open = {start->second};
        m_steps[start->second].seen = true;
        for (size_t i = 0; i < m_open.size(); ++i) {
            const Place& place = m_wiring.m_places[m_open[i]];
            if (i > 0 && ends(place))
                return to(m_open[i]);
            for (const Edge& edge : place.edges) {
                if (m_steps[edge.to].seen)
                    continue;
                m_steps[edge.to] = {true, m_open[i], &edge};
                m_open.push_back(edge.to);
            }
        }
        return path;
    }

  private:
    struct Step
    {
        bool seen = false;
        size_t from = 0;
        const Edge* edge = nullptr; ///< null at the start
    };

    [[nodiscard]] Path to(size_t end) const
    {
        Path path{parts::PinRole::Signal, {}, {}, true};
        for (size_t node = end;; node = m_steps[node].from) {
            path.points.push_back(m_wiring.m_places[node].at);
            const Edge* edge = m_steps[node].edge;
            if (edge == nullptr)
                break;
            if (const std::string& subject = m_wiring.m_subjects[edge->subject]; !subject.empty())
                path.subjects.push_back(subject);
        }
        std::ranges::reverse(path.points);
        std::ranges::reverse(path.subjects);
        return path;
    }

    const Wiring& m_wiring;
    std::vector<Step> m_steps; ///< by place
    std::vector<size_t> m_open; ///< every place seen, in the order they were
};

Path Wiring::way(const job::PointRef& from, const std::function<bool(const job::PointRef&)>& ends) const
{
    return Search(*this).way(from, [&](const Place& place) { return ends(place.at); });
}

std::vector<Wiring::Leg> Wiring::legs(const std::function<bool(const job::PointRef&)>& ends) const
{
    std::vector<Leg> out;
    std::vector<bool> seen(m_places.size(), false);
    std::queue<size_t> open;
    for (size_t node = 0; node < m_places.size(); ++node)
        if (ends(m_places[node].at)) {
            seen[node] = true;
            open.push(node);
        }
    for (; !open.empty(); open.pop())
        for (const Edge& edge : m_places[open.front()].edges) {
            if (seen[edge.to])
                continue;
            seen[edge.to] = true;
            out.push_back({&m_places[edge.to].at, &m_places[open.front()].at, &m_subjects[edge.subject]});
            open.push(edge.to);
        }
    return out;
}

job::PointRef Wiring::plugOf(const job::Circuit& circuit, parts::PinRole role) const
{
    const auto device = m_devices.find(circuit.device.value);
    if (device == m_devices.end())
        return {};
    const auto sensor = m_parts.find(device->second->part.value);
    const std::string cavity = sensor == m_parts.end() ? std::string() : parts::cavityOf(*sensor->second, role);
    return cavity.empty() ? job::PointRef{} : job::PointRef{device->second->connector, cavity};
}

std::vector<Path> Wiring::paths(const job::Circuit& circuit, Search& search) const
{
    std::vector<Path> out;
    for (const parts::PinRole role : parts::kPinRoles) {
        const job::PointRef plug = plugOf(circuit, role);
        if (plug.empty())
            continue;
        Path& path = out.emplace_back(search.way(plug, [&](const Place& at) { return ends(at, role, circuit); }));
        path.role = role;
    }
    return out;
}

std::vector<Path> Wiring::paths(const job::Circuit& circuit) const
{
    Search search(*this);
    return paths(circuit, search);
}

std::vector<std::vector<Path>> Wiring::paths() const
{
    Search search(*this);
    std::vector<std::vector<Path>> out;
    for (const job::Circuit& circuit : m_job.circuits)
        out.push_back(paths(circuit, search));
    return out;
}

std::set<job::PointRef> Wiring::signalNet(const job::Circuit& circuit, parts::PinRole role) const
{
    std::set<job::PointRef> seen;
    std::queue<job::PointRef> open;
    const auto reach = [&](const job::PointRef& p) {
        if (!p.empty() && seen.insert(p).second)
            open.push(p);
    };
    for (reach(plugOf(circuit, role)); !open.empty(); open.pop()) {
        const job::PointRef& at = open.front();
        if (const auto node = m_index.find(at); node != m_index.end())
            for (const Edge& edge : m_places[node->second].edges)
                if (edge.kind == Kind::Wire || edge.kind == Kind::Series)
                    reach(m_places[edge.to].at);
        if (const auto half = m_pairs.find(at.owner); half != m_pairs.end())
            reach({half->second->mates, at.cavity}); // even where nothing goes on from there
    }
    return seen;
}

const job::Resistor* Wiring::pullUp(const job::Circuit& circuit) const
{
    const auto pullsUp = [](const job::Resistor& r) { return r.kind == job::ResistorKind::PullUp; };
    if (std::ranges::none_of(m_job.resistors, pullsUp))
        return nullptr;
    const auto net = signalNet(circuit);
    const auto it =
        std::ranges::find_if(m_job.resistors, [&](const job::Resistor& r) { return pullsUp(r) && net.contains(r.to); });
    return it == m_job.resistors.end() ? nullptr : &*it;
}

double Wiring::seriesOhm(const job::Circuit& circuit) const
{
    const auto inSeries = [](const job::Resistor& r) { return r.kind == job::ResistorKind::Series; };
    if (std::ranges::none_of(m_job.resistors, inSeries))
        return 0;
    double out = 0;
    const auto net = signalNet(circuit);
    for (const job::Resistor& r : m_job.resistors)
        out += inSeries(r) && net.contains(r.from) ? r.ohm : 0;
    return out;
}

} // namespace vicegrip::electrics
