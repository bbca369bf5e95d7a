#include "core/fuel/fill_watch.h"

#include <cmath>
#include <gmock/gmock.h>

/// A fill beside its curve. The sums are done by hand.
namespace vicegrip::fuel {
namespace {

using State = Watched::State;
using testing::HasSubstr;

constexpr double kLitre = 1e-3;

/// 20 l of E10 and 20 l of E85: 47.5 %. A line of 0.4 l at 80 l/h is empty after 18 s.
const Pour kHalf{{20 * kLitre, 0.10}, {20 * kLitre, 0.85}};

Settling curve()
{
    return *Settling::of(0.10, 0.475, 0.4 * kLitre, 80 * kLitre / 3600);
}

/// What a sensor shows ten times a second for so long, by this law.
template <class Law> std::vector<Shown> shown(double seconds, Law law)
{
    std::vector<Shown> out;
    for (int i = 0; i <= static_cast<int>(std::lround(seconds * 10)); ++i)
        out.push_back({i / 10.0, law(i / 10.0)});
    return out;
}

Watched seen(const std::vector<Shown>& all)
{
    const auto out = watchFill(all, curve(), kHalf);
    EXPECT_TRUE(out) << out.error().text();
    return *out;
}

TEST(FillWatch, FollowsItsCurveToTheEnd)
{
    const auto law = [](double t) { return curve().at(t); };
    EXPECT_NEAR(curve().purge_s(), 18, 1e-9);
    EXPECT_EQ(seen(shown(10, law)).state, State::Line);
    const Watched half = seen(shown(120, law));
    EXPECT_EQ(half.state, State::OnItsWay);
    EXPECT_NEAR(half.due, half.now, 0.01);
    EXPECT_THAT(half.sentence, HasSubstr("it ends at 47.5 %"));
    const Watched end = seen(shown(900, law));
    EXPECT_EQ(end.state, State::AsSaid);
    ASSERT_TRUE(end.added);
    EXPECT_NEAR(*end.added, 0.85, 0.01);
}

/// What was sold as E85 held 70 %: 20 l of E10 and 20 l of E70 are 40 %.
TEST(FillWatch, SaysWhatThePumpReallySold)
{
    const auto law = [](double t) { return t < 18 ? 0.10 : 0.40 - 0.30 * std::exp((18 - t) / 120); };
    const Watched end = seen(shown(900, law));
    EXPECT_EQ(end.state, State::Elsewhere);
    EXPECT_NEAR(*end.added, 0.70, 0.002);
    EXPECT_THAT(end.sentence, HasSubstr("what went in had 70.0 % ethanol"));
}

/// Half of each cannot be more than (10 + 100) / 2 = 55 %.
TEST(FillWatch, WhatNoFuelMakesIsTheSensorsOrTheVolumes)
{
    const Watched end = seen(shown(900, [](double t) { return t < 20 ? 0.10 : 0.70; }));
    EXPECT_EQ(end.state, State::Elsewhere);
    EXPECT_THAT(end.sentence, HasSubstr("no fuel makes that"));
}

TEST(FillWatch, AFillThatNeverComesIsSaid)
{
    const auto flat = [](double t) { return 0.10 + (std::fmod(t, 1) < 0.5 ? 0.001 : -0.001); };
    EXPECT_EQ(seen(shown(60, flat)).state, State::OnItsWay) << "late, and still within what a flow is off by";
    const Watched late = seen(shown(120, flat));
    EXPECT_EQ(late.state, State::Unmoved);
    EXPECT_THAT(late.sentence, HasSubstr("after 2.0 min"));
}

/// A tank that mixes in ten minutes and not in two is on its way for longer: nobody is told that the pump lied.
TEST(FillWatch, ASlowTankIsOnItsWay)
{
    const auto law = [](double t) { return t < 18 ? 0.10 : 0.475 - 0.375 * std::exp((18 - t) / 600); };
    for (double t = 60; t < 3600; t += 20)
        EXPECT_NE(seen(shown(t, law)).state, State::Elsewhere) << t;
    EXPECT_EQ(seen(shown(3600, law)).state, State::AsSaid);
}

/// Somebody reads a meter every two minutes.
TEST(FillWatch, ReadingsByHandAreEnough)
{
    std::vector<Shown> all;
    for (double t = 0; t <= 1200; t += 120)
        all.push_back({t, curve().at(t)});
    EXPECT_EQ(seen(all).state, State::AsSaid);
}

/// A fill of the same fuel moves nothing: it stands where it was said to, once the line is through.
TEST(FillWatch, MoreOfTheSameStandsAtOnce)
{
    const Pour same{{20 * kLitre, 0.10}, {20 * kLitre, 0.10}};
    const Settling settling = *Settling::of(0.10, 0.10, 0.4 * kLitre, 80 * kLitre / 3600);
    const auto all = shown(60, [](double) { return 0.10; });
    EXPECT_EQ(watchFill(all, settling, same)->state, State::AsSaid);
    EXPECT_EQ(watchFill(std::span(all).first(100), settling, same)->state, State::Line);
}

TEST(FillWatch, NothingShownOrNothingMixedIsRefused)
{
    EXPECT_FALSE(watchFill({}, curve(), kHalf));
    const std::vector<Shown> one{{0, 0.1}};
    EXPECT_FALSE(watchFill(one, curve(), {{0, 0}, {0, 0}}));
    EXPECT_TRUE(watchFill(one, curve(), kHalf));
}

} // namespace
} // namespace vicegrip::fuel
