#include "core/electrics/battery.h"

#include <algorithm>

namespace vicegrip::electrics {
namespace {

using circuit::kReference;
using circuit::Network;
using circuit::Node;
using job::Condition;

constexpr double kLoadTolerance = 0.3; ///< of what a load draws (typical)
constexpr double kStarterTolerance = 0.4; ///< cold oil, compression, wear (typical)
constexpr double kRegulated_ohm = 0.003; ///< between the post and an alternator that holds its volts (typical)

/// That draws `amps` through the battery's own resistance; a battery that cannot deliver them is at its end.
void addStarter(Network& net, const job::Battery& battery, Node from, Node to, double amps, std::string subject)
{
    const double ohm = std::max(battery.volts / amps - battery.ohm, battery.ohm);
    net.addResistor(from, to, ohm, {ohm * kStarterTolerance}, std::move(subject));
}

void addLoads(Network& net, const job::Job& job, double battery_v, const NodeAt& at)
{
    for (const job::Load& l : job.loads) {
        if (l.starter)
            continue;
        const double ohm = battery_v / l.current_a;
        const auto load = net.addResistor(at(l.from), at(l.to), ohm, {ohm * kLoadTolerance}, "load " + l.id);
        net.setBounds(load, ohm, ohm * (1 - kLoadTolerance), kOff_ohm);
    }
}

void addStarters(Network& net, const job::Job& job, Node post, const NodeAt& at)
{
    const auto count = std::ranges::count(job.loads, true, &job::Load::starter);
    for (const job::Load& l : job.loads)
        if (l.starter)
            addStarter(net, job.battery, at(l.from), at(l.to), l.current_a, "load " + l.id);
    if (count == 0)
        addStarter(net, job.battery, post, kReference, kStarter_a, "battery");
}

} // namespace

double batteryVolts(const job::Battery& battery, Condition condition)
{
    return condition == Condition::Running ? battery.charging_v : battery.volts;
}

void addBatteryAndLoads(Network& net, const job::Job& job, Condition condition, double battery_v, const NodeAt& at)
{
    if (!job::isLive(condition))
        return;
    if (job::engineTurns(condition))
        addLoads(net, job, battery_v, at);
    const auto post = std::ranges::find(job.joints, job::JointKind::BatteryPositive, &job::Joint::kind);
    if (post == job.joints.end())
        return;
    const Node inside = net.addNode(), outside = at({post->id, {}});
    const bool charging = condition == Condition::Running;
    const double ohm = charging ? kRegulated_ohm : job.battery.ohm;
    const char* subject = charging ? "charging" : "battery";
    net.addVoltageSource(inside, kReference, battery_v, {job.battery.tolerance_v}, subject);
    net.addResistor(inside, outside, ohm, {ohm / 2}, subject);
    if (condition == Condition::Cranking)
        addStarters(net, job, outside, at);
}

bool isClosed(const job::Switch& contact, Condition condition)
{
    return !(contact.needsKey && !job::isLive(condition)) && (contact.coil.empty() || job::engineTurns(condition)) &&
           !(contact.opensCranking && condition == Condition::Cranking);
}

} // namespace vicegrip::electrics
