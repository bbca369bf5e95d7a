#include "core/hand_test/standing.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace vicegrip::hand_test {
namespace {

using proof::State;

void judge(Standing& s, const job::Facts& facts)
{
    const job::HandTurn& turn = *s.last;
    if (const auto changed = job::changes(turn.restsOn.facts(), facts); !changed.empty()) {
        s.state = State::Stale;
        s.reason = changed.front();
        s.todo = phrase("Turn it by hand once more.");
        return;
    }
    s.state = turn.missed.empty() ? State::Done : State::Failing;
    if (turn.missed.empty())
        return;
    const auto wheel = trigger::readWheel(turn.wheel);
    const bool fits = wheel && std::ranges::all_of(turn.missed, [&](int tooth) { // a file may say anything
                          return tooth >= 1 && tooth <= static_cast<int>(wheel->teeth.size());
                      });
    s.reason = phrase("{} of {} teeth were not seen", std::to_string(turn.missed.size()), std::to_string(turn.teeth));
    s.todo = fits ? missedText(*wheel, turn.missed) : std::string();
}

} // namespace

std::vector<Standing> standings(const job::Job& job, const job::Facts& facts)
{
    std::vector<Standing> out;
    for (const job::Circuit& c : job.circuits) {
        if (!job::readsWheel(job, c))
            continue;
        Standing s;
        s.circuit = c.id;
        s.byHand = switchesByHand(job, c);
        const auto last = std::find_if(job.handTurns.rbegin(), job.handTurns.rend(),
                                       [&](const job::HandTurn& t) { return t.circuit == c.id; });
        if (last != job.handTurns.rend() && s.byHand) {
            s.last = *last;
            judge(s, facts);
        }
        out.push_back(std::move(s));
    }
    return out;
}

job::HandTurn record(const job::Facts& facts, const job::Circuit& circuit, const Count& count, const Due& due,
                     bool loose, std::string when)
{
    const std::string& id = circuit.id.value;
    std::vector<std::string> subjects = due.subjects;
    for (const char* set : job::kStands)
        subjects.push_back(set + id);
    subjects.push_back("sensor " + circuit.device.value);
    job::Facts rests = job::factsOf(facts, subjects);
    std::erase_if(rests, [](const auto& f) { return f.second == job::kNotSaid; }); // saying it later changes nothing
    return {.circuit = circuit.id,
            .wheel = circuit.trigger ? circuit.trigger->wheel : std::string(),
            .loose = loose,
            .teeth = static_cast<int>(count.wheel().teeth.size()),
            .missed = count.missed(),
            .tooth_v = count.tooth_v(),
            .gap_v = count.gap_v(),
            .when = std::move(when),
            .restsOn = job::RestsOn(std::move(rests)),
            .extra = nlohmann::json::object()};
}

void check(std::vector<findings::Finding>& out, const job::Job& job, const std::vector<Standing>& standings)
{
    for (const Standing& s : standings)
        if (s.state == State::Failing)
            out.push_back({"tooth-not-seen", findings::Severity::Fix, s.circuit,
                           phrase("{}: {}", job::find(job, s.circuit)->name, s.reason),
                           phrase("A tooth that is not seen by hand is not seen by the ECU: it loses where the engine "
                                  "stands, and its sparks stop."),
                           s.todo});
}

} // namespace vicegrip::hand_test
