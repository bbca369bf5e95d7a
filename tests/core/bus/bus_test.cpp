#include "core/bus/bus.h"

#include "core/analysis/analysis.h"
#include "core/electrics/netlist.h"
#include "core/harness/bus_wires.h"
#include "core/harness/edits.h"
#include "core/harness/places.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/job/json.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/ngspice.h"
#include "tests/support/petrel.h"
#include "tests/support/within_tolerance.h"

#include <gmock/gmock.h>

/// CAN buses: what a meter reads across the pair, how further devices join it, and which ends are wrong. 60 Ohm across
/// a bus that is closed at both ends, 120 Ohm at one, 40 Ohm with one too many, 2 V to 3 V on each wire while nobody
/// speaks: ISO 11898-2, from memory.
namespace vicegrip::bus {
namespace {

using job::Condition;
using job::PointRef;
using testing::Contains;
using testing::HasSubstr;

const parts::Part& part(const char* id)
{
    return *parts::find(test::library(), parts::PartId{id});
}

/// small-4 closes its end of the bus; the devices join in this order.
job::Job with(const std::vector<const char*>& devices, double terminator_ohm = 120)
{
    job::Job job = harness::startJob("Bus", *parts::find(test::library(), parts::EcuId{"small-4"}));
    for (parts::EcuOutput& o : job.ecu.outputs)
        if (o.isShared())
            o.terminator_ohm = terminator_ohm;
    for (const char* id : devices) {
        const auto circuit = harness::addCircuit(job, {id}, id, job::Want::Wanted, part(id));
        const auto seated = harness::seat(job, circuit, parts::OutputId{"CAN"});
        EXPECT_TRUE(seated) << seated.error().text();
    }
    const auto sound = job::check(job);
    EXPECT_TRUE(sound) << sound.error().text();
    return job;
}

double across(const job::Job& job, const std::string& plug)
{
    const auto car = electrics::build(job, {.condition = Condition::BatteryOff, .surroundings = job.surroundings});
    return car->ohmmeter({plug, "3"}, {plug, "4"})->value;
}

std::vector<std::string> rules(const job::Job& job)
{
    std::vector<std::string> out;
    for (const findings::Finding& f : test::analysed(job).findings)
        if (f.rule.starts_with("bus") || f.rule.starts_with("pair"))
            out.push_back(f.rule + ": " + f.what);
    return out;
}

TEST(Bus, ReadsSixtyOhmWhereBothEndsAreClosed)
{
    EXPECT_NEAR(across(with({"wideband-can-120"}), "WIDEBAND-CAN-120"), 60, 0.2);
    EXPECT_NEAR(across(with({"wideband-can"}), "WIDEBAND-CAN"), 120, 0.3) << "one end is missing";
    EXPECT_NEAR(across(with({"wideband-can-120", "can-display"}), "CAN-DISPLAY"), 40, 0.2) << "one too many";
    EXPECT_GT(across(with({"wideband-can"}, 0), "WIDEBAND-CAN"), 1e5) << "nothing closes it";
    EXPECT_THAT(rules(with({"wideband-can-120"})), testing::IsEmpty());
    EXPECT_THAT(rules(with({"wideband-can"})), testing::ElementsAre(HasSubstr("120 Ω across")));
    EXPECT_THAT(rules(with({"wideband-can-120", "can-display"})), testing::ElementsAre(HasSubstr("40 Ω across")));
    EXPECT_THAT(rules(with({"wideband-can"}, 0)), testing::ElementsAre(HasSubstr("open across")));
}

TEST(Bus, APromiseIsMadeAtThePlugAndAtTheUnitWithEveryPlugOn)
{
    const job::Job job = with({"wideband-can-120"});
    const auto a = test::analysed(job);
    int pairs = 0;
    for (const proof::Judged& j : analysis::promised(a, job.circuits[0].id, Condition::BatteryOff))
        if (parts::isSignal(j.expectation.station.role)) {
            EXPECT_TRUE(j.expectation.promises()) << j.expectation.trouble;
            EXPECT_NEAR(j.expectation.due.si(), 60.2, 0.2) << j.expectation.station.key; // and the leads of the meter
            EXPECT_THAT(j.expectation.black, HasSubstr("every plug of the bus on"));
            EXPECT_GT(j.expectation.low, 55) << "one end missing or one too many is never taken for right";
            EXPECT_LT(j.expectation.high, 66);
            ++pairs;
        }
    EXPECT_EQ(pairs, 4) << "high and low, at its plug and at the unit";
    for (const proof::Judged& j : analysis::promised(a, job.circuits[0].id, Condition::KeyOn))
        if (parts::isSignal(j.expectation.station.role)) {
            // Its heater's 1.6 A lift its ground, and with it half of what holds the pair, by 0.12 V.
            EXPECT_NEAR(j.expectation.due.si(), 2.5, 0.1);
            EXPECT_GE(j.expectation.low, 1.9);
            EXPECT_LE(j.expectation.high, 3.25);
        }
}

TEST(Bus, FurtherDevicesJoinByAYLeadCloseToIt)
{
    const job::Job job = with({"can-display", "wideband-can", "can-keypad"});
    for (const job::Circuit& c : job.circuits)
        for (const electrics::Path& path : electrics::Wiring(job).paths(c))
            EXPECT_TRUE(path.complete) << c.id.value << ' ' << fields::enumName(path.role);
    std::map<std::string, int> atPlace;
    for (const job::Wire& w : job.wires)
        for (const PointRef& end : {w.from, w.to})
            if (job::findJoint(job, end.owner) == nullptr)
                ++atPlace[end.text()];
    EXPECT_THAT(atPlace, testing::Each(testing::Pair(testing::_, 1))) << "no cavity takes two wires";
    const auto all = buses(job);
    ASSERT_EQ(all.size(), 1U);
    EXPECT_THAT(all[0].nodes, testing::SizeIs(4));
    for (const Node& n : all[0].nodes)
        EXPECT_LE(n.stub_m, harness::kLongestStub_m) << n.name;
    EXPECT_THAT(rules(job), testing::IsEmpty());
    EXPECT_THAT(orderText(all[0]), testing::AllOf(HasSubstr("(120 Ω)"), HasSubstr(": 60 Ω across")));
}

TEST(Bus, ALongStubAndATerminatorThatIsNotAtTheEndAreSaid)
{
    job::Job job = with({"can-display", "wideband-can"});
    for (job::Wire& w : job.wires)
        if (w.from.owner == "WIDEBAND-CAN" && (w.from.cavity == "3" || w.from.cavity == "4"))
            w.length_m = 1.5;
    // Farther out than the display, it is the end now, and the display's terminator is on the way to it.
    EXPECT_THAT(rules(job), testing::UnorderedElementsAre(HasSubstr("closed by can-display, 1.65 m from the end")));
    job::Job other = with({"can-display", "wideband-can"});
    for (job::Wire& w : other.wires) {
        if (w.from.owner == "WIDEBAND-CAN" && (w.from.cavity == "3" || w.from.cavity == "4"))
            w.length_m = 0.5;
        if (w.to.owner == "CAN-DISPLAY" && w.length_m < 0.2)
            w.length_m = 0.8;
    }
    EXPECT_THAT(rules(other), testing::ElementsAre(HasSubstr("wideband-can hangs 0.50 m beside the bus")));
}

TEST(Bus, ExchangedHighAndLowAreSaidThoughNoMeterSeesThem)
{
    job::Job job = with({"wideband-can-120"});
    for (job::Wire& w : job.wires)
        for (PointRef* end : {&w.from, &w.to})
            if (end->owner == "A" && (end->cavity == "23" || end->cavity == "24"))
                end->cavity = end->cavity == "23" ? "24" : "23";
    EXPECT_THAT(rules(job), testing::ElementsAre(HasSubstr("CAN high and low are exchanged")));
    EXPECT_NEAR(across(job, "WIDEBAND-CAN-120"), 60, 0.2);
}

TEST(Bus, AResistorInTheHarnessClosesAnEnd)
{
    job::Job job = with({"wideband-can"});
    job.resistors.push_back({"R9", "Terminator", job::ResistorKind::Terminator, PointRef::fromText("WIDEBAND-CAN.3"),
                             PointRef::fromText("WIDEBAND-CAN.4"), 120, 0.01});
    EXPECT_NEAR(across(job, "WIDEBAND-CAN"), 60, 0.2);
    EXPECT_THAT(rules(job), testing::IsEmpty());
    job::Job weak = job; // 120 and 1,000 Ohm in parallel are 107
    weak.resistors.back().ohm = 1000;
    EXPECT_THAT(rules(weak), testing::ElementsAre(HasSubstr("107 Ω across high and low, where 60 Ω is due")));
    job::Job stray = job; // from high to ground it closes nothing
    stray.resistors.back().to = PointRef::fromText("WIDEBAND-CAN.2");
    EXPECT_THAT(rules(stray), testing::ElementsAre(HasSubstr("120 Ω across")));
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again->resistors, job.resistors);
}

/// Its seat goes with its own wires; the others stay on the bus.
TEST(Bus, LeavingItLeavesTheOthersOn)
{
    job::Job job = with({"can-display", "wideband-can"});
    ASSERT_TRUE(harness::unseat(job, job::CircuitId{"wideband-can"}));
    for (const electrics::Path& path : electrics::Wiring(job).paths(job.circuits[0]))
        EXPECT_TRUE(path.complete) << fields::enumName(path.role);
    ASSERT_TRUE(harness::seat(job, job::CircuitId{"wideband-can"}, parts::OutputId{"CAN"}));
    for (const job::Circuit& c : job.circuits)
        for (const electrics::Path& path : electrics::Wiring(job).paths(c))
            EXPECT_TRUE(path.complete) << c.id.value << ' ' << fields::enumName(path.role);
    ASSERT_TRUE(harness::removeCircuit(job, job::CircuitId{"can-display"}));
    for (const electrics::Path& path : electrics::Wiring(job).paths(job.circuits[0]))
        EXPECT_TRUE(path.complete) << fields::enumName(path.role);
    EXPECT_TRUE(job::check(job));
}

/// From one bus to another: no lead stays behind, and no cavity takes two wires.
TEST(Bus, MovingToAnotherPortDrawsItsLeadsAnew)
{
    job::Job job = with({"can-display", "wideband-can"});
    harness::addExpander(job, *parts::find(test::library(), parts::EcuId{"expander-8"}));
    ASSERT_TRUE(harness::unseat(job, job::CircuitId{"bus-E"})) << "or both ports are one bus";
    for (const char* id : {"wideband-can", "can-display"})
        ASSERT_TRUE(harness::seat(job, job::CircuitId{id}, parts::OutputId{"CAN-E"})) << id;
    ASSERT_TRUE(job::check(job));
    const electrics::Wiring wiring(job);
    std::map<std::string, int> atPlace;
    for (const job::Wire& w : job.wires)
        for (const PointRef& end : {w.from, w.to})
            if (job::findJoint(job, end.owner) == nullptr)
                ++atPlace[end.text()];
    EXPECT_THAT(atPlace, testing::Each(testing::Pair(testing::_, 1)));
    for (const char* id : {"wideband-can", "can-display"})
        for (const electrics::Path& path : wiring.paths(*job::find(job, job::CircuitId{id})))
            EXPECT_TRUE(path.complete) << id << ' ' << fields::enumName(path.role);
    EXPECT_GT(across(job, "WIDEBAND-CAN"), 119) << "the ECU's terminator is on the other bus";
}

TEST(Bus, SeatingAllHangsEveryDeviceOnThePort)
{
    job::Job job = with({});
    for (const char* id : {"can-display", "wideband-can", "can-keypad", "injector-14"})
        (void)harness::addCircuit(job, {id}, id, job::Want::Wanted, part(id));
    const auto plan = seating::bestPlan(job);
    EXPECT_TRUE(plan.optimal);
    EXPECT_THAT(plan.unseated, testing::IsEmpty());
    ASSERT_TRUE(seating::take(job, plan));
    for (const char* id : {"can-display", "wideband-can", "can-keypad"})
        EXPECT_EQ(job::find(job, job::CircuitId{id})->output.value, "CAN");
    EXPECT_EQ(job::find(job, job::CircuitId{"injector-14"})->output.value, "INJ1");
    EXPECT_THAT(seating::unfitness(job, job.circuits[0], "INJ2"), HasSubstr("CAN port"));
    for (const seating::Refusal& r : seating::refusals(job, job.circuits[1]))
        EXPECT_NE(r.output.value, "CAN") << "a port that others hang on refuses nobody: " << r.reason;
}

/// Cars at the edge of their tolerances, with the engine off and with the battery off.
TEST(Bus, PromisesHoldForEveryCarWithinTolerance)
{
    const job::Job job = with({"can-display", "wideband-can"});
    const auto a = test::analysed(job);
    int compared = 0;
    for (const Condition condition : {Condition::BatteryOff, Condition::KeyOn, Condition::Cranking})
        for (unsigned seed = 1; seed <= 40; ++seed) {
            test::WithinTolerance within(seed);
            job::Job real = within.car(job);
            const auto car = electrics::build(real, within.moment(real, condition));
            ASSERT_TRUE(car);
            for (const job::Circuit& c : job.circuits)
                for (const proof::Judged& j : analysis::promised(a, c.id, condition)) {
                    const proof::Expectation& e = j.expectation;
                    if (!e.promises() || e.station.kind != proof::StationKind::Probe)
                        continue;
                    const auto read = job::isLive(condition) ? car->voltmeter(e.station.point, e.blackPoint, job.meter)
                                                             : car->ohmmeter(e.station.point, e.blackPoint);
                    ASSERT_TRUE(read) << e.station.key;
                    EXPECT_GE(read->value + (job::isLive(condition) ? 0 : job.meter.lead_ohm), e.low)
                        << e.station.key << " seed " << seed;
                    EXPECT_LE(read->value, e.high) << e.station.key << " seed " << seed;
                    ++compared;
                }
        }
    EXPECT_GT(compared, 1000);
}

/// ngspice on the deck that is written apart.
TEST(Bus, NgspiceAgreesOnTheQuietPair)
{
    const job::Job job = with({"can-display", "wideband-can"});
    const electrics::Situation situation{.condition = Condition::KeyOn, .surroundings = job.surroundings};
    const auto car = electrics::build(job, situation);
    ASSERT_TRUE(car);
    const auto netlist = electrics::netlist(job, situation);
    const auto theirs = test::askNgspice(netlist.deck("bus"));
    size_t i = 0, compared = 0;
    for (const auto& [point, node] : netlist.places) {
        if (node == "0")
            continue;
        ASSERT_LT(i, theirs.size()) << "is ngspice installed?";
        if (const double volts = theirs[i++]; point.owner == "CAN-DISPLAY" || point.owner == "WIDEBAND-CAN") {
            EXPECT_NEAR(car->solution.volts(*car->node(point)), volts, 1e-6) << point.text();
            ++compared;
        }
    }
    EXPECT_EQ(compared, 8U);
}

/// Files of before: the pins were there, and nobody could hang on them.
TEST(Bus, PinsOfOlderFilesBecomeAPort)
{
    auto json = nlohmann::json::parse(job::write(with({})));
    json["ecu"]["outputs"].erase(json["ecu"]["outputs"].size() - 1);
    for (auto& pin : json["ecu"]["pins"])
        if (pin.value("output", "") == "CAN") {
            pin.erase("output");
            pin["role"] = pin["at"] == "A.23" ? "can-high" : "can-low";
        }
    const auto job = job::read(json.dump());
    ASSERT_TRUE(job) << job.error().text();
    EXPECT_THAT(job::cavitiesOf(*job, parts::OutputId{"CAN-A"}),
                testing::ElementsAre(PointRef::fromText("A.23"), PointRef::fromText("A.24")));
    EXPECT_TRUE(job::findOutput(*job, parts::OutputId{"CAN-A"})->isShared());
}

} // namespace
} // namespace vicegrip::bus
