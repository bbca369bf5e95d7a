#include "core/electrics/battery.h"
#include "core/electrics/builder.h"
#include "core/parts/conductor.h"

#include <cmath>

namespace vicegrip::electrics {
namespace {

constexpr double kOpenContact_ohm = 1e10; ///< clean and dry (typical)

} // namespace

Node Builder::at(const job::PointRef& point)
{
    const job::Joint* joint = job::findJoint(m_job, point.owner);
    if (joint != nullptr && joint->kind == job::JointKind::BatteryNegative)
        return m_nodes[point] = kReference;
    const auto [it, added] = m_nodes.try_emplace(point, 0);
    if (added)
        it->second = m_net.addNode();
    return it->second;
}

Node Builder::body(const std::string& name)
{
    const auto [it, added] = m_bodies.try_emplace(name, 0);
    if (added)
        it->second = m_net.addNode();
    return it->second;
}

/// The far side of a mated contact.
Node Builder::behind(const job::PointRef& point)
{
    const Node inner = m_net.addNode();
    contact(point, at(point), inner, badContact(point));
    return inner;
}

/// What is bad about it, Ohm; infinite where nothing touches.
double Builder::badContact(const job::PointRef& point) const
{
    const auto more = m_edits.contact_ohm.find(point);
    return more == m_edits.contact_ohm.end() ? 0 : more->second;
}

void Builder::contact(const job::PointRef& point, Node a, Node b, double more_ohm)
{
    if (std::isfinite(more_ohm))
        m_net.addResistor(a, b, parts::kMatedPairOhms + more_ohm, {parts::kMatedPairOhms}, "contact " + point.text());
}

double Builder::moreUnder(const std::string& stud) const
{
    const auto more = m_edits.stud_ohm.find(stud);
    return more == m_edits.stud_ohm.end() ? 0 : more->second;
}

void Builder::addJoints()
{
    for (const job::Joint& j : m_job.joints) {
        const Node node = at({j.id, {}});
        if (j.kind == job::JointKind::Stud && !j.body.empty())
            m_net.addResistor(node, body(j.body), parts::kStudOhms + moreUnder(j.id), {parts::kStudOhms},
                              "stud " + j.id);
    }
    for (const job::Connector& c : m_job.connectors)
        for (const std::string& cavity : c.cavities)
            at({c.id, cavity});
}

void Builder::addInlinePairs()
{
    for (const job::Connector& c : m_job.connectors) {
        if (c.kind != job::ConnectorKind::Inline || c.id > c.mates)
            continue;
        for (const std::string& cavity : c.cavities)
            if (m_nodes.contains({c.mates, cavity}))
                contact({c.id, cavity}, at({c.id, cavity}), at({c.mates, cavity}),
                        badContact({c.id, cavity}) + badContact({c.mates, cavity}));
    }
}

void Builder::addConductors()
{
    for (const job::Wire& w : m_job.wires) {
        if (m_edits.open.contains(w.id)) {
            at(w.from); // where a probe can be put stays
            at(w.to);
            continue;
        }
        const double copper = parts::wireOhms(w.length_m, w.area_m2, m_situation.surroundings.ambient_k);
        const double crimps = 2 * parts::kCrimpOhms;
        const auto extra = m_edits.added_ohm.find(w.id);
        m_wires[w.id] = m_net.addResistor(at(w.from), at(w.to),
                                          copper + crimps + (extra == m_edits.added_ohm.end() ? 0 : extra->second),
                                          {copper * parts::kWireTolerance + crimps}, "wire " + w.id.value);
    }
    for (const job::Switch& s : m_job.switches)
        addSwitch(s);
    for (const job::Lead& l : m_job.leads) // a shield between two grounds is a wire between them
        if (l.drain.size() == 2) {
            const double ohm =
                parts::wireOhms(job::lengthOf(m_job, l), parts::kDrain_m2, m_situation.surroundings.ambient_k);
            m_net.addResistor(at(l.drain[0]), at(l.drain[1]), ohm + 2 * parts::kCrimpOhms,
                              {ohm * parts::kWireTolerance + 2 * parts::kCrimpOhms}, "lead " + l.id);
        }
}

/// Whether the device is one whose output is off though the engine turns.
bool Builder::rests(const std::string& device) const
{
    return !device.empty() && std::ranges::any_of(m_job.circuits, [&](const job::Circuit& c) {
        return c.device.value == device && m_situation.off.contains(c.id);
    });
}

/// What a coil pulls in is open where nothing drives the coil; while the engine turns it may be either.
void Builder::addSwitch(const job::Switch& s)
{
    const job::Circuit* clicked = m_keyOn ? job::drivenBy(m_job, m_situation.clicked) : nullptr;
    const bool pulledIn = !s.coil.empty() && clicked != nullptr && clicked->device.value == s.coil;
    const bool out = (m_situation.keyOff && (s.needsKey || !s.coil.empty())) || rests(s.coil);
    const bool closed = !out && (pulledIn || isClosed(s, m_situation.condition));
    if (!closed && (s.coil.empty() || !m_keyOn))
        return;
    if (!closed) { // what it feeds hangs on it all the same, and is no part that floats
        m_net.addResistor(at(s.from), at(s.to), kOpenContact_ohm, {}, "switch " + s.id);
        return;
    }
    const ElementIndex contact = m_net.addResistor(at(s.from), at(s.to), s.ohm, {s.ohm / 2}, "switch " + s.id);
    if (!s.coil.empty() && !pulledIn)
        m_net.setBounds(contact, s.ohm, s.ohm / 2, kOff_ohm);
}

void Builder::addFaults()
{
    for (const faults::Bridge& b : m_edits.bridges)
        m_net.addResistor(at(b.from), at(b.to), b.ohm);
}

void Builder::addResistors()
{
    for (const job::Resistor& r : m_job.resistors)
        m_net.addResistor(at(r.from), at(r.to), r.ohm, {r.ohm * r.tolerance}, "resistor " + r.id);
}

Result<Electrics> Builder::build()
{
    addJoints();
    addInlinePairs();
    addConductors();
    addFaults();
    addResistors();
    addBatteryAndLoads(m_net, m_job, m_situation.condition,
                       m_situation.battery_v.value_or(batteryVolts(m_job.battery, m_situation.condition)),
                       [this](const job::PointRef& place) { return at(place); });
    addUnits();
    addDevices();
    for (Cause* shared : {&m_ambient, &m_barometer})
        if (!shared->shares.empty())
            m_causes.push_back(std::move(*shared));
    return solvePowered(m_net, m_powered, m_situation.bounded).map([&](circuit::Solution&& solution) {
        for (const Powered& p : m_powered) {
            if (const auto it = m_circuits.find(p.circuit); it != m_circuits.end())
                it->second.powered = p.on;
            if (p.circuit.empty())
                m_units[p.unit].powered = p.on;
        }
        Electrics out{.solution = std::move(solution),
                      .nodes = std::move(m_nodes),
                      .circuits = std::move(m_circuits),
                      .inputs = std::move(m_inputs),
                      .units = std::move(m_units),
                      .wires = std::move(m_wires),
                      .causes = std::move(m_causes)};
        return out;
    });
}

Result<Electrics> build(const job::Job& job, const Situation& situation)
{
    return Builder(job, situation).build();
}

} // namespace vicegrip::electrics
