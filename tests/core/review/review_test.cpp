#include "core/review/steps.h"
#include "tests/core/review/driven_log.h"

#include <gmock/gmock.h>

namespace vicegrip::review {
namespace {

using test::DrivenLog;
using test::found;
using test::reviewed;
using testing::HasSubstr;
using testing::IsEmpty;

/// Boost that is asked up to `top`, as a sensor shows it that ends at `end`.
log::Log boosted(double top, double end, double noise = 0.6)
{
    DrivenLog log(120, 50);
    log.engine();
    const auto asked = [top](double t) { return 100 + (top - 100) * std::max(0.0, std::sin(t / 3)); };
    log.with("Boost target", "kPa", asked);
    std::mt19937 chance(5);
    std::normal_distribution<double> gauss(0, noise);
    log.with("Manifold pressure", "kPa", [&](double t) { return std::min(end, asked(t) + gauss(chance)); });
    return std::move(log.log());
}

/// Common practice, no source: a log that flattens while more is asked is a sensor out of range.
TEST(Review, AReadingThatStopsBelowWhatIsAskedIsOutOfRange)
{
    const log::Log log = boosted(330, 300);
    const Review r = reviewed(log);
    const Finding* f = found(r, Rule::End);
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->weight, Weight::Wrong);
    EXPECT_THAT(f->what, HasSubstr("stops at 300.0 kPa abs, the end of the sensor's range, while up to 330"));
    EXPECT_THAT(f->todo, HasSubstr("not the boost"));
    EXPECT_EQ(log.columns[f->columns.front()].name, "Manifold pressure");
    for (const Stretch& s : f->stretches)
        for (size_t i = s.first; i <= s.last; ++i)
            EXPECT_GT(log.columns[3].values[i], 299) << i;
}

TEST(Review, OneThatReadsOnDoesNotStop)
{
    EXPECT_EQ(found(reviewed(boosted(280, 300)), Rule::End), nullptr);
}

/// 21.9 of 22.5 psi above the air (common practice, no source). The command never goes low: it counts from where the
/// reading does.
TEST(Review, AReadingOfTwentyOnePointNineWhileMoreIsAsked)
{
    DrivenLog log(120, 50);
    log.engine();
    log.with("Boost target", "psi", [](double) { return 22.5; });
    std::mt19937 chance(5);
    std::normal_distribution<double> gauss(0, 0.2);
    log.with("Boost", "psi", [&](double t) {
        const double psi = std::min(21.9, -9 + 33 * std::max(0.0, std::sin(t / 3)) + gauss(chance));
        return std::round(psi * 10) / 10;
    });
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::End);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("Boost stops at 21.9 psi gauge while up to 22.5 psi gauge was asked"));
    EXPECT_THAT(f->todo, HasSubstr("not the boost"));
}

/// No circuit of this job ends there: the command alone shows it.
TEST(Review, AnEndThatNobodyKnowsIsFoundByTheCommand)
{
    const Review r = reviewed(boosted(256, 252));
    const Finding* f = found(r, Rule::End);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("stops at 252.0 kPa abs while up to 256"));
    EXPECT_EQ(found(r, Rule::Frozen), nullptr); // said once
    // A controller that does not reach what is asked wavers as it holds.
    DrivenLog log(120, 50);
    log.engine();
    log.with("Boost target", "kPa", [](double t) { return 100 + 156 * std::max(0.0, std::sin(t / 3)); });
    log.with(
        "Manifold pressure", "kPa",
        [](double t) { return 100 + 148 * std::min(0.9, std::max(0.0, std::sin(t / 3))) / 0.9; }, 0.6);
    EXPECT_EQ(found(reviewed(log.log()), Rule::End), nullptr);
}

TEST(Review, BeyondWhatASensorCanTell)
{
    DrivenLog log(60, 20);
    log.engine().with(
        "Oil pressure", "bar", [](double t) { return t > 30 && t < 31 ? 12.0 : 4 + std::sin(t); }, 0.02);
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::Beyond);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("Oil pressure goes to 12"));
    EXPECT_EQ(f->times, 1U);
    EXPECT_NEAR(log.log().time_s[f->stretches.front().first], 30, 0.1);
}

TEST(Review, ANumberThatStandsStill)
{
    DrivenLog log(120, 20);
    log.engine();
    log.with(
        "Manifold pressure", "kPa", [](double t) { return t > 40 && t < 70 ? 61.5 : 60 + 30 * std::sin(t); }, 0);
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::Frozen);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("stood at 61.5 kPa abs for 29.9 s"));
    // A thermostat holds a temperature; nobody wonders.
    DrivenLog warm(120, 20);
    warm.engine().with("Coolant temp", "°C", [](double) { return 88; });
    EXPECT_EQ(found(reviewed(warm.log()), Rule::Frozen), nullptr);
}

