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
    const PointRef post = job::negativePost(job);
    return post.owner.empty() ? powerGround(job, job.ecu) : post;
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

PointRef addFuse(job::Job& job, const std::string& name, const PointRef& from, double rating_a)
{
    const PointRef fused = splice(job, "F", phrase("Fuse outlet, {}", name));
    job::Switch& fuse = job.switches.emplace_back();
    fuse.id = freeSwitch(job, "fuse-");
    fuse.label = phrase("Fuse of {}", name);
    fuse.from = from;
    fuse.to = fused;
    fuse.ohm = 0.004;
    fuse.kind = job::SwitchKind::Fuse;
    fuse.rating_a = rating_a;
    return fused;
}

void addRelayContact(job::Job& job, const RelayFed& fed)
{
    const auto post = std::ranges::find(job.joints, job::JointKind::BatteryPositive, &job::Joint::kind);
    if (post == job.joints.end())
        return;
    const PointRef fused = addFuse(job, fed.name, {post->id, {}}, fed.fuse_a);
    const PointRef feed = splice(job, "S", phrase("Feed of {}", fed.name));
    job::Switch& contact = job.switches.emplace_back();
    contact.id = freeSwitch(job, "K");
    contact.label = phrase("Relay of {}", fed.name);
    contact.from = fused;
    contact.to = feed;
    contact.needsKey = true;
    contact.kind = job::SwitchKind::Relay;
    contact.coil = fed.coil;
    drawWire(job, feed, fed.to, kLead_m, std::max(wires::areaToCarry(fed.amps), wires::areaBehind(fed.fuse_a)), "RD");
}

void addRelayFeed(job::Job& job, const job::Device& coil, const std::string& name, double amps, double fuse_a)
{
    job::Connector plug;
    plug.id = freeName(job, coil.connector + "-M");
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
    addRelayContact(job, {name, coil.id.value, load.from, amps, fuse_a});
    drawWire(job, load.to, returnOf(job), kLead_m, std::max(wires::areaToCarry(amps), wires::areaBehind(fuse_a)), "BN");
}

} // namespace vicegrip::harness
