#include "bench/car.h"
#include "bench/wheel_signal.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gtest/gtest.h>

/// What the bench's engine does to its sensors.
namespace vicegrip::bench {
namespace {

using job::Condition;

constexpr double kAmbient_k = 293.15;

Engine turned(Condition condition)
{
    const job::Job job = test::petrel();
    Engine out;
    out.begin(turningOf(job, condition), kAmbient_k);
    return out;
}

const job::Circuit& circuit(const job::Job& job, const char* id)
{
    return *job::find(job, job::CircuitId{id});
}

/// Below the thermostat one heat capacity that is heated and loses: T = Ta + P/h (1 - exp(-h t / C)), the first-order
/// answer of any textbook on heat transfer (Incropera, lumped capacitance).
TEST(Engine, WarmsAsALumpOfMetalDoes)
{
    Engine e = turned(Condition::Running);
    for (double t = 0; t < 400; t += 20) {
        EXPECT_NEAR(e.coolant_k(), kAmbient_k + 2500.0 / 19 * (1 - std::exp(-19.0 * t / 25e3)), 0.2) << t << " s";
        e.pass(20 / Engine::kHurry);
    }
}

TEST(Engine, StandsAtItsThermostat)
{
    Engine e = turned(Condition::Running);
    EXPECT_NEAR(e.oil_pa(), 370e3, 1) << "cold oil";
    e.pass(200);
    EXPECT_GT(e.coolant_k(), Engine::kThermostat_k);
    EXPECT_LT(e.coolant_k(), Engine::kThermostat_k + 10);
    EXPECT_GT(e.oil_pa(), 100e3) << "a bar and more at a warm idle (typical)";
    EXPECT_LT(e.oil_pa(), 250e3) << "and less than cold";
}

/// Common practice, no source: on the starter the manifold is hardly drawn down, at idle to about a third.
TEST(Engine, DrawsItsManifoldDownAndHoldsItsFuelAboveIt)
{
    const job::Job job = test::petrel();
    const Engine cranked = turned(Condition::Cranking), idles = turned(Condition::Running),
                 stands = turned(Condition::KeyOn);
    EXPECT_GT(cranked.manifold_pa(100e3), 90e3);
    EXPECT_LT(idles.manifold_pa(100e3), 45e3);
    EXPECT_GT(idles.manifold_pa(100e3), 25e3);
    EXPECT_FALSE(stands.felt(job, circuit(job, "map"))) << "the barometer, as everybody else says it";
    EXPECT_FALSE(cranked.felt(job, circuit(job, "clt"))) << "as cold as the air";
    const double barometer = job.surroundings.barometer_pa;
    EXPECT_NEAR(*idles.felt(job, circuit(job, "fp")), job.brief->fuel_pa - (barometer - idles.manifold_pa(barometer)),
                1);
}

/// By the ECU's own report: what was taken for warm is warm, oil has pressure, and the speed is told where it decodes.
TEST(Engine, IsSeenByTheEcuOfTheCar)
{
    job::Job job = test::petrel();
    Car car(job, {});
    car.takeUpTables([](const job::Circuit&) { return true; });
    const auto told = [&](const char* id) {
        const auto input = job::inputIndex(job, circuit(job, id).input);
        for (const link::EcuSample& s : car.samples())
            if (s.input == static_cast<int>(input.value_or(0)) && s.value)
                return *s.value;
        ADD_FAILURE() << id << " is not told";
        return 0.0;
    };
    EXPECT_EQ(told("crank"), 0) << "it stands";
    ASSERT_TRUE(car.setCondition(Condition::Cranking));
    EXPECT_NEAR(told("crank") * 60, 200, 10);
    ASSERT_TRUE(car.setCondition(Condition::Running));
    EXPECT_NEAR(told("crank") * 60, 850, 10);
    const double cold = told("clt");
    for (int i = 0; i < 600; ++i)
        car.pass(0.1);
    EXPECT_GT(told("clt"), cold + 50);
    EXPECT_NEAR(told("clt"), 90, 6) << "Celsius, as its table says";
    ASSERT_TRUE(car.apply(job::CircuitId{"clt"}, 300));
    EXPECT_LT(told("clt"), 40) << "what hands hold stays";
    ASSERT_TRUE(car.setCondition(Condition::KeyOn));
    EXPECT_EQ(told("crank"), 0);
}

/// A wheel that has lost teeth does not decode, and no speed is told.
TEST(Engine, TellsNoSpeedOfAChippedWheel)
{
    job::Job job = test::petrel();
    auto faults =
        faults::readFaults(R"({"faults": [{"kind": "wheel", "circuit": "crank", "chipped": [2, 9, 17]}]})", job);
    ASSERT_TRUE(faults) << faults.error().text();
    Car car(job, *faults);
    ASSERT_TRUE(car.setCondition(Condition::Cranking));
    EXPECT_EQ(car.countedRpm(), 0);
}

} // namespace
} // namespace vicegrip::bench
