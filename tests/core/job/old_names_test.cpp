#include "core/base/old_names.h"
#include "core/harness/edits.h"
#include "core/job/facts.h"
#include "core/job/json.h"
#include "core/parts/part.h"
#include "core/work/work_steps.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// Files of before version 1.0: every old name of docs/formats.md is understood, and written with the new one.
namespace vicegrip::job {
namespace {

/// A job that uses all that was called otherwise, with proofs that rest on it.
Job withEverything()
{
    Job job = test::petrel();
    const CircuitId level = test::add(job, "fuel-level", "level-10-180");
    EXPECT_TRUE(harness::seat(job, level, parts::InputId{"AN11"}));
    EXPECT_EQ(test::add(job, "wheel", "vr-speed").value, "wheel");
    EXPECT_TRUE(work::tick(job, "mount-ecu", "2026-01-01T00:00:00Z"));
    Circuit& tps = *find(job, CircuitId{"tps"});
    tps.scaling.breakpoints = Breakpoints::Best;
    ThrottleLimits& limits = tps.limits.emplace();
    limits.closed_v = 0.52;
    limits.open_v = 4.4;
    limits.closedRest_v = 0.5;
    limits.openRest_v = 4.42;
    const Facts all = facts(job);
    limits.restsOn = factsOf(all, {"sensor tps", "input AN1"});
    EXPECT_FALSE(job.proofs.empty());
    job.proofs.front().restsOn = RestsOn(
        factsOf(all, {"scaling tps", "sensor tps", "sensor wheel", "sensor " + find(job, level)->device.value}));
    return job;
}

std::string replaced(std::string text, const std::vector<std::pair<std::string, std::string>>& all)
{
    for (const auto& [now, old] : all) {
        size_t count = 0;
        for (size_t at = 0; (at = text.find(now, at)) != std::string::npos; at += old.size(), ++count)
            text.replace(at, now.size(), old);
        EXPECT_GT(count, 0U) << now << " is not in the job: the test proves nothing of it";
    }
    return text;
}

TEST(OldNames, AJobOfBeforeIsTheSameJobAndNothingGoesStale)
{
    const Job job = withEverything();
    const std::string now = write(job);
    const std::string old = replaced(now, {{"\"breakpoints\"", "\"knots\""},
                                           {"\"limits\": {", "\"stops\": {"},
                                           {"\"closed_v\"", "\"shut_v\""},
                                           {"\"closed_rest_v\"", "\"shut_rest_v\""},
                                           {"\"work_steps\"", "\"hands\""},
                                           {"\"variable_reluctance\"", "\"reluctance\""},
                                           {"\"resistive\"", "\"resistor\""},
                                           {"scaling tps limits", "scaling tps stops"},
                                           {" V closed, ", " V shut, "},
                                           {"scaling tps breakpoints", "scaling tps knots"},
                                           {"sensor wheel variable reluctance", "sensor wheel reluctance"},
                                           {" resistive points", " resistor points"}});
    const auto read = job::read(old);
    ASSERT_TRUE(read) << read.error().text();
    EXPECT_EQ(*read, job);
    EXPECT_EQ(write(*read), now);
    EXPECT_EQ(changes(read->proofs.front().restsOn.facts(), facts(*read)), std::vector<std::string>{});
}

TEST(OldNames, APartOfBeforeIsTheSamePart)
{
    for (const char* id : {"vr-crank", "level-10-180"}) {
        const std::string now = fields::toJson(test::sensor(id)).dump();
        auto document = nlohmann::json::parse(now);
        for (const auto& [was, is] : {std::pair("reluctance", "variable_reluctance"), {"resistor", "resistive"}})
            if (document.contains(is)) {
                document[was] = document[is];
                document.erase(is);
            }
        EXPECT_FALSE(parts::readPart(document)) << "the old name itself is none";
        old_names::renew(document);
        const auto sensor = parts::readPart(document);
        ASSERT_TRUE(sensor) << sensor.error().text();
        EXPECT_EQ(*sensor, test::sensor(id));
    }
}

/// Who writes both is not guessed at: the new one counts, the old one is kept as a member nobody knows.
TEST(OldNames, TheNewNameCountsWhereBothAreThere)
{
    auto document = nlohmann::json::parse(R"({"circuits": [{"scaling": {"knots": "even", "breakpoints": "best"}}]})");
    const auto before = document;
    old_names::renew(document);
    EXPECT_EQ(document, before);
}

TEST(OldNames, WhatOnlySoundsLikeOneStays)
{
    const auto before = nlohmann::json::parse(
        R"({"knots": 1, "stops": 2, "brief": {"hands": 3}, "proofs": [{"rests_on": {"wire stops": "x", "knots": "y"}}]})");
    auto document = before;
    old_names::renew(document);
    EXPECT_EQ(document, before);
}

TEST(OldNames, OptionsAndRequests)
{
    EXPECT_EQ(old_names::option("--knots"), "--breakpoints");
    EXPECT_EQ(old_names::option("--knots=best"), "--breakpoints=best");
    EXPECT_EQ(old_names::option("--knotty"), "--knotty");
    EXPECT_EQ(old_names::requestMember("feel"), "measurand");
    EXPECT_EQ(old_names::requestMember("red"), "red");
}

} // namespace
} // namespace vicegrip::job
