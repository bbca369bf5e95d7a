#include "core/proof/verdict.h"

#include <algorithm>

namespace vicegrip::proof {
namespace {

/// Newer proofs are appended, so the last match is the latest.
const job::Proof* latest(const job::Job& job, const job::CircuitId& circuit, job::Condition condition,
                         const std::string& station)
{
    for (auto it = job.proofs.rbegin(); it != job.proofs.rend(); ++it)
        if (it->circuit == circuit && it->condition == condition && it->station == station)
            return &*it;
    return nullptr;
}

} // namespace

std::string_view stateName(State state)
{
    switch (state) {
    case State::Untouched:
        return "untouched";
    case State::Done:
        return "done";
    case State::Failing:
        return "failing";
    case State::Stale:
        return "stale";
    case State::NotNeeded:
        return "not needed";
    }
    return {};
}

Result<double> parseReading(const Expectation& expectation, std::string_view typed)
{
    if (expectation.dimension == units::Dimension::Resistance && (typed == "open" || typed == "OL"))
        return kOpen_ohm;
    return units::parse(typed, expectation.dimension, expectation.unit);
}

job::Proof record(const job::Facts& facts, const job::CircuitId& circuit, job::Condition condition,
                  const Expectation& e, double value, job::ReadingSource source, std::string when)
{
    return {circuit,
            e.station.key,
            condition,
            value,
            e.value,
            e.low,
            e.high,
            source,
            std::move(when),
            job::factsOf(facts, e.subjects),
            nlohmann::json::object()};
}

std::string verdictText(const Expectation& e, double value)
{
    const std::string reads = readingText(e, value);
    if (value < e.low)
        return reads + " is below " + boundsText(e);
    if (value > e.high)
        return reads + " is above " + boundsText(e);
    return reads + " is within " + boundsText(e);
}

std::vector<Judged> judge(const job::Job& job, const job::Facts& facts, const job::CircuitId& circuit,
                          job::Condition condition, std::vector<Expectation> expectations)
{
    std::vector<Judged> out;
    for (Expectation& e : expectations) {
        Judged j;
        j.last = latest(job, circuit, condition, e.station.key);
        j.expectation = std::move(e);
        if (j.last == nullptr) {
            j.state = j.expectation.promises() ? State::Untouched : State::NotNeeded;
        } else if (const auto changed = job::changes(j.last->restsOn, facts); !changed.empty()) {
            j.state = State::Stale;
            j.reason =
                changed.front() + (changed.size() > 1 ? " (and " + std::to_string(changed.size() - 1) + " more)" : "");
        } else if (!j.last->passes()) {
            j.state = State::Failing;
            Expectation then = j.expectation;
            then.low = j.last->low;
            then.high = j.last->high;
            j.reason = verdictText(then, j.last->value);
        } else {
            j.state = State::Done;
        }
        out.push_back(std::move(j));
    }
    return out;
}

State worst(const std::vector<State>& states)
{
    for (State s : {State::Failing, State::Stale, State::Untouched, State::Done})
        if (std::ranges::find(states, s) != states.end())
            return s;
    return State::NotNeeded;
}

} // namespace vicegrip::proof
