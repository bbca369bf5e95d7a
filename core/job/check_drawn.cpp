#include "core/base/joined.h"
#include "core/job/named.h"

#include <algorithm>
#include <set>

/// What is drawn: every end is a place, and what lies along it holds together.
namespace vicegrip::job {
namespace {

Result<void> checkEnds(const Named& named, const PointRef& from, const PointRef& to, std::string_view list,
                       size_t index)
{
    if (from == to)
        return bad(ErrorCode::Reference, at(list, index), phrase("both ends are at {}", from.text()));
    return checkPoint(named, from, at(list, index, "from")).and_then([&] {
        return checkPoint(named, to, at(list, index, "to"));
    });
}

Result<void> checkConnectors(const Job& job, const Named& named)
{
    for (size_t i = 0; i < job.connectors.size(); ++i) {
        const Connector& c = job.connectors[i];
        if (auto cavities = distinct("connectors/" + std::to_string(i) + "/cavities", c.cavities,
                                     [](const std::string& s) { return std::string_view(s); });
            !cavities)
            return cavities;
        if (c.layout)
            if (auto fits = parts::checkCavities(*c.layout, c.cavities); !fits)
                return bad(fits.error().code, at("connectors", i) + fits.error().place.pointer, fits.error().sentence);
        if (c.kind != ConnectorKind::Inline)
            continue;
        const Connector* other = named.connector(c.mates);
        if (other == nullptr || other->mates != c.id)
            return bad(ErrorCode::Reference, at("connectors", i, "mates"),
                       phrase("the halves of an inline pair must name each other"));
    }
    return {};
}

Result<void> checkWiring(const Job& job, const Named& named)
{
    for (size_t i = 0; i < job.wires.size(); ++i)
        if (auto ends = checkEnds(named, job.wires[i].from, job.wires[i].to, "wires", i); !ends)
            return ends;
    for (size_t i = 0; i < job.switches.size(); ++i)
        if (auto ends = checkEnds(named, job.switches[i].from, job.switches[i].to, "switches", i); !ends)
            return ends;
    for (size_t i = 0; i < job.resistors.size(); ++i)
        if (auto ends = checkEnds(named, job.resistors[i].from, job.resistors[i].to, "resistors", i); !ends)
            return ends;
    for (size_t i = 0; i < job.loads.size(); ++i)
        if (auto ends = checkEnds(named, job.loads[i].from, job.loads[i].to, "loads", i); !ends)
            return ends;
    return {};
}

/// A relay's contact is pulled in by something that the ECU drives.
Result<void> checkCoils(const Job& job, const Named& named)
{
    for (size_t i = 0; i < job.switches.size(); ++i) {
        const Switch& s = job.switches[i];
        if (s.coil.empty())
            continue;
        const Device* device = named.device(s.coil);
        const parts::Part* part = device == nullptr ? nullptr : named.part(device->part.value);
        if (part == nullptr || !parts::isDriven(*part) || parts::isOnBus(*part))
            return bad(ErrorCode::Reference, at("switches", i, "coil"),
                       phrase("there is no coil \"{}\" that the ECU drives", s.coil));
    }
    return {};
}

/// A wire lies in one lead at most.
Result<void> checkLeads(const Job& job, const Named& named)
{
    std::set<std::string_view> used;
    for (size_t i = 0; i < job.leads.size(); ++i) {
        const Lead& lead = job.leads[i];
        if (lead.cores.size() < (lead.shield ? 1U : 2U))
            return bad(ErrorCode::Range, at("leads", i, "cores"), phrase("one wire alone cannot be twisted"));
        if (!lead.drain.empty() && !lead.shield)
            return bad(ErrorCode::Range, at("leads", i, "drain"), phrase("without a shield there is no drain"));
        if (lead.drain.size() == 2 && lead.drain[0] == lead.drain[1])
            return bad(ErrorCode::Reference, at("leads", i, "drain"),
                       phrase("both ends are at {}", lead.drain[0].text()));
        for (const WireId& core : lead.cores) {
            if (named.wire(core.value) == nullptr)
                return bad(ErrorCode::Reference, at("leads", i, "cores"),
                           phrase("there is no wire \"{}\"", core.value));
            if (!used.insert(core.value).second)
                return bad(ErrorCode::Reference, at("leads", i, "cores"),
                           phrase("wire {} lies in a lead already", core.value));
        }
        for (const PointRef& place : lead.drain)
            if (auto there = checkPoint(named, place, at("leads", i, "drain")); !there)
                return there;
    }
    return {};
}

/// The stretches must be a tree: two ways between two places would leave the path of a wire open.
Result<void> checkBranches(const Job& job)
{
    Joined<std::string> places;
    for (size_t i = 0; i < job.branches.size(); ++i) {
        const Branch& b = job.branches[i];
        if (b.from == b.to)
            return bad(ErrorCode::Reference, at("branches", i), phrase("both ends are at {}", b.from));
        if (!places.join(b.from, b.to))
            return bad(ErrorCode::Reference, at("branches", i),
                       phrase("there is a way from {} to {} already: a harness with a ring in it", b.from, b.to));
    }
    return {};
}

Result<void> checkOldPlugs(const Job& job, const Named& named)
{
    std::set<std::string> replaced;
    for (size_t i = 0; i < job.oldPlugs.size(); ++i) {
        const OldPlug& old = job.oldPlugs[i];
        if (named.connector(old.connector) == nullptr)
            return bad(ErrorCode::Reference, at("old_plugs", i, "connector"),
                       phrase("there is no connector \"{}\"", old.connector));
        if (!replaced.insert(old.connector).second)
            return bad(ErrorCode::Reference, at("old_plugs", i, "connector"),
                       phrase("another old plug is replaced by {} already", old.connector));
        if (auto cavities = distinct("old_plugs/" + std::to_string(i) + "/pins", old.pins,
                                     [](const OldPin& p) { return std::string_view(p.cavity); });
            !cavities)
            return cavities;
    }
    return {};
}

} // namespace

Result<void> checkDrawn(const Job& job, const Named& named)
{
    return checkConnectors(job, named)
        .and_then([&] { return checkWiring(job, named); })
        .and_then([&] { return checkCoils(job, named); })
        .and_then([&] { return checkLeads(job, named); })
        .and_then([&] { return checkBranches(job); })
        .and_then([&] { return checkOldPlugs(job, named); });
}

} // namespace vicegrip::job
