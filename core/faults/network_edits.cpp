#include "core/faults/network_edits.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace vicegrip::faults {

std::string missingWire(const job::Job& job, const job::WireId& wire)
{
    return std::ranges::find(job.wires, wire, &job::Wire::id) != job.wires.end() ? ""
                                                                                 : phrase("wire \"{}\"", wire.value);
}

std::string missingCavity(const job::Job& job, const job::PointRef& cavity)
{
    const job::Connector* c = job::findConnector(job, cavity.owner);
    return c != nullptr && std::ranges::find(c->cavities, cavity.cavity) != c->cavities.end()
               ? ""
               : phrase("cavity \"{}\"", cavity.text());
}

std::string missingPlace(const job::Job& job, const job::PointRef& place)
{
    const bool joint = place.cavity.empty() && job::findJoint(job, place.owner) != nullptr;
    return joint || missingCavity(job, place).empty() ? "" : phrase("place \"{}\"", place.text());
}

Subjects wiresAt(const job::Job& job, const std::vector<job::PointRef>& cavities)
{
    Subjects out;
    for (const job::PointRef& at : cavities)
        for (const job::Wire& w : job.wires)
            if (!at.cavity.empty() && (w.from == at || w.to == at))
                out.insert("wire " + w.id.value);
    return out;
}

Subjects contactAt(const job::Job& job, const job::PointRef& cavity)
{
    const job::Connector* plug = job::findConnector(job, cavity.owner);
    if (plug == nullptr || plug->kind != job::ConnectorKind::Inline || plug->mates.empty())
        return wiresAt(job, {cavity});
    return {"contact " + std::min(plug->id, plug->mates) + "." + cavity.cavity};
}

bool isIn(const Subjects& subjects, const job::Mend& mend)
{
    return std::ranges::all_of(subjects,
                               [&](const std::string& s) { return std::ranges::count(mend.subjects, s) > 0; });
}

void permute(job::Job& job, const std::string& connector, const std::map<std::string, std::string>& to)
{
    for (job::Wire& w : job.wires)
        for (job::PointRef* end : {&w.from, &w.to})
            if (const auto other = to.find(end->cavity); end->owner == connector && other != to.end())
                end->cavity = other->second;
}

} // namespace vicegrip::faults
