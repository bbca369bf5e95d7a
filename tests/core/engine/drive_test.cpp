#include "core/engine/engine.h"

#include <gtest/gtest.h>

namespace vicegrip::engine {
namespace {

/// A driver in a car whose ECU reads everything as it is.
struct Evening
{
    int pulls = 0, stalls = 0;
    double seconds = 0, fastest_rpm = 0, slowest_rpm = 1e9, hottest_k = 0;
    std::vector<double> pullSeconds;
};

Evening driven(const Figures& f, double step_s)
{
    const Around place;
    Plant plant(f, place);
    Program program(f, place.barometer_pa);
    Moved moved;
    moved.pump = 1;
    moved.injected = moved.firing = f.cylinders;
    Driver driver;
    Evening out;
    double pull = 0;
    for (double t = -70; !driver.isThere() && t < 600; t += step_s) {
        Read r;
        r.rpm = plant.rpm();
        r.manifold_pa = plant.manifold_pa();
        r.intake_k = plant.intake_k();
        r.coolant_k = plant.warmth().coolant_k();
        r.throttle = moved.throttle;
        r.mixture = plant.mixture();
        moved.starter_v = t < -60 && plant.rpm() < 400 ? 10.3 : 0;
        if (t >= 0) {
            driver.act(step_s, plant, moved);
            out.seconds = t;
            out.stalls += plant.rpm() < 300 ? 1 : 0;
            out.fastest_rpm = std::max(out.fastest_rpm, plant.rpm());
            out.slowest_rpm = std::min(out.slowest_rpm, plant.rpm());
            out.hottest_k = std::max(out.hottest_k, plant.warmth().coolant_k());
            out.pulls += driver.begun() == "Pull" ? 1 : 0;
            const bool open = moved.throttle > 0.98;
            if (!open && pull > 1)
                out.pullSeconds.push_back(pull);
            pull = open ? pull + step_s : 0;
        }
        const Commands c = program.act(step_s, r, true);
        moved.fuel_kg = c.fuel_kg;
        moved.spark = c.spark;
        moved.idleAir = c.idleAir;
        moved.boost = c.boost;
        moved.fan = c.fan ? 1 : 0;
        plant.pass(step_s, moved, place, t < 0 ? 20 : 1);
    }
    EXPECT_TRUE(driver.isThere());
    EXPECT_EQ(driver.share(), 1);
    return out;
}

/// A small engine, a large one, one that is blown: each comes home, its pulls are alike, and it was never too hot.
TEST(Driver, BringsAnyEngineHome)
{
    for (const auto& [litres, boost_pa, byAir] :
         {std::tuple(1.0, 0.0, true), {1.6, 120e3, false}, {2.2, 0.0, true}, {5.0, 0.0, true}, {1.6, 220e3, false}}) {
        Figures f;
        f.displacement_m3 = litres * 1e-3;
        f.boost_pa = boost_pa;
        f.cooled = true;
        f.idlesByAir = byAir;
        for (const double step_s : {0.02, 0.05}) {
            const Evening e = driven(f, step_s);
            SCOPED_TRACE(std::to_string(litres) + " l, " + std::to_string(boost_pa) + " Pa");
            EXPECT_EQ(e.stalls, 0);
            EXPECT_EQ(e.pulls, 3);
            ASSERT_EQ(e.pullSeconds.size(), 3U);
            for (const double s : e.pullSeconds)
                EXPECT_NEAR(s, e.pullSeconds.front(), 0.35 * e.pullSeconds.front());
            EXPECT_LT(e.fastest_rpm, Program::kLimit_rpm + 100);
            EXPECT_GT(e.slowest_rpm, 450);
            EXPECT_LT(e.hottest_k, 273.15 + 115);
            EXPECT_GT(e.seconds, 200);
            EXPECT_LT(e.seconds, 420);
        }
    }
}

} // namespace
} // namespace vicegrip::engine
