#include "core/electrics/netlist.h"
#include "core/harness/edits.h"
#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/seating/ways_out.h"
#include "tests/support/library.h"
#include "tests/support/ngspice.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// Ways out for what no output of the unit drives.
namespace vicegrip::seating {
namespace {

using testing::Contains;
using testing::HasSubstr;
using testing::StartsWith;

const parts::Part& libraryPart(const char* id)
{
    return *parts::find(test::library(), parts::PartId{id});
}

job::Job unseated(const char* unit, const char* id)
{
    job::Job job = harness::startJob("Ways", *parts::find(test::library(), parts::EcuId{unit}));
    harness::addCircuit(job, {"it"}, "It", job::Want::Required, libraryPart(id));
    return job;
}

std::vector<std::string> titles(const std::vector<WayOut>& ways)
{
    std::vector<std::string> out;
    for (const WayOut& w : ways)
        out.push_back(w.title);
    return out;
}

std::vector<WayOut> waysOf(const job::Job& job)
{
    return waysOut(job, *job::find(job, job::CircuitId{"it"}), test::library());
}

/// Worked by hand: a fan of 25 A loads a fuse by three quarters at 33.3 A: 35 A is the next there is (ISO 8820-3, from
/// memory).
TEST(DrivenWays, AFanIsSwitchedOverARelayThatIsDrawnWithItsFuse)
{
    job::Job job = unseated("entry-28", "fan-large");
    EXPECT_TRUE(refusals(job, job.circuits[0]).size() == job::outputs(job).size()) << "nothing carries it";
    const auto ways = waysOf(job);
    ASSERT_FALSE(ways.empty());
    EXPECT_THAT(ways[0].title, StartsWith("Put a relay in between"));
    ASSERT_TRUE(apply(job, ways[0]));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    EXPECT_EQ(job.circuits[0].output.value.substr(0, 3), "PMP") << "an injector's output is kept for an injector";
    const auto load = std::ranges::find(job.loads, false, &job::Load::starter);
    ASSERT_NE(load, job.loads.end());
    EXPECT_GE(load->current_a, 25);
    const auto fuse = std::ranges::find(job.switches, "Fuse of It", &job::Switch::label);
    ASSERT_NE(fuse, job.switches.end());
    EXPECT_GE(fuse->rating_a * 0.75, load->current_a);
    for (const findings::Finding& f : test::analysed(job).findings)
        EXPECT_THAT(f.rule, testing::Not(testing::AnyOf("wire-thin", "fuse-small", "load-no-fuse", "driver-current",
                                                        "load-shared-relay")))
            << f.what;
}

TEST(DrivenWays, ABareCoilOnALogicOutputTakesAModuleOrItsOwnDriver)
{
    const auto said = titles(waysOf(unseated("large-free", "coil-single")));
    EXPECT_THAT(said, Contains(StartsWith("Put a module in between")));
    EXPECT_THAT(said, Contains(HasSubstr("with its own driver")));
}

TEST(DrivenWays, LowResistanceInjectorsHaveAnotherVersion)
{
    EXPECT_THAT(titles(waysOf(unseated("small-4", "injector-2"))), Contains(HasSubstr("Injector, high resistance")));
}

/// Worked by hand: 2.4 Ohm want 5.9 Ohm more with 5 % off to make the 8 Ohm of a plain driver (common practice), and
/// 6.2 Ohm is the next of E24 (IEC 60063). 14.4 V over 8.6 Ohm are 1.7 A.
TEST(DrivenWays, LowResistanceInjectorsTakeAResistorInSeries)
{
    job::Job job = unseated("small-4", "injector-2");
    const double winding = *parts::windingOhm(libraryPart("injector-2"));
    const auto ways = waysOf(job);
    const auto way =
        std::ranges::find_if(ways, [](const WayOut& w) { return w.title.find("in series") != std::string::npos; });
    ASSERT_NE(way, ways.end());
    const double ohm = std::get<SeriesResistor>(way->measure).ohm;
    EXPECT_GE(winding + ohm * 0.95, 8);
    EXPECT_LT(winding + ohm / 1.1 * 0.95, 8) << "no smaller one of E24 would do";
    EXPECT_THAT(way->detail, HasSubstr("dead time"));
    ASSERT_TRUE(apply(job, *way));
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    for (const findings::Finding& f : test::analysed(job).findings)
        EXPECT_THAT(f.rule, testing::Not(testing::AnyOf("injector-low-resistance", "driver-current"))) << f.what;
    // What the meter must read from the ECU's cavity with the battery off: both, and the wires.
    const job::PointRef cavity = job::seatCavities(job, job.circuits[0]).front();
    const auto atPlug = test::at(test::analysed(job), "it", "IT.2", job::Condition::BatteryOff).expectation;
    const auto atEcu =
        test::at(test::analysed(job), "it", cavity.text().c_str(), job::Condition::BatteryOff).expectation;
    EXPECT_NEAR(atPlug.due.si(), winding, 0.25); // leads not zeroed
    EXPECT_NEAR(atEcu.due.si() - atPlug.due.si(), ohm, 0.1);
    // Running, nothing limits it but the two resistances: ngspice on the deck that is written apart says what flows.
    const electrics::Situation running{.condition = job::Condition::Running, .surroundings = job.surroundings};
    const auto car = electrics::build(job, running);
    const auto deck = electrics::netlist(job, running);
    const job::PointRef feed = job::PointRef::fromText("IT.1"), back = job::PointRef::fromText("IT.2");
    const auto theirs =
        test::askNgspice("* series\n" + deck.elements + ".control\nop\nprint v(" + deck.places.at(feed) +
                         ")\nprint v(" + deck.places.at(back) + ")\nquit\n.endc\n.end\n");
    ASSERT_EQ(theirs.size(), 2U) << "is ngspice installed?";
    const double across = car->voltmeter(feed, back, job.meter)->value;
    EXPECT_NEAR(across, theirs[0] - theirs[1], 0.001);
    const double driver = parts::findOutput(*job::units(job).front(), job.circuits[0].output)->on_ohm;
    EXPECT_NEAR(across / winding, theirs[0] / (winding + ohm + driver), 0.02)
        << "A: Ohm's law behind the feed, the ground's tenth of a volt left out";
    // Taken off and seated again it stays what it is behind its resistor.
    const parts::OutputId output = job.circuits[0].output;
    EXPECT_EQ(bestPlan(job).seats.size(), 1U);
    EXPECT_EQ(unfitness(job, job.circuits[0], output.value), "");
}

TEST(DrivenWays, WhoIsWantedLessGivesWay)
{
    job::Job job = unseated("small-4", "relay-85-diode");
    std::vector<job::CircuitId> lamps;
    for (int n = 0; n < 30; ++n)
        lamps.push_back(harness::addCircuit(job, {"lamp"}, "Lamp", job::Want::Preferred, libraryPart("lamp-warning")));
    for (const parts::EcuOutput* o : job::outputs(job))
        for (const job::CircuitId& lamp : lamps)
            if (!job::isSeated(*job::find(job, lamp)) && unfitness(job, *job::find(job, lamp), o->id.value).empty()) {
                ASSERT_TRUE(harness::seat(job, lamp, parts::OutputId(o->id)));
                break;
            }
    const auto ways = waysOf(job);
    ASSERT_FALSE(ways.empty());
    EXPECT_THAT(ways[0].title, StartsWith("Lamp gives up"));
    EXPECT_THAT(ways[0].detail, HasSubstr("preferred only"));
    ASSERT_TRUE(apply(job, ways[0]));
    EXPECT_TRUE(job::isSeated(*job::find(job, job::CircuitId{"it"})));
    EXPECT_TRUE(job::check(job));
}

/// Every way out of every part on every unit does what it says: the circuit is seated, on an output that can drive what
/// it leads to, in a job that holds.
TEST(DrivenWays, EachDoesWhatItSays)
{
    size_t tried = 0;
    for (const parts::Part& p : test::library().parts)
        for (const parts::EcuProfile& unit : test::library().ecus) {
            if (!parts::isDriven(p) || unit.ecu.expander)
                continue;
            const job::Job job = unseated(unit.id.value.c_str(), p.id.value.c_str());
            for (const WayOut& way : waysOf(job)) {
                job::Job done = job;
                const auto applied = apply(done, way);
                ASSERT_TRUE(applied) << way.title << ": " << applied.error().text();
                ASSERT_TRUE(job::check(done)) << way.title << ": " << job::check(done).error().text();
                const job::Circuit& it = *job::find(done, job::CircuitId{"it"});
                ASSERT_TRUE(job::isSeated(it)) << way.title;
                EXPECT_EQ(unfitness(done, it, it.output.value), "") << way.title << " on " << unit.id.value;
                EXPECT_FALSE(way.detail.empty());
                ++tried;
            }
        }
    EXPECT_GT(tried, 200U);
}

} // namespace
} // namespace vicegrip::seating
