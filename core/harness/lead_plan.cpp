#include "core/harness/lead_plan.h"

#include "core/electrics/wiring.h"
#include "core/harness/bus_wires.h"
#include "core/harness/missing_wires.h"
#include "core/wires/leads.h"

#include <algorithm>

namespace vicegrip::harness {
namespace {

using job::PointRef;
using parts::PinRole;

/// The wires of a conductor, from its plug on.
std::vector<const job::Wire*> wiresOf(const job::Job& job, const electrics::Path& path)
{
    std::vector<const job::Wire*> out;
    for (const std::string& subject : path.subjects)
        for (const job::Wire& w : job.wires)
            if (subject == "wire " + w.id.value)
                out.push_back(&w);
    return out;
}

const electrics::Path* pathOf(const std::vector<electrics::Path>& paths, PinRole role)
{
    const auto it = std::ranges::find(paths, role, &electrics::Path::role);
    return it == paths.end() || !it->complete ? nullptr : &*it;
}

/// Side by side, wire by wire; short stubs lie as they come.
void twistBus(job::Job& job, const std::vector<electrics::Path>& paths)
{
    const auto *high = pathOf(paths, PinRole::Signal), *low = pathOf(paths, PinRole::Signal2);
    if (high == nullptr || low == nullptr)
        return;
    const auto highs = wiresOf(job, *high), lows = wiresOf(job, *low);
    std::vector<std::vector<job::WireId>> pairs;
    for (size_t i = 0; i < std::min(highs.size(), lows.size()); ++i)
        if (job::leadOf(job, highs[i]->id) == nullptr && job::leadOf(job, lows[i]->id) == nullptr &&
            highs[i]->length_m > kLongestStub_m)
            pairs.push_back({highs[i]->id, lows[i]->id});
    for (const auto& pair : pairs)
        wires::setLead(job, pair, false, {});
}

void shieldTrigger(job::Job& job, const parts::Ecu& unit, const std::vector<electrics::Path>& paths)
{
    const electrics::Path* signal = pathOf(paths, PinRole::Signal);
    const auto run = signal == nullptr ? std::vector<const job::Wire*>{} : wiresOf(job, *signal);
    if (run.empty() || job::leadOf(job, run.front()->id) != nullptr)
        return;
    const job::WireId first = run.front()->id;
    const DrainPlaces places = drainPlaces(job, unit);
    wires::setLead(job, wires::besides(job, first), true,
                   places.atEcu.empty() ? std::vector<PointRef>{} : std::vector{places.atEcu});
}

} // namespace

void layLeads(job::Job& job, const job::CircuitId& id)
{
    const job::Circuit& circuit = *job::find(job, id);
    const parts::Part& part = *job::partOf(job, circuit);
    if (parts::isOnBus(part))
        twistBus(job, electrics::Wiring(job).paths(circuit));
    else if (parts::traitsOf(part).alternating)
        shieldTrigger(job, *job::unitOf(job, circuit.input), electrics::Wiring(job).paths(circuit));
}

DrainPlaces drainPlaces(const job::Job& job, const parts::Ecu& unit)
{
    DrainPlaces out;
    const electrics::Wiring wiring(job);
    for (const parts::EcuPin& pin : unit.pins) { // the splice of its sensor grounds, else a cavity of them
        if (pin.role != parts::EcuPinRole::SensorGround || !out.atEcu.empty())
            continue;
        const auto way = wiring.way(PointRef::fromText(pin.at), [&](const PointRef& p) {
            const job::Joint* joint = wiring.joint(p);
            return joint != nullptr && joint->kind == job::JointKind::Splice;
        });
        out.atEcu = way.complete ? way.points.back() : PointRef::fromText(pin.at);
    }
    for (const job::Joint& joint : job.joints)
        if (joint.kind == job::JointKind::Stud && out.atMetal.empty())
            out.atMetal = {joint.id, {}};
    return out;
}

} // namespace vicegrip::harness
