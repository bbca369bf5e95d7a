#include "core/wiggle/kept.h"

#include "core/base/phrase.h"
#include "core/electrics/wiring.h"
#include "core/units/units.h"

#include <algorithm>
#include <set>

namespace vicegrip::wiggle {
namespace {

using proof::State;

/// "5 drop-outs in 31 s".
std::string counted(const job::Wiggle& w)
{
    return phrase(w.dropOuts == 1 ? key("{} drop-out in {} s") : key("{} drop-outs in {} s"),
                  std::to_string(w.dropOuts), units::formatNumber(w.watched_s, 0));
}

} // namespace

std::vector<faults::Loose> named(const job::Job& job, const job::Wiggle& wiggle)
{
    std::vector<faults::Loose> out;
    for (const job::WireId& id : wiggle.wires)
        if (const auto w = std::ranges::find(job.wires, id, &job::Wire::id); w != job.wires.end())
            out.push_back({id, w->from.owner == wiggle.at ? w->from
                               : w->to.owner == wiggle.at ? w->to
                                                          : job::PointRef()});
    return out;
}

std::string whatText(const job::Job& job, const std::vector<faults::Loose>& what)
{
    return phrase("It comes and goes: {}", endsText(job, what));
}

std::vector<Standing> standings(const job::Job& job, const job::Facts& facts)
{
    std::vector<Standing> out;
    for (const job::Wiggle& w : job.wiggles) { // newer ones are appended
        std::erase_if(out, [&](const Standing& s) { return s.circuit == w.circuit; });
        out.push_back({w.circuit, w, State::Done, {}});
    }
    for (Standing& s : out)
        if (const auto changed = job::changes(s.last.restsOn.facts(), facts); !changed.empty()) {
            s.state = State::Stale;
            s.reason = changed.front();
        } else if (s.last.dropOuts > 0) {
            s.state = State::Failing;
            s.reason = s.last.wires.empty() ? phrase("it comes and goes: {}", counted(s.last))
                                            : phrase("{} comes and goes: {}",
                                                     job::spokenEnds(job, s.last.wires, s.last.at), counted(s.last));
        }
    return out;
}

job::Wiggle record(const job::Job& job, const job::Facts& facts, const job::Circuit& circuit, const Watch& watch,
                   const Verdict& verdict, std::string when)
{
    std::set<std::string> subjects = {"circuit " + circuit.id.value, "input " + circuit.input.value};
    const electrics::Wiring wiring(job);
    for (const electrics::Path& path : wiring.paths(circuit))
        subjects.insert(path.subjects.begin(), path.subjects.end());
    std::vector<job::WireId> wires;
    for (const faults::Loose& l : verdict.what) { // it may be a wire of its unit's feeds
        wires.push_back(l.wire);
        subjects.insert("wire " + l.wire.value);
    }
    return {.circuit = circuit.id,
            .wires = std::move(wires),
            .at = verdict.what.empty() ? std::string() : verdict.what.front().at.owner,
            .dropOuts = static_cast<int>(watch.dropOuts().size()),
            .watched_s = watch.seconds(),
            .when = std::move(when),
            .restsOn = job::RestsOn(job::factsOf(facts, {subjects.begin(), subjects.end()})),
            .extra = nlohmann::json::object()};
}

void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings)
{
    for (const Standing& s : standings)
        if (s.state == State::Failing)
            out.push_back({"comes-and-goes", findings::Severity::Fix, s.circuit,
                           phrase("{}: {}", job::find(job, s.circuit)->name, s.reason),
                           phrase("What lets go under a hand lets go when the engine shakes, and the ECU believes what "
                                  "it reads then."),
                           s.last.wires.empty() ? phrase("Go on with the wiggle test until one place is named.")
                                                : phrase("Mend it, then move it again while the input is watched.")});
}

} // namespace vicegrip::wiggle
