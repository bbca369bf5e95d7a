#include "core/trigger/trigger.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

/// What is right and what is wrong with a signal, cam beside crank, and where to mount.
namespace vicegrip::trigger {
namespace {

using testing::HasSubstr;

constexpr double kLook_hz = 48000;

Wheel wheelSaid(const char* line)
{
    return *readWheel(line);
}

const Verdict& verdict(const std::vector<Verdict>& all, const char* what)
{
    static const Verdict kNone;
    for (const Verdict& v : all)
        if (v.what.starts_with(what))
            return v;
    ADD_FAILURE() << "no verdict on " << what;
    return kNone;
}

struct Scene
{
    const char* line = "36-1";
    double rpm = 200, ripple = 0.2, gap_m = 1.2e-3, runOut_m = 0, noise_v = 0.02;
    bool coil = false, exchanged = false;
    std::optional<bool> rising = false;

    [[nodiscard]] Sensed sensed() const
    {
        const Turning turning{rpm, 0, ripple, 4};
        Disturbance d;
        d.noise_v = noise_v;
        ReluctanceSensor r;
        r.volts = 8;
        r.swapped = exchanged;
        const Clearance c{gap_m, runOut_m, 70};
        return coil ? senseReluctance(wheelSaid(line), turning, r, c, d, 3, kLook_hz)
                    : senseHall(wheelSaid(line), turning, {}, c, d, 3, kLook_hz);
    }
    [[nodiscard]] std::vector<Verdict> verdicts(const char* said = nullptr) const
    {
        const Sensed s = sensed();
        Known known;
        known.wheel = wheelSaid(said == nullptr ? line : said);
        known.rising = rising;
        const auto look = lookAt(s.volts, s.step_s, known, coil);
        if (!look) {
            ADD_FAILURE() << look.error().text();
            return {};
        }
        Wanted wanted;
        wanted.wheel = said == nullptr ? line : said;
        wanted.rising = rising;
        return trigger::verdicts(*look, wanted, Scale::Volts);
    }
};

/// Cars in order are told nothing.
TEST(Verdicts, NothingIsWrongWithASoundSignal)
{
    for (const char* line : {"36-1", "60-2", "48-2", "12-1"})
        for (const bool coil : {false, true})
            for (const double rpm : {150.0, 800.0, 3000.0}) {
                Scene s;
                s.line = line;
                s.coil = coil;
                s.rpm = rpm;
                s.ripple = std::min(0.25, usualRipple(rpm)); // more, and an ECU may lose twelve teeth
                s.runOut_m = 0.05e-3;
                for (const Verdict& v : s.verdicts())
                    EXPECT_NE(v.grade, Grade::Bad)
                        << line << (coil ? " coil " : " ") << rpm << ": " << v.what << ": " << v.is << " / " << v.limit;
            }
}

/// Two faults at once, each with its figure: exchanged wires of a coil, and a wheel that runs out.
TEST(Verdicts, ExchangedWiresAndRunOutAreToldTogether)
{
    Scene s;
    s.coil = s.exchanged = true;
    s.runOut_m = 0.3e-3;
    const auto all = s.verdicts();
    const Verdict& edge = verdict(all, "Edge");
    EXPECT_EQ(edge.grade, Grade::Bad);
    EXPECT_THAT(edge.is, testing::ContainsRegex("falling.*[1-9]\\.[0-9]+°"));
    EXPECT_THAT(edge.todo, HasSubstr("rising"));
    const Verdict& out = verdict(all, "Run-out");
    EXPECT_EQ(out.grade, Grade::Bad);
    const double told = std::stod(out.is);
    EXPECT_NEAR(told, 0.3, 0.03) << out.is;
    EXPECT_EQ(verdict(all, "Noise").grade, Grade::Good) << "what the wrong edge does is no noise";
    s.exchanged = false;
    EXPECT_EQ(verdict(s.verdicts(), "Edge").grade, Grade::Good);
    s.exchanged = true;
    s.rising = true;
    EXPECT_EQ(verdict(s.verdicts(), "Edge").grade, Grade::Good) << "counted by the other edge it is right";
}

/// How wide teeth look says the run-out of a Hall sensor's wheel, by the width that the synthesis gives them.
TEST(Verdicts, RunOutOfAHallSensorsWheel)
{
    for (const double runOut_m : {0.1e-3, 0.3e-3, 0.6e-3}) {
        Scene s;
        s.rpm = 600;
        s.ripple = 0.05;
        s.runOut_m = runOut_m;
        const Sensed sensed = s.sensed();
        Known known;
        known.wheel = wheelSaid("36-1");
        const auto look = lookAt(sensed.volts, sensed.step_s, known, false);
        ASSERT_TRUE(look && look->runOut_m);
        EXPECT_NEAR(*look->runOut_m, runOut_m, 0.03e-3);
    }
}

/// What is followed with hindsight, an ECU must tell while it turns: 12-1 where every second tooth is slowed.
TEST(Verdicts, AGapThatTheSpeedHides)
{
    const auto gap = [](const char* line, int cylinders, double ripple, double start_deg) {
        Look look;
        Report& r = look.report;
        r.wheel = wheelSaid(line);
        const auto edges = edgesOf(r.wheel, false);
        Crank crank({200, 0, ripple, cylinders}, start_deg);
        constexpr double kStep_s = 1e-5;
        for (int i = 0; r.times_s.size() < 5 * edges.size(); ++i) {
            const auto n = r.times_s.size();
            if (crank.angle_deg() - start_deg >=
                edges[n % edges.size()] + 360.0 * static_cast<double>(n / edges.size())) {
                r.times_s.push_back(i * kStep_s);
                r.followed.tooth.push_back(static_cast<int>(n % edges.size()));
            }
            crank.advance(kStep_s);
        }
        return verdict(verdicts(look, {}, Scale::Logic), "Gap against");
    };
    int hidden = 0;
    for (int start_deg = 0; start_deg < 120; start_deg += 15) { // where the gap stands in a compression
        EXPECT_EQ(gap("12-1", 4, 0.2, start_deg).grade, Grade::Good) << gap("12-1", 4, 0.2, start_deg).is;
        EXPECT_EQ(gap("36-1", 6, 0.45, start_deg).grade, Grade::Good) << "many teeth tell it";
        const Verdict v = gap("12-1", 6, 0.45, start_deg);
        hidden += v.grade == Grade::Bad ? 1 : 0;
        EXPECT_EQ((v.todo.find("more teeth") != std::string::npos), v.grade == Grade::Bad) << v.is;
    }
    EXPECT_GT(hidden, 0);
}

TEST(Verdicts, WhatTheWheelIsNot)
{
    Scene s;
    s.line = "60-2";
    const auto all = s.verdicts("36-1");
    EXPECT_EQ(verdict(all, "Teeth").grade, Grade::Bad);
    EXPECT_EQ(verdict(all, "Followed").grade, Grade::Bad);
}

TEST(Verdicts, LevelsAndNoiseOfAHallSignal)
{
    Scene s;
    s.noise_v = 0.6;
    s.rpm = 400;
    EXPECT_EQ(verdict(s.verdicts(), "Noise").grade, Grade::Bad);
    const Sensed sensed = Scene{}.sensed();
    std::vector<float> lifted = sensed.volts; // a ground that is off by 1.2 V under load
    for (float& v : lifted)
        v = v * 0.6F + 1.2F;
    Known known;
    known.wheel = wheelSaid("36-1");
    const auto look = lookAt(lifted, sensed.step_s, known, false);
    ASSERT_TRUE(look);
    const auto all = verdicts(*look, {}, Scale::Volts);
    EXPECT_EQ(verdict(all, "Levels").grade, Grade::Bad);
    EXPECT_THAT(verdict(all, "Levels").todo, HasSubstr("ground"));
    for (const Verdict& v : verdicts(*look, {}, Scale::Logic))
        EXPECT_FALSE(v.what.starts_with("Levels") || v.what.starts_with("Noise")) << "a logic analyser knows neither";
    for (const Verdict& v : verdicts(*look, {}, Scale::FullScale))
        EXPECT_THAT(v.is, testing::Not(HasSubstr(" V"))) << "a sound card knows no volts";
}

/// Volts of a coil fall by an e-th every decay length (the model of the synthesis): too far it arms nothing.
TEST(Verdicts, ACoilTooFarDoesNotArmAtCrankingSpeed)
{
    Scene s;
    s.coil = true;
    s.noise_v = 0.002;
    s.rpm = 300;
    s.ripple = 0;
    EXPECT_EQ(verdict(s.verdicts(), "Lowest").grade, Grade::Good);
    s.gap_m = 3e-3;
    const auto all = s.verdicts();
    EXPECT_EQ(verdict(all, "Lowest").grade, Grade::Bad);
    // The centres of its teeth's edges are 2.5 degrees from one another; the model's own peak there.
    const double peak = 8 * 300 * 6 / 360.0 * std::exp(-3e-3 / 0.7e-3);
    EXPECT_NEAR(std::stod(verdict(all, "Lowest").is), peak * 150 / 300, 0.15 * peak);
    EXPECT_THAT(verdict(all, "Lowest").todo, HasSubstr("in"));
}

TEST(Look, TellsACoilFromASwitch)
{
    Scene coil, hall;
    coil.coil = true;
    EXPECT_TRUE(looksLikeCoil(coil.sensed().volts));
    EXPECT_FALSE(looksLikeCoil(hall.sensed().volts));
    std::vector<float> coupled = hall.sensed().volts; // over a sound card's capacitor
    for (float& v : coupled)
        v -= 2.6F;
    EXPECT_FALSE(looksLikeCoil(coupled));
    EXPECT_FALSE(looksLikeCoil(std::vector<float>(1000, 1.F)));
    EXPECT_FALSE(lookAt(std::vector<float>(1000, 1.F), 1e-4, {}, false));
    EXPECT_FALSE(lookAt({}, 1e-4, {}, true));
}

/// By brute force: each edge of a cam wheel at the crank angle where its line puts it.
TEST(Cam, ItsEdgesAreFoundBetweenTheCranksTeeth)
{
    for (const double at_deg : {94.0, 300.0, 455.0, 715.0}) {
        const Turning turning{220, 30, 0.2, 4};
        const Sensed crank = senseHall(wheelSaid("36-1"), turning, {}, {0.5e-3, 0, 0}, {}, 4, kLook_hz);
        Wheel cam;
        cam.turn_deg = kCamTurn_deg;
        cam.teeth = {{at_deg, at_deg + 4}};
        const Sensed beside = senseHall(cam, turning, {}, {0.5e-3, 0, 0}, {}, 4, kLook_hz);
        Known known;
        known.wheel = wheelSaid("36-1");
        known.rising = false;
        const auto look = lookAt(crank.volts, crank.step_s, known, false);
        ASSERT_TRUE(look);
        const auto edges = edgesIn(beside.volts, *levelsOf(beside.volts), beside.step_s);
        const auto found = camBeside(look->report, timesOf(edges, false));
        ASSERT_TRUE(found) << at_deg << ' ' << found.error().text();
        ASSERT_EQ(found->edges.size(), 1U) << at_deg;
        EXPECT_TRUE(found->tellsTurn);
        const double angle = std::fmod(at_deg, 360);
        EXPECT_NEAR(std::remainder(found->edges[0].angle_deg - angle, 360), 0, 0.4) << at_deg;
        const double nearest = std::abs(std::remainder(angle, 10));
        if (angle < 340) { // the last tooth is missing there
            EXPECT_NEAR(found->edges[0].toTooth_deg, nearest, 0.4) << at_deg;
        }
        EXPECT_LT(found->edges[0].scatter_deg, 0.3);
    }
}

TEST(Cam, WhatRepeatsInBothTurnsTellsNone)
{
    const Turning turning{600, 0, 0.05, 4};
    const Sensed crank = senseHall(wheelSaid("36-1"), turning, {}, {0.5e-3, 0, 0}, {}, 3, kLook_hz);
    Known known;
    known.wheel = wheelSaid("36-1");
    const auto look = lookAt(crank.volts, crank.step_s, known, false);
    ASSERT_TRUE(look);
    std::vector<double> each; // once in each turn of the crank
    for (double t = 0.05; t < 2.9; t += 0.1)
        each.push_back(t);
    const auto found = camBeside(look->report, each);
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_FALSE(found->tellsTurn);
    std::vector<double> loose; // of another shaft
    for (double t = 0.05; t < 2.9; t += 0.0317)
        loose.push_back(t);
    EXPECT_FALSE(camBeside(look->report, loose));
    EXPECT_FALSE(camBeside(look->report, {}));
    Report even = look->report;
    even.followed.placed = false;
    EXPECT_FALSE(camBeside(even, each));
}

/// Reference: a second of the differential equation in small steps, and the ECU's own rule, written apart.
TEST(Mounting, CrankErrorsAreThoseOfBruteForce)
{
    Mounting m;
    m.tooth_deg = 0;
    m.rpm = 250;
    m.ripple = 0.25;
    const auto mounted = compareMounting(m);
    ASSERT_TRUE(mounted) << mounted.error().text();
    std::vector<double> times, angles; // Euler in steps of a microsecond
    double angle = -360;
    for (double t = 0; angle < 720; t += 2e-6) {
        times.push_back(t);
        angles.push_back(angle);
        angle += 2e-6 * 6 * 250 * (1 + 0.25 * std::cos(2 * angle * std::numbers::pi / 180));
    }
    const auto timeOf = [&](double at) {
        return times[static_cast<size_t>(std::ranges::lower_bound(angles, at) - angles.begin())];
    };
    double worst = 0;
    for (double asked = 0.5; asked < 719; asked += 0.5) {
        double last = std::floor(asked / 10) * 10;
        if (static_cast<int>(std::fmod(last, 360)) == 350)
            last -= 10; // no tooth there
        double before = last - 10;
        if (static_cast<int>(std::fmod(before + 360, 360)) == 350)
            before -= 10;
        const double speed = (last - before) / (timeOf(last) - timeOf(before));
        const double spark = timeOf(last) + (asked - last) / speed;
        const double is = angles[static_cast<size_t>(std::ranges::lower_bound(times, spark) - times.begin())];
        worst = std::max(worst, std::abs(is - asked));
    }
    EXPECT_NEAR(mounted->crank.worst_deg(), worst, 0.03 * worst + 0.01);
}

/// Common practice, no source: many teeth at the crank; hundreds of slots behind a belt jitter with the belt.
TEST(Mounting, MoreTeethAreNearerAndABeltAddsItsOwn)
{
    Mounting m;
    m.rpm = 3000;
    m.ripple = usualRipple(3000);
    m.tooth_deg = 0;
    const auto many = compareMounting(m);
    m.teeth = 4;
    m.missing = 0;
    const auto few = compareMounting(m);
    ASSERT_TRUE(many && few);
    EXPECT_LT(many->crank.most95_deg(), few->crank.most95_deg());
    EXPECT_LT(many->crank.most95_deg(), many->belt.most95_deg());
    m.beltSlots = 720;
    EXPECT_NEAR(compareMounting(m)->belt.most95_deg(), many->belt.most95_deg(), 0.1)
        << "finer slots do not help a belt";
    EXPECT_NEAR(usualRipple(1000), usualRipple(250) / 16, 1e-12) << "by the square of the speed";
    for (const auto& wrong :
         {Mounting{.cylinders = 0}, Mounting{.rpm = 0}, Mounting{.ripple = 1}, Mounting{.teeth = 1}})
        EXPECT_FALSE(compareMounting(wrong));
}

/// A wheel off its centre by e stands a sine of e off all round (plane geometry, first order).
TEST(Feelers, FourGapsSayHowFarAWheelRunsOut)
{
    const auto at = [](double deg) { return 1.4e-3 + 0.15e-3 * std::cos((deg - 70) * std::numbers::pi / 180); };
    const auto said = feelersSay(std::vector{at(0), at(90), at(180), at(270)});
    ASSERT_TRUE(said);
    EXPECT_NEAR(said->runOut_m, 0.3e-3, 1e-9);
    EXPECT_NEAR(said->farthest_deg, 70, 1e-6);
    EXPECT_NEAR(said->mean_m, 1.4e-3, 1e-12);
    EXPECT_NEAR(said->disagree_m, 0, 1e-12);
    const auto oval = feelersSay(std::vector{1.3e-3, 1.5e-3, 1.3e-3, 1.5e-3});
    EXPECT_NEAR(oval->runOut_m, 0, 1e-12);
    EXPECT_NEAR(oval->disagree_m, 0.2e-3, 1e-12);
    EXPECT_FALSE(feelersSay(std::vector{1e-3, 1e-3, 1e-3}));
    EXPECT_FALSE(feelersSay(std::vector{1e-3, 0.0, 1e-3, 1e-3}));
}

} // namespace
} // namespace vicegrip::trigger
