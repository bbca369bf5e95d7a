#include "core/harness/missing_wires.h"

#include "core/electrics/wiring.h"
#include "core/harness/bus_wires.h"
#include "core/harness/edits.h"
#include "core/harness/lead_plan.h"
#include "core/harness/places.h"
#include "core/wires/area.h"
#include "core/wires/colour_plan.h"

#include <algorithm>

namespace vicegrip::harness {

using job::PointRef;
using parts::EcuPinRole;
using parts::PinRole;

PointRef plugOf(const job::Job& job, const job::Circuit& circuit, PinRole role)
{
    const job::Device* device = job::find(job, circuit.device);
    const parts::Part* part = job::partOf(job, circuit);
    if (device == nullptr || part == nullptr)
        return {};
    const std::string cavity = parts::cavityOf(*part, role);
    return cavity.empty() ? PointRef{} : PointRef{device->connector, cavity};
}

namespace {

bool complete(const job::Job& job, const job::Circuit& circuit, PinRole role)
{
    for (const electrics::Path& path : electrics::Wiring(job).paths(circuit))
        if (path.role == role)
            return path.complete;
    return true; // the sensor has no such pin
}

/// Where the signal goes on from: the splice a wire was taken off, else the plug.
PointRef signalEnd(const job::Job& job, const job::Circuit& circuit, PinRole role)
{
    PointRef end = plugOf(job, circuit, role);
    for (const PointRef& p : electrics::Wiring(job).signalNet(circuit, role))
        if (job::findJoint(job, p.owner) != nullptr)
            end = p;
    return end;
}

/// A conductor that is drawn where the circuit lacks one.
struct Planned
{
    PointRef to;
    double area_m2 = kPlannedArea_m2;
    std::string colour; ///< empty: one that is free there
    double length_m = kPlannedLength_m;
};

/// What a sensor's supply or ground goes to.
Planned plannedFor(job::Job& job, const parts::Part& sensor, const parts::Ecu& unit, PinRole role)
{
    const bool battery = sensor.feed == parts::Feed::Battery;
    if (role == PinRole::Supply)
        return battery ? Planned{switchedFeed(job), kPlannedArea_m2, "RD"}
                       : Planned{sensorSplice(job, unit, EcuPinRole::SensorSupply), kPlannedArea_m2, "RD/WH"};
    return onSensorGround(sensor) ? Planned{sensorSplice(job, unit, EcuPinRole::SensorGround), kPlannedArea_m2, "BK/WH"}
                                  : Planned{powerGround(job, unit), 2 * kPlannedArea_m2, "BN"};
}

/// A wire of a bus's pair: yellow is high and green low (SAE J1939, from memory).
Planned plannedPair(job::Job& job, const job::Circuit& circuit, PinRole role)
{
    const PointRef to = joinBus(job, circuit, role);
    return {to, kPlannedArea_m2, role == PinRole::Signal ? "YE" : "GN",
            job::findJoint(job, to.owner) != nullptr ? kPlannedStub_m : kPlannedLength_m};
}

/// What the ECU drives is fed over the relay that the key closes, and returns where the unit does; its wires carry its
/// current.
Planned plannedFor(const job::Job& job, const parts::Drive& drive, const parts::Ecu& unit, PinRole role)
{
    const double area = std::max(kPlannedArea_m2, wires::areaToCarry(drive.amps));
    return role == PinRole::Supply ? Planned{switchedFeed(job), area, "RD"}
                                   : Planned{powerGround(job, unit), area, "BN"};
}

} // namespace

void drawMissing(job::Job& job, const job::CircuitId& id)
{
    const job::Circuit circuit = *job::find(job, id);
    const parts::Part part = *job::partOf(job, circuit);
    const auto drive = parts::driveOf(part);
    const parts::Ecu unit = drive ? *job::unitOf(job, circuit.output) : *job::unitOf(job, circuit.input);
    const auto seats = job::seatCavities(job, circuit);
    for (const PinRole role : parts::kPinRoles) {
        if (complete(job, circuit, role))
            continue;
        const PointRef from = parts::isSignal(role) ? signalEnd(job, circuit, role) : plugOf(job, circuit, role);
        const Planned planned =
            parts::isSignal(role) && parts::isOnBus(part) ? plannedPair(job, circuit, role)
            : parts::isSignal(role)
                ? Planned{seats.at(parts::legOf(role)), drive ? wires::areaToCarry(drive->amps) : kPlannedArea_m2, {}}
            : drive ? plannedFor(job, *drive, unit, role)
                    : plannedFor(job, part, unit, role);
        drawWire(job, from, planned.to, planned.length_m, planned.area_m2,
                 planned.colour.empty() ? wires::freeColour(job, from, planned.to) : planned.colour);
    }
    layLeads(job, id);
}

} // namespace vicegrip::harness
