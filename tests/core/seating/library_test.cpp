#include "core/brief/functions.h"
#include "core/findings/finding.h"
#include "core/job/check.h"
#include "core/seating/compatibility.h"
#include "core/seating/ways_out.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <set>

/// Every sensor of the library on every ECU of the library: what the plan says must be what the drawing, the network
/// and the rules say.
namespace vicegrip::seating {
namespace {

/// The function a kind of sensor is asked for by; its catalogue is the brief's.
std::string functionOf(const parts::Part& s)
{
    for (const brief::Function& f : brief::functions())
        if (f.kind == s.kind)
            return std::string(f.id);
    return "map";
}

struct Pair
{
    job::Job job;
    job::CircuitId circuit;
};

Pair pairOf(const parts::EcuProfile& unit, const parts::Part& sensor)
{
    Pair out{harness::startJob("Pair", unit), {}};
    out.circuit = harness::addCircuit(out.job, {functionOf(sensor)}, "Circuit", job::Want::Required, sensor);
    return out;
}

const std::set<std::string> kSeatStops = {"input-mode",     "input-coil",      "input-function",  "over-volts",
                                          "over-frequency", "pull-up-missing", "pull-up-doubled", "mode-set-otherwise",
                                          "unseated",       "open-conductor"};

void expectNothingAgainstTheSeat(const job::Job& job, const std::string& what)
{
    ASSERT_TRUE(job::check(job)) << what << ": " << job::check(job).error().text();
    for (const findings::Finding& f : test::analysed(job).findings)
        EXPECT_FALSE(kSeatStops.contains(f.rule)) << what << ": " << f.what;
}

TEST(LibraryPairs, WhatIsSeatedIsWiredPromisedAndNotComplainedOf)
{
    int seated = 0, without = 0;
    for (const parts::EcuProfile& unit : test::library().ecus) {
        if (unit.ecu.expander)
            continue;
        for (const parts::Part& sensor : test::sensors()) {
            const std::string what = unit.id.value + " and " + sensor.id.value;
            Pair pair = pairOf(unit, sensor);
            const Plan plan = bestPlan(pair.job);
            EXPECT_TRUE(plan.optimal) << what;
            EXPECT_TRUE(take(pair.job, plan));
            const job::Circuit& c = *job::find(pair.job, pair.circuit);
            if (c.input.empty()) {
                ++without;
                EXPECT_EQ(refusals(pair.job, c).size(), pair.job.ecu.inputs.size()) << what << ": a reason for each";
                continue;
            }
            ++seated;
            EXPECT_TRUE(compatibility(electrics::Wiring(pair.job), c, *job::findInput(pair.job, c.input)).compatible())
                << what;
            expectNothingAgainstTheSeat(pair.job, what);
            if (parts::signalOf(sensor) == parts::SignalKind::Voltage) {
                const auto analysis = test::analysed(pair.job);
                const auto& input = test::at(analysis, pair.circuit.value.c_str(), "input").expectation;
                EXPECT_TRUE(input.promises()) << what << ": " << input.trouble;
                EXPECT_LE(input.low, input.due.si()) << what;
                EXPECT_GE(input.high, input.due.si()) << what;
            }
        }
    }
    EXPECT_GT(seated, 100);
    EXPECT_GT(without, 20) << "the units do differ";
}

TEST(LibraryPairs, EveryWayOutDoesWhatItSays)
{
    int tried = 0;
    for (const parts::EcuProfile& unit : test::library().ecus) {
        if (unit.ecu.expander)
            continue;
        for (const parts::Part& sensor : test::sensors()) {
            const Pair pair = pairOf(unit, sensor);
            if (!bestPlan(pair.job).seats.empty())
                continue;
            for (const WayOut& way : waysOut(pair.job, *job::find(pair.job, pair.circuit), test::library())) {
                const std::string what = unit.id.value + " and " + sensor.id.value + ", " + way.title;
                ++tried;
                EXPECT_FALSE(way.detail.empty()) << what;
                job::Job done = pair.job;
                ASSERT_TRUE(apply(done, way));
                ASSERT_FALSE(job::find(done, pair.circuit)->input.empty()) << what;
                expectNothingAgainstTheSeat(done, what);
            }
        }
    }
    EXPECT_GT(tried, 30);
}

TEST(LibraryPairs, AnIncompatibilityIsWhatTheRulesFindWhenItIsSeatedAllTheSame)
{
    for (const parts::EcuProfile& unit : test::library().ecus) {
        if (unit.ecu.expander)
            continue;
        for (const parts::Part& sensor : test::sensors()) {
            Pair pair = pairOf(unit, sensor);
            const parts::EcuInput& tried = *std::ranges::find_if(
                pair.job.ecu.inputs, [](const parts::EcuInput& i) { return !i.inside; }); // a wire can go to it
            const parts::InputId input = tried.id;
            const bool fits =
                compatibility(electrics::Wiring(pair.job), *job::find(pair.job, pair.circuit), tried).compatible();
            EXPECT_TRUE(harness::seat(pair.job, pair.circuit, input));
            bool complained = false;
            for (const findings::Finding& f : test::analysed(pair.job).findings)
                complained = complained || (kSeatStops.contains(f.rule) && f.rule != "unseated");
            EXPECT_EQ(complained, !fits) << unit.id.value << " and " << sensor.id.value;
        }
    }
}

} // namespace
} // namespace vicegrip::seating
