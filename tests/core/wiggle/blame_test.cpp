#include "core/job/json.h"
#include "core/wiggle/wiggle.h"
#include "tests/support/faulty_car.h"

#include <gmock/gmock.h>

#include <cmath>
#include <random>

namespace vicegrip::wiggle {
namespace {

using job::CircuitId;
using testing::HasSubstr;

const CircuitId kWatched{"fp"};

struct Car
{
    explicit Car(const std::string& file = "petrel.vicegrip", const CircuitId& id = kWatched)
        : job(test::unread(file)), circuit(*job::find(job, id)), holds(wiggle::holds(job, id, job::Condition::KeyOn))
    {
    }

    job::Job job;
    const job::Circuit& circuit;
    std::vector<Hold> holds;
    double steady = *readsWith(job, circuit, job::Condition::KeyOn, {});

    [[nodiscard]] size_t hold(const std::string& name) const
    {
        for (size_t i = 0; i < holds.size(); ++i)
            if (holds[i].name == name)
                return i;
        ADD_FAILURE() << "no place " << name;
        return 0;
    }
};

/// How the loose wire and who looks for it are.
struct Hands
{
    size_t hold = 0, may = 0;
    double moved = 1; ///< drop-outs a second
    double alone = 0.01;
    double seconds = 4; ///< at each place
    int rounds = 1;
};

/// Hands at every place in turn; what is loose lets go by chance. Nothing of the judging has part in it.
Watch watched(const Car& car, const Hands& hands, unsigned seed)
{
    std::mt19937 random(seed);
    std::normal_distribution<double> noise(0, 0.002);
    std::uniform_real_distribution<double> share(0, 1);
    Watch watch(grainOf(car.job, car.circuit));
    const double open = car.holds[hands.hold].may[hands.may].reads.value_or(0);
    double now = 0, until = 0, depth = open;
    const auto pass = [&](double seconds, double rate) {
        for (const double end = now + seconds; now < end;) {
            now += 0.02;
            if (now > until && share(random) < 0.02 * rate) {
                until = now - 0.06 * std::log(share(random));
                depth = share(random) < 0.6 ? open : car.steady + share(random) * (open - car.steady);
            }
            watch.hear(now, (now < until ? depth : car.steady) + noise(random));
        }
    };
    pass(1, hands.alone);
    for (int round = 0; round < hands.rounds; ++round)
        for (size_t h = 0; h < car.holds.size(); ++h) {
            watch.handsAt(now, h);
            pass(hands.seconds, h == hands.hold ? hands.moved : hands.alone);
        }
    return watch;
}

/// Fifty times a second, what the input is said to read.
struct Listened
{
    explicit Listened(const Car& car) : watch(grainOf(car.job, car.circuit)) {}
    void say(double volts, double seconds)
    {
        for (const double end = now + seconds; now < end;)
            watch.hear(now += 0.02, volts);
    }

