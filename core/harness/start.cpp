#include "core/harness/start.h"

#include "core/electrics/battery.h"
#include "core/harness/edits.h"
#include "core/harness/places.h"
#include "core/harness/unit_port.h"

#include <algorithm>

/// Jobs at their beginning: battery, feed, ground and the ECU on them.
namespace vicegrip::harness {
namespace {

using job::PointRef;
using parts::EcuPinRole;

constexpr double kStrap_m2 = 25 * 1e-6; ///< as a file that says 25 mm² is read

void addPlugs(job::Job& job, const std::vector<parts::EcuPlug>& plugs)
{
    for (const parts::EcuPlug& p : plugs)
        job.connectors.push_back({p.id, p.label, job::ConnectorKind::Ecu, {}, p.cavities, p.layout, false, {}});
}

/// Wires a unit's feeds and grounds.
void power(job::Job& job, const parts::Ecu& unit, const PointRef& feed, const PointRef& ground)
{
    for (const parts::EcuPin& pin : unit.pins) {
        const PointRef at = PointRef::fromText(pin.at);
        if (pin.role == EcuPinRole::PowerFeed || pin.role == EcuPinRole::KeyFeed)
            drawWire(job, feed, at, 1.0, 1.5e-6, "RD");
        if (pin.role == EcuPinRole::PowerGround)
            drawWire(job, at, ground, 1.0, 1.5e-6, "BK");
    }
}

PointRef groundStud(const job::Job& job)
{
    for (const job::Joint& j : job.joints)
        if (j.kind == job::JointKind::Stud)
            return {j.id, {}};
    for (const job::Joint& j : job.joints)
        if (j.kind == job::JointKind::BatteryNegative)
            return {j.id, {}};
    return {};
}

/// A name of the profile that the job does not use yet.
std::string renamed(const std::string& name, int copy)
{
    return copy == 1 ? name : name + "-" + std::to_string(copy);
}

bool clashes(const job::Job& job, const parts::EcuProfile& profile, int copy)
{
    const auto seatTaken = [&](const auto& seat) { // an input and an output share no name either
        const std::string name = renamed(seat.id.value, copy);
        return job::findInput(job, parts::InputId{name}) != nullptr ||
               job::findOutput(job, parts::OutputId{name}) != nullptr;
    };
    return std::ranges::any_of(profile.plugs,
                               [&](const parts::EcuPlug& p) {
                                   return job::findConnector(job, renamed(p.id, copy)) != nullptr ||
                                          job::findJoint(job, renamed(p.id, copy)) != nullptr;
                               }) ||
           std::ranges::any_of(profile.ecu.inputs, seatTaken) || std::ranges::any_of(profile.ecu.outputs, seatTaken);
}

} // namespace

job::Job startJob(const std::string& name, const parts::EcuProfile& profile)
{
    job::Job job;
    job.name = name;
    job.joints = {{"BAT+", "Battery positive post", job::JointKind::BatteryPositive, {}},
                  {"BAT-", "Battery negative post", job::JointKind::BatteryNegative, {}},
                  {"F1", "Main fuse outlet", job::JointKind::Splice, {}},
                  {"SW", "Switched 12 V splice", job::JointKind::Splice, {}},
                  {"G1", "Block stud, ECU", job::JointKind::Stud, "block"},
                  {"G2", "Block strap", job::JointKind::Stud, "block"}};
    job.switches = {{.id = "fuse-1",
                     .label = "Main fuse",
                     .from = {"BAT+", {}},
                     .to = {"F1", {}},
                     .ohm = 0.004,
                     .kind = job::SwitchKind::Fuse},
                    {.id = "K1",
                     .label = "Main relay",
                     .from = {"F1", {}},
                     .to = {"SW", {}},
                     .ohm = 0.015,
                     .needsKey = true,
                     .kind = job::SwitchKind::Relay}};
    drawWire(job, {"G2", {}}, {"BAT-", {}}, 0.6, kStrap_m2, "BK");
    job.loads = {{.id = "starter",
                  .label = "Starter",
                  .from = {"BAT+", {}},
                  .to = {"G2", {}},
                  .current_a = electrics::kStarter_a,
                  .starter = true}};
    job.ecu = profile.ecu;
    addPlugs(job, profile.plugs);
    power(job, job.ecu, {"SW", {}}, {"G1", {}});
    return job;
}

job::Job anotherLike(job::Job job, const std::string& name)
{
    job.name = name;
    job.proofs.clear();
    job.clicks.clear();
    job.wiggles.clear();
    job.handTurns.clear();
    job.decoded.clear();
    job.passed.clear();
    job.mends.clear();
    job.photos.clear();
    job.logReviews.clear();
    job.logMarks.clear(); // the same logger names its columns as before
    job.pinned.clear();
    job.workSteps.done.clear();
    job.workSteps.closed.clear();
    job.log.clear();
    for (job::Circuit& c : job.circuits) {
        c.captured.clear();
        c.limits.reset();
        if (c.roadSpeed)
            c.roadSpeed->runPulses = 0;
        if (c.trigger) { // another car's wheel is like this one's; how its sensor stands is not
            c.trigger->gap_m = 0;
            c.trigger->lies_deg.reset();
            c.trigger->beside_m.reset();
            c.trigger->feelers_m.clear();
            c.trigger->light.clear();
        }
    }
    if (job.tank) {
        job.tank->baseline.reset();
        job.tank->when.clear();
    }
    return job;
}

Result<void> setEcu(job::Job& job, const parts::EcuProfile& profile)
{
    for (size_t i = 0; i < job.circuits.size(); ++i)
        if (job::unitOf(job, job.circuits[i].input) == &job.ecu || job::unitOf(job, job.circuits[i].output) == &job.ecu)
            if (auto freed = unseat(job, job::CircuitId(job.circuits[i].id)); !freed)
                return freed;
    std::set<std::string> plugs;
    for (const parts::EcuPin& pin : job.ecu.pins)
        plugs.insert(PointRef::fromText(pin.at).owner);
    const auto inPlug = [&](const auto& conductor) {
        return plugs.contains(conductor.from.owner) || plugs.contains(conductor.to.owner);
    };
    std::erase_if(job.wires, inPlug);
    std::erase_if(job.resistors, inPlug);
    std::erase_if(job.switches, inPlug);
    std::erase_if(job.connectors, [&](const job::Connector& c) { return plugs.contains(c.id); });
    job.ecu = profile.ecu;
    addPlugs(job, profile.plugs);
    dropLost(job);
    power(job, job.ecu, switchedFeed(job), groundStud(job));
    return {};
}

void addExpander(job::Job& job, const parts::EcuProfile& profile)
{
    int copy = 1;
    while (clashes(job, profile, copy))
        ++copy;
    parts::EcuProfile unit = profile;
    for (parts::EcuPlug& p : unit.plugs)
        p.id = renamed(p.id, copy);
    for (parts::EcuInput& i : unit.ecu.inputs)
        i.id.value = renamed(i.id.value, copy);
    for (parts::EcuOutput& o : unit.ecu.outputs)
        o.id.value = renamed(o.id.value, copy);
    for (parts::EcuPin& pin : unit.ecu.pins) {
        PointRef at = PointRef::fromText(pin.at);
        at.owner = renamed(at.owner, copy);
        pin.at = at.text();
        if (!pin.input.empty())
            pin.input.value = renamed(pin.input.value, copy);
        if (!pin.output.empty())
            pin.output.value = renamed(pin.output.value, copy);
    }
    addPlugs(job, unit.plugs);
    job.expanders.push_back(unit.ecu);
    power(job, unit.ecu, switchedFeed(job), groundStud(job));
    joinPort(job, unit.ecu);
}

} // namespace vicegrip::harness
