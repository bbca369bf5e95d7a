#include "core/wires/joins.h"

#include "core/wires/leads.h"

#include "core/base/fields.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <set>

namespace vicegrip::wires {
namespace {

using job::PointRef;

std::string methodVerb(job::JointMethod method)
{
    switch (method) {
    case job::JointMethod::Crimp:
        return phrase("crimped in ");
    case job::JointMethod::Solder:
        return phrase("soldered in ");
    case job::JointMethod::Tap:
        return phrase("tapped in ");
    }
    return {};
}

/// Where the wires of the job end.
class Endings
{
  public:
    explicit Endings(const job::Job& job) : m_job(job)
    {
        for (const job::Wire& w : job.wires) {
            m_at[w.from].push_back(w.id);
            m_at[w.to].push_back(w.id);
        }
    }

    /// How a wire goes on beyond this end of it; empty where it ends for good.
    [[nodiscard]] std::string beyond(const PointRef& end) const
    {
        if (const job::Joint* j = job::findJoint(m_job, end.owner); j != nullptr)
            return j->kind == job::JointKind::Splice ? phrase("{}{} with {} more", methodVerb(j->method), j->id,
                                                              std::to_string(m_at.at(end).size() - 1))
                                                     : std::string();
        const job::Connector* c = job::findConnector(m_job, end.owner);
        if (c == nullptr || c->kind != job::ConnectorKind::Inline)
            return {};
        const auto other = m_at.find({c->mates, end.cavity});
        return c->id + "-" + c->mates +
               (other == m_at.end() ? phrase(", and not on") : " as " + other->second.front().value);
    }

    [[nodiscard]] size_t wiresAt(const PointRef& place) const
    {
        const auto it = m_at.find(place);
        return it == m_at.end() ? 0 : it->second.size();
    }

  private:
    const job::Job& m_job;
    std::map<PointRef, std::vector<job::WireId>> m_at;
};

/// What every conductor with a purpose is made of: "wire w3".
std::set<std::string> usedSubjects(const job::Job& job, const electrics::Wiring& wiring)
{
    std::set<std::string> out;
    const auto use = [&](const electrics::Path& path) {
        if (path.complete)
            out.insert(path.subjects.begin(), path.subjects.end());
    };
    for (const auto& paths : wiring.paths())
        std::ranges::for_each(paths, use);
    const auto toFixture = [&](const PointRef& from) {
        use(wiring.way(from, [&](const PointRef& place) { return job::isFixture(wiring.joint(place)); }));
    };
    for (const parts::Ecu* unit : job::units(job))
        for (const parts::EcuPin& pin : unit->pins)
            if (pin.role == parts::EcuPinRole::PowerFeed || pin.role == parts::EcuPinRole::KeyFeed ||
                pin.role == parts::EcuPinRole::PowerGround)
                toFixture(PointRef::fromText(pin.at));
    for (const job::Load& l : job.loads) {
        toFixture(l.from);
        toFixture(l.to);
    }
    return out;
}

/// Cavities that a sensor, a load or a unit's power uses: a wire that ends there has a purpose, even unfinished.
std::set<PointRef> usedCavities(const job::Job& job)
{
    std::set<PointRef> out;
    for (const job::Device& d : job.devices)
        if (const parts::Part* sensor = job::findPart(job, d.part))
            for (const auto& [cavity, role] : sensor->pins)
                out.insert({d.connector, cavity});
    for (const job::Load& l : job.loads)
        out.insert({l.from, l.to});
    for (const job::Resistor& r : job.resistors)
        out.insert({r.from, r.to});
    return out;
}

} // namespace

std::map<job::WireId, std::string> through(const job::Job& job)
{
    const Endings endings(job);
    std::map<job::WireId, std::string> out;
    for (const job::Wire& w : job.wires) {
        const std::string near = endings.beyond(w.from), far = endings.beyond(w.to);
        out[w.id] = near.empty() || far.empty() ? near + far : near + "; " + far;
    }
    return out;
}

JointAdvice adviceOn(job::JointMethod method)
{
    switch (method) {
    case job::JointMethod::Crimp:
        return {
            phrase(
                "Strip what the barrel takes, twist nothing, crimp slowly, tug each wire, shrink over it with glue."),
            phrase("Some crimp alone: the sturdier joint, no hard end where the strands would break."),
            {}};
    case job::JointMethod::Solder:
        return {phrase("Hook the strands, wet them through, shrink over it, and tie the wire down beyond the joint: "
                       "strain relief."),
                phrase("Others solder: nothing can work loose, and the joint is sealed by its own metal."),
                phrase("Iron and flux burn; away from fuel vapour, battery lead off.")};
    case job::JointMethod::Tap:
        return {
            phrase("Tape pulled well back, far enough from the plug that its terminal can go home; see that the blade "
                   "bites copper, tug, tape again."),
            phrase("A tap is cheap and adds no plug; about half of hand taps are looked for again (common practice)."),
            {}};
    }
    return {};
}

JointAdvice adviceOnRun(bool throughPair)
{
    if (throughPair)
        return {phrase("Both halves are pinned on the bench, where both faces can be seen, and counted on both."),
                phrase("An adapter or a bulkhead doubles the connectors and costs more, but it comes off again and "
                       "does not depend on a good tap."),
                {}};
    return {phrase("One run without a joint: left long until it is routed, then cut."),
            phrase("A full run has nothing in it that can work loose, and takes the longest to lay."),
            {}};
}

std::vector<job::WireId> unusedWires(const job::Job& job, const electrics::Wiring& wiring)
{
    const std::set<std::string> used = usedSubjects(job, wiring);
    const std::set<PointRef> cavities = usedCavities(job);
    std::vector<job::WireId> out;
    for (const job::Wire& w : job.wires)
        if (!used.contains("wire " + w.id.value) && !cavities.contains(w.from) && !cavities.contains(w.to) &&
            !(job::isFixture(wiring.joint(w.from)) && job::isFixture(wiring.joint(w.to))))
            out.push_back(w.id);
    return out;
}

void removeWires(job::Job& job, const std::vector<job::WireId>& wires)
{
    std::erase_if(job.wires, [&](const job::Wire& w) { return std::ranges::find(wires, w.id) != wires.end(); });
    const Endings left(job);
    const auto lost = [&](const job::Joint& j) {
        const PointRef place{j.id, {}};
        const auto ends = [&](const auto& fitted) { return fitted.from == place || fitted.to == place; };
        return j.kind == job::JointKind::Splice && left.wiresAt(place) == 0 &&
               std::ranges::none_of(job.switches, ends) && std::ranges::none_of(job.resistors, ends) &&
               std::ranges::none_of(job.loads, ends);
    };
    std::erase_if(job.joints, lost);
    dropLostLeads(job);
}

} // namespace vicegrip::wires
