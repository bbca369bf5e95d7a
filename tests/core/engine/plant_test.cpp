#include "core/engine/engine.h"

#include <cmath>
#include <gtest/gtest.h>

/// The bench's engine against textbooks and the trade.
namespace vicegrip::engine {
namespace {

constexpr Around kPlace{98.4e3, 293.15, 0};

Figures buggy()
{
    Figures out;
    out.displacement_m3 = 1.6e-3;
    out.boost_pa = 120e3;
    out.cooled = true;
    return out;
}

/// An engine whose ECU reads everything as it is.
struct Whole
{
    explicit Whole(const Figures& figures, const Around& around = kPlace)
        : place(around), plant(figures, around), program(figures, around.barometer_pa)
    {
        moved.pump = 1;
        moved.injected = moved.firing = figures.cylinders;
    }

    Read read() const
    {
        Read out;
        out.rpm = plant.rpm();
        out.manifold_pa = plant.manifold_pa() * reads;
        out.intake_k = plant.intake_k();
        out.coolant_k = plant.warmth().coolant_k();
        out.throttle = moved.throttle;
        out.mixture = plant.mixture();
        return out;
    }

    void pass(double seconds, bool fire = true, double hurry = 1)
    {
        for (double t = 0; t < seconds - 1e-9; t += 0.02) {
            commands = program.act(0.02, read(), fire);
            moved.fuel_kg = commands.fuel_kg;
            moved.spark = commands.spark;
            moved.idleAir = commands.idleAir;
            moved.boost = commands.boost;
            moved.fan = commands.fan ? 1 : 0;
            plant.pass(0.02, moved, place, hurry);
        }
    }

    /// The key is held until it runs.
    void start()
    {
        moved.starter_v = 10.3;
        for (int i = 0; i < 150 && plant.rpm() < 400; ++i)
            pass(0.02);
        moved.starter_v = 0;
    }

    /// Warm, at idle.
    void warm()
    {
        start();
        pass(60, true, 30);
        pass(20);
    }

    /// In third, at some 2,450 turns a minute, and then wide open.
    void open()
    {
        warm();
        Driver driver({{Driver::Leg::Kind::Cruise, 25, radians(2450) * Body().way_m[2], {}}});
        while (!driver.isThere()) {
            driver.act(0.02, plant, moved);
            pass(0.02);
        }
        ASSERT_EQ(moved.gear, 3);
        moved.throttle = moved.clutch = 1;
    }