TEST(Review, AContactThatLetsGo)
{
    DrivenLog log(120, 50);
    log.engine();
    log.with(
        "Oil pressure", "bar", [](double t) { return std::fmod(t, 20) > 10 && std::fmod(t, 20) < 10.12 ? 0.1 : 4.0; },
        0.02);
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::DropOut);
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->times, 6U);
    EXPECT_THAT(f->what, HasSubstr("by up to -3.9"));
}

/// Ignition: so many spikes a turn (four cylinders spark twice a turn, as four-stroke engines do).
TEST(Review, SpikesThatGrowWithTheEnginesSpeedAreIgnition)
{
    std::mt19937 chance(3);
    std::uniform_real_distribution<double> one(0, 1);
    const auto spiked = [&](bool ignition) {
        DrivenLog log(300, 50);
        log.engine();
        log.with(
            "Oil pressure", "bar",
            [&](double t) {
                const double rpm = 3400 + 2500 * std::sin(t / 3);
                return 4.0 + (one(chance) < (ignition ? rpm / 3400 : 1) * 0.02 ? 1.5 : 0);
            },
            0.01);
        return reviewed(log.log());
    };
    const Review r = spiked(true), other = spiked(false);
    const Finding *f = found(r, Rule::Spikes), *even = found(other, Rule::Spikes);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->todo, HasSubstr("as ignition does"));
    ASSERT_NE(even, nullptr);
    EXPECT_THAT(even->todo, testing::Not(HasSubstr("as ignition does")));
}

/// A fan of 20 mV over the ground that temperatures share. What is found without knowing of the fan, too.
log::Log lifted(double volts, bool fanLogged)
{
    DrivenLog log(600, 20, 9);
    log.engine();
    const auto on = [](double t) { return std::fmod(t, 50) > 30 ? 1.0 : 0.0; };
    const auto as = [&](const char* circuit, double celsius) { // what the table makes of the lift
        const auto& table = *analysis::find(test::petrel(), job::CircuitId(circuit))->table;
        double low = 0, high = 5; // of a falling curve
        for (int i = 0; i < 60; ++i)
            (scaling::lookUp(table, (low + high) / 2) > celsius + 273.15 ? low : high) = (low + high) / 2;
        return std::function<double(double)>(
            [=](double t) { return scaling::lookUp(table, low + volts * on(t)) - 273.15; });
    };
    log.with("Coolant temp", "°C", as("clt", 88), 0.05).with("Oil temp", "°C", as("ot", 95), 0.05);
    if (fanLogged)
        log.with("Fan", "", on);
    return std::move(log.log());
}

TEST(Review, AGroundThatSeveralShare)
{
    for (const bool logged : {true, false}) {
        const log::Log log = lifted(0.02, logged);
        const Review r = reviewed(log);
        const Finding* f = found(r, Rule::SharedGround);
        ASSERT_NE(f, nullptr) << logged;
        EXPECT_EQ(f->place, "S2"); // the splice of the engine side's sensor grounds
        EXPECT_THAT(f->what, HasSubstr(logged ? "step together when Fan is switched" : "step together"));
        EXPECT_THAT(f->what, testing::ContainsRegex("20.* mV"));
        EXPECT_THAT(f->what, HasSubstr("Manifold pressure hangs on it too, where that is 1."));
        EXPECT_GE(f->times, 20U);
    }
    EXPECT_EQ(found(reviewed(lifted(0, true)), Rule::SharedGround), nullptr);
    EXPECT_EQ(found(reviewed(lifted(0, false)), Rule::SharedGround), nullptr);
}

TEST(Review, BatteryAndSensorSupplySag)
{
    DrivenLog log(120, 20);
    log.engine();
    log.with(
        "Battery", "V", [](double t) { return t > 50 && t < 60 ? 11.8 : 14.1; }, 0.01);
    log.with(
        "Sensor supply", "V", [](double t) { return t > 80 && t < 81 ? 4.7 : 5.0; }, 0.002);
    const Review r = reviewed(log.log());
    EXPECT_EQ(std::ranges::count(r.findings, Rule::Sag, &Finding::rule), 2);
    const Finding* f = found(r, Rule::Sag);
    EXPECT_THAT(f->what, HasSubstr("Sensor supply falls to 4.7"));
}

