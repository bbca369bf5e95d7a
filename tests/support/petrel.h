#pragma once

#include "core/analysis/analysis.h"
#include "core/hand_test/standing.h"
#include "core/harness/edits.h"
#include "core/job/json.h"

#include <gtest/gtest.h>
#include <memory>
#include <string>

/// The demo job, and short ways to ask an analysis.
namespace vicegrip::test {

inline std::string petrelPath()
{
    return std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip";
}

inline job::Job petrel()
{
    auto job = job::readFile(petrelPath());
    EXPECT_TRUE(job) << job.error().text();
    return job.value_or(job::Job{});
}

/// Petrel as far as the ECU reads: what was worked out elsewhere for its inputs was for the consumers it had then.
inline job::Job petrelInputs()
{
    job::Job job = petrel();
    std::vector<job::CircuitId> driven;
    for (const job::Circuit& c : job.circuits)
        if (job::actuatorOf(job, c) != nullptr)
            driven.push_back(c.id);
    for (const job::CircuitId& id : driven)
        EXPECT_TRUE(harness::removeCircuit(job, id));
    std::erase_if(job.loads, [](const job::Load& l) { return l.id == "fan"; });
    return job;
}

inline nlohmann::json petrelJson()
{
    return nlohmann::json::parse(job::write(petrel()));
}

/// Every cavity of the job pinned and counted.
inline void pinAll(job::Job& job)
{
    for (const job::Connector& c : job.connectors)
        while (const auto next = pinning::nextPin(pinning::pinsOf(job, c))) {
            const pinning::Pin pin = pinning::pinsOf(job, c)[*next];
            EXPECT_TRUE(pin.next() != nullptr ? pinning::tick(job, pin.at, "2026-01-01T00:00:00Z")
                                              : pinning::count(job, pin.at, pin.at.cavity, "2026-01-01T00:00:00Z"));
        }
}

/// Every wheel turned by hand, each of its teeth seen.
inline void turnAll(job::Job& job)
{
    const job::Facts facts = job::facts(job);
    for (const job::Circuit& c : job.circuits) {
        const auto due = hand_test::due(job, c);
        if (!due || !c.trigger)
            continue;
        hand_test::Count count(*trigger::readWheel(c.trigger->wheel));
        while (!count.isFull())
            count.mark(true);
        job.handTurns.push_back(hand_test::record(facts, c, count, *due, false, "2026-01-01T00:00:00Z"));
    }
}

inline analysis::Analysis analysed(job::Job job)
{
    return analysis::analyse(std::make_shared<const job::Job>(std::move(job)));
}

/// What one rule finds in a job.
inline std::vector<findings::Finding> of(const job::Job& job, std::string_view rule)
{
    std::vector<findings::Finding> out;
    for (const findings::Finding& f : analysed(job).findings)
        if (f.rule == rule)
            out.push_back(f);
    return out;
}

inline proof::Judged at(const analysis::Analysis& a, const char* circuit, const char* station,
                        job::Condition condition = job::Condition::KeyOn)
{
    for (proof::Judged& j : analysis::promised(a, {circuit}, condition))
        if (j.expectation.station.key == station)
            return std::move(j);
    ADD_FAILURE() << "no station " << station << " on circuit " << circuit;
    return {};
}

/// Records a reading the way the application does.
inline void prove(job::Job& job, const char* circuit, const char* station, double value,
                  job::Condition condition = job::Condition::KeyOn)
{
    const auto a = analysed(job);
    const auto e = at(a, circuit, station, condition).expectation;
    job.proofs.push_back(proof::record(a.facts, {circuit}, e, job::Reading::of(value, e.due.dimension(), condition),
                                       job::ReadingSource::Typed, "2026-01-02T03:04:05Z"));
}

inline job::Wire& wire(job::Job& job, const char* id)
{
    for (job::Wire& w : job.wires)
        if (w.id.value == id)
            return w;
    ADD_FAILURE() << "no wire " << id;
    return job.wires.front();
}

} // namespace vicegrip::test
