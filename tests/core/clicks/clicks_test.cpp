#include "core/analysis/analysis.h"
#include "core/brief/needs.h"
#include "core/clicks/clicks.h"
#include "core/electrics/answering.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "core/logbook/logbook.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// The click test: what answers when an output is switched on, and what that says of the wiring.
namespace vicegrip::clicks {
namespace {

using job::CircuitId;
using proof::State;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

/// A four-cylinder engine with wasted spark: four injectors, two coils, and what else the ECU drives.
job::Job four(const char* unit = "mid-fixed")
{
    job::Job job = harness::startJob("Four", *parts::find(test::library(), parts::EcuId{unit}));
    job.brief.emplace();
    job.brief->firingOrder = {1, 3, 4, 2};
    for (const char* id : {"inj1", "inj2", "inj3", "inj4"})
        harness::addCircuit(job, {id}, std::string("Injector ") + id[3], job::Want::Required,
                            *parts::find(test::library(), parts::PartId{"injector-14"}));
    for (const char* id : {"ign1", "ign2"})
        harness::addCircuit(job, {id}, std::string("Coil ") + id[3], job::Want::Required,
                            *parts::find(test::library(), parts::PartId{"coil-wasted"}));
    harness::addCircuit(job, {"fan"}, "Fan relay", job::Want::Required,
                        *parts::find(test::library(), parts::PartId{"relay-85-diode"}));
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    EXPECT_TRUE(job::check(job));
    return job;
}

std::vector<std::string> answers(const job::Job& job, const char* circuit, const faults::FaultList& faults = {})
{
    const job::Circuit& c = *job::find(job, CircuitId{circuit});
    const auto heard = electrics::answering(job, {.surroundings = job.surroundings, .faults = faults}, c.output);
    EXPECT_TRUE(heard);
    std::vector<std::string> out;
    for (const CircuitId& id : *heard)
        out.push_back(id.value);
    return out;
}

void click(job::Job& job, const char* circuit, const std::vector<std::string>& answered)
{
    std::vector<CircuitId> ids;
    for (const std::string& id : answered)
        ids.push_back({id});
    job.clicks.push_back(record(job, job::facts(job), electrics::Wiring(job), *job::find(job, CircuitId{circuit}), ids,
                                "2026-11-28T20:00:00Z"));
}

Standing of(const job::Job& job, const char* circuit)
{
    for (Standing& s : standings(job, job::facts(job)))
        if (s.circuit.value == circuit)
            return s;
    ADD_FAILURE() << circuit;
    return {};
}

faults::SwappedCavities exchanged(const job::Job& job, const char* a, const char* b)
{
    const auto cavity = [&](const char* id) { return job::seatCavities(job, *job::find(job, CircuitId{id})).front(); };
    EXPECT_EQ(cavity(a).owner, cavity(b).owner);
    return {cavity(a).owner, {cavity(a).cavity, cavity(b).cavity}};
}

TEST(Clicks, GoRoundInFiringOrder)
{
    std::vector<std::string> order;
    const job::Job job = four();
    for (const Standing& s : standings(job, job::facts(job)))
        order.push_back(s.circuit.value);
    EXPECT_THAT(order, ElementsAre("inj1", "inj3", "inj4", "inj2", "ign1", "ign2", "fan"));
    EXPECT_EQ(nextOf(standings(job, job::facts(job))), 0U);
}

/// Every actuator of the library on every unit that takes it answers to its own output, and to no other.
TEST(Clicks, EveryPartAnswersToItsOwnOutputAlone)
{
    int heard = 0;
    for (const parts::Part& part : test::library().parts)
        for (const parts::EcuProfile& unit : test::library().ecus) {
            if (!parts::isDriven(part) || parts::isOnBus(part) || unit.ecu.expander)
                continue;
            job::Job job = harness::startJob("Clicks", unit);
            const auto first = harness::addCircuit(job, {"first"}, "First", job::Want::Required, part);
            const auto second = harness::addCircuit(job, {"second"}, "Second", job::Want::Required, part);
            if (!seating::take(job, seating::bestPlan(job)))
                continue;
            for (const auto& id : {first, second}) {
                if (job::find(job, id)->output.empty())
                    continue;
                EXPECT_THAT(answers(job, id.value.c_str()), ElementsAre(id.value))
                    << part.id.value << " on " << unit.id.value;
                ++heard;
            }
        }
    EXPECT_GT(heard, 100);
}

TEST(Clicks, TwoWiresExchangedAnswerForEachOther)
{
    job::Job job = four();
    const faults::FaultList swapped = {exchanged(job, "inj2", "inj3")};
    EXPECT_THAT(answers(job, "inj2", swapped), ElementsAre("inj3"));
    EXPECT_THAT(answers(job, "inj3", swapped), ElementsAre("inj2"));
    EXPECT_THAT(answers(job, "inj1", swapped), ElementsAre("inj1"));

    click(job, "inj3", answers(job, "inj3", swapped));
    EXPECT_EQ(of(job, "inj3").state, State::Failing);
    EXPECT_THAT(of(job, "inj3").todo, HasSubstr("Click Injector 2 next")) << "one wrong answer does not say which two";
    click(job, "inj2", answers(job, "inj2", swapped));
    const auto cavity = [&](const char* id) {
        return job::spoken(job, job::seatCavities(job, *job::find(job, CircuitId{id})).front());
    };
    for (const char* id : {"inj2", "inj3"}) {
        EXPECT_THAT(of(job, id).reason, HasSubstr("exchanged"));
        EXPECT_THAT(of(job, id).todo, testing::AllOf(HasSubstr(cavity("inj2")), HasSubstr(cavity("inj3"))));
    }
    const auto found = test::of(job, "click-exchanged");
    ASSERT_EQ(found.size(), 1U) << "a pair is one mistake";
    EXPECT_EQ(found.front().severity, findings::Severity::Stop);

    click(job, "inj2", {"inj2"});
    click(job, "inj3", {"inj3"});
    EXPECT_TRUE(test::of(job, "click-exchanged").empty()) << "the latest click counts";
}

/// Three wires gone round: one mistake, and where each goes.
TEST(Clicks, ARingOfThreeIsFollowedToItsEnd)
{
    job::Job job = four();
    const auto seat = [&](const char* id) {
        return job::spoken(job, job::seatCavities(job, *job::find(job, CircuitId{id})).front());
    };
    click(job, "inj1", {"inj3"});
    click(job, "inj3", {"inj4"});
    EXPECT_EQ(of(job, "inj1").next, CircuitId{"inj4"}) << "the one that has not been clicked";
    EXPECT_THAT(of(job, "inj1").todo, HasSubstr("Click Injector 4 next"));
    click(job, "inj4", {"inj1"});
    EXPECT_THAT(of(job, "inj1").todo, HasSubstr(seat("inj1") + " to " + seat("inj3") + "; " + seat("inj3") + " to " +
                                                seat("inj4") + "; " + seat("inj4") + " to " + seat("inj1")));
    EXPECT_EQ(test::of(job, "click-exchanged").size(), 1U);
    job.clicks.pop_back();
    click(job, "inj4", {"inj4"});
    EXPECT_EQ(test::of(job, "click-exchanged").size(), 2U) << "two wires are wrong, and neither hides the other";
    EXPECT_THAT(of(job, "inj1").todo, HasSubstr("first"));
}

/// What was heard before the wiring changed says nothing of another output.
TEST(Clicks, AStaleClickIsNoWitness)
{
    job::Job job = four();
    click(job, "inj2", {"inj3"});
    click(job, "inj3", {"inj2"});
    const job::PointRef cavity = job::seatCavities(job, *job::find(job, CircuitId{"inj2"})).front();
    for (job::Wire& w : job.wires)
        if (w.from == cavity || w.to == cavity)
            w.length_m += 1;
    EXPECT_EQ(of(job, "inj2").state, State::Stale);
    EXPECT_THAT(of(job, "inj3").todo, HasSubstr("Click Injector 2 next"));
}

TEST(Clicks, WhatIsOpenOrWithoutFeedIsSilent)
{
    job::Job job = four();
    const job::PointRef cavity = job::seatCavities(job, *job::find(job, CircuitId{"inj1"})).front();
    for (const job::Wire& w : job.wires)
        if (w.from == cavity || w.to == cavity) {
            EXPECT_THAT(answers(job, "inj1", {faults::OpenWire{w.id}}), IsEmpty());
        }
    click(job, "inj1", {});
    EXPECT_EQ(of(job, "inj1").state, State::Failing);
    EXPECT_EQ(test::of(job, "click-silent").size(), 1U);
    job::Job unfed = job;
    std::erase_if(unfed.switches, [](const job::Switch& s) { return s.id == "K1"; });
    EXPECT_THAT(answers(unfed, "inj2"), IsEmpty()) << "the relay that feeds it is out";
}

TEST(Clicks, WiresThatAreJoinedAreToldFromWiresExchanged)
{
    job::Job job = four();
    const auto cavity = [&](const char* id) { return job::seatCavities(job, *job::find(job, CircuitId{id})).front(); };
    const faults::FaultList touching = {faults::Short{cavity("inj1"), cavity("inj2")}};
    EXPECT_THAT(answers(job, "inj1", touching), ElementsAre("inj1", "inj2"));
    click(job, "inj1", {"inj1", "inj2"});
    EXPECT_THAT(of(job, "inj1").reason, HasSubstr("more than one part: Injector 1, Injector 2"));
    click(job, "inj3", {"inj4"});
    click(job, "inj4", {"inj4"});
    EXPECT_THAT(of(job, "inj3").reason, HasSubstr("both work Injector 4"));
}

TEST(Clicks, GoStaleWithTheWiring)
{
    job::Job job = four();
    click(job, "inj1", {"inj1"});
    EXPECT_EQ(of(job, "inj1").state, State::Done);
    EXPECT_EQ(nextOf(standings(job, job::facts(job))), 1U);
    const job::PointRef cavity = job::seatCavities(job, *job::find(job, CircuitId{"inj1"})).front();
    for (job::Wire& w : job.wires)
        if (w.from == cavity || w.to == cavity)
            w.length_m += 1;
    EXPECT_EQ(of(job, "inj1").state, State::Stale);
    EXPECT_THAT(of(job, "inj1").reason, HasSubstr("wire"));
}

TEST(Clicks, AreKeptInTheFileAndTheLogbook)
{
    job::Job job = four();
    click(job, "inj3", {"inj2"});
    click(job, "ign1", {});
    const auto back = job::read(job::write(job));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back->clicks, job.clicks);
    std::string book;
    for (const auto& line : logbook::logbook(job, ""))
        book += line.what + "\n";
    EXPECT_THAT(book, HasSubstr("Injector 3, output clicked: Injector 2 answered"));
    EXPECT_THAT(book, HasSubstr("Coil 1, output clicked: nothing answered"));

    job::Job bad = job;
    bad.clicks.front().answered = {CircuitId{"nobody"}};
    ASSERT_FALSE(job::check(bad));
    EXPECT_THAT(job::check(bad).error().text(), HasSubstr("nobody"));
    ASSERT_TRUE(harness::removeCircuit(job, CircuitId{"inj2"}));
    EXPECT_EQ(job.clicks.size(), 1U) << "what it answered goes with it";
    EXPECT_TRUE(job::check(job));
}

} // namespace
} // namespace vicegrip::clicks
