#include "core/analysis/analysis.h"
#include "core/harness/resistors.h"
#include "core/job/check.h"
#include "core/seating/compatibility.h"
#include "core/seating/ways_out.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

namespace vicegrip::seating {
namespace {

using job::CircuitId;
using parts::InputId;
using testing::HasSubstr;

const job::Circuit& circuit(const job::Job& job, const char* id)
{
    const job::Circuit* found = job::find(job, CircuitId{id});
    EXPECT_NE(found, nullptr) << id;
    static const job::Circuit kNone;
    return found == nullptr ? kNone : *found;
}

const parts::EcuInput& input(const job::Job& job, const char* id)
{
    return *job::findInput(job, InputId{id});
}

std::string whyNot(const job::Job& job, const char* circuitId, const char* inputId)
{
    return compatibility(electrics::Wiring(job), circuit(job, circuitId), input(job, inputId)).reason;
}

/// The small ECU with what a small turbo engine needs.
job::Job small()
{
    job::Job job = test::jobOn("small-4");
    test::add(job, "crank", "hall-crank");
    test::add(job, "map", "map-2b5");
    test::add(job, "tps", "pot-10k");
    test::add(job, "clt", "ntc-2k2");
    test::add(job, "iat", "ntc-2k2-air");
    test::add(job, "flex", "flex-50-150");
    test::add(job, "wideband", "wideband-0-5", job::Want::Wanted);
    return job;
}

const WayOut* wayOut(const std::vector<WayOut>& all, size_t kind)
{
    for (const WayOut& w : all)
        if (w.measure.index() == kind)
            return &w;
    return nullptr;
}

TEST(Compatibility, SaysWhyNotInTheTradesTerms)
{
    job::Job job = small();
    test::add(job, "brake", "switch-battery");
    test::add(job, "fuel-pressure", "press-10bar-0-10v");
    test::add(job, "cam", "vr-cam");
    test::add(job, "turbo-speed", "hall-turbo");
    EXPECT_THAT(whyNot(job, "clt", "U1"), HasSubstr("no pull-up"));
    EXPECT_THAT(whyNot(job, "flex", "U1"), HasSubstr("no frequency"));
    EXPECT_THAT(whyNot(job, "map", "CRK"), HasSubstr("firmware uses it for Crank"));
    EXPECT_THAT(whyNot(job, "map", "F1"), HasSubstr("no voltage"));
    EXPECT_THAT(whyNot(job, "fuel-pressure", "U1"), HasSubstr("reads to 5 V"));
    EXPECT_EQ(whyNot(job, "brake", "U2"), "") << "as a switch it stands 12 V";
    job::findInput(job, InputId{"U2"})->withstands_v = 6;
    EXPECT_THAT(whyNot(job, "brake", "U2"), HasSubstr("withstands 6 V"));
    EXPECT_THAT(whyNot(job, "cam", "CAM"), HasSubstr("coil"));
    EXPECT_THAT(whyNot(job, "turbo-speed", "F1"), HasSubstr("2.0 kHz"));
    for (const char* ok : {"map", "tps"})
        EXPECT_EQ(whyNot(job, ok, "U1"), "") << ok;
    EXPECT_EQ(whyNot(job, "crank", "CRK"), "");
    EXPECT_EQ(whyNot(job, "flex", "F1"), "") << "its pull-up can be switched on";
}

// An input that can count besides is none that reads farther: a throttle's 5 V are too much for 3.3 V.
TEST(Compatibility, WhatAnInputCanCountDoesNotWidenItsSpan)
{
    job::Job job = test::petrel();
    const job::Circuit& tps = circuit(job, "tps");
    parts::EcuInput& input = *job::findInput(job, tps.input);
    input.span_v = 3.3;
    for (const auto& modes :
         {std::vector{parts::InputMode::Analog}, std::vector{parts::InputMode::Analog, parts::InputMode::Frequency}}) {
        input.modes = modes;
        input.most_hz = modes.size() > 1 ? 5000 : 0;
        EXPECT_THAT(compatibility(electrics::Wiring(job), tps, input).reason, HasSubstr("reads to 3.3 V"));
    }
}

TEST(Compatibility, AnOpenCollectorWithoutAPullUpIsRefused)
{
    job::Job job = small();
    job::findInput(job, InputId{"F1"})->pullUpChoices_ohm.clear();
    EXPECT_THAT(whyNot(job, "flex", "F1"), HasSubstr("open collector"));
}

TEST(Seating, SeatsTheRequiredFirstAndProvesIt)
{
    job::Job job = small();
    const Plan plan = bestPlan(job);
    EXPECT_TRUE(plan.optimal);
    EXPECT_TRUE(take(job, plan));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_EQ(circuit(job, "crank").input, InputId{"CRK"});
    EXPECT_EQ(circuit(job, "flex").input, InputId{"F1"});
    EXPECT_FALSE(circuit(job, "map").input.empty());
    EXPECT_THAT(plan.unseated, testing::UnorderedElementsAre(CircuitId{"clt"}, CircuitId{"iat"}))
        << "no pull-up for a thermistor anywhere";
    EXPECT_EQ(plan.required, 4);
    EXPECT_EQ(plan.wanted, 1);
}

TEST(Seating, EveryInputGivesItsReason)
{
    job::Job job = small();
    EXPECT_TRUE(take(job, bestPlan(job)));
    const auto all = refusals(job, circuit(job, "clt"));
    EXPECT_EQ(all.size(), job.ecu.inputs.size()) << "none takes it";
    for (const Refusal& r : all)
        EXPECT_FALSE(r.reason.empty()) << r.input.value;
}

TEST(Seating, LocksAreKept)
{
    job::Job job = small();
    EXPECT_TRUE(harness::seat(job, CircuitId{"tps"}, InputId{"U4"}));
    job::find(job, CircuitId{"tps"})->locked = true;
    EXPECT_TRUE(take(job, bestPlan(job)));
    EXPECT_EQ(circuit(job, "tps").input, InputId{"U4"});
    EXPECT_TRUE(circuit(job, "tps").locked);
}

TEST(Seating, OfAnInputsPullUpsTheFinestIsSwitchedOn)
{
    job::Job job = test::jobOn("large-free");
    parts::EcuInput* input = job::findInput(job, InputId{"AN1"});
    const CircuitId clt = test::add(job, "clt", "ntc-2k2"), oil = test::add(job, "oil-temp", "ntc-oil");
    for (const CircuitId& id : {clt, oil}) {
        input->pullUpChoices_ohm = {47, 220, 1000, 2490, 10000};
        EXPECT_TRUE(seat(job, id, input->id));
        const job::Circuit& c = *job::find(job, id);
        // Every choice tried by hand: none that keeps the sensor cool is finer than the one that was switched on.
        const auto tried = [&](double ohm) {
            return withPullUp(*job::sensorOf(job, c), c.scaling.low, c.scaling.high, *input, 5, ohm, 0.01);
        };
        ASSERT_TRUE(input->pull_up_ohm);
        const PullUpChoice on = tried(*input->pull_up_ohm);
        EXPECT_FALSE(on.tooWarm());
        for (double ohm : input->pullUpChoices_ohm)
            EXPECT_TRUE(tried(ohm).tooWarm() || tried(ohm).worstPerCount >= on.worstPerCount) << id.value << " " << ohm;
    }
    EXPECT_TRUE(seat(job, test::add(job, "map", "map-3bar"), input->id));
    EXPECT_FALSE(input->pull_up_ohm) << "it drives its own volts";
}

TEST(Seating, WhoSitsWellStaysWhereHeIs)
{
    job::Job job = small();
    EXPECT_TRUE(harness::seat(job, CircuitId{"map"}, InputId{"U3"}));
    EXPECT_TRUE(harness::seat(job, CircuitId{"tps"}, InputId{"U2"}));
    const Plan plan = bestPlan(job);
    EXPECT_EQ(plan.moved, 0);
    EXPECT_TRUE(take(job, plan));
    EXPECT_EQ(circuit(job, "map").input, InputId{"U3"});
    EXPECT_EQ(circuit(job, "tps").input, InputId{"U2"});
    const job::Job once = job;
    EXPECT_TRUE(take(job, bestPlan(job)));
    EXPECT_EQ(job, once) << "seated again, nothing moves";
}

TEST(Seating, TheSupplyLimitIsRespected)
{
    job::Job job = test::jobOn("large-free");
    job.ecu.supply.limit_a = 0.012; // two transducers of 900 Ohm
    for (int i = 0; i < 4; ++i)
        test::add(job, "oil-pressure", "press-10bar");
    const Plan plan = bestPlan(job);
    EXPECT_EQ(plan.required, 2);
    EXPECT_TRUE(take(job, plan));
    EXPECT_LE(supplyBudgets(job).front().drawn_a, 0.012);
    EXPECT_THAT(refusals(job, circuit(job, plan.unseated.front().value.c_str())).back().reason,
                testing::AnyOf(HasSubstr("sensor supply"), HasSubstr("no voltage")));
}

TEST(Seating, ARingOfMovesIsWalked)
{
    job::Job job = test::jobOn("large-free");
    test::add(job, "map", "map-3bar");
    test::add(job, "tps", "pot-10k");
    EXPECT_TRUE(harness::seat(job, CircuitId{"map"}, InputId{"AN1"}));
    EXPECT_TRUE(harness::seat(job, CircuitId{"tps"}, InputId{"AN2"}));
    Plan ring;
    ring.seats = {{CircuitId{"map"}, InputId{"AN2"}, {}}, {CircuitId{"tps"}, InputId{"AN1"}, {}}};
    EXPECT_TRUE(take(job, ring));
    EXPECT_EQ(circuit(job, "map").input, InputId{"AN2"});
    EXPECT_EQ(circuit(job, "tps").input, InputId{"AN1"});
    EXPECT_TRUE(job::check(job));
    for (const char* id : {"map", "tps"})
        EXPECT_TRUE(test::at(test::analysed(job), id, "input").expectation.promises()) << id;
}

TEST(WaysOut, ACoilGetsAConditionerWhereNoInputTakesIt)
{
    job::Job job = test::jobOn("large-free");
    for (parts::EcuInput& i : job.ecu.inputs)
        i.variableReluctance = false;
    test::add(job, "crank", "vr-crank");
    const auto ways = waysOut(job, circuit(job, "crank"), test::library());
    const auto box =
        std::ranges::find_if(ways, [](const WayOut& w) { return w.title.starts_with("Put a conditioner"); });
    ASSERT_NE(box, ways.end());
    EXPECT_THAT(box->detail, HasSubstr("The sensor stays"));
    EXPECT_TRUE(apply(job, *box));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_FALSE(circuit(job, "crank").input.empty());
}

TEST(WaysOut, AnExternalPullUpMakesTheThermistorReadable)
{
    job::Job job = small();
    job.circuits.erase(
        std::ranges::find(job.circuits, CircuitId{"wideband"}, &job::Circuit::id)); // leaves U-inputs free
    std::erase_if(job.devices, [](const job::Device& d) { return d.id.value == "wideband"; });
    EXPECT_TRUE(take(job, bestPlan(job)));
    const auto ways = waysOut(job, circuit(job, "clt"), test::library());
    const WayOut* fit = wayOut(ways, 0);
    ASSERT_NE(fit, nullptr);
    EXPECT_THAT(fit->title, HasSubstr("pull-up at U"));
    EXPECT_THAT(fit->detail, HasSubstr("a count"));
    EXPECT_TRUE(apply(job, *fit));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    const auto& choice = addedBy(*fit)->choice;
    ASSERT_NE(electrics::Wiring(job).pullUp(circuit(job, "clt")), nullptr);
    EXPECT_EQ(electrics::Wiring(job).pullUp(circuit(job, "clt"))->ohm, choice.ohm);
    // The meter's promise follows: 2.2 kOhm at 25 °C, beta 3500 K, at the job's ambient, under that pull-up (by hand).
    const double ambient = job.surroundings.ambient_k;
    const double r = 2200 * std::exp(3500 * (1 / ambient - 1 / 298.15));
    const double below = 1 / (1 / r + 1 / 470e3);
    const auto analysis = test::analysed(job);
    const auto& e = test::at(analysis, "clt", "input").expectation;
    ASSERT_TRUE(e.promises()) << e.trouble;
    EXPECT_NEAR(e.due.si(), 5 * below / (below + choice.ohm), 0.02);
    EXPECT_TRUE(analysis::find(analysis, CircuitId{"clt"})->table) << "and so does the table";
    EXPECT_EQ(std::ranges::count(analysis.findings, "pull-up-missing", &findings::Finding::rule), 0);
}

TEST(WaysOut, AnotherPullUpOfTheTableIsTakenWithItsFigures)
{
    job::Job job = small();
    std::erase_if(job.circuits, [](const job::Circuit& c) { return c.id.value == "wideband"; });
    std::erase_if(job.devices, [](const job::Device& d) { return d.id.value == "wideband"; });
    EXPECT_TRUE(take(job, bestPlan(job)));
    const auto ways = waysOut(job, circuit(job, "clt"), test::library());
    const AddedPullUp* fitted = addedBy(ways.front());
    ASSERT_NE(fitted, nullptr);
    ASSERT_GE(fitted->weighed.size(), 4u);
    EXPECT_EQ(std::ranges::count(fitted->weighed, fitted->choice.ohm, &PullUpChoice::ohm), 1)
        << "what is proposed is there";
    for (const PullUpChoice& choice : fitted->weighed) {
        const WayOut other = withAnother(job, ways.front(), choice);
        EXPECT_THAT(other.title, HasSubstr("Fit a " + units::formatOhms(choice.ohm) + " pull-up"));
        job::Job taken = job;
        ASSERT_TRUE(apply(taken, other));
        ASSERT_TRUE(job::check(taken));
        EXPECT_EQ(electrics::Wiring(taken).pullUp(circuit(taken, "clt"))->ohm, choice.ohm);
    }
}

TEST(WaysOut, AnExpanderBringsInputsAndTheReadingsFollow)
{
    job::Job job = small();
    EXPECT_TRUE(take(job, bestPlan(job)));
    const WayOut* fit = nullptr;
    const auto ways = waysOut(job, circuit(job, "iat"), test::library());
    ASSERT_NE(fit = wayOut(ways, 3), nullptr);
    EXPECT_TRUE(apply(job, *fit));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_EQ(job.expanders.size(), 1U);
    EXPECT_EQ(job::unitOf(job, circuit(job, "iat").input), &job.expanders.front());
    const auto analysis = test::analysed(job);
    EXPECT_TRUE(analysis.networkTrouble.empty()) << analysis.networkTrouble;
    EXPECT_TRUE(test::at(analysis, "iat", "input").expectation.promises());
    const job::Job back = *job::read(job::write(job));
    EXPECT_EQ(job::write(back), job::write(job));
    EXPECT_TRUE(apply(job, *fit));
    EXPECT_EQ(job.expanders.size(), 2U) << "a second one gets its own names";
    EXPECT_TRUE(job::check(job)) << job::check(job).error().text();
}

TEST(WaysOut, ADividerBringsTwelveVoltsDown)
{
    job::Job job = test::jobOn("small-4");
    test::add(job, "fuel-pressure", "press-10bar-0-10v");
    EXPECT_EQ(bestPlan(job).unseated.size(), 1U);
    const auto ways = waysOut(job, circuit(job, "fuel-pressure"), test::library());
    const WayOut* fit = wayOut(ways, 2);
    ASSERT_NE(fit, nullptr);
    EXPECT_TRUE(apply(job, *fit));
    ASSERT_TRUE(job::check(job));
    EXPECT_EQ(whyNot(job, "fuel-pressure", circuit(job, "fuel-pressure").input.value.c_str()), "");
    job.circuits[0].rest = {job::RestKind::Value, 10e5, 0};
    const auto analysis = test::analysed(job);
    const auto& e = test::at(analysis, "fuel-pressure", "input").expectation;
    ASSERT_TRUE(e.promises()) << e.trouble;
    EXPECT_LE(e.due.si(), 5.0);
    EXPECT_GT(e.due.si(), 4.5) << "and uses the span";
    EXPECT_EQ(std::ranges::count(analysis.findings, "open-conductor", &findings::Finding::rule), 0)
        << "the signal's path goes through the divider";
}

TEST(WaysOut, AnotherVersionOfTheSensorIsOffered)
{
    job::Job job = test::jobOn("small-4");
    test::add(job, "oil-temp", "ntc-1k-hot");
    const auto ways = waysOut(job, circuit(job, "oil-temp"), test::library());
    const WayOut* fit = wayOut(ways, 1);
    ASSERT_NE(fit, nullptr);
    EXPECT_TRUE(apply(job, *fit));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_FALSE(parts::needsPullUp(*job::sensorOf(job, circuit(job, "oil-temp"))));
    EXPECT_TRUE(test::at(test::analysed(job), "oil-temp", "input").expectation.promises());
}

TEST(WaysOut, AnOptionalCircuitGivesWay)
{
    job::Job job = test::jobOn("small-4");
    for (int i = 0; i < 4; ++i)
        test::add(job, "oil-pressure", "press-10bar", job::Want::Preferred);
    EXPECT_TRUE(take(job, bestPlan(job)));
    test::add(job, "map", "map-3bar");
    const auto ways = waysOut(job, circuit(job, "map"), test::library());
    const WayOut* fit = wayOut(ways, 4);
    ASSERT_NE(fit, nullptr);
    EXPECT_THAT(fit->detail, HasSubstr("preferred"));
    EXPECT_TRUE(apply(job, *fit));
    EXPECT_FALSE(circuit(job, "map").input.empty());
    EXPECT_EQ(std::ranges::count(job.circuits, InputId{}, &job::Circuit::input), 1);
    EXPECT_TRUE(job::check(job));
}

TEST(WaysOut, WhoHasASeatNeedsNone)
{
    const job::Job job = test::petrel();
    for (const job::Circuit& c : job.circuits)
        EXPECT_EQ(waysOut(job, c, test::library()).empty(), job::isSeated(c)) << c.name;
}

} // namespace
} // namespace vicegrip::seating
