#include "core/harness/relay_feed.h"

#include "core/base/phrase.h"
#include "core/harness/places.h"
#include "core/wires/area.h"

#include <algorithm>

namespace vicegrip::harness {
namespace {

using job::PointRef;

constexpr double kLead_m = 1.5; ///< planned, until somebody measures

std::string freeSwitch(const job::Job& job, const std::string& prefix)
{
    for (int n = 1;; ++n) {
        std::string id = prefix + std::to_string(n);
        if (std::ranges::find(job.switches, id, &job::Switch::id) == job.switches.end())
            return id;
    }
}

/// A post of the battery; the unit's own ground where nobody has drawn it.
PointRef returnOf(const job::Job& job)
{
    const auto post = std::ranges::find(job.joints, job::JointKind::BatteryNegative, &job::Joint::kind);
    return post == job.joints.end() ? powerGround(job, job.ecu) : PointRef{post->id, {}};
}

PointRef splice(job::Job& job, const std::string& prefix, const std::string& label)
{
    job::Joint joint;
    joint.id = freeName(job, prefix);
    joint.label = label;
    job.joints.push_back(joint);
    return {joint.id, {}};
}

} // namespace

void addRelayFeed(job::Job& job, const std::string& id, const std::string& name, double amps, double fuse_a)
{
    const auto post = std::ranges::find(job.joints, job::JointKind::BatteryPositive, &job::Joint::kind);
    if (post == job.joints.end())
        return;
    const PointRef battery{post->id, {}};
    const PointRef fused = splice(job, "F", phrase("Fuse outlet, {}", name));
    const PointRef fed = splice(job, "S", phrase("Feed of {}", name));
    job::Switch fuse;
    fuse.id = freeSwitch(job, "fuse-");
    fuse.label = phrase("Fuse of {}", name);
    fuse.from = battery;
    fuse.to = fused;
    fuse.ohm = 0.004;
    fuse.kind = job::SwitchKind::Fuse;
    fuse.rating_a = fuse_a;
    job::Switch contact;
    contact.id = freeSwitch(job, "K");
    contact.label = phrase("Relay of {}", name);
    contact.from = fused;
    contact.to = fed;
    contact.needsKey = true;
    contact.kind = job::SwitchKind::Relay;
    job.switches.push_back(fuse);
    job.switches.push_back(contact);
    job::Connector plug;
    plug.id = freeName(job, id + "-M");
    plug.label = phrase("{} plug", name);
    plug.kind = job::ConnectorKind::Load;
    plug.cavities = {"1", "2"};
    job.connectors.push_back(plug);
    job::Load load;
    load.id = plug.id;
    load.label = name;
    load.from = {plug.id, "1"};
    load.to = {plug.id, "2"};
    load.current_a = amps;
    job.loads.push_back(load);
    const double area = std::max(wires::areaToCarry(amps), wires::areaBehind(fuse_a));
    drawWire(job, fed, load.from, kLead_m, area, "RD");
    drawWire(job, load.to, returnOf(job), kLead_m, area, "BN");
}

} // namespace vicegrip::harness