    Around place;
    Plant plant;
    Program program;
    Moved moved;
    Commands commands;
    double reads = 1; ///< of the manifold's pressure
};

/// One-dimensional isentropic flow by its Mach number, as tables of gas dynamics have it (NACA report 1135, equations
/// 43, 44 and 80; from memory): another way to the same number than the nozzle's pressures.
TEST(Air, FlowsThroughANozzleAsTheTablesOfGasDynamicsSay)
{
    constexpr double kBefore_pa = 100e3, kBefore_k = 300, kArea_m2 = 1e-4, kChokes = 0.6847;
    const double unit = kArea_m2 * kBefore_pa / std::sqrt(287.05 * kBefore_k);
    for (const double mach : {0.2, 0.4, 0.6, 0.8, 0.95}) {
        const double behind_pa = kBefore_pa * std::pow(1 + mach * mach / 5, -3.5);
        const double areas = std::pow((1 + mach * mach / 5) / 1.2, 3) / mach;
        EXPECT_NEAR(through(kArea_m2, kBefore_pa, kBefore_k, behind_pa) / unit, kChokes / areas, 2e-4) << mach;
    }
    for (const double behind_pa : {52e3, 30e3, 1e3})
        EXPECT_NEAR(through(kArea_m2, kBefore_pa, kBefore_k, behind_pa) / unit, kChokes, 2e-4) << "choked";
    EXPECT_EQ(through(kArea_m2, kBefore_pa, kBefore_k, kBefore_pa), 0);
    EXPECT_EQ(through(kArea_m2, kBefore_pa, kBefore_k, 2 * kBefore_pa), 0) << "nothing flows back";
    EXPECT_GT(through(kArea_m2, kBefore_pa, kBefore_k, 0.9999 * kBefore_pa), 0);
}

/// Worked by hand: 1.6 l, 95 % filled at 100 kPa and 300 K in the cylinders: m = 0.95 * 100e3 * 1.6e-3 / (287.05 * 300)
/// = 1.765 g.
TEST(Air, FillsByTheGasLaw)
{
    Figures f;
    f.displacement_m3 = 1.6e-3;
    EXPECT_NEAR(airOfACycle(f, 4300, 100e3, 100e3, 285), 1.765e-3, 2e-6);
    EXPECT_LT(filling(4300, 35e3, 100e3), 0.85) << "what is left of the burnt gas takes room";
    EXPECT_GT(filling(4300, 35e3, 100e3), 0.7);
}

/// Common practice, no source: idle draws the manifold down to 30 to 45 kPa; the starter hardly does.
TEST(Plant, IdlesWithItsManifoldDrawnDown)
{
    for (const bool byAir : {false, true}) {
        Figures f = buggy();
        f.idlesByAir = byAir;
        Whole e(f);
        e.start();
        EXPECT_GT(e.plant.rpm(), 400);
        e.pass(4);
        EXPECT_GT(e.plant.rpm(), byAir ? 1000 : 650) << "cold: a valve gives it more";
        e.warm();
        EXPECT_NEAR(e.plant.rpm(), Program::kIdle_rpm, byAir ? 15 : 110);
        EXPECT_GT(e.plant.manifold_pa(), 28e3);
        EXPECT_LT(e.plant.manifold_pa(), 45e3);
        EXPECT_NEAR(e.plant.mixture(), 1, 0.003) << "closed loop";
        EXPECT_NEAR(e.commands.correction, -0.02, 0.01) << "its table is two percent off";
    }
}

/// What goes through the plate is what the cylinders take, once nothing moves.
TEST(Plant, TakesAtSteadyIdleWhatComesThroughThePlate)
{
    Whole e(buggy());
    e.warm();
    const double exhaust = exhaustPressure(buggy(), kPlace.barometer_pa, e.plant.charge_pa(), e.plant.air_kg_s());
    const double taken =
        airOfACycle(buggy(), e.plant.rpm(), e.plant.manifold_pa(), exhaust, e.plant.intake_k()) * e.plant.rpm() / 120;
    EXPECT_NEAR(e.plant.air_kg_s() / taken, 1, 2e-3);
}

/// V = I R + k w with the torque k I: at half of the pull-out volts it turns at less than half, as what it drags stays.
/// Common practice, no source: 150 to 300 turns a minute on a good battery.
TEST(Plant, IsTurnedByItsStarterAsTheBatteryAllows)
{
    const auto turned = [](double volts) {
        Whole e(buggy());
        e.moved.starter_v = volts;
        e.pass(2, false);
        return e.plant;
    };
    const Plant good = turned(10.3), poor = turned(8.8);
    EXPECT_GT(good.rpm(), 150);
    EXPECT_LT(good.rpm(), 300);
    EXPECT_NEAR(good.starter_a(), 140, 15);
    EXPECT_LT(poor.rpm(), good.rpm() - 30);
    // The difference is that of two points on one straight line: k dw = dV - R dI.
    const double kPer_v = (good.rpm() - poor.rpm()) / 1.5;
    EXPECT_GT(kPer_v, 25);
    EXPECT_LT(kPer_v, 60);
    EXPECT_LT(turned(5).rpm(), 60);
    EXPECT_GT(good.manifold_pa(), 0.84 * kPlace.barometer_pa);
    EXPECT_LT(good.mixture(), 2.1);
}

/// Common practice, no source: 40 to 65 kW a litre of a petrol engine without boost; work over time at the wheels.
TEST(Plant, HasThePowerOfItsKind)
{
    Figures f;
    f.displacement_m3 = 2e-3;
    Whole e(f, Around());
    e.open();
    double best_w = 0;
    const Body body;
    for (double before = e.plant.speed_m_s(); e.plant.rpm() < 6400; before = e.plant.speed_m_s()) {
        e.pass(0.1);
        const double force =
            body.mass_kg * (e.plant.speed_m_s() - before) / 0.1 + body.roll_n + body.drag_n_s2 * before * before;
        best_w = std::max(best_w, force * e.plant.speed_m_s());
        EXPECT_NEAR(e.plant.speed_m_s() / body.way_m[2], radians(e.plant.rpm()), 6) << "the clutch holds";
    }
    EXPECT_GT(best_w / 2, 40e3);
    EXPECT_LT(best_w / 2, 65e3);
    EXPECT_NEAR(e.plant.manifold_pa(), Around().barometer_pa, 6e3) << "the plate is wide enough";
}

/// By the gas law alone: a pressure that is read 5 % low gives 5 % less fuel, while nothing corrects; at idle a little
/// less than that, for what is left of the burnt gas counts for more.
TEST(Plant, RunsAsLeanAsItsSensorReadsLow)
{
    const auto fuelFor = [](double manifold_pa) {
        Program program(buggy(), kPlace.barometer_pa);
        Read r;
        r.rpm = 3000;
        r.manifold_pa = manifold_pa;
        r.intake_k = 300;
        r.coolant_k = 360;
        r.throttle = 0.5;
        return program.act(1, r, true).fuel_kg;
    };
    EXPECT_NEAR(fuelFor(0.95 * 98e3) / fuelFor(98e3), 0.95, 0.01);
    EXPECT_LT(fuelFor(0.95 * 35e3) / fuelFor(35e3), 0.945);
    EXPECT_GT(fuelFor(0.95 * 35e3) / fuelFor(35e3), 0.92);
}

/// Worked by hand from Heywood's table D.4 (from memory): petrol burns in 14.6 times its mass of air, ethanol in 9.0.
/// E30 is 31 % of ethanol by mass: 0.31 * 9.0 + 0.69 * 14.6 = 12.9, so an ECU that knows nothing of it runs 13 % lean
/// until closed loop has given that; pure ethanol is 62 % off, more than it may give.
TEST(Plant, RunsLeanOnEthanolNobodyTellsItOf)
{
    Whole e(buggy());
    e.warm();
    e.place.ethanol = 0.3;
    e.pass(0.5);
    EXPECT_NEAR(e.plant.mixture(), 1.13, 0.05) << "closed loop has begun";
    e.pass(8);
    EXPECT_GT(e.commands.correction, 0.08);
    EXPECT_NEAR(e.plant.mixture(), 1, 0.01);
    e.place.ethanol = 1;
    e.pass(5);
    EXPECT_EQ(e.commands.correction, Program::kMostCorrection) << "and no more";
    EXPECT_NEAR(e.plant.mixture(), 1.62 / 1.15 / 1.02, 0.05) << "its table gives two percent as well";
}

/// What a sensor cannot show is never reached: the charge goes on rising.
TEST(Plant, BlowsPastWhatItsSensorCanShow)
{
    Whole seen(buggy()), blind(buggy());
    for (Whole* e : {&seen, &blind})
        e->open();
    double highest_pa = 0, blindest_pa = 0;
    for (int i = 0; i < 250; ++i) {
        if (seen.plant.rpm() < 6300)
            seen.pass(0.02);
        highest_pa = std::max(highest_pa, seen.plant.manifold_pa());
        blind.reads = std::min(1.0, 200e3 / blind.plant.manifold_pa());
        if (blind.plant.rpm() < 6300)
            blind.pass(0.02);
        blindest_pa = std::max(blindest_pa, blind.plant.manifold_pa());
    }
    EXPECT_NEAR(highest_pa, kPlace.barometer_pa + 120e3, 6e3);
    EXPECT_GT(blindest_pa, highest_pa + 15e3);
}

/// Without fuel pressure, injectors, spark or a speed that decodes nothing fires.
TEST(Plant, DoesNotStartWithoutWhatItNeeds)
{
    for (const int without : {0, 1, 2, 3}) {
        Whole e(buggy());
        e.moved.pump = without == 0 ? 0 : 1;
        e.moved.injected = without == 1 ? 0 : 4;
        e.moved.firing = without == 1 || without == 2 ? 0 : 4;
        e.moved.starter_v = 10.3;
        for (int i = 0; i < 150; ++i) {
            Read r = e.read();
            r.rpm = without == 3 ? 0 : r.rpm;
            const Commands c = e.program.act(0.02, r, true);
            e.moved.fuel_kg = c.fuel_kg;
            e.moved.spark = c.spark;
            e.plant.pass(0.02, e.moved, kPlace);
        }
        EXPECT_LT(e.plant.rpm(), 300) << without;
    }
    Whole three(buggy());
    three.moved.injected = three.moved.firing = 3;
    three.start();
    three.pass(6);
    EXPECT_GT(three.plant.rpm(), 400) << "on three cylinders it runs";
    EXPECT_GT(three.plant.mixture(), 1.05) << "and its exhaust looks lean";
}

/// Below the thermostat one heat capacity that is heated and loses: T = Ta + P/h (1 - exp(-h t / C)), the first-order
/// answer of any textbook on heat transfer (Incropera, lumped capacitance).
TEST(Warming, IsThatOfALumpOfMetal)
{
    constexpr double kHeat_w = 2500, kAmbient_k = 293.15, kLoses = 19, kHolds = 25e3;
    Warming w(kAmbient_k);
    for (double t = 0; t < 400; t += 20) {
        EXPECT_NEAR(w.coolant_k(), kAmbient_k + kHeat_w / kLoses * (1 - std::exp(-kLoses * t / kHolds)), 0.2) << t;
        w.pass(20, kHeat_w, {kAmbient_k, 0, 0, 90});
    }
    for (int i = 0; i < 100; ++i)
        w.pass(20, kHeat_w, {kAmbient_k, 0, 1, 90});
    EXPECT_GT(w.coolant_k(), Warming::kThermostat_k) << "the fan blows, and the thermostat holds it there";
    EXPECT_LT(w.coolant_k(), Warming::kThermostat_k + 5);
}

/// Any sequence of hands leaves numbers: nothing runs away or back.
TEST(Plant, StaysWithinWhatAnEngineCanBe)
{
    unsigned chance = 7;
    const auto draw = [&] { return static_cast<double>((chance = chance * 1664525U + 1013904223U) >> 8) / (1 << 24); };
    Whole e(buggy());
    e.start();
    for (int i = 0; i < 3000; ++i) {
        if (i % 25 == 0) {
            e.moved.throttle = draw() < 0.3 ? 1 : draw();
            e.moved.gear = static_cast<int>(6 * draw());
            e.moved.clutch = draw();
            e.moved.brake = draw() < 0.2 ? draw() : 0;
            e.moved.starter_v = draw() < 0.1 ? 12 : 0;
            e.place.ethanol = draw();
            e.reads = 0.5 + draw();
        }
        e.pass(0.02);
        ASSERT_TRUE(std::isfinite(e.plant.rpm()) && e.plant.rpm() >= 0 && e.plant.rpm() < 12000) << i;
        ASSERT_TRUE(e.plant.manifold_pa() > 2e3 && e.plant.manifold_pa() < 600e3) << i << e.plant.manifold_pa();
        ASSERT_TRUE(e.plant.intake_k() > 250 && e.plant.intake_k() < 600) << i;
        ASSERT_TRUE(e.plant.warmth().coolant_k() > 250 && e.plant.warmth().coolant_k() < 460) << i;
        ASSERT_TRUE(e.plant.speed_m_s() >= 0 && e.plant.speed_m_s() < 120) << i;
    }
}

} // namespace
} // namespace vicegrip::engine
