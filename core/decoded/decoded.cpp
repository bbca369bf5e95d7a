#include "core/decoded/decoded.h"

#include "core/base/phrase.h"
#include "core/electrics/wiring.h"

#include <algorithm>
#include <set>

namespace vicegrip::decoded {

using proof::State;

std::vector<Standing> standings(const job::Job& job, const job::Facts& facts)
{
    std::vector<Standing> out;
    for (const job::Circuit& c : job.circuits) {
        if (!job::readsWheel(job, c))
            continue;
        Standing& s = out.emplace_back();
        s.circuit = c.id;
        s.only = parts::traitsOf(*job::sensorOf(job, c)).alternating;
        const auto last = std::find_if(job.decoded.rbegin(), job.decoded.rend(),
                                       [&](const job::Decoded& d) { return d.circuit == c.id; });
        if (last == job.decoded.rend())
            continue;
        s.last = *last;
        s.state = last->wrong.empty() ? State::Done : State::Failing;
        if (!last->wrong.empty())
            s.reason = last->wrong.front();
        if (const auto changed = job::changes(last->restsOn.facts(), facts); !changed.empty()) {
            s.state = State::Stale;
            s.reason = changed.front();
        }
    }
    return out;
}

job::Decoded record(const job::Job& job, const job::Facts& facts, const job::Circuit& circuit,
                    const trigger::Look& look, const std::vector<trigger::Verdict>& verdicts, std::string capture,
                    std::string when)
{
    std::set<std::string> subjects = {"sensor " + circuit.device.value, "wheel edge " + circuit.id.value};
    for (const char* set : job::kStands)
        subjects.insert(set + circuit.id.value);
    for (const electrics::Path& path : electrics::Wiring(job).paths(circuit))
        subjects.insert(path.subjects.begin(), path.subjects.end());
    job::Facts rests = job::factsOf(facts, {subjects.begin(), subjects.end()});
    std::erase_if(rests, [](const auto& f) { return f.second == job::kNotSaid; }); // saying it later changes nothing
    job::Decoded out;
    out.circuit = circuit.id;
    out.capture = std::move(capture);
    out.wheel = look.report.line.empty() && circuit.trigger ? circuit.trigger->wheel : look.report.line;
    if (circuit.trigger)
        out.edge = circuit.trigger->edge;
    out.rpm = look.report.rpm;
    for (const trigger::Verdict& v : verdicts)
        if (v.grade == trigger::Grade::Bad)
            out.wrong.push_back(v.what + ": " + v.is);
    out.when = std::move(when);
    out.restsOn = job::RestsOn(std::move(rests));
    return out;
}

void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings)
{
    for (const Standing& s : standings)
        if (s.state == State::Failing)
            out.push_back({"signal-wrong", findings::Severity::Fix, s.circuit,
                           phrase("{}: {}", job::find(job, s.circuit)->name, s.reason),
                           phrase("An engine whose ECU loses where it stands stops, or sparks where it must not."),
                           phrase("Trigger, Capture says what hands do. Afterwards capture it again.")});
}

} // namespace vicegrip::decoded
