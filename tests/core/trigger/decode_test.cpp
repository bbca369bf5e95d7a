#include "core/trigger/trigger.h"

#include <cmath>
#include <gmock/gmock.h>
#include <numbers>
#include <random>

/// From a sensor's volts back to the wheel, at its speeds, gaps and troubles.
namespace vicegrip::trigger {
namespace {

using testing::HasSubstr;

constexpr double kRate_hz = 200e3;

struct Case
{
    Turning turning;
    Disturbance disturbance;
    Clearance clearance;
    double seconds = 1.5;
};

std::vector<double> hallTimes(const Wheel& wheel, bool rising, const Case& c = {})
{
    const Sensed s = senseHall(wheel, c.turning, {}, c.clearance, c.disturbance, c.seconds, kRate_hz);
    const auto levels = levelsOf(s.volts);
    EXPECT_TRUE(levels);
    return levels ? timesOf(edgesIn(s.volts, *levels, s.step_s), rising) : std::vector<double>();
}

Wheel wheel(const char* line)
{
    return readWheel(line).value();
}

/// A sine's crossings of its middle are where arithmetic has them, to a hundredth of a sample.
TEST(Edges, AreInterpolated)
{
    constexpr double kStep_s = 1e-4, kHz = 37.3;
    std::vector<float> volts;
    for (int i = 0; i < 20000; ++i)
        volts.push_back(static_cast<float>(2.5 + 2 * std::sin(2 * std::numbers::pi * kHz * i * kStep_s + 0.3)));
    const auto edges = edgesIn(volts, *levelsOf(volts), kStep_s);
    ASSERT_GT(edges.size(), 140U);
    for (const Edge& e : edges) { // it rises through its middle at whole turns, and falls at halves
        const double turns = kHz * e.time_s + 0.3 / (2 * std::numbers::pi);
        EXPECT_NEAR(std::remainder(turns - (e.rising ? 0 : 0.5), 1.0), 0, 3e-4);
    }
    for (size_t i = 1; i < edges.size(); ++i)
        EXPECT_NE(edges[i].rising, edges[i - 1].rising);
}

/// However the samples are cut into pieces, the edges are the same.
TEST(Edges, ComeTheSameInPieces)
{
    const Sensed s = senseHall(wheel("36-1"), {300, 0, 0.2, 4}, {}, {}, {.noise_v = 0.2, .seed = 5}, 0.5, kRate_hz);
    const auto levels = *levelsOf(s.volts);
    const auto whole = edgesIn(s.volts, levels, s.step_s);
    std::mt19937 chance(1);
    std::vector<Edge> pieces;
    EdgeFinder finder(levels, 0, s.step_s);
    for (size_t at = 0; at < s.volts.size();) {
        const size_t count = std::min<size_t>(chance() % 200, s.volts.size() - at);
        finder.take(std::span(s.volts).subspan(at, count), pieces);
        at += count;
    }
    EXPECT_EQ(pieces, whole);
}

TEST(Edges, OddSignalsGiveNone)
{
    EXPECT_FALSE(levelsOf({}));
    EXPECT_FALSE(levelsOf(std::vector<float>(1, 2.f)));
    EXPECT_FALSE(levelsOf(std::vector<float>(100000, 3.3f))) << "it stands still";
    EXPECT_FALSE(levelsOf(std::vector<float>(100, NAN)));
    EXPECT_FALSE(coilLevels(std::vector<float>{1, 2, 3, 4})) << "a coil's volts have two signs";
    std::vector<float> spike(100000, 1.f);
    spike[500] = 5.f;
    EXPECT_FALSE(levelsOf(spike)) << "one sample is no level";
    std::vector<float> hole = {0, 5, NAN, 5, 0, NAN, 5, 0};
    EXPECT_EQ(edgesIn(hole, {1, 4, 2.5}, 1).size(), 4U) << "what is no number is passed by";
}

/// A tooth looks narrower from afar; its middle stays.
TEST(Sensed, ATeethsEdgesMoveWithTheGap)
{
    for (const double gap_m : {0.5e-3, 2e-3}) {
        const Sensed s = senseHall(wheel("4 with 40 degrees"), {60, 0, 0, 4}, {}, {gap_m, 0, 0}, {}, 2, kRate_hz);
        const auto edges = edgesIn(s.volts, *levelsOf(s.volts), s.step_s);
        ASSERT_GT(edges.size(), 6U);
        for (const Edge& e : edges) { // 60 turns a minute are 360 degrees a second
            const double at = std::fmod(e.time_s * 360, 90), narrower = 400 * gap_m;
            EXPECT_NEAR(at, e.rising ? 40 - narrower : narrower, 0.01);
        }
    }
    const Sensed far = senseHall(wheel("4"), {60, 0, 0, 4}, {}, {4e-3, 0, 0}, {}, 1, 1000);
    EXPECT_FALSE(levelsOf(far.volts)) << "too far: it switches no more";
}

/// Cranking takes as many turns as its mean speed says, over whole compressions.
TEST(Sensed, ACrankTurnsAsFastAsItSays)
{
    Crank even({240, 0, 0, 4}), rippled({240, 0, 0.3, 4}), rising({0, 600, 0, 4});
    for (int i = 0; i < 100000; ++i)
        for (Crank* c : {&even, &rippled, &rising})
            c->advance(1e-5);
    EXPECT_NEAR(even.angle_deg(), 4 * 360, 1e-6);
    // The differential equation's own solution: tan(angle) = sqrt((1 + a) / (1 - a)) tan(sqrt(1 - a^2) w t).
    const double slower = std::sqrt(1 - 0.3 * 0.3) * 4 * 2 * std::numbers::pi;
    const double angle =
        std::atan(std::sqrt(1.3 / 0.7) * std::tan(slower)) + std::numbers::pi * std::round(slower / std::numbers::pi);
    EXPECT_NEAR(rippled.angle_deg(), angle * 180 / std::numbers::pi, 1e-3) << "slow places last longer";
    EXPECT_NEAR(rising.angle_deg(), 5 * 360, 1e-3) << "600 turns a minute after a second, from nothing";
}

TEST(Recognise, WheelsFromASensorsVolts)
{
    for (const char* line : {"36-1", "60-2", "12-1", "24+1", "36-2", "30-1", "8+1", "4+1", "18-2"})
        for (const double ripple : {0.0, 0.2})
            for (const bool rising : {true, false}) {
                Case c;
                c.turning = {220, 40, ripple, 4};
                c.disturbance.noise_v = 0.1;
                const auto found = recognise(hallTimes(wheel(line), rising, c));
                ASSERT_TRUE(found) << line << ' ' << ripple << ' ' << found.error().text();
                EXPECT_EQ(found->line, line) << "ripple " << ripple;
                EXPECT_GE(found->turns, 4U);
            }
}

/// Gaps at any places, by name where the wheel has one; half of a wheel whose halves are alike.
TEST(Recognise, WheelsOfSeveralGaps)
{
    for (const auto& [line, as] :
         {std::pair("36-2-2-2", "36-2-2-2"), std::pair("36 without 17, 18, 20, 21, 35, 36", "36-2-2-2"),
          std::pair("24 without 4, 12, 13, 24", "24 without 11, 15, 23, 24"), std::pair("60-2-2", "30-2"),
          std::pair("36-1-1", "18-1")})
        for (const double ripple : {0.0, 0.15}) {
            Case c;
            c.turning = {220, 0, ripple, 4};
            c.disturbance.noise_v = 0.1;
            const auto found = recognise(hallTimes(wheel(line), false, c));
            ASSERT_TRUE(found) << line << ' ' << found.error().text();
            EXPECT_EQ(found->line, as) << line << " ripple " << ripple;
        }
}

TEST(Follow, AWheelWhoseHalvesAreAlike)
{
    Case c;
    c.turning = {200, 0, 0.15, 4};
    for (const char* line : {"36-1-1", "60-2-2", "36-2-2-2"}) {
        const auto times = hallTimes(wheel(line), false, c);
        const Followed f = follow(times, wheel(line), false);
        EXPECT_TRUE(f.losses.empty()) << line;
        EXPECT_GE(f.known() + 3, times.size()) << line;
    }
}

/// A belt's stretch comes late by itself, and its swing scatters an edge from turn to turn.
TEST(Sensed, AWheelBehindABeltLagsAndSwings)
{
    const Wheel w = wheel("cam 1");
    const auto lag = [&](const Belt& belt) {
        Disturbance d;
        d.belt = belt;
        const Sensed s = senseHall(w, {900, 0, 0, 4}, {}, {}, d, 12, 50e3);
        const auto times = timesOf(edgesIn(s.volts, *levelsOf(s.volts), s.step_s), false);
        std::vector<double> at;
        for (const double t : times)
            at.push_back(std::remainder(t * 900 * 6, 720)); // 900 turns a minute are 5,400 degrees a second
        double mean = 0, square = 0;
        for (const double a : at)
            mean += a / static_cast<double>(at.size());
        for (const double a : at)
            square += (a - mean) * (a - mean) / static_cast<double>(at.size());
        return std::pair(mean, std::sqrt(square));
    };
    const auto rigid = lag({}), stretched = lag({4, 0}), swinging = lag({0, 2});
    EXPECT_NEAR(stretched.first - rigid.first, 4, 0.02);
    EXPECT_LT(stretched.second, 0.05);
    EXPECT_GT(swinging.second, 0.3);
    EXPECT_LT(swinging.second, 3);
}

/// As often as it says, by the law of Poisson: 60 in twelve seconds, give or take four times the root of that.
TEST(Sensed, AWireThatLetsGoReadsAsItsPullUp)
{
    Disturbance d;
    d.dropOuts_hz = 5;
    d.dropOut_s = 20e-3;
    const Sensed s = senseHall(wheel("60-2"), {3000, 0, 0, 4}, {}, {}, d, 12, 50e3);
    const auto times = timesOf(edgesIn(s.volts, *levelsOf(s.volts), s.step_s), false);
    int gone = 0;
    for (size_t i = 1; i < times.size(); ++i)
        gone += times[i] - times[i - 1] > 15e-3 ? 1 : 0; // a turn takes 20 ms
    EXPECT_NEAR(gone, 55, 4 * std::sqrt(55.0)) << "of 60, those that begin while another lasts are one";
    EXPECT_FALSE(follow(times, wheel("60-2"), false).losses.empty());
}

TEST(Recognise, UnevenTeethByTheirAngles)
{
    Case c;
    c.turning = {600, 0, 0.02, 4};
    const auto found = recognise(hallTimes(wheel("4 at 0, 70, 200, 260 degrees with 20 degrees"), false, c));
    ASSERT_TRUE(found) << found.error().text();
    const auto edges = edgesOf(found->wheel, false);
    ASSERT_EQ(edges.size(), 4U);
    const auto steps = stepsOf(found->wheel, false);
    const auto longest = std::ranges::max_element(steps) - steps.begin(); // 70 to 200
    EXPECT_NEAR(steps[static_cast<size_t>(longest)], 130, 1.5);
    EXPECT_NEAR(steps[static_cast<size_t>((longest + 1) % 4)], 60, 1.5);
    EXPECT_NEAR(steps[static_cast<size_t>((longest + 2) % 4)], 100, 1.5);
}

TEST(Recognise, WhatCannotBeToldIsSaid)
{
    const auto said = [](const std::vector<double>& times) {
        const auto found = recognise(times);
        EXPECT_FALSE(found) << found->line;
        return found ? std::string() : found.error().text();
    };
    EXPECT_THAT(said({}), HasSubstr("too few"));
    EXPECT_THAT(said({1, 2, 3}), HasSubstr("too few"));
    Case c;
    c.turning = {220, 0, 0.2, 4};
    EXPECT_THAT(said(hallTimes(wheel("24"), true, c)), HasSubstr("all teeth are alike"));
    std::mt19937 chance(4);
    std::vector<double> random(1, 0);
    for (int i = 0; i < 400; ++i)
        random.push_back(random.back() + 0.001 + static_cast<double>(chance() % 1000) * 1e-5);
    EXPECT_THAT(said(random), HasSubstr("no row of teeth comes again"));
    EXPECT_FALSE(recognise(std::vector<double>(50, 1.0)).has_value()) << "time that stands still";
}

TEST(Follow, EveryEdgeFindsItsTooth)
{
    for (const char* line : {"36-1", "60-2", "12-1", "24+1", "5 at 0, 50, 130, 240, 300 degrees with 20 degrees"})
        for (const bool rising : {true, false}) {
            Case c;
            c.turning = {200, 30, wheel(line).teeth.size() > 10 ? 0.25 : 0.08, 4};
            const auto times = hallTimes(wheel(line), rising, c);
            const Followed f = follow(times, wheel(line), rising); // a tooth pulls low: it ends with a rising edge
            EXPECT_TRUE(f.losses.empty()) << line;
            EXPECT_GE(f.known() + 3, times.size()) << line;
            // By the simulated angle: the edge of tooth n comes where the wheel has it.
            const Sensed s = senseHall(wheel(line), c.turning, {}, c.clearance, {}, c.seconds, kRate_hz);
            const auto edges = edgesOf(wheel(line), rising);
            for (size_t i = 0; i < times.size(); ++i)
                if (f.tooth[i] >= 0) {
                    const double at = s.angle_deg[static_cast<size_t>(times[i] / s.step_s)];
                    const double off = std::remainder(at - edges[static_cast<size_t>(f.tooth[i])], 360);
                    EXPECT_NEAR(off, rising ? -0.6 : 0.6, 0.1) << line << " edge " << i; // narrower by 1.5 mm of gap
                }
        }
}

/// An engine that slows to 0.6 of its mean at every compression is followed with hindsight, and its wheel recognised.
TEST(Follow, ASpeedThatSwingsLosesNoTooth)
{
    for (const auto& [line, cylinders, ripple] :
         {std::tuple("12-1", 1, 0.4), std::tuple("12-1", 2, 0.4), std::tuple("12-1", 4, 0.35),
          std::tuple("12-2", 4, 0.2), std::tuple("24+1", 4, 0.4), std::tuple("36-1", 4, 0.4),
          std::tuple("36-1", 8, 0.4), std::tuple("60-2", 6, 0.4)}) {
        Case c;
        c.turning = {220, 0, ripple, cylinders};
        c.disturbance.noise_v = 0.05;
        for (const bool rising : {true, false}) {
            const auto times = hallTimes(wheel(line), rising, c);
            const auto found = recognise(times);
            ASSERT_TRUE(found) << line << ' ' << found.error().text();
            EXPECT_EQ(found->line, line) << cylinders << " cylinders, ripple " << ripple;
            const Followed f = follow(times, wheel(line), rising);
            EXPECT_TRUE(f.losses.empty()) << line << ' ' << cylinders << " cylinders, ripple " << ripple;
            EXPECT_GE(f.known() + 3, times.size()) << line;
        }
    }
}

TEST(Follow, SaysWhyItLostTheWheel)
{
    Case c;
    c.turning = {300, 0, 0.1, 4};
    auto times = hallTimes(wheel("36-1"), false, c);
    const Followed whole = follow(times, wheel("36-1"), false);
    ASSERT_TRUE(whole.losses.empty());
    // One tooth that was not seen, far from the gap.
    const auto tooth =
        static_cast<size_t>(std::find(whole.tooth.begin() + 80, whole.tooth.end(), 12) - whole.tooth.begin());
    auto missed = times;
    missed.erase(missed.begin() + static_cast<std::ptrdiff_t>(tooth));
    const Followed one = follow(missed, wheel("36-1"), false);
    ASSERT_EQ(one.losses.size(), 1U);
    EXPECT_EQ(one.losses[0].cause, LossCause::Missing);
    EXPECT_EQ(one.losses[0].tooth, 12);
    EXPECT_NEAR(one.losses[0].time_s, times[tooth + 1], 1e-9);
    EXPECT_GE(one.known() + 3, missed.size()) << "it is found again at once, in what is there already";
    // One edge too many, by noise.
    auto added = times;
    added.insert(added.begin() + static_cast<std::ptrdiff_t>(tooth), (2 * times[tooth - 1] + times[tooth]) / 3);
    const Followed two = follow(added, wheel("36-1"), false);
    ASSERT_GE(two.losses.size(), 1U);
    EXPECT_EQ(two.losses[0].cause, LossCause::Extra);
    // Another wheel than was said.
    const Followed other = follow(times, wheel("60-2"), false);
    EXPECT_LT(other.known(), times.size() / 10);
    EXPECT_TRUE(follow({}, wheel("36-1"), false).tooth.empty());
    EXPECT_FALSE(follow(hallTimes(wheel("12"), false, c), wheel("12"), false).placed) << "all alike";
}

/// A tooth that a file took too far is found by a twentieth of a degree, at any speed and while it rises; a clean wheel
/// has none.
TEST(ToothErrors, AreFoundWithTheSpeedTakenOut)
{
    for (const double off : {0.0, 0.3, -0.2})
        for (const double rpm : {200.0, 3000.0}) {
            Wheel made = wheel("36-1");
            made.teeth[20].from_deg += off;
            made.teeth[20].to_deg += off;
            Case c;
            c.turning = {rpm, 60, rpm < 1000 ? 0.15 : 0.01, 4};
            const auto times = hallTimes(made, false, c);
            const Wheel meant = wheel("36-1");
            const auto errors = toothErrors(times, follow(times, meant, false), meant, false);
            ASSERT_TRUE(errors);
            for (size_t t = 0; t < errors->off_deg.size(); ++t)
                EXPECT_NEAR(errors->off_deg[t], t == 20 ? off : 0, 0.05) << rpm << " tooth " << t;
            EXPECT_NEAR(errors->worst_deg(), std::abs(off), 0.05);
        }
    EXPECT_FALSE(toothErrors({}, {}, wheel("36-1"), false));
}

/// Hundreds of teeth, and a capture of minutes, are judged in no time to speak of: their numbers are bounded.
TEST(ToothErrors, LargeWheelsAndLongCaptures)
{
    const Wheel large = wheel("360-2");
    std::vector<double> times;
    for (int turn = 0; turn < 300; ++turn)
        for (const double edge : edgesOf(large, false))
            times.push_back((turn + edge / 360) * 0.02);
    const Followed f = follow(times, large, false);
    EXPECT_TRUE(f.losses.empty());
    const auto errors = toothErrors(times, f, large, false);
    ASSERT_TRUE(errors);
    EXPECT_LT(errors->worst_deg(), 1e-3);
    EXPECT_LE(errors->turns, 20000U / 358 + 1);
    EXPECT_EQ(recognise(times)->line, "360-2");
    EXPECT_FALSE(toothErrors(times, follow(times, wheel("1000"), false), wheel("1000"), false));
    // A gap of three places is both wheels', so that the wrong one is found in each turn, and lost where its gap is
    // due.
    const Followed wrong = follow(times, wheel("60-2"), false);
    EXPECT_GE(wrong.losses.size(), 298U);
    EXPECT_LT(wrong.known(), times.size() / 2);
}

/// A wheel that runs out by 0.3 mm, read off the peaks of a coil at cranking speed.
TEST(RunOut, IsReadOffACoilsPeaks)
{
    constexpr double kDecay_m = 0.7e-3;
    const Wheel w = wheel("36-1");
    for (const double runOut_m : {0.0, 0.1e-3, 0.3e-3}) {
        const Sensed s = senseReluctance(w, {200, 0, 0, 4}, {}, {1e-3, runOut_m, 100}, {}, 1.5, kRate_hz);
        const auto levels = coilLevels(s.volts);
        ASSERT_TRUE(levels);
        const auto zero = timesOf(edgesIn(s.volts, *levels, s.step_s), false); // in the middle of a tooth
        const Followed f = follow(zero, w, false);
        EXPECT_TRUE(f.losses.empty());
        std::vector<double> angles, peaks;
        for (size_t i = 1; i < zero.size(); ++i) {
            if (f.tooth[i] < 0)
                continue;
            const auto from = static_cast<size_t>(zero[i - 1] / s.step_s), to = static_cast<size_t>(zero[i] / s.step_s);
            const auto top = std::max_element(s.volts.begin() + static_cast<std::ptrdiff_t>(from),
                                              s.volts.begin() + static_cast<std::ptrdiff_t>(to));
            peaks.push_back(*top);
            angles.push_back(s.angle_deg[static_cast<size_t>(top - s.volts.begin())]);
        }
        const auto found = runOutOf(angles, peaks, kDecay_m);
        ASSERT_TRUE(found);
        EXPECT_NEAR(*found, runOut_m, 0.01e-3);
    }
    const std::vector<double> three = {0, 120, 240}, values = {1, 2, 3};
    EXPECT_NEAR(onceATurn(three, values)->mean, 2, 1e-9);
    EXPECT_FALSE(onceATurn(std::vector<double>{0, 0, 0}, values)) << "one angle tells nothing of a turn";
    EXPECT_FALSE(runOutOf(three, std::vector<double>{1, 0, 1}, kDecay_m));
}

/// With its wires exchanged a coil comes through zero the other way in the middle of a tooth: what falls there then is
/// the middle of a gap, and beside the missing tooth that is smeared (common practice).
TEST(Coil, ExchangedWiresMoveTheEdgeIntoTheGap)
{
    const Wheel w = wheel("36-1");
    for (const bool swapped : {false, true}) {
        ReluctanceSensor sensor;
        sensor.swapped = swapped;
        const Sensed s = senseReluctance(w, {200, 0, 0, 4}, sensor, {1e-3, 0, 0}, {}, 1, kRate_hz);
        const auto falling = timesOf(edgesIn(s.volts, *coilLevels(s.volts), s.step_s), false);
        double worst = 0;
        for (size_t i = 0; i < falling.size(); ++i) {
            const double at = s.angle_deg[static_cast<size_t>(falling[i] / s.step_s)];
            worst = std::max(worst, std::abs(std::remainder(at - 2.5, 10.0))); // of a tooth's middle
        }
        EXPECT_NEAR(worst, swapped ? 5 : 0, 0.2);
    }
}

/// Bursts of an ignition that reach over the levels are edges of no tooth, and are said to be.
TEST(Noise, BurstsOfAnIgnitionAreExtraEdges)
{
    Case c;
    c.turning = {900, 0, 0.02, 5}; // sparks 144 degrees apart: some on a tooth
    c.disturbance.burst_v = 4.5;
    c.clearance.gap_m = 1.5e-3;
    const auto times = hallTimes(wheel("36-1"), false, c);
    const Followed f = follow(times, wheel("36-1"), false);
    EXPECT_FALSE(f.losses.empty());
    EXPECT_GE(std::ranges::count(f.losses, LossCause::Extra, &Loss::cause), 1);
}

} // namespace
} // namespace vicegrip::trigger
