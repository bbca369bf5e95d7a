#include "core/harness/unit_port.h"

#include "core/base/phrase.h"
#include "core/harness/edits.h"

#include <algorithm>

namespace vicegrip::harness {

void joinPort(job::Job& job, const parts::Ecu& unit)
{
    const parts::EcuOutput *port = parts::firstPort(unit), *bus = parts::firstPort(job.ecu);
    if (port == nullptr || bus == nullptr)
        return;
    const auto pair = parts::cavitiesOf(unit, port->id);
    const job::PointRef high = job::PointRef::fromText(pair.at(0)), low = job::PointRef::fromText(pair.at(1));
    std::string id = "bus-" + high.owner;
    while (job::find(job, job::CircuitId{id}) != nullptr || job::find(job, job::DeviceId{id}) != nullptr ||
           std::ranges::find(job.parts, parts::PartId{id}, &parts::Part::id) != job.parts.end())
        id += "-port";
    parts::BusDevice model;
    model.port = true;
    parts::Part& part = job.parts.emplace_back();
    part.id.value = id;
    part.name = phrase("Bus port of {}", unit.name);
    part.kind = parts::PartUse::BusDevice;
    part.feed = parts::Feed::Battery;
    part.pins = {{high.cavity, parts::PinRole::Signal}, {low.cavity, parts::PinRole::Signal2}};
    part.model = model;
    job.devices.push_back({{id}, part.id, high.owner});
    job::Circuit& circuit = job.circuits.emplace_back();
    circuit.id.value = id;
    circuit.name = phrase("Bus to plug {}", high.owner);
    circuit.want = job::Want::Required;
    circuit.device.value = id;
    if (seat(job, job::CircuitId{id}, parts::OutputId(bus->id)))
        job::find(job, job::CircuitId{id})->locked = true;
}

} // namespace vicegrip::harness
