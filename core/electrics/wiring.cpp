#include "core/electrics/wiring.h"

#include <algorithm>
#include <queue>

namespace vicegrip::electrics {

Wiring::Wiring(const job::Job& job) : m_job(job)
{
    for (const job::Wire& w : job.wires)
        connect(w.from, w.to, "wire " + w.id.value);
    for (const job::Switch& s : job.switches)
        connect(s.from, s.to, "switch " + s.id);
    for (const job::Connector& c : job.connectors)
        if (c.kind == job::ConnectorKind::Inline && c.id < c.mates)
            for (const std::string& cavity : c.cavities)
                if (m_index.contains({c.id, cavity}) && m_index.contains({c.mates, cavity}))
                    connect({c.id, cavity}, {c.mates, cavity}, {});
    for (const job::Resistor& r : job.resistors)
        if (r.kind == job::ResistorKind::Series)
            connect(r.from, r.to, "resistor " + r.id);
    for (const parts::Ecu* unit : job::units(job))
        for (const parts::EcuPin& pin : unit->pins)
            m_ecuPins[job::PointRef::fromText(pin.at)] = &pin;
    for (const job::Joint& j : job.joints)
        m_joints.try_emplace(j.id, &j);
}

int Wiring::nodeOf(const job::PointRef& point)
{
    const auto [it, added] = m_index.try_emplace(point, static_cast<int>(m_points.size()));
    if (added) {
        m_points.push_back(point);
        m_edges.emplace_back();
    }
    return it->second;
}

void Wiring::connect(const job::PointRef& a, const job::PointRef& b, const std::string& subject)
{
    const int from = nodeOf(a), to = nodeOf(b);
    m_edges[static_cast<size_t>(from)].push_back({to, subject});
    m_edges[static_cast<size_t>(to)].push_back({from, subject});
}

const job::Joint* Wiring::joint(const job::PointRef& place) const
{
    const auto it = m_joints.find(place.owner);
    return it == m_joints.end() ? nullptr : it->second;
}

const parts::EcuPin* Wiring::ecuPin(const job::PointRef& place) const
{
    const auto it = m_ecuPins.find(place);
    return it == m_ecuPins.end() ? nullptr : it->second;
}

bool Wiring::ends(const job::PointRef& place, parts::PinRole role, const job::Circuit& circuit) const
{
    using parts::EcuPinRole;
    const parts::EcuPin* pin = ecuPin(place);
    const job::Joint* at = joint(place);
    switch (role) {
    case parts::PinRole::Signal:
        return pin != nullptr && pin->role == EcuPinRole::Input && pin->input == circuit.input;
    case parts::PinRole::Supply:
        return (pin != nullptr && pin->role == EcuPinRole::SensorSupply) ||
               (at != nullptr && at->kind == job::JointKind::BatteryPositive);
    case parts::PinRole::Ground:
        return (pin != nullptr && pin->role == EcuPinRole::SensorGround) ||
               (at != nullptr && (at->kind == job::JointKind::Stud || at->kind == job::JointKind::BatteryNegative));
    }
    return false;
}

std::vector<const job::Joint*> groundEnds(const job::Job& job)
{
    std::vector<const job::Joint*> out;
    for (const parts::EcuPin& pin : job.ecu.pins) {
        if (pin.role != parts::EcuPinRole::PowerGround)
            continue;
        const job::PointRef at = job::PointRef::fromText(pin.at);
        for (const job::Wire& w : job.wires) {
            if (w.from != at && w.to != at)
                continue;
            const job::Joint* joint = job::findJoint(job, (w.from == at ? w.to : w.from).owner);
            if (joint != nullptr)
                out.push_back(joint);
        }
    }
    return out;
}

Path Wiring::way(const job::PointRef& from, const std::function<bool(const job::PointRef&)>& ends) const
{
    Path path{parts::PinRole::Signal, {from}, {}, false};
    const auto start = m_index.find(from);
    if (start == m_index.end())
        return path;
    struct Step
    {
        int from = -1;
        const Edge* edge = nullptr;
    };
    std::vector<Step> steps(m_points.size());
    std::vector<bool> seen(m_points.size(), false);
    std::queue<int> open;
    open.push(start->second);
    seen[static_cast<size_t>(start->second)] = true;
    int end = -1;
    while (!open.empty() && end < 0) {
        const int node = open.front();
        open.pop();
        if (node != start->second && ends(m_points[static_cast<size_t>(node)])) {
            end = node;
            break;
        }
        for (const Edge& edge : m_edges[static_cast<size_t>(node)]) {
            if (seen[static_cast<size_t>(edge.to)])
                continue;
            seen[static_cast<size_t>(edge.to)] = true;
            steps[static_cast<size_t>(edge.to)] = {node, &edge};
            open.push(edge.to);
        }
    }
    if (end < 0)
        return path;
    path.complete = true;
    path.points.clear();
    for (int node = end; node >= 0; node = steps[static_cast<size_t>(node)].from) {
        path.points.push_back(m_points[static_cast<size_t>(node)]);
        const Edge* edge = steps[static_cast<size_t>(node)].edge;
        if (edge != nullptr && !edge->subject.empty())
            path.subjects.push_back(edge->subject);
    }
    std::ranges::reverse(path.points);
    std::ranges::reverse(path.subjects);
    return path;
}

std::vector<Wiring::Leg> Wiring::legs(const std::function<bool(const job::PointRef&)>& ends) const
{
    std::vector<Leg> out;
    std::vector<bool> seen(m_points.size(), false);
    std::queue<size_t> open;
    for (size_t node = 0; node < m_points.size(); ++node)
        if (ends(m_points[node])) {
            seen[node] = true;
            open.push(node);
        }
    for (; !open.empty(); open.pop())
        for (const Edge& edge : m_edges[open.front()]) {
            const auto next = static_cast<size_t>(edge.to);
            if (seen[next])
                continue;
            seen[next] = true;
            out.push_back({&m_points[next], &m_points[open.front()], &edge.subject});
            open.push(next);
        }
    return out;
}

std::vector<Path> Wiring::paths(const job::Circuit& circuit) const
{
    std::vector<Path> out;
    const job::Device* device = job::find(m_job, circuit.device);
    const parts::Sensor* sensor = job::sensorOf(m_job, circuit);
    if (device == nullptr || sensor == nullptr)
        return out;
    for (const parts::PinRole role : {parts::PinRole::Signal, parts::PinRole::Supply, parts::PinRole::Ground}) {
        const std::string cavity = parts::cavityOf(*sensor, role);
        if (cavity.empty())
            continue;
        Path& path = out.emplace_back(
            way({device->connector, cavity}, [&](const job::PointRef& place) { return ends(place, role, circuit); }));
        path.role = role;
    }
    return out;
}

} // namespace vicegrip::electrics
