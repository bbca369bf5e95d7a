#include "core/wires/leads.h"

#include "core/parts/conductor.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace vicegrip::wires {
namespace {

using job::PointRef;

std::string freeLead(const job::Job& job)
{
    for (int n = 1;; ++n) {
        std::string id = "L" + std::to_string(n);
        if (std::ranges::find(job.leads, id, &job::Lead::id) == job.leads.end())
            return id;
    }
}

bool isPlace(const job::Job& job, const PointRef& place)
{
    if (const job::Connector* c = job::findConnector(job, place.owner))
        return std::ranges::find(c->cavities, place.cavity) != c->cavities.end();
    return place.cavity.empty() && job::findJoint(job, place.owner) != nullptr;
}

void dropEmpty(job::Job& job)
{
    std::erase_if(job.leads, [](const job::Lead& l) { return l.cores.size() < (l.shield ? 1U : 2U); });
}

void pullOut(job::Job& job, const std::vector<job::WireId>& wires)
{
    for (job::Lead& lead : job.leads)
        std::erase_if(lead.cores, [&](const job::WireId& w) { return std::ranges::find(wires, w) != wires.end(); });
}

} // namespace

double twistFactor(double area_m2)
{
    return std::hypot(1.0, std::numbers::pi * parts::outerDiameter(area_m2) / kTwistPitch_m);
}

std::vector<job::WireId> besides(const job::Job& job, const job::WireId& wire)
{
    std::vector<job::WireId> out = {wire};
    const auto self = std::ranges::find(job.wires, wire, &job::Wire::id);
    if (self == job.wires.end())
        return out;
    const auto isDevice = [&](const PointRef& end) {
        return !end.cavity.empty() &&
               std::ranges::find(job.devices, end.owner, &job::Device::connector) != job.devices.end();
    };
    const PointRef& plug = isDevice(self->from) ? self->from : self->to;
    if (!isDevice(plug))
        return out;
    for (const job::Wire& w : job.wires)
        if (w.id != wire && (w.from.owner == plug.owner || w.to.owner == plug.owner))
            out.push_back(w.id);
    return out;
}

void dropLostLeads(job::Job& job)
{
    if (job.leads.empty())
        return;
    std::set<job::WireId> wires;
    for (const job::Wire& w : job.wires)
        wires.insert(w.id);
    for (job::Lead& lead : job.leads) {
        std::erase_if(lead.cores, [&](const job::WireId& w) { return !wires.contains(w); });
        std::erase_if(lead.drain, [&](const PointRef& place) { return !isPlace(job, place); });
    }
    dropEmpty(job);
}

void setLead(job::Job& job, const std::vector<job::WireId>& cores, bool shield, std::vector<PointRef> drain)
{
    const job::Lead* before = job::leadOf(job, cores.front());
    const std::string id = before != nullptr ? before->id : freeLead(job);
    pullOut(job, cores);
    std::erase_if(job.leads, [&](const job::Lead& l) { return l.id == id; });
    dropEmpty(job);
    job::Lead& lead = job.leads.emplace_back();
    lead.id = id;
    lead.cores = cores;
    lead.shield = shield;
    if (shield)
        lead.drain = std::move(drain);
    dropEmpty(job);
}

void takeLead(job::Job& job, const job::WireId& wire)
{
    if (const job::Lead* lead = job::leadOf(job, wire))
        std::erase_if(job.leads, [id = lead->id](const job::Lead& l) { return l.id == id; });
}

} // namespace vicegrip::wires
