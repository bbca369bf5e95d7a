#include "core/recheck/recheck.h"

#include "core/base/phrase.h"
#include "core/base/typed_text.h"

#include <algorithm>
#include <map>
#include <tuple>

namespace vicegrip::recheck {
namespace {

using parts::PartUse;

Risk riskOf(PartUse use)
{
    switch (use) {
    case PartUse::CrankTrigger:
    case PartUse::CamTrigger:
    case PartUse::IgnitionCoil:
    case PartUse::IgnitionModule:
        return Risk::Spark;
    case PartUse::Throttle:
    case PartUse::Pedal:
    case PartUse::ThrottleMotor:
        return Risk::Throttle;
    case PartUse::ManifoldPressure:
    case PartUse::FlexFuel:
    case PartUse::AirMass:
    case PartUse::Wideband:
    case PartUse::Injector:
    case PartUse::Pump:
    case PartUse::BoostValve:
        return Risk::Fuel;
    case PartUse::FluidPressure:
    case PartUse::FluidTemperature:
    case PartUse::AirTemperature:
    case PartUse::ExhaustTemperature:
    case PartUse::Fan:
        return Risk::Guard;
    default:
        return Risk::Other;
    }
}

Risk riskOf(const job::Job& job, const job::CircuitId& id)
{
    const job::Circuit* circuit = job::find(job, id);
    const parts::Part* part = circuit == nullptr ? nullptr : job::partOf(job, *circuit);
    return part == nullptr ? Risk::Other : riskOf(part->kind);
}

Risk riskOf(const job::Passed& line)
{
    return line.line.starts_with("leaks") ? Risk::Fire : line.line.starts_with("timing") ? Risk::Spark : Risk::Other;
}

std::string_view kindOf(job::SwitchKind kind)
{
    return kind == job::SwitchKind::Fuse ? "fuse " : kind == job::SwitchKind::Hand ? "switch " : "relay ";
}

void add(std::vector<Change>& out, std::string name, std::string words, std::vector<std::string> subjects)
{
    out.push_back({std::move(name), std::move(words), std::move(subjects)});
}

/// What was proved, the latest of each kind and place.
class Proved
{
  public:
    Proved(const job::Job& job, const job::Facts& now, const Change& change) : m_job(job), m_now(now), m_change(change)
    {
    }

    Again& add(const std::string& key, Risk risk, const job::CircuitId& circuit, std::string what,
               const job::Facts& facts, const std::string& when)
    {
        const job::Facts hit = job::factsOf(facts, m_change.subjects);
        std::string rests;
        for (const auto& [subject, fact] : hit)
            if (!subject.starts_with(job::kMended))
                rests += (rests.empty() ? "" : ", ") + subject + " " + fact;
        auto& held = m_of[key];
        held = {!hit.empty(),
                {risk, circuit, std::move(what), std::move(rests), when, job::changes(facts, m_now).empty(), {}, {}}};
        return held.second;
    }
    [[nodiscard]] std::string nameOf(const job::CircuitId& id) const
    {
        const job::Circuit* circuit = job::find(m_job, id);
        return circuit == nullptr ? id.value : circuit->name;
    }
    [[nodiscard]] std::vector<Again> inOrder() const
    {
        std::vector<Again> out;
        for (const auto& [key, held] : m_of)
            if (held.first)
                out.push_back(held.second);
        std::ranges::stable_sort(out, [](const Again& a, const Again& b) {
            return std::tie(a.risk, a.stands, a.when) < std::tie(b.risk, b.stands, b.when);
        });
        return out;
    }

