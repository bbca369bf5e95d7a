#include "core/job/job.h"

#include <algorithm>

namespace vicegrip::job {
namespace {

template <class List, class Matches> auto* firstWhere(List& list, Matches matches)
{
    const auto it = std::find_if(list.begin(), list.end(), matches);
    return it == list.end() ? nullptr : &*it;
}

} // namespace

PointRef PointRef::fromText(std::string_view text)
{
    const size_t dot = text.find('.');
    if (dot == std::string_view::npos)
        return {std::string(text), {}};
    return {std::string(text.substr(0, dot)), std::string(text.substr(dot + 1))};
}

const Circuit* find(const Job& job, const CircuitId& id)
{
    return firstWhere(job.circuits, [&](const Circuit& c) { return c.id == id; });
}

Circuit* find(Job& job, const CircuitId& id)
{
    return firstWhere(job.circuits, [&](const Circuit& c) { return c.id == id; });
}

const Device* find(const Job& job, const DeviceId& id)
{
    return firstWhere(job.devices, [&](const Device& d) { return d.id == id; });
}

const Connector* findConnector(const Job& job, std::string_view id)
{
    return firstWhere(job.connectors, [&](const Connector& c) { return c.id == id; });
}

const Joint* findJoint(const Job& job, std::string_view id)
{
    return firstWhere(job.joints, [&](const Joint& j) { return j.id == id; });
}

const parts::Sensor* findPart(const Job& job, const parts::PartId& id)
{
    return firstWhere(job.parts, [&](const parts::Sensor& s) { return s.id == id; });
}

const parts::AnalogInput* findInput(const Job& job, const parts::InputId& id)
{
    return firstWhere(job.ecu.inputs, [&](const parts::AnalogInput& i) { return i.id == id; });
}

parts::AnalogInput* findInput(Job& job, const parts::InputId& id)
{
    return firstWhere(job.ecu.inputs, [&](const parts::AnalogInput& i) { return i.id == id; });
}

const parts::Sensor* sensorOf(const Job& job, const Circuit& circuit)
{
    const Device* device = find(job, circuit.device);
    return device == nullptr ? nullptr : findPart(job, device->part);
}

std::string spoken(const Job& job, const PointRef& point)
{
    if (const Connector* c = findConnector(job, point.owner)) {
        switch (c->kind) {
        case ConnectorKind::Sensor:
            return "Plug " + c->id + " " + point.cavity;
        case ConnectorKind::Inline:
            return "Bulkhead " + c->id + " " + point.cavity;
        case ConnectorKind::Ecu:
            return "Cavity " + c->id + point.cavity;
        }
    }
    if (const Joint* j = findJoint(job, point.owner)) {
        switch (j->kind) {
        case JointKind::Splice:
            return "Splice " + j->id;
        case JointKind::Stud:
            return "Stud " + j->id;
        case JointKind::BatteryPositive:
            return "Battery +";
        case JointKind::BatteryNegative:
            return "Battery –";
        }
    }
    return point.text();
}

} // namespace vicegrip::job