/// Common practice: judged only while wide open; a hundred degrees at a standstill mean nothing.
TEST(Review, IntakeAirCountsInAPull)
{
    DrivenLog log(100, 20);
    const auto pulls = [](double t) { return t > 40 && t < 48; };
    log.with("RPM", "rpm", [&](double t) { return pulls(t) ? 2500 + 500 * (t - 40) : 900; });
    log.with("Throttle", "%", [&](double t) { return pulls(t) ? 100.0 : 0.0; });
    log.with("Intake air temp", "°C",
             [&](double t) { return pulls(t) ? (t < 42 ? 100 - 30 * (t - 40) : 40 + 3 * (t - 42)) : 100; });
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::IntakeAir);
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->weight, Weight::Fine);
    EXPECT_THAT(f->what, HasSubstr("58 °C at its peak, 18 K above its least"));
}

TEST(Review, AThrottleThatDoesNotComeToItsEnds)
{
    DrivenLog log(60, 20);
    log.with("RPM", "rpm", [](double) { return 2000; });
    log.with("Throttle", "%", [](double t) { return t < 20 ? 2.4 : t < 30 ? 95.0 : 2.5 + t; });
    const Review r = reviewed(log.log());
    EXPECT_EQ(std::ranges::count(r.findings, Rule::ThrottleEnds, &Finding::rule), 2);
    EXPECT_THAT(found(r, Rule::ThrottleEnds)->what, HasSubstr("comes to rest at 2.4 % and not at 0"));
    DrivenLog good(60, 20);
    good.with("RPM", "rpm", [](double) { return 2000; });
    good.with("Throttle", "%", [](double t) { return t < 20 ? 0.0 : t < 30 ? 100.0 : t; });
    EXPECT_THAT(reviewed(good.log()).findings, IsEmpty());
}

TEST(Review, TracksThatPart)
{
    DrivenLog log(60, 50);
    log.engine();
    log.with("Throttle 2", "%",
             [](double t) { return std::clamp(50 + 60 * std::sin(t / 3), 0.0, 100.0) - (t > 30 && t < 31 ? 6 : 0); });
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::TracksPart);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("part by up to 6.0 %"));
    EXPECT_EQ(f->times, 1U);
}

/// A gearbox cruises at about 60 °C and stands at 70 to 80 °C in traffic (common practice).
TEST(Review, TrendsTellCruiseFromTraffic)
{
    DrivenLog log(1200, 2);
    log.engine();
    log.with("Road speed", "km/h", [](double t) { return t < 600 ? 100.0 : 15.0; });
    log.with(
        "Gearbox temp", "°C", [](double t) { return t < 600 ? 60.0 : 75.0; }, 0.1);
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::Trend);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("60 °C cruising, 75 °C in traffic"));
    EXPECT_EQ(f->weight, Weight::Fine);
}

/// The mixing tank of a textbook: 63 % of the way after one volume's turn-over (Levenspiel, Chemical Reaction
/// Engineering, 3rd ed. 1999, ch. 12: one ideal stirred tank; from memory).
TEST(Review, EthanolSettlesAsAMixingTankDoes)
{
    DrivenLog log(1200, 2);
    log.engine();
    log.with(
        "Ethanol content", "%", [](double t) { return t < 100 ? 9.0 : 39 - 30 * std::exp(-(t - 100) / 120); }, 0.02);
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::EthanolSettles);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("goes from 9.0 % to 39.0 %"));
    EXPECT_THAT(f->what, HasSubstr("two thirds of it after 1 min 5")); // from the first twentieth: 120 less 6 s
    EXPECT_EQ(f->weight, Weight::Fine);
}

/// Fuel by the ideal gas law goes with the pressure: a sensor that reads 2 kPa low asks for 2 / p more (p in kPa).
TEST(Review, ACorrectionThatFollowsAnOffset)
{
    DrivenLog log(600, 20);
    log.engine();
    const auto shown = [](double t) { return 60 + 32 * std::sin(t / 3); };
    log.with("Manifold pressure", "kPa", shown, 0.1);
    log.with(
        "Coolant temp", "°C", [](double) { return 88; }, 0.05);
    log.with(
        "Closed loop correction", "%", [&](double t) { return 100 * ((shown(t) + 2) / shown(t) - 1); }, 0.3);
    const Review r = reviewed(log.log());
    const Finding* f = found(r, Rule::CorrectionFollows);
    ASSERT_NE(f, nullptr);
    EXPECT_THAT(f->what, HasSubstr("as if that read 2.0 kPa too low"));
    // A share that is the same everywhere is no offset.
    log.log().columns.pop_back();
    log.with(
        "Closed loop correction", "", [](double) { return 1.08; }, 0.003);
    const Review even = reviewed(log.log());
    EXPECT_THAT(found(even, Rule::CorrectionFollows)->what, HasSubstr("8.0 % in the mean"));
}

