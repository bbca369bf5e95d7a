#include "core/findings/shared_checks.h"

#include "core/base/joined.h"
#include "core/base/phrase.h"
#include "core/brief/banks.h"
#include "core/brief/driven_needs.h"
#include "core/brief/firing_order.h"
#include "core/feeds/feeds.h"

#include <algorithm>
#include <map>
#include <set>

namespace vicegrip::findings {
namespace {

using electrics::Path;
using job::PointRef;
using parts::PinRole;

std::string namesOf(const std::vector<const job::Circuit*>& circuits)
{
    std::string out;
    for (size_t i = 0; i < circuits.size(); ++i)
        out += (i == 0 ? "" : i + 1 == circuits.size() ? phrase(" and ") : ", ") + circuits[i]->name;
    return out;
}

/// The output its wire leads to, wherever it has its seat; empty for none, and for a bus, which many share.
parts::OutputId reached(const electrics::Wiring& wiring, const job::Circuit& circuit, const Path& signal)
{
    const Path way = signal.complete ? signal : wiring.way(signal.points.front(), [&](const PointRef& p) {
        const parts::EcuPin* pin = wiring.ecuPin(p);
        return pin != nullptr && pin->role == parts::EcuPinRole::Output;
    });
    const parts::EcuPin* pin = way.complete ? wiring.ecuPin(way.points.back()) : nullptr;
    const parts::Part* part = job::actuatorOf(wiring.job(), circuit);
    return pin == nullptr || part == nullptr || parts::isOnBus(*part) ? parts::OutputId{} : pin->output;
}

bool areCompanions(const job::Job& job, const std::vector<const job::Circuit*>& circuits)
{
    if (!job.brief || job.brief->ignition != job::Ignition::Sequential || circuits.size() != 2)
        return false;
    const auto one = brief::cylinderOf(circuits[0]->function, *job.brief);
    const auto other = brief::cylinderOf(circuits[1]->function, *job.brief);
    return one && other && brief::companionOf(job.brief->firingOrder, *one) == other;
}

void sharedDrivers(std::vector<Finding>& out, const electrics::Wiring& wiring,
                   const std::vector<std::vector<Path>>& paths)
{
    const job::Job& job = wiring.job();
    std::map<parts::OutputId, std::vector<const job::Circuit*>> on;
    for (size_t i = 0; i < job.circuits.size(); ++i)
        for (const Path& path : paths[i])
            if (path.role == PinRole::Signal)
                if (const parts::OutputId id = reached(wiring, job.circuits[i], path); !id.empty())
                    on[id].push_back(&job.circuits[i]);
    for (const auto& [id, circuits] : on) {
        const parts::EcuOutput* output = job::findOutput(job, id);
        if (circuits.size() < 2 || output == nullptr)
            continue;
        double amps = 0;
        for (const job::Circuit* c : circuits)
            amps += parts::driveOf(*job::actuatorOf(job, *c))->amps;
        const bool logic = output->can(parts::OutputKind::Logic), many = !logic && amps > output->most_a;
        const std::string all = namesOf(circuits);
        if (areCompanions(job, circuits))
            out.push_back(
                {"companions-together", Severity::Stop, circuits.front()->id,
                 phrase("{} hang on output {} together, and one cylinder at a time is asked for", all, id.value),
                 phrase("They are half a firing order apart: each works in the other's exhaust stroke too."),
                 phrase("Give each an output of its own, or say at Brief that they work as a pair.")});
        else
            out.push_back(
                {"driver-shared", many ? Severity::Stop : Severity::Fix, circuits.front()->id,
                 many ? phrase("{} hang on output {} together: {}, and it carries {}", all, id.value,
                               feeds::ampsText(amps), feeds::ampsText(output->most_a))
                      : phrase("{} hang on output {} together, {} in all", all, id.value, feeds::ampsText(amps)),
                 many ? phrase("The output switches itself off, or burns.")
                      : phrase("The ECU can only drive them together, and a click works both."),
                 phrase("Bring each wire to an output of its own.")});
    }
}

/// Coils of both banks whose grounds all end at one bolt: the far bank's current returns through the near head.
void bankGrounds(std::vector<Finding>& out, const electrics::Wiring& wiring,
                 const std::vector<std::vector<Path>>& paths)
{
    const job::Job& job = wiring.job();
    if (!job.brief || job.brief->banks.size() != 2)
        return;
    std::map<std::string, std::set<PointRef>> ends; // by bank
    double amps = 0;
    for (size_t i = 0; i < job.circuits.size(); ++i) {
        const parts::Part* part = job::actuatorOf(job, job.circuits[i]);
        const std::string bank = brief::bankOfDriven(job.circuits[i].function, *job.brief);
        if (part == nullptr || part->kind != parts::PartUse::IgnitionCoil || bank.empty())
            continue;
        for (const Path& path : paths[i])
            if (path.role == PinRole::Ground && path.complete) {
                ends[bank].insert(path.points.back());
                amps += feeds::heating(*part);
            }
    }
    const std::string &one = job.brief->banks[0].name, &two = job.brief->banks[1].name;
    if (!ends.contains(one) || ends[one].size() != 1 || ends[one] != ends[two])
        return;
    const std::string bolt = job::spoken(job, *ends[one].begin());
    out.push_back(
        {"bank-grounds",
         Severity::Fix,
         {},
         phrase("The coils of both banks ({} and {}) return at {}, {} in all", one, two, bolt, feeds::ampsText(amps)),
         phrase("Each spark returns through the head it jumps in: without a ground on that head it finds "
                "another way, through sensors and the ECU."),
         phrase("Give each head a ground of its own for the coils that sit on it (common practice).")});
}

} // namespace

void checkShared(std::vector<Finding>& out, const electrics::Wiring& wiring,
                 const std::vector<std::vector<Path>>& paths)
{
    sharedDrivers(out, wiring, paths);
    bankGrounds(out, wiring, paths);
}

void checkRelayLoops(std::vector<Finding>& out, const job::Job& job)
{
    // Contacts without a coil close by themselves; those with one as soon as their coil has a feed. What is never
    // closed that way, and would be if all were, waits for itself.
    const auto joinStill = [&](Joined<PointRef>& joined) {
        for (const job::Wire& w : job.wires)
            joined.join(w.from, w.to);
        for (const job::Connector& c : job.connectors)
            if (c.kind == job::ConnectorKind::Inline)
                for (const std::string& cavity : c.cavities)
                    joined.join({c.id, cavity}, {c.mates, cavity});
        for (const job::Switch& s : job.switches)
            if (s.coil.empty())
                joined.join(s.from, s.to);
    };
    const auto post = std::ranges::find(job.joints, job::JointKind::BatteryPositive, &job::Joint::kind);
    if (post == job.joints.end())
        return;
    const PointRef battery{post->id, {}};
    const auto feedOf = [&](const job::Switch& s) {
        const job::Device* device = job::find(job, job::DeviceId{s.coil});
        const parts::Part* part = device == nullptr ? nullptr : job::findPart(job, device->part);
        const std::string cavity = part == nullptr ? std::string() : parts::cavityOf(*part, PinRole::Supply);
        return cavity.empty() ? PointRef{} : PointRef{device->connector, cavity};
    };
    std::vector<const job::Switch*> waiting;
    for (const job::Switch& s : job.switches)
        if (!s.coil.empty() && !feedOf(s).empty())
            waiting.push_back(&s);
    Joined<PointRef> now, everyClosed;
    joinStill(now);
    joinStill(everyClosed);
    for (const job::Switch* s : waiting)
        everyClosed.join(s->from, s->to);
    for (bool moved = true; moved;) {
        const auto fed =
            std::ranges::find_if(waiting, [&](const job::Switch* s) { return now.of(feedOf(*s)) == now.of(battery); });
        moved = fed != waiting.end();
        if (!moved)
            break;
        now.join((*fed)->from, (*fed)->to);
        waiting.erase(fed);
    }
    std::erase_if(waiting, [&](const job::Switch* s) { return everyClosed.of(feedOf(*s)) != everyClosed.of(battery); });
    if (waiting.empty())
        return;
    std::string names;
    for (const job::Switch* s : waiting)
        names += (names.empty() ? "" : ", ") + (s->label.empty() ? s->id : s->label);
    out.push_back({"relay-loop",
                   Severity::Stop,
                   {},
                   waiting.size() == 1 ? phrase("The coil of {} is fed through its own contact", names)
                                       : phrase("{} feed each other's coils", names),
                   phrase("Each waits for the other to close: none ever pulls in."),
                   phrase("Feed one of the coils from what the key switches.")});
}

} // namespace vicegrip::findings
