#include "core/brief/needs.h"
#include "core/electrics/netlist.h"
#include "core/job/check.h"
#include "core/parts/ecu.h"
#include "core/seating/compatibility.h"
#include "core/seating/plan.h"
#include "core/seating/ways_out.h"
#include "core/work/work_steps.h"
#include "tests/support/library.h"
#include "tests/support/ngspice.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// A pressure sensor inside the unit: a hose leads to it, and no wire.
namespace vicegrip::electrics {
namespace {

using job::Condition;
using testing::HasSubstr;

const job::CircuitId kMap{"map"};

job::Job natural()
{
    job::Job job = test::jobOn("entry-28");
    job.brief.emplace();
    EXPECT_TRUE(brief::apply(job, test::library()));
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    return job;
}

/// Worked by hand: 101.325 kPa of 20 to 250 kPa on 0.4 to 4.65 V are 0.4 + 4.25 * 81.325 / 230 = 1.9028 V (ISO 2533 has
/// the barometer of a standard day).
TEST(Inside, TheManifoldReadsTheBarometerAtKeyOn)
{
    const job::Job job = natural();
    EXPECT_EQ(job::find(job, kMap)->input.value, "MAP");
    EXPECT_TRUE(parts::isInside(*job::partOf(job, *job::find(job, kMap))));
    const auto analysis = test::analysed(job);
    const auto volts = test::at(analysis, "map", "input").expectation,
               value = test::at(analysis, "map", "value").expectation;
    EXPECT_NEAR(volts.due.si(), 1.9028, 0.0005);
    EXPECT_NEAR(value.due.si(), 101325, 150);
    EXPECT_TRUE(value.needed) << "no probe reaches it: the value proves it";
    // 1.5 % of 4.25 V, and 300 Pa of weather.
    EXPECT_NEAR(volts.high - volts.due.si(), 0.064 + 0.0055, 0.006);
}

/// ngspice on the deck that is written apart: the same volts at the converter, whatever the supply is.
TEST(Inside, AnotherProgramReadsTheSame)
{
    for (const double supply : {4.9, 5.0, 5.1}) {
        job::Job job = natural();
        job.ecu.supply.volts = supply;
        const Situation situation{.condition = Condition::KeyOn, .surroundings = job.surroundings};
        const Netlist deck = netlist(job, situation);
        const auto& pins = deck.inputs.at(parts::InputId{"MAP"});
        std::string ask = "* inside\n" + deck.elements + ".control\nset numdgt=15\nop\nprint v(" + pins.converter +
                          ")\nprint v(" + pins.ground + ")\nquit\n.endc\n.end\n";
        const auto theirs = test::askNgspice(ask);
        ASSERT_EQ(theirs.size(), 2U) << "is ngspice installed?";
        const auto car = build(job, situation);
        ASSERT_TRUE(car);
        const auto& input = car->inputs.at(parts::InputId{"MAP"});
        EXPECT_NEAR(car->solution.volts(input.converter, car->units[input.unit].ground), theirs[0] - theirs[1], 1e-6);
    }
}

TEST(Inside, WithTheBatteryOffThereIsNothingToRead)
{
    const auto analysis = test::analysed(natural());
    for (const proof::Judged& j : analysis::promised(analysis, kMap, Condition::BatteryOff))
        EXPECT_FALSE(j.expectation.trouble.empty()) << j.expectation.station.label;
}

/// No plug, no wire, no finding that either is missing; a hose among the steps.
TEST(Inside, NothingIsPinned)
{
    const job::Job job = natural();
    EXPECT_EQ(job::findConnector(job, "MAP"), nullptr);
    for (const findings::Finding& f : test::analysed(job).findings)
        EXPECT_FALSE(f.circuit == kMap) << f.what;
    const auto steps = work::steps(job);
    EXPECT_EQ(std::ranges::count_if(steps, [](const work::Step& s) { return s.id == "hose-map"; }), 1);
}

/// With boost beyond its range an external one takes over (common practice).
TEST(Inside, BoostBeyondItsRangeAsksForAnExternalOne)
{
    job::Job job = test::jobOn("entry-28");
    job.brief.emplace();
    job.brief->aspiration = job::Aspiration::Turbo;
    job.brief->target_pa = 100e3;
    job.brief->overshoot_pa = 20e3;
    ASSERT_TRUE(brief::apply(job, test::library()));
    EXPECT_TRUE(parts::isInside(*job::partOf(job, *job::find(job, kMap)))) << "221 kPa are within 250 kPa";
    job::Job more = test::jobOn("entry-28");
    more.brief = job.brief;
    more.brief->target_pa = 160e3;
    more.brief->drawn.clear();
    ASSERT_TRUE(brief::apply(more, test::library()));
    EXPECT_FALSE(parts::isInside(*job::partOf(more, *job::find(more, kMap)))) << "281 kPa are not";
    EXPECT_TRUE(seating::take(more, seating::bestPlan(more)));
    EXPECT_NE(job::find(more, kMap)->input.value, "MAP") << "its wire has no cavity there";
}

TEST(Inside, AnotherSensorTakesItsPlaceAndBack)
{
    job::Job job = natural();
    const parts::Part inside = *job::partOf(job, *job::find(job, kMap));
    const size_t wires = job.wires.size();
    ASSERT_TRUE(harness::setSensor(job, kMap, test::sensor("map-3bar")));
    EXPECT_TRUE(job::find(job, kMap)->input.empty()) << "what is wired goes on another input";
    ASSERT_NE(job::findConnector(job, "MAP"), nullptr);
    ASSERT_TRUE(seating::take(job, seating::bestPlan(job)));
    EXPECT_GT(job.wires.size(), wires);
    ASSERT_TRUE(job::check(job)) << job::check(job).error().text();
    ASSERT_TRUE(harness::setSensor(job, kMap, inside));
    EXPECT_EQ(job::find(job, kMap)->input.value, "MAP");
    EXPECT_EQ(job.wires.size(), wires);
    EXPECT_TRUE(job::check(job)) << job::check(job).error().text();
    const auto again = job::read(job::write(job));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(*again, job);
}

TEST(Inside, IsAWayOutWhereInputsAreShort)
{
    job::Job job = natural();
    ASSERT_TRUE(harness::setSensor(job, kMap, test::sensor("map-3bar")));
    job::find(job, kMap)->scaling.high = 200e3;
    const auto ways = seating::waysOut(job, *job::find(job, kMap), test::library());
    const auto way = std::ranges::find_if(
        ways, [](const seating::WayOut& w) { return w.title.find("inside the unit") != std::string::npos; });
    ASSERT_NE(way, ways.end());
    ASSERT_TRUE(seating::apply(job, *way));
    EXPECT_EQ(job::find(job, kMap)->input.value, "MAP");
    EXPECT_TRUE(job::check(job));
}

/// Nothing else sits on its input, and it sits nowhere else.
TEST(Inside, ItsInputReadsNothingElse)
{
    job::Job job = natural();
    const parts::EcuInput& input = *job::findInput(job, parts::InputId{"MAP"});
    for (const job::Circuit& c : job.circuits) {
        const bool another = c.id != kMap && job::sensorOf(job, c) != nullptr;
        EXPECT_FALSE(another && seating::kindCompatibility(c, *job::sensorOf(job, c), input).compatible()) << c.name;
    }
    for (const parts::EcuInput* other : job::inputs(job)) {
        const bool fits = seating::kindCompatibility(*job::find(job, kMap), *input.inside, *other).compatible();
        EXPECT_EQ(fits, other->id == input.id) << other->id.value;
    }
    job::find(job, kMap)->input = {"S4"};
    std::erase_if(job.circuits, [](const job::Circuit& c) { return c.id != kMap && c.input.value == "S4"; });
    ASSERT_FALSE(job::check(job));
    EXPECT_THAT(job::check(job).error().text(), HasSubstr("/circuits/"));
}

TEST(Inside, ASenselessOneIsRefusedWithItsPlace)
{
    nlohmann::json file = nlohmann::json::parse(fields::toJson(test::ecu("entry-28")).dump());
    ASSERT_TRUE(parts::readEcu(file));
    const auto refused = [&](auto change, const char* pointer) {
        nlohmann::json bad = file;
        change(bad["ecu"]);
        const auto read = parts::readEcu(bad);
        ASSERT_FALSE(read) << pointer;
        EXPECT_THAT(read.error().text(), HasSubstr(pointer));
    };
    refused([](auto& e) { e["inputs"][0]["inside"]["feed"] = "battery"; }, "/ecu/inputs/0/inside/feed");
    refused([](auto& e) { e["inputs"][0]["inside"]["pins"] = {{"1", "signal"}}; }, "/ecu/inputs/0/inside/pins");
    refused([](auto& e) { e["inputs"][0]["inside"]["high"] = 10; }, "/ecu/inputs/0/inside/high");
    refused([](auto& e) { e["pins"].push_back({{"at", "A.28"}, {"role", "input"}, {"input", "MAP"}}); }, "/ecu/pins/");
}

} // namespace
} // namespace vicegrip::electrics
