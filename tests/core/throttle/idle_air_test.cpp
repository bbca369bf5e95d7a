#include "core/throttle/idle_air.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <vector>

/// Which way the stop screw goes, and how far. Common practice, no source: the valve between 2 and 10 %.
namespace vicegrip::throttle {
namespace {

using testing::HasSubstr;
using Way = ScrewTurn::Way;

TEST(IdleAir, WithinItsWindowNothingIsTurned)
{
    for (const double valve : {0.02, 0.06, 0.10}) {
        const IdleRead read[] = {{0.5, valve}};
        EXPECT_EQ(screwTurn(read, 4).way, Way::None) << valve;
    }
    EXPECT_EQ(screwTurn({}, 4).way, Way::None);
}

TEST(IdleAir, OneReadingTellsTheWayAlone)
{
    const IdleRead hard[] = {{0.5, 0.34}}, idle[] = {{0.5, 0.0}};
    EXPECT_EQ(screwTurn(hard, 4).way, Way::In);
    EXPECT_FALSE(screwTurn(hard, 4).rest_v);
    EXPECT_THAT(screwTurn(hard, 4).sentence, HasSubstr("in by an eighth of a turn"));
    EXPECT_EQ(screwTurn(idle, 4).way, Way::Out);
}

/// A valve that gives up so much air for each volt of the plate: two readings lie on a line, and the third is in the
/// middle of the window, whichever way the sensor's volts run and wherever it began.
TEST(IdleAir, TwoReadingsTellHowFar)
{
    for (const double travel : {4.0, -4.0})
        for (const double begin : {0.30, 0.22, 0.16}) {
            const double sign = travel / 4, rest = travel > 0 ? 0.5 : 4.5;
            const auto valveAt = [&](double v) { return begin - 4 * sign * (v - rest); };
            std::vector<IdleRead> reads{{rest, valveAt(rest)}, {rest + sign * 0.01, valveAt(rest + sign * 0.01)}};
            const ScrewTurn turn = screwTurn(reads, travel);
            ASSERT_TRUE(turn.rest_v) << begin;
            EXPECT_NEAR(valveAt(*turn.rest_v), 0.06, 1e-9) << begin;
            EXPECT_EQ(turn.way, Way::In);
        }
}

/// Never further than a fiftieth of the travel: 80 mV of 4 V.
TEST(IdleAir, NeverFarAtOnce)
{
    const IdleRead reads[] = {{0.50, 0.90}, {0.51, 0.88}};
    EXPECT_NEAR(*screwTurn(reads, 4).rest_v, 0.51 + 0.08, 1e-9);
}

/// A plate further open cannot want more of the valve: something else was switched on between the two.
TEST(IdleAir, ReadingsThatDoNotGoTogetherSayNoDistance)
{
    const IdleRead reads[] = {{0.50, 0.30}, {0.52, 0.36}};
    EXPECT_FALSE(screwTurn(reads, 4).rest_v);
    EXPECT_EQ(screwTurn(reads, 4).way, Way::In);
    const IdleRead same[] = {{0.50, 0.30}, {0.5001, 0.20}};
    EXPECT_FALSE(screwTurn(same, 4).rest_v) << "the screw was not turned between them";
}

/// A real idle is no straight line: air through a plate's gap grows faster than it opens. The loop ends all the same,
/// in few turns, from either side.
TEST(IdleAir, TheLoopEndsWithinAFewTurns)
{
    for (const double first : {0.500, 0.560}) {
        double rest = first;
        const auto valveAt = [](double v) { // what the plate does not give, of an idle's air
            const double open = (v - 0.46) / 0.07;
            return std::clamp(0.45 * (1 - 0.86 * open * open), 0.0, 1.0);
        };
        std::vector<IdleRead> reads{{rest, valveAt(rest)}};
        int turns = 0;
        for (; turns < 6 && screwTurn(reads, 4).way != Way::None; ++turns) {
            const ScrewTurn turn = screwTurn(reads, 4);
            rest = turn.rest_v.value_or(rest + (turn.way == Way::In ? 0.008 : -0.008));
            reads.push_back({rest, valveAt(rest)});
        }
        EXPECT_LE(turns, 5) << first;
        EXPECT_EQ(screwTurn(reads, 4).way, Way::None) << first;
    }
}

} // namespace
} // namespace vicegrip::throttle
