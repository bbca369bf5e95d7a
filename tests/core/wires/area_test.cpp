#include "core/parts/conductor.h"
#include "core/wires/area.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>

/// How thick each wire must be.
namespace vicegrip::wires {
namespace {

using testing::HasSubstr;

/// Worked by hand for 1 mm², 2.1 mm outside, 80 to 150 °C: heat given off 12 * pi * 2.1e-3 * 70 = 5.542 W/m; copper at
/// 150 °C 1.7241e-8 * (1 + 0.00393 * 130) * 1.02 / 1e-6 = 26.57 mOhm/m; I = sqrt(5.542 / 0.02657) = 14.44 A.
TEST(WireArea, TheHeatBalanceIsTheOneWorkedByHand)
{
    EXPECT_NEAR(mostAmps(1e-6, 353.15, 423.15), 14.44, 0.02);
    EXPECT_EQ(mostAmps(1e-6, 373.15, 353.15), 0) << "nothing is left where it is hotter outside";
}

/// Common practice, no source: 5 A before 0.5 mm², 7.5 A before 0.75, 10 A before 1, 20 A before 2.5, 30 A before 4.
TEST(WireArea, AFuseGoesWithTheAreaThatPracticeGivesIt)
{
    job::Job job = test::petrel();
    const auto feed = job::WireId{"w29"};
    for (const auto& [fuse_a, mm2] : {std::pair(5.0, 0.5), std::pair(7.5, 0.75), std::pair(10.0, 1.0),
                                      std::pair(20.0, 2.5), std::pair(30.0, 4.0)}) {
        job.switches.front().rating_a = fuse_a;
        EXPECT_NEAR(chooseAreas(job, electrics::Wiring(job)).at(feed).area_m2 * 1e6, mm2, 1e-9) << fuse_a;
    }
    EXPECT_THAT(chooseAreas(job, electrics::Wiring(job)).at(feed).why, HasSubstr("30 A fuse"));
}

TEST(WireArea, SensorWiresAreChosenByWhatHandsLeaveWhole)
{
    const job::Job job = test::petrel();
    const AreaChoice clt = chooseAreas(job, electrics::Wiring(job)).at({"w5"});
    EXPECT_DOUBLE_EQ(clt.area_m2, 0.5e-6);
    EXPECT_THAT(clt.why, HasSubstr("mechanical minimum"));
    EXPECT_LT(clt.current_a, 2e-3);
    EXPECT_NEAR(clt.drop_v, clt.current_a * parts::wireOhms(1.6, 0.5e-6, job.surroundings.ambient_k), 1e-12);
}

TEST(WireArea, ALongFeedIsChosenByItsDrop)
{
    job::Job job = test::petrel();
    for (job::Switch& s : job.switches)
        s.rating_a = 0; // nobody has said: no fuse to outlast
    for (job::Wire& w : job.wires)
        if (w.id.value == "w50")
            w.length_m = 12;
    const AreaChoice pump = chooseAreas(job, electrics::Wiring(job)).at({"w50"});
    EXPECT_THAT(pump.why, HasSubstr("250 mV"));
    EXPECT_NEAR(pump.current_a, 11, 1) << "what the pump draws at the battery's volts, less what is lost on the way";
    EXPECT_LE(pump.current_a * parts::wireOhms(12, pump.area_m2, job.surroundings.ambient_k), kFeedDrop_v);
    EXPECT_GT(pump.current_a * parts::wireOhms(12, pump.area_m2 * 0.5, job.surroundings.ambient_k), kFeedDrop_v);
}

TEST(WireArea, BatteryStrapsAreNotJudged)
{
    const AreaChoice strap = chooseAreas(test::petrel(), electrics::Wiring(test::petrel())).at({"w39"});
    EXPECT_THAT(strap.why, HasSubstr("starter"));
    EXPECT_TRUE(strap.suffices(0.1e-6));
}

TEST(WireArea, MoreCurrentNeverTakesAThinnerWire)
{
    job::Job job = test::petrel();
    double last = 0;
    for (double amps = 1; amps < 60; amps += 3) {
        job.loads.front().current_a = amps;
        const double now = chooseAreas(job, electrics::Wiring(job)).at({"w50"}).area_m2;
        EXPECT_GE(now, last) << amps;
        last = now;
    }
    EXPECT_GT(last, 4e-6);
}

} // namespace
} // namespace vicegrip::wires
