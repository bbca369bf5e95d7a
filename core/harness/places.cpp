#include "core/harness/places.h"

#include "core/harness/edits.h"
#include "core/wires/leads.h"

#include <algorithm>
#include <charconv>

namespace vicegrip::harness {
namespace {

constexpr double kTail_m = 0.2; ///< from a unit's cavity to the splice beside it

const job::Joint* spliceAt(const job::Job& job, const job::PointRef& point)
{
    const job::Joint* joint = job::findJoint(job, point.owner);
    return joint != nullptr && joint->kind == job::JointKind::Splice ? joint : nullptr;
}

job::PointRef otherEnd(const job::Wire& wire, const job::PointRef& point)
{
    return wire.from == point ? wire.to : wire.to == point ? wire.from : job::PointRef{};
}

/// Follows the wire from a cavity, through bulkheads, to the first splice; empty when there is none on the way.
job::PointRef spliceBehind(const job::Job& job, job::PointRef place)
{
    const job::Wire* came = nullptr;
    constexpr int kMostSteps = 8;
    for (int step = 0; step < kMostSteps; ++step) {
        const auto next = std::ranges::find_if(
            job.wires, [&](const job::Wire& w) { return &w != came && !otherEnd(w, place).empty(); });
        if (next == job.wires.end())
            return {};
        came = &*next;
        place = otherEnd(*next, place);
        if (spliceAt(job, place) != nullptr)
            return place;
        const job::Connector* connector = job::findConnector(job, place.owner);
        if (connector == nullptr || connector->kind != job::ConnectorKind::Inline)
            return {};
        place.owner = connector->mates;
    }
    return {};
}

} // namespace

job::PointRef switchedFeed(const job::Job& job)
{
    for (const job::Switch& s : job.switches)
        if (s.needsKey && s.coil.empty())
            return s.to;
    for (const job::Joint& j : job.joints)
        if (j.kind == job::JointKind::BatteryPositive)
            return {j.id, {}};
    return {};
}

job::PointRef sensorSplice(job::Job& job, const parts::Ecu& unit, parts::EcuPinRole role)
{
    job::PointRef cavity;
    for (const parts::EcuPin& pin : unit.pins) {
        if (pin.role != role)
            continue;
        cavity = cavity.empty() ? job::PointRef::fromText(pin.at) : cavity;
        if (const job::PointRef splice = spliceBehind(job, job::PointRef::fromText(pin.at)); !splice.empty())
            return splice;
    }
    if (cavity.empty())
        return {};
    const bool supply = role == parts::EcuPinRole::SensorSupply;
    const std::string owner = cavity.owner;
    const job::PointRef splice{freeName(job, "S"), {}};
    job.joints.push_back({splice.owner,
                          (supply ? "5 V splice at plug " : "Sensor ground splice at plug ") + owner,
                          job::JointKind::Splice,
                          {}});
    drawWire(job, cavity, splice, kTail_m, 0.75e-6, supply ? "RD/WH" : "BK/WH");
    return splice;
}

job::PointRef powerGround(const job::Job& job, const parts::Ecu& unit)
{
    for (const parts::EcuPin& pin : unit.pins)
        if (pin.role == parts::EcuPinRole::PowerGround)
            for (const job::Wire& w : job.wires)
                if (const job::PointRef end = otherEnd(w, job::PointRef::fromText(pin.at)); !end.empty())
                    return end;
    for (const job::Joint& j : job.joints)
        if (j.kind == job::JointKind::BatteryNegative)
            return {j.id, {}};
    return {};
}

void drawWire(job::Job& job, const job::PointRef& from, const job::PointRef& to, double length_m, double area_m2,
              const std::string& colour)
{
    int last = 0;
    for (const job::Wire& w : job.wires) {
        int number = 0;
        const std::string& id = w.id.value;
        if (id.starts_with('w') && std::from_chars(id.data() + 1, id.data() + id.size(), number).ec == std::errc())
            last = std::max(last, number);
    }
    job.wires.push_back({{"w" + std::to_string(last + 1)}, from, to, length_m, area_m2, colour});
}

std::string freeName(const job::Job& job, const std::string& prefix)
{
    for (int n = 1;; ++n) {
        std::string name = prefix + std::to_string(n);
        const bool taken = job::findJoint(job, name) != nullptr || job::findConnector(job, name) != nullptr ||
                           std::ranges::find(job.resistors, name, &job::Resistor::id) != job.resistors.end();
        if (!taken)
            return name;
    }
}

void dropLost(job::Job& job)
{
    const auto isLost = [&](const job::PointRef& place) {
        const job::Connector* c = job::findConnector(job, place.owner);
        return c == nullptr || std::ranges::find(c->cavities, place.cavity) == c->cavities.end();
    };
    const auto isLostEnd = [&](const job::PointRef& end) {
        return job::findJoint(job, end.owner) == nullptr && isLost(end);
    };
    std::erase_if(job.pinned, [&](const job::Pinned& p) { return isLost(p.at); });
    std::erase_if(job.loads, [&](const job::Load& l) { return isLostEnd(l.from) || isLostEnd(l.to); });
    std::erase_if(job.oldPlugs, [&](const job::OldPlug& p) { return job::findConnector(job, p.connector) == nullptr; });
    for (job::Switch& s : job.switches)
        if (job::find(job, job::DeviceId{s.coil}) == nullptr)
            s.coil.clear();
    wires::dropLostLeads(job);
}

void proposeFaces(job::Job& job, const std::vector<parts::Layout>& layouts)
{
    for (job::Connector& c : job.connectors) {
        if (c.layout)
            continue;
        const auto fits = std::ranges::find_if(
            layouts, [&](const parts::Layout& l) { return parts::checkCavities(l, c.cavities).has_value(); });
        if (fits != layouts.end()) {
            c.layout = *fits;
            c.faceProposed = true;
        }
    }
}

} // namespace vicegrip::harness
