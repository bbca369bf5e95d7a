#include "bench/car.h"
#include "core/job/json.h"
#include "tests/support/petrel.h"

#include <cmath>
#include <gtest/gtest.h>

/// What the bench's engine does to its sensors.
namespace vicegrip::bench {
namespace {

using job::Condition;

constexpr double kAmbient_k = 293.15;

const job::Circuit& circuit(const job::Job& job, const char* id)
{
    return *job::find(job, job::CircuitId{id});
}

/// A car whose ECU holds every table that is asked for.
Car told(const job::Job& job, const char* faults = "")
{
    auto list = faults::readFaults(std::string(R"({"faults": [)") + faults + "]}", job);
    EXPECT_TRUE(list) << list.error().text();
    Car out(job, *list);
    out.takeUpTables([](const job::Circuit&) { return true; });
    return out;
}

void warm(Car& car)
{
    for (int i = 0; i < 1200; ++i)
        car.pass(0.1);
}

/// What the ECU has for a circuit, SI.
double value(Car& car, const char* id)
{
    const auto values = car.values();
    for (size_t i = 0; i < values.size(); ++i)
        if (car.job().circuits[i].id.value == id && values[i])
            return *values[i];
    ADD_FAILURE() << id << " is not told";
    return 0;
}

/// Common practice, no source: on the starter the manifold is hardly drawn down, at idle to about a third; fuel is held
/// above it.
TEST(UnderBonnet, DrawsItsManifoldDownAndHoldsItsFuelAboveIt)
{
    const job::Job job = test::petrel();
    Car car = told(job);
    const double barometer = job.surroundings.barometer_pa;
    ASSERT_TRUE(car.setCondition(Condition::Cranking));
    EXPECT_GT(value(car, "map"), 0.84 * barometer);
    EXPECT_NEAR(value(car, "clt"), kAmbient_k, 3) << "as cold as the air";
    ASSERT_TRUE(car.setCondition(Condition::Running));
    EXPECT_TRUE(car.runs());
    EXPECT_LT(value(car, "map"), 0.48 * barometer);
    EXPECT_GT(value(car, "map"), 0.25 * barometer);
    EXPECT_NEAR(value(car, "fp"), job.brief->fuel_pa - (barometer - value(car, "map")), 6e3);
    ASSERT_TRUE(car.setCondition(Condition::KeyOn));
    EXPECT_NEAR(value(car, "map"), barometer, 2e3) << "the barometer, as everybody else says it";
}

TEST(UnderBonnet, StandsAtItsThermostat)
{
    Car car = told(test::petrel());
    ASSERT_TRUE(car.setCondition(Condition::Running));
    const double cold_pa = value(car, "oil-pressure");
    warm(car);
    EXPECT_NEAR(value(car, "clt"), 273.15 + 91, 4);
    EXPECT_LT(value(car, "oil-pressure"), 0.75 * cold_pa);
    EXPECT_GT(value(car, "oil-pressure"), 100e3) << "a bar and more at a warm idle (typical)";
    EXPECT_NEAR(value(car, "wb"), 1, 0.02) << "closed loop";
    EXPECT_LT(std::abs(car.engine().commands().correction), 0.10);
}

/// Every fault acts for its own reason.
TEST(UnderBonnet, RunsByWhatItsWiringLetsItHave)
{
    const job::Job job = test::petrel();
    const auto runs = [&](const char* fault) {
        Car car = told(job, fault);
        EXPECT_TRUE(car.setCondition(Condition::Running));
        return car.runs();
    };
    EXPECT_TRUE(runs(""));
    EXPECT_FALSE(runs(R"({"kind": "open", "wire": "w68"})")) << "its pump's relay does not pull in";
    EXPECT_FALSE(runs(R"({"kind": "open", "wire": "w50"})")) << "nor does the pump get anything";
    EXPECT_FALSE(runs(R"({"kind": "open", "wire": "w66"})")) << "no injector is fed";
    EXPECT_FALSE(runs(R"({"kind": "open", "wire": "w67"})")) << "no coil is";
    EXPECT_FALSE(runs(R"({"kind": "dead-cranking", "switch": "K3"})")) << "all that is off while it is turned";
    EXPECT_FALSE(runs(R"({"kind": "wheel", "circuit": "crank", "chipped": [2, 9, 17]})")) << "nothing decodes";
    EXPECT_TRUE(runs(R"({"kind": "open", "wire": "w54"})")) << "on three cylinders";
    EXPECT_TRUE(runs(R"({"kind": "open", "wire": "w70"})")) << "a fan is for later";
}

/// An engine that could not be started is, once that is mended.
TEST(UnderBonnet, StartsWhenWhatKeptItIsMended)
{
    Car car = told(test::petrel(), R"({"kind": "open", "wire": "w68"})");
    ASSERT_TRUE(car.setCondition(Condition::Running));
    EXPECT_FALSE(car.runs());
    EXPECT_EQ(car.countedRpm(), 0);
    ASSERT_TRUE(car.mend({{"wire w68"}}));
    EXPECT_TRUE(car.runs());
    EXPECT_GT(car.countedRpm(), 600);
}

/// A table of another sensor is a mixture: the gas law has it, until closed loop has taken it away.
TEST(UnderBonnet, AWrongTableIsAWrongMixture)
{
    Car car = told(test::petrel(), R"({"kind": "held-table", "input": "AN1", "points": [[0.5, 0.0], [4.5, 330.0]]})");
    ASSERT_TRUE(car.setCondition(Condition::Running));
    warm(car);
    EXPECT_NEAR(value(car, "wb"), 1, 0.02);
    EXPECT_LT(car.engine().commands().correction, -0.10) << "a tenth too much is read";
}

/// A fan that rests draws nothing, and one that blows lifts the ground of what hangs on the same chassis.
TEST(UnderBonnet, TheFanMovesWhatSharesItsGround)
{
    Car car = told(test::petrel());
    ASSERT_TRUE(car.setCondition(Condition::Running));
    warm(car);
    double resting = 0, blowing = 0;
    for (int i = 0; i < 4000 && (resting == 0 || blowing == 0); ++i) {
        car.pass(0.02);
        (car.engine().commands().fan ? blowing : resting) = value(car, "gt");
    }
    EXPECT_GT(blowing - resting, 3) << "K, of a sensor whose ground is in the cabin";
}

/// By the ECU's own report: what was taken for warm is warm, oil has pressure, and the speed is told where it decodes.
TEST(UnderBonnet, IsSeenByTheEcuOfTheCar)
{
    job::Job job = test::petrel();
    Car car = told(job);
    const auto shown = [&](const char* id) {
        const auto input = job::inputIndex(job, circuit(job, id).input);
        for (const link::EcuSample& s : car.samples())
            if (s.input == static_cast<int>(input.value_or(0)) && s.value)
                return *s.value;
        ADD_FAILURE() << id << " is not told";
        return 0.0;
    };
    EXPECT_EQ(shown("crank"), 0) << "it stands";
    ASSERT_TRUE(car.setCondition(Condition::Cranking));
    EXPECT_NEAR(shown("crank") * 60, 200, 50);
    ASSERT_TRUE(car.setCondition(Condition::Running));
    EXPECT_NEAR(shown("crank") * 60, car.engine().plant().rpm(), 10);
    const double cold = shown("clt");
    for (int i = 0; i < 600; ++i)
        car.pass(0.1);
    EXPECT_GT(shown("clt"), cold + 50);
    EXPECT_NEAR(shown("clt"), 90, 6) << "Celsius, as its table says";
    ASSERT_TRUE(car.apply(job::CircuitId{"clt"}, 300));
    EXPECT_LT(shown("clt"), 40) << "what hands hold stays";
    ASSERT_TRUE(car.setCondition(Condition::KeyOn));
    EXPECT_EQ(shown("crank"), 0);
}

/// A wheel that has lost teeth does not decode, and no speed is told.
TEST(UnderBonnet, TellsNoSpeedOfAChippedWheel)
{
    job::Job job = test::petrel();
    auto faults =
        faults::readFaults(R"({"faults": [{"kind": "wheel", "circuit": "crank", "chipped": [2, 9, 17]}]})", job);
    ASSERT_TRUE(faults) << faults.error().text();
    Car car(job, *faults);
    ASSERT_TRUE(car.setCondition(Condition::Cranking));
    EXPECT_EQ(car.countedRpm(), 0);
}

/// What hands hold the plate at, the idle valve need not give: that is what a stop screw is for.
TEST(UnderBonnet, APlateThatRestsFurtherOpenClosesItsIdleValve)
{
    job::Job job = test::petrel();
    job.brief->idle = job::IdleControl::Valve;
    Car car = told(job);
    ASSERT_TRUE(car.setCondition(Condition::Running));
    warm(car);
    const double shut = car.engine().commands().idleAir;
    EXPECT_GT(shut, 0.03) << "warm, in neutral: the middle of what the trade wants";
    EXPECT_LT(shut, 0.10);
    ASSERT_TRUE(car.apply(job::CircuitId("tps"), 0.01));
    warm(car);
    EXPECT_LT(car.engine().commands().idleAir, 0.8 * shut);
    EXPECT_NEAR(value(car, "tps"), 0.01, 0.002);
    EXPECT_NEAR(car.countedRpm(), engine::Program::kIdle_rpm, 60);
}

/// Fuel that is poured in comes late and mixed, the sensor shows it, and a calibration that reads the sensor burns it
/// as it should.
TEST(UnderBonnet, FuelReachesItsSensorAsThePumpMovesIt)
{
    auto read = job::readFile(VICEGRIP_SOURCE_DIR "/data/jobs/curlew.vicegrip");
    ASSERT_TRUE(read);
    read->tank.emplace();
    read->tank->flow_m3_per_s = 60e-3 / 3600;
    Car car = told(*read);
    ASSERT_TRUE(car.setCondition(Condition::Running));
    ASSERT_TRUE(car.runs());
    const double before = value(car, "flex");
    ASSERT_TRUE(car.pour(20e-3, {20e-3, 0.85}));
    const auto pass = [&](double seconds) {
        for (double t = 0; t < seconds; t += 0.1)
            car.pass(0.1);
    };
    pass(20); // 0.4 l at 60 l/h: 24 s
    EXPECT_NEAR(value(car, "flex"), before, 0.01);
    pass(600);
    EXPECT_NEAR(value(car, "flex"), (before + 0.85) / 2, 0.02) << "half of each";
    EXPECT_NEAR(value(car, "wideband"), 1, 0.03) << "and its mixture is right on it";
    EXPECT_FALSE(car.pour(20e-3, {0, 0.85}));
    EXPECT_FALSE(car.pour(20e-3, {2, 0.85}));
    EXPECT_FALSE(car.pour(20e-3, {20e-3, 1.2}));
    EXPECT_FALSE(car.pour(-1, {20e-3, 0.5}));
}

/// The battery's own volts where nothing charges it: the line of the run sheet that asks for more fails.
TEST(UnderBonnet, AnAlternatorMayGiveNothing)
{
    const job::Job job = test::petrel();
    const auto posts = [&](const char* faults) {
        Car car = told(job, faults);
        EXPECT_TRUE(car.setCondition(Condition::Running));
        EXPECT_TRUE(car.runs());
        EXPECT_TRUE(car.putProbes(job::PointRef::fromText("BAT+"), job::PointRef::fromText("BAT-")));
        return car.volts().value_or(0);
    };
    EXPECT_GT(posts(""), 13);
    EXPECT_LT(posts(R"({"kind": "no-charge"})"), 12.8);
}

} // namespace
} // namespace vicegrip::bench
