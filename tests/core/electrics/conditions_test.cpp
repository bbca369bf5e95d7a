#include "core/analysis/analysis.h"
#include "core/electrics/battery.h"
#include "core/electrics/electrics.h"
#include "core/harness/start.h"
#include "core/parts/conductor.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>

/// Battery off, key on, cranking, running: what feeds the car and what draws on it under each.
namespace vicegrip::electrics {
namespace {

using job::Condition;
using job::PointRef;

double volts(const job::Job& job, Condition condition, const char* red)
{
    const auto car = build(job, {.condition = condition, .surroundings = job.surroundings});
    EXPECT_TRUE(car);
    return car->voltmeter(PointRef::fromText(red), PointRef::fromText("BAT-"), job.meter)->value;
}

job::Job withoutLoads()
{
    job::Job job = test::petrelInputs();
    job.loads.clear();
    return job;
}

/// Worked by hand: 12.6 V behind 15 mOhm are 10.5 V at 140 A, and 14.2 V are what the alternator holds.
TEST(Conditions, TheBatterySagsUnderTheStarterAndIsChargedByTheEngine)
{
    const job::Job job = withoutLoads();
    EXPECT_NEAR(volts(job, Condition::KeyOn, "BAT+"), 12.6, 0.04);
    EXPECT_NEAR(volts(job, Condition::Cranking, "BAT+"), 12.6 - 0.015 * kStarter_a, 0.04);
    EXPECT_NEAR(volts(job, Condition::Running, "BAT+"), 14.2, 0.04);
    EXPECT_GT(volts(job, Condition::Cranking, "BAT+"), 9.6)
        << "a sound battery holds 9.6 V under the starter (common practice, no source)";
}

/// A starter that is drawn returns through the engine: Ohm's law over its own cable says what the block lifts by.
TEST(Conditions, AStarterThatIsDrawnLiftsTheBlock)
{
    job::Job job = harness::startJob("Starter", *parts::find(test::library(), parts::EcuId{"large-free"}));
    ASSERT_EQ(job.loads.size(), 1U);
    job.loads.front().current_a = 180;
    const job::Wire& strap = job.wires.front();
    ASSERT_EQ(strap.to.text(), "BAT-");
    const double ohms =
        parts::wireOhms(strap.length_m, strap.area_m2, job.surroundings.ambient_k) + 2 * parts::kCrimpOhms;
    const double amps = 12.6 / (12.6 / 180 + ohms); // 12.6 V / 180 A is the starter with the battery's own resistance
    EXPECT_NEAR(volts(job, Condition::Cranking, "G2"), amps * ohms, 0.02 * amps * ohms);
    EXPECT_NEAR(volts(job, Condition::Cranking, "G1"), volts(job, Condition::Cranking, "G2"), 0.002);
    EXPECT_LT(volts(job, Condition::Running, "G2"), 0.01);
    EXPECT_LT(volts(job, Condition::KeyOn, "G2"), 0.01);
}

TEST(Conditions, AFeedThatOpensUnderTheStarterTakesTheUnitAway)
{
    job::Job job = test::petrel();
    const job::Circuit& map = *job::find(job, job::CircuitId{"map"});
    const auto reads = [&](Condition condition) {
        return build(job, {.condition = condition, .surroundings = job.surroundings})->reads(job, map);
    };
    EXPECT_TRUE(reads(Condition::Cranking));
    for (job::Switch& s : job.switches)
        if (s.needsKey)
            s.opensCranking = true;
    EXPECT_TRUE(reads(Condition::KeyOn));
    EXPECT_TRUE(reads(Condition::Running));
    EXPECT_FALSE(reads(Condition::Cranking));
    const auto cranking = test::analysed(job);
    int silent = 0;
    for (const proof::Judged& j : analysis::promised(cranking, map.id, Condition::Cranking))
        silent += j.expectation.station.kind == proof::StationKind::Input && !j.expectation.promises() ? 1 : 0;
    EXPECT_EQ(silent, 1);
}

/// A thermometer stays as cold as the air while the engine is cranked; the manifold does not stay at the barometer.
TEST(Conditions, AnEngineThatTurnsMovesWhatItsSensorsRead)
{
    const auto a = test::analysed(test::petrel());
    const auto width = [&](const char* circuit, const char* station, Condition condition) {
        for (const proof::Expectation& e : analysis::promises(a, job::CircuitId{circuit}, condition))
            if (e.station.key == station)
                return e.high - e.low;
        ADD_FAILURE() << circuit << ' ' << station;
        return 0.0;
    };
    // What is driven lifts the ground it shares by some 0.15 V, or not.
    EXPECT_LT(width("clt", "A.7", Condition::Cranking), width("clt", "A.7", Condition::KeyOn) + 0.25);
    EXPECT_GT(width("clt", "A.7", Condition::Running), 3);
    EXPECT_LT(width("map", "A.5", Condition::KeyOn), 0.2);
    for (const Condition turning : {Condition::Cranking, Condition::Running})
        EXPECT_GT(width("map", "A.5", turning), 3);
}

/// With the engine stopped the air outside moves all thermometers together; running, each is warmed by itself. No
/// standard deviation is more than half of what its bounds leave.
TEST(Conditions, RunningSensorsShareNoCause)
{
    const job::Job job = test::petrel();
    const auto shares = [&](Condition condition, const char* cause) {
        const auto car = build(job, {.condition = condition, .surroundings = job.surroundings});
        const auto found = std::ranges::find(car->causes, cause, &Cause::name);
        return found == car->causes.end() ? 0U : found->shares.size();
    };
    EXPECT_EQ(shares(Condition::KeyOn, "ambient"), 4U) << "coolant, intake air, oil, gearbox";
    EXPECT_EQ(shares(Condition::Cranking, "ambient"), 4U);
    EXPECT_EQ(shares(Condition::Cranking, "barometer"), 0U);
    EXPECT_EQ(shares(Condition::Running, "ambient"), 0U);
    EXPECT_EQ(shares(Condition::Running, "state of Coolant temp"), 1U);
    const auto a = test::analysed(job);
    for (const proof::Expectation& e : analysis::promises(a, job::CircuitId{"clt"}, Condition::Running))
        if (e.promises() && e.station.kind == proof::StationKind::Probe) {
            EXPECT_LE(e.sigma, (e.high - e.low) / 2) << e.station.key;
        }
}

} // namespace
} // namespace vicegrip::electrics