/// Percent that nobody called so, small in the mean: no factor of 0.8.
TEST(Review, ASmallCorrectionIsNone)
{
    DrivenLog log(600, 20);
    log.engine();
    log.with(
        "Manifold pressure", "kPa", [](double t) { return 60 + 32 * std::sin(t / 3); }, 0.1);
    log.with(
        "Fuel trim", "", [](double) { return 0.8; }, 2);
    EXPECT_EQ(found(reviewed(log.log()), Rule::CorrectionFollows), nullptr);
}

/// A mixture stands at its lean end whenever fuel is cut, whoever's number it is.
TEST(Review, AMixtureWithoutFuelIsNotFrozen)
{
    DrivenLog log(120, 20);
    log.engine();
    log.with("Lambda of the other bank", "",
             [](double t) { return std::sin(t / 3) < 0 ? 1.36 : 0.95 + 0.02 * std::sin(t); });
    EXPECT_EQ(found(reviewed(log.log()), Rule::Frozen), nullptr);
}

/// A good drive has nothing to say: a false alarm costs belief.
TEST(Review, AGoodDriveIsQuiet)
{
    DrivenLog log(1200, 20, 21);
    log.engine();
    log.with(
        "Manifold pressure", "kPa", [](double t) { return 90 + 60 * std::sin(t / 3); }, 0.6);
    log.with(
        "Coolant temp", "°C", [](double t) { return 86 + 4 * std::sin(t / 70); }, 0.05);
    log.with(
        "Oil temp", "°C", [](double t) { return 95 + 3 * std::sin(t / 200); }, 0.05);
    log.with(
        "Oil pressure", "bar", [](double t) { return 4 + 2 * std::sin(t / 3); }, 0.02);
    log.with(
        "Battery", "V", [](double) { return 14.1; }, 0.02);
    log.with("Fan", "", [](double t) { return std::fmod(t, 60) > 30 ? 1.0 : 0.0; });
    for (const Finding& f : reviewed(log.log()).findings)
        EXPECT_EQ(f.weight, Weight::Fine) << f.what;
}

/// A slope that changes is no step, however fine the signal is; one beside it is found, with its height.
TEST(Steps, AKinkIsNone)
{
    constexpr size_t kWidth = 24;
    std::mt19937 chance(5);
    for (const double noise : {0.01, 0.05}) {
        std::normal_distribution<double> gauss(0, noise);
        const auto signal = [&](double kink, double step, double decays) {
            std::vector<float> out;
            for (int i = 0; i < 1000; ++i)
                out.push_back(
                    static_cast<float>(90 + gauss(chance) + (i >= 500 ? step : 0) +
                                       kink * std::max(0, i - 500) * std::exp(-decays * std::max(0, i - 500))));
            return out;
        };
        for (const double slope : {0.02, 0.05, 0.2})
            for (const double decays : {0.0, 0.005, 0.02})
                for (const Step& s : stepsIn(signal(slope, 0, decays), kWidth, noise, 4.5))
                    EXPECT_LT(std::abs(s.height), 2 * noise) << slope << " " << decays;
        const auto found = stepsIn(signal(0.005, 1, 0), kWidth, noise, 4.5);
        ASSERT_EQ(found.size(), 1U);
        EXPECT_NEAR(found[0].height, 1, 0.08);
        EXPECT_NEAR(static_cast<double>(found[0].at), 500, 2);
    }
}

/// Whatever stands in a log, the rules end.
TEST(Review, AnyNumbersAreReviewed)
{
    std::mt19937 chance(17);
    const char* names[] = {"RPM",          "Throttle",     "Manifold pressure", "Boost target",
                           "Coolant temp", "Fan",          "Ethanol content",   "Closed loop correction",
                           "Battery",      "Oil pressure", "Wideband",          "Throttle 2",
                           "Gear"};
    for (int round = 0; round < 300; ++round) {
        log::Log log;
        double t = 0;
        const size_t rows = chance() % 400 + 1;
        for (size_t i = 0; i < rows; ++i)
            log.time_s.push_back(t += static_cast<double>(chance() % 3) * 0.1);
        for (const char* name : names) {
            log::Column column{name, "", {}};
            for (size_t i = 0; i < rows; ++i) {
                const auto kind = chance() % 6;
                column.values.push_back(kind == 0   ? NAN
                                        : kind == 1 ? 0
                                        : kind == 2
                                            ? 1
                                            : static_cast<float>(chance() % 100'000) / (kind == 3 ? -1e-3F : 100));
            }
            log.columns.push_back(std::move(column));
        }
        const Review r = reviewed(log);
        for (const Finding& f : r.findings) {
            EXPECT_FALSE(f.what.empty());
            for (const Stretch& s : f.stretches) {
                EXPECT_LE(s.first, s.last);
                ASSERT_LT(s.last, rows);
            }
        }
    }
}

} // namespace
} // namespace vicegrip::review
