#include "core/proof/verdict.h"
#include "core/base/phrase.h"
#include "core/units/shown.h"

#include <algorithm>
#include <set>
#include <tuple>

namespace vicegrip::proof {
namespace {

/// Newer proofs are appended, so the last match is the latest.
const job::Proof* latest(const Proofs& proofs, const Place& place)
{
    for (auto it = proofs.rbegin(); it != proofs.rend(); ++it)
        if ((*it)->reading.condition() == place.condition && (*it)->station == place.station.key)
            return *it;
    return nullptr;
}

} // namespace

std::string_view stateName(State state)
{
    switch (state) {
    case State::Untouched:
        return key("untouched");
    case State::Done:
        return key("done");
    case State::Failing:
        return key("failing");
    case State::Stale:
        return key("stale");
    case State::NotNeeded:
        return key("not needed");
    }
    return {};
}

Result<job::Reading> parseReading(const Place& p, std::string_view typed)
{
    if (typed == "OL" || (typed == "open" && p.dimension == units::Dimension::Resistance))
        return job::Reading::beyond(p.dimension, p.condition);
    return units::parseShown(typed, p.dimension, p.unit).map([&](double si) { return p.reading(si); });
}

job::Proof record(const job::Facts& facts, const job::CircuitId& circuit, const Expectation& e,
                  const job::Reading& reading, job::ReadingSource source, std::string when)
{
    return {circuit,
            e.station.key,
            reading,
            e.due.si(),
            e.low,
            e.high,
            source,
            std::move(when),
            job::RestsOn(job::factsOf(facts, e.subjects)),
            nlohmann::json::object()};
}

std::string verdictText(const Expectation& e, const job::Reading& reading)
{
    const std::string reads = job::readingText(reading, e.unit);
    if (reading.si() >= e.low && reading.si() <= e.high)
        return phrase("{} is within {}", reads, boundsText(e));
    if (reading.isOverload() && e.station.kind != StationKind::Probe)
        return phrase("the ECU shows nothing, where {} is due", boundsText(e));
    if (reading.isOverload())
        return phrase("{}: beyond the meter's range, and outside {}", reads, boundsText(e));
    return reads + (reading.si() < e.low ? phrase(" is below ") : phrase(" is above ")) + boundsText(e);
}

Expectation promisedThen(const Place& place, const job::Proof& proof)
{
    Expectation e;
    e.Place::operator=(place);
    e.trouble.clear();
    e.due = place.reading(proof.expected);
    e.low = proof.low;
    e.high = proof.high;
    return e;
}

std::vector<Standing> judge(const Proofs& proofs, const job::Facts& facts, const std::vector<Place>& places)
{
    std::vector<Standing> out;
    for (const Place& place : places) {
        Standing s{place, latest(proofs, place), State::Done, {}};
        if (s.last == nullptr) {
            s.state = place.promises() ? State::Untouched : State::NotNeeded;
        } else if (const auto changed = job::changes(s.last->restsOn.facts(), facts); !changed.empty()) {
            s.state = State::Stale;
            s.reason = changed.front() +
                       (changed.size() > 1 ? phrase(" (and {} more)", std::to_string(changed.size() - 1)) : "");
        } else if (!s.last->passes()) {
            s.state = State::Failing;
            s.reason = verdictText(promisedThen(place, *s.last), s.last->reading);
        }
        out.push_back(std::move(s));
    }
    return out;
}

std::vector<Judged> judged(const std::vector<Standing>& standings, const std::vector<Expectation>& promises)
{
    std::vector<Judged> out;
    for (size_t i = 0; i < standings.size() && i < promises.size(); ++i)
        out.push_back({promises[i], standings[i].last, standings[i].state, standings[i].reason});
    return out;
}

size_t restingOn(const job::Job& job, const std::vector<std::string>& subjects)
{
    std::set<std::tuple<job::CircuitId, std::string, job::Condition>> out;
    for (const job::Proof& p : job.proofs)
        if (!job::factsOf(p.restsOn.facts(), subjects).empty())
            out.emplace(p.circuit, p.station, p.reading.condition());
    return out.size();
}

State worst(const std::vector<State>& states)
{
    for (State s : {State::Failing, State::Stale, State::Untouched, State::Done})
        if (std::ranges::find(states, s) != states.end())
            return s;
    return State::NotNeeded;
}

} // namespace vicegrip::proof