    Watch watch;
    double now = 0;
};

/// Counts with a rate that is not known: a sum over rates, against the closed form.
TEST(WiggleVerdict, MarginalIsWhatASumOverRatesGives)
{
    for (const auto& [count, seconds, a, b] :
         {std::tuple(0, 4.0, 2.0, 2.0), {5, 4.0, 2.0, 2.0}, {1, 40.0, 0.5, 20.0}, {7, 33.0, 1.0, 5.0}}) {
        double sum = 0;
        constexpr double kStep = 1e-4;
        for (double root = kStep / 2; root < 5; root += kStep) { // rate = root squared: no peak at 0
            const double rate = root * root;
            const double prior = std::exp(a * std::log(b) + (a - 1) * std::log(rate) - b * rate) / std::tgamma(a);
            sum += prior * std::exp(count * std::log(rate) - rate * seconds) * 2 * root * kStep;
        }
        EXPECT_NEAR(logMarginal(count, seconds, a, b), std::log(sum), 1e-4) << count << " in " << seconds;
    }
}

TEST(WiggleVerdict, EveryPlaceOfACircuitCanBeHeld)
{
    const Car car;
    std::map<job::WireId, int> ends;
    for (const Hold& h : car.holds) {
        EXPECT_FALSE(h.keys.empty()) << h.name;
        for (const MayLetGo& m : h.may) {
            ++ends[m.what.wire];
            EXPECT_TRUE(std::ranges::find(h.keys, m.what.heldAs()) != h.keys.end()) << h.name;
            EXPECT_TRUE(m.what.missing(car.job).empty());
        }
    }
    const electrics::Wiring wiring(car.job);
    for (const electrics::Path& path : wiring.paths(car.circuit))
        for (const std::string& subject : path.subjects) {
            if (!subject.starts_with("wire "))
                continue;
            EXPECT_EQ(ends[job::WireId{subject.substr(5)}], 3) << subject << ": two ends and what is between";
        }
}

/// Cars with one loose wire each: where a place is named it is the right one, and most are named in two rounds.
class WiggledCircuits : public testing::TestWithParam<std::pair<const char*, const char*>>
{
};

/// Volts of a ratiometric sensor, of a thermistor on a pull-up, of a sensor with its own feed; and pulses.
INSTANTIATE_TEST_SUITE_P(OfBothCars, WiggledCircuits,
                         testing::Values(std::pair("petrel.vicegrip", "fp"), std::pair("petrel.vicegrip", "clt"),
                                         std::pair("petrel.vicegrip", "wb"), std::pair("curlew.vicegrip", "flex")),
                         [](const auto& of) { return std::string(of.param.second); });

TEST_P(WiggledCircuits, NamesThePlaceThatIsLoose)
{
    const Car car(GetParam().first, CircuitId{GetParam().second});
    ASSERT_FALSE(car.holds.empty());
    const double scale = std::max(car.steady, 1.0);
    std::mt19937 random(3);
    int tried = 0, named = 0, wrong = 0;
    for (size_t h = 0; h < car.holds.size(); ++h)
        for (size_t m = 0; m < car.holds[h].may.size(); ++m) {
            const auto& reads = car.holds[h].may[m].reads;
            if (!reads || std::abs(*reads - car.steady) < 0.1 * scale)
                continue; // the input hardly sees it, or the ECU goes with it
            for (unsigned seed = 0; seed < 8; ++seed) {
                const double rate = std::exp(std::uniform_real_distribution<double>(-0.7, 1)(random));
                const Watch watch = watched(car, {h, m, rate, 0.01, 4, 2}, 100 * seed + static_cast<unsigned>(h));
                const Verdict v = judge(car.job, car.circuit, car.holds, watch);
                ++tried;
                named += v.hold ? 1 : 0;
                wrong += v.hold && *v.hold != h ? 1 : 0;
                if (v.hold == h) { // what reads alike is named together
                    EXPECT_TRUE(std::ranges::find(v.what, car.holds[h].may[m].what) != v.what.end())
                        << car.holds[h].name << ": " << car.holds[h].may[m].what.wire.value;
                    const auto told = std::ranges::find(car.holds[h].may, v.what.front(), &MayLetGo::what);
                    EXPECT_NEAR(*told->reads, *reads, 0.3 * scale) << car.holds[h].name << ": its depth told the wire";
                }
            }
        }
    EXPECT_GE(tried, 40);
    EXPECT_GT(named, tried * 85 / 100) << "of " << tried;
    EXPECT_LE(wrong, tried * 2 / 100) << "of " << tried;
}

/// What is said to be so likely is so often right: cars as the judging takes them, one round of hands.
TEST(WiggleVerdict, ItsSharesAreOdds)
{
    const Car car;
    std::mt19937 random(11);
    std::gamma_distribution<double> moved(2, 1 / 2.0), alone(0.5, 1 / 20.0);
    std::vector<double> weights;
    for (const Hold& h : car.holds)
        weights.push_back(h.between ? 0.3 : 1);
    std::map<int, std::pair<double, int>> said; // by tenth: sum of shares, how many, how often right
    std::map<int, int> right;
    for (unsigned seed = 0; seed < 1500; ++seed) {
        const auto h = static_cast<size_t>(std::discrete_distribution<int>(weights.begin(), weights.end())(random));
        const size_t m = std::uniform_int_distribution<size_t>(0, car.holds[h].may.size() - 1)(random);
        if (!car.holds[h].may[m].reads || std::abs(*car.holds[h].may[m].reads - car.steady) < 0.1)
            continue;
        const Watch watch = watched(car, {h, m, moved(random), alone(random), 3, 1}, seed);
        if (watch.dropOuts().empty())
            continue;
        const Verdict v = judge(car.job, car.circuit, car.holds, watch);
        double sum = v.byItself;
        for (size_t i = 0; i < v.holds.size(); ++i) {
            const double share = v.holds[i].share;
            ASSERT_TRUE(std::isfinite(share));
            sum += share;
            const int tenth = std::min(9, static_cast<int>(10 * share));
            said[tenth].first += share;
            ++said[tenth].second;
            right[tenth] += i == h ? 1 : 0;
        }
        ASSERT_NEAR(sum, 1, 1e-9);
    }
    for (const auto& [tenth, of] : said)
        if (of.second >= 60) {
            const double expected = of.first / of.second, was = right[tenth] / static_cast<double>(of.second);
            const double sigma = std::sqrt(expected * (1 - expected) / of.second);
            EXPECT_NEAR(was, expected, 0.07 + 3 * sigma) << "said 0." << tenth << ", " << of.second << " times";
        }
}

TEST(WiggleVerdict, SaysWhatItHeardAndWhereHandsGoNext)
{
    const Car car;
    Watch none(grainOf(car.job, car.circuit));
    EXPECT_THAT(judge(car.job, car.circuit, car.holds, none).says, HasSubstr("Hands off"));

    const size_t plug = car.hold("Plug FP");
    const Watch quiet = watched(car, {plug, 0, 0, 0, 4, 1}, 1);
    const Verdict nothing = judge(car.job, car.circuit, car.holds, quiet);
    EXPECT_THAT(nothing.says, HasSubstr("Nothing lets go"));
    EXPECT_FALSE(nothing.next.has_value());

    const Watch brief = watched(car, {plug, 0, 0, 0, 1, 1}, 1);
    EXPECT_EQ(judge(car.job, car.circuit, car.holds, brief).next, 0U) << "hands have been nowhere for long";

    const Watch shaken = watched(car, {plug, 0, 2, 0, 4, 1}, 1);
    const Verdict found = judge(car.job, car.circuit, car.holds, shaken);
    ASSERT_EQ(found.hold, plug);
    EXPECT_THAT(found.says, HasSubstr("at Plug FP"));
    EXPECT_THAT(found.says, HasSubstr("with hands there"));
    EXPECT_FALSE(found.next.has_value());

    const Watch anyhow = watched(car, {plug, 0, 0.4, 0.4, 4, 1}, 2);
    const Verdict itself = judge(car.job, car.circuit, car.holds, anyhow);
    EXPECT_GT(itself.byItself, 0.8) << "wherever hands are";
    EXPECT_FALSE(itself.hold.has_value());
}

/// Hands were nowhere else: only taking them off tells whether it lets go by itself.
TEST(WiggleVerdict, AsksForHandsOffWhereNothingElseWasWatched)
{
    const Car car;
    const size_t plug = car.hold("Plug FP");
    Listened heard(car);
    heard.say(car.steady, 0.6);
    heard.watch.handsAt(heard.now, plug);
    for (int i = 0; i < 3; ++i) {
        heard.say(*car.holds[plug].may[0].reads, 0.1);
        heard.say(car.steady, 3);
    }
    const Verdict before = judge(car.job, car.circuit, car.holds, heard.watch);
    EXPECT_FALSE(before.hold.has_value());
    EXPECT_TRUE(before.rest);
    EXPECT_THAT(before.says, HasSubstr("by itself"));
    heard.watch.handsAt(heard.now, {});
    heard.say(car.steady, 40);
    const Verdict after = judge(car.job, car.circuit, car.holds, heard.watch);
    EXPECT_EQ(after.hold, plug);
    EXPECT_FALSE(after.rest);
}

/// With hands there and nothing more coming, what was named at 95 % gets a little less likely: its name stays while a
/// key is on its way, and goes once it is plainly less likely.
TEST(WiggleVerdict, WhatWasNamedAMomentAgoStays)
{
    const Car car;
    const size_t plug = car.hold("Plug FP");
    Listened heard(car);
    heard.say(car.steady, 8);
    heard.watch.handsAt(heard.now, plug);
    for (int i = 0; i < 3; ++i) {
        heard.say(*car.holds[plug].may[0].reads, 0.1);
        heard.say(car.steady, 0.4);
    }
    Verdict last = judge(car.job, car.circuit, car.holds, heard.watch);
    ASSERT_EQ(last.hold, plug);
    bool heldOn = false;
    for (int i = 0; i < 600 && last.hold; ++i) {
        heard.say(car.steady, 0.2);
        const Verdict fresh = judge(car.job, car.circuit, car.holds, heard.watch);
        last = judge(car.job, car.circuit, car.holds, heard.watch, last.hold);
        EXPECT_EQ(last.holds[plug].share, fresh.holds[plug].share) << "only the threshold is another";
        heldOn = heldOn || (last.hold == plug && !fresh.hold);
    }
    EXPECT_TRUE(heldOn);
    EXPECT_FALSE(last.hold.has_value()) << "it does not stay for ever";
}

TEST(WiggleVerdict, ACircuitThatTheEcuDoesNotReadHasNoPlaces)
{
    const Car car;
    EXPECT_TRUE(wiggle::holds(car.job, CircuitId{"nobody"}, job::Condition::KeyOn).empty());
    for (const job::Circuit& c : car.job.circuits) {
        if (!c.input.empty())
            continue;
        EXPECT_TRUE(wiggle::holds(car.job, c.id, job::Condition::KeyOn).empty()) << c.id.value;
    }
    const Watch watch(0.02);
    EXPECT_TRUE(judge(car.job, car.circuit, {}, watch).holds.empty());
}

} // namespace
} // namespace vicegrip::wiggle
