#include "core/recheck/recheck.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace vicegrip {
namespace {

recheck::Change named(const job::Job& job, const char* name)
{
    const auto change = recheck::changeNamed(job, name);
    EXPECT_TRUE(change) << change.error().text();
    return change.value_or(recheck::Change{});
}

/// What is listed before a change is what turns stale after it: worked out by making the change.
TEST(Recheck, WhatIsListedBeforeIsWhatIsStaleAfter)
{
    using Edit = std::function<void(job::Job&)>;
    const std::vector<std::pair<const char*, Edit>> changes = {
        {"firmware", [](job::Job& j) { j.ecu.firmware = "9"; }},
        {"supply", [](job::Job& j) { j.ecu.supply.ohm *= 3; }},
        {"sensor map",
         [](job::Job& j) {
             for (parts::Part& p : j.parts)
                 if (p.id == job::find(j, job::find(j, job::CircuitId{"map"})->device)->part)
                     p.high *= 1.1;
         }},
    };
    const job::Job job = test::petrel();
    const auto before = test::analysed(job);
    for (const auto& [name, edit] : changes) {
        job::Job changed = job;
        edit(changed);
        const auto after = test::analysed(changed);
        std::set<std::string> due, listed, stood;
        for (size_t i = 0; i < before.circuits.size(); ++i)
            for (const auto& [condition, stations] : before.circuits[i].stations)
                for (size_t s = 0; s < stations.size(); ++s) {
                    if (stations[s].state == proof::State::Done)
                        stood.insert(before.circuits[i].id.value + " " + stations[s].place.station.key);
                    const auto& now = proof::stations(after.circuits[i], condition);
                    if (stations[s].state == proof::State::Done && s < now.size() &&
                        now[s].state == proof::State::Stale)
                        due.insert(before.circuits[i].id.value + " " + stations[s].place.station.key);
                }
        for (const recheck::Again& a : recheck::after(job, job::facts(job), named(job, name)))
            listed.insert(a.circuit.value + " " + a.station);
        EXPECT_FALSE(due.empty()) << name;
        for (const std::string& place : due)
            EXPECT_TRUE(listed.contains(place)) << name << ": " << place;
        for (const std::string& place : listed) // and nothing that stands all the same
            EXPECT_TRUE(due.contains(place) || !stood.contains(place)) << name << ": " << place;
    }
}

TEST(Recheck, WhatSetsSparksComesFirst)
{
    job::Job job = test::petrel();
    for (const char* circuit : {"clt", "crank", "map"}) {
        job::Proof p;
        p.circuit = {circuit};
        p.station = "value";
        p.reading = job::Reading::of(1, units::Dimension::Voltage, job::Condition::KeyOn);
        p.when = "2026-01-01T00:00:00Z";
        p.restsOn = job::RestsOn(job::Facts{{"ECU firmware", "0.4"}});
        job.proofs.push_back(p);
    }
    std::vector<std::string> order;
    for (const recheck::Again& a : recheck::after(job, job::facts(job), named(job, "Firmware")))
        if (order.empty() || order.back() != a.circuit.value)
            order.push_back(a.circuit.value);
    EXPECT_THAT(order, testing::ElementsAre("crank", "map", "clt"));
}

/// Fuel where it burns comes before all else; a line that eyes passed is no wrong mixture.
TEST(Recheck, LinesOfTheRunSheetHaveTheirOwnRisk)
{
    job::Job job = test::petrel();
    for (const char* line : {"battery", "leaks primed"}) {
        job::Passed p;
        p.line = line;
        p.what = line;
        p.when = "2026-01-01T00:00:00Z";
        p.restsOn = job::RestsOn(job::Facts{{"ECU firmware", "0.4"}});
        job.passed.push_back(p);
    }
    const auto all = recheck::after(job, job::facts(job), named(job, "firmware"));
    EXPECT_EQ(all.front().what, "Run sheet: leaks primed");
    EXPECT_EQ(all.front().risk, recheck::Risk::Fire);
    EXPECT_EQ(all.back().risk, recheck::Risk::Other);
}

TEST(Recheck, WhatReadsAsBeforeIsKeptForWhatItRestsOnNow)
{
    job::Job job = test::petrel();
    job.ecu.firmware = "0.5";
    const auto stale = test::analysed(job);
    EXPECT_EQ(test::at(stale, "map", "value").state, proof::State::Stale);
    for (const recheck::Again& a : recheck::after(job, job::facts(job), named(job, "firmware")))
        if (a.station == "value") {
            ASSERT_TRUE(recheck::renew(job, stale, a, "2026-12-01T00:00:00Z"));
        }
    const auto renewed = test::analysed(job);
    EXPECT_EQ(test::at(renewed, "map", "value").state, proof::State::Done);
    EXPECT_EQ(test::at(renewed, "map", "value").last->when, "2026-12-01T00:00:00Z");
}

/// The coolant's pull-up is another since it was read: what was right then cannot be what is right now.
TEST(Recheck, WhatMustReadOtherwiseNowIsNotKept)
{
    job::Job job = test::petrel();
    const auto analysis = test::analysed(job);
    for (const recheck::Again& a : recheck::after(job, job::facts(job), named(job, "plug CLT")))
        if (a.station == "A.7") {
            const auto kept = recheck::renew(job, analysis, a, "2026-12-01T00:00:00Z");
            ASSERT_FALSE(kept);
            EXPECT_THAT(kept.error().sentence, testing::HasSubstr("2.349 to 2.694 V"));
        }
    EXPECT_EQ(job, test::petrel());
}

TEST(Recheck, AnUnknownChangeIsSaidWithWhatThereIs)
{
    const auto none = recheck::changeNamed(test::petrel(), "paint");
    ASSERT_FALSE(none);
    EXPECT_THAT(none.error().sentence, testing::HasSubstr("ground NAME"));
}

} // namespace
} // namespace vicegrip