  private:
    const job::Job& m_job;
    const job::Facts& m_now;
    const Change& m_change;
    std::map<std::string, std::pair<bool, Again>> m_of;
};

std::string stationText(const job::Job& job, const std::string& station)
{
    if (station == "input")
        return phrase("what the input reads");
    if (station == "counts")
        return phrase("the converter's counts");
    if (station == "value")
        return phrase("the value the ECU reports");
    return job::spoken(job, job::PointRef::fromText(station));
}

} // namespace

std::string_view riskName(Risk risk)
{
    switch (risk) {
    case Risk::Fire:
        return key("fuel leaks");
    case Risk::Spark:
        return key("sparks at the wrong time");
    case Risk::Throttle:
        return key("the throttle does not follow");
    case Risk::Fuel:
        return key("a wrong mixture");
    case Risk::Guard:
        return key("the engine is not guarded");
    case Risk::Other:
        return key("a wrong reading");
    }
    return {};
}

std::vector<Change> changesOf(const job::Job& job)
{
    std::vector<Change> out;
    const auto units = job::units(job);
    for (size_t u = 0; u < units.size(); ++u) {
        const std::string number = u == 0 ? "" : " " + std::to_string(u);
        add(out, "firmware" + number, u == 0 ? phrase("ECU firmware") : phrase("Firmware of {}", units[u]->name),
            {job::unitSubject(u) + " firmware"});
        add(out, "supply" + number,
            u == 0 ? phrase("Sensor supply of the ECU") : phrase("Sensor supply of {}", units[u]->name),
            {job::supplySubject(u)});
    }
    add(out, "battery", phrase("Another battery"), {"battery"});
    for (const job::Joint& j : job.joints)
        if (j.kind == job::JointKind::Stud)
            add(out, "ground " + j.id, phrase("Ground {} moved", j.id), {"stud " + j.id});
    for (const job::Connector& c : job.connectors) {
        std::vector<std::string> subjects;
        for (const std::string& cavity : c.cavities)
            subjects.push_back("contact " + job::PointRef{c.id, cavity}.text());
        for (const job::Wire& w : job.wires)
            if (w.from.owner == c.id || w.to.owner == c.id)
                subjects.push_back("wire " + w.id.value);
        add(out, "plug " + c.id, phrase("{} pinned again", job::spoken(job, {c.id, {}})), std::move(subjects));
    }
    for (const job::Switch& s : job.switches)
        add(out, std::string(kindOf(s.kind)) + s.id, phrase("{} replaced", s.label.empty() ? s.id : s.label),
            {"switch " + s.id});
    for (const job::Circuit& c : job.circuits)
        if (const parts::Part* part = job::partOf(job, c)) {
            std::vector<std::string> subjects{job::partSubject(*part, c.device)};
            if (job::readsWheel(job, c))
                for (const char* of : job::kStands)
                    subjects.push_back(of + c.id.value);
            add(out, (parts::isDriven(*part) ? "actuator " : "sensor ") + c.id.value,
                parts::isDriven(*part) ? phrase("Another part driven by {}", c.name)
                                       : phrase("Another sensor for {}", c.name),
                std::move(subjects));
        }
    return out;
}

Result<Change> changeNamed(const job::Job& job, std::string_view name)
{
    const std::string wanted = typed::lower(typed::trimmed(name));
    for (Change& change : changesOf(job))
        if (typed::lower(change.name) == wanted)
            return std::move(change);
    return fail(ErrorCode::Reference,
                phrase("nothing of this job is called \"{}\": firmware, supply, battery, plug NAME, ground NAME, fuse "
                       "NAME, relay NAME, switch NAME, sensor CIRCUIT, actuator CIRCUIT",
                       std::string(name)));
}

std::vector<Again> after(const job::Job& job, const job::Facts& now, const Change& change)
{
    Proved proved(job, now, change);
    for (const job::Proof& p : job.proofs) {
        const std::string condition = job::conditionWords(p.reading.condition());
        Again& again = proved.add(
            "proof " + p.circuit.value + " " + p.station + " " + condition, riskOf(job, p.circuit), p.circuit,
            phrase("{}, {}, {}: {}", proved.nameOf(p.circuit), condition, stationText(job, p.station),
                   job::readingText(p.reading, p.station == "counts" ? "counts" : "")),
            p.restsOn.facts(), p.when);
        again.station = p.station;
        again.condition = p.reading.condition();
    }
    for (const job::Click& c : job.clicks)
        proved.add("click " + c.circuit.value, riskOf(job, c.circuit), c.circuit,
                   phrase("{}: click its output", proved.nameOf(c.circuit)), c.restsOn.facts(), c.when);
    for (const job::Wiggle& w : job.wiggles)
        proved.add("wiggle " + w.circuit.value, riskOf(job, w.circuit), w.circuit,
                   phrase("{}: wiggle test", proved.nameOf(w.circuit)), w.restsOn.facts(), w.when);
    for (const job::HandTurn& t : job.handTurns)
        proved.add("hand " + t.circuit.value, Risk::Spark, t.circuit,
                   phrase("{}: turn the wheel by hand", proved.nameOf(t.circuit)), t.restsOn.facts(), t.when);
    for (const job::Decoded& d : job.decoded)
        proved.add("decoded " + d.circuit.value, Risk::Spark, d.circuit,
                   phrase("{}: capture its signal", proved.nameOf(d.circuit)), d.restsOn.facts(), d.when);
    for (const job::Circuit& c : job.circuits)
        if (c.limits)
            proved.add("limits " + c.id.value, Risk::Throttle, c.id, phrase("{}: closed and open limits", c.name),
                       c.limits->restsOn, c.limits->when);
    for (const job::LogReview& r : job.logReviews)
        proved.add("log " + r.log, Risk::Other, {}, phrase("Log {}: drive and review it again", r.log),
                   r.restsOn.facts(), r.when);
    for (const job::Passed& p : job.passed)
        proved.add("line " + p.line, riskOf(p), {}, phrase("Run sheet: {}", p.what), p.restsOn.facts(), p.when);
    return proved.inOrder();
}

Result<void> renew(job::Job& job, const analysis::Analysis& analysis, const Again& again, const std::string& when)
{
    if (again.station.empty())
        return fail(ErrorCode::Range, phrase("this is proved at its own stage"));
    for (const proof::Judged& j : analysis::promised(analysis, again.circuit, again.condition)) {
        if (j.expectation.station.key != again.station || j.last == nullptr)
            continue;
        if (!j.expectation.promises())
            return fail(ErrorCode::Range, j.expectation.trouble);
        if (!j.expectation.allows(j.last->reading))
            return fail(ErrorCode::Range,
                        phrase("it must read {} now: read it again at its place", proof::boundsText(j.expectation)));
        const job::Proof last = *j.last;
        job.proofs.push_back(
            proof::record(analysis.facts, again.circuit, j.expectation, last.reading, last.source, when));
        return {};
    }
    return fail(ErrorCode::Range, phrase("nothing is read there any more"));
}

} // namespace vicegrip::recheck
