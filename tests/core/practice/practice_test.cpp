#include "core/practice/practice.h"

#include "core/wiggle/wiggle.h"
#include "tests/support/faulty_car.h"

#include <gmock/gmock.h>

namespace vicegrip::practice {
namespace {

using testing::HasSubstr;

std::shared_ptr<const job::Job> practised(const std::string& file)
{
    return std::make_shared<const job::Job>(
        practiceJob(*job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + file)));
}

TEST(Practice, IsOfTheSameCarWithNothingReadYet)
{
    const job::Job before = *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/petrel.vicegrip");
    ASSERT_FALSE(before.proofs.empty());
    const job::Job job = practiceJob(before);
    EXPECT_TRUE(job.proofs.empty() && job.clicks.empty() && job.wiggles.empty() && job.mends.empty());
    EXPECT_EQ(job.wires, before.wires);
    EXPECT_EQ(job.name, before.name);
}

/// Rounds of both demo jobs at every level: what the driver says is so on a car that is solved by itself.
TEST(Practice, WhatTheDriverSaysIsSo)
{
    for (const std::string file : {"petrel.vicegrip", "curlew.vicegrip"}) {
        const auto job = practised(file);
        const auto a = analysis::analyse(job);
        std::set<std::string> complaints;
        for (int level = 0; level < kLevels; ++level)
            for (unsigned seed = 0; seed < 6; ++seed) {
                const auto round = makeRound(a, test::families(), test::library(), static_cast<Level>(level), seed);
                ASSERT_TRUE(round.has_value()) << file << level << ": " << round.error().text();
                SCOPED_TRACE(round->complaint + " | " + round->truth.front().what);
                complaints.insert(round->complaint);
                EXPECT_EQ(round->truth.size(), level == static_cast<int>(Level::Two) ? 2U : 1U);
                ASSERT_EQ(round->circuits.size(), round->truth.size());
                EXPECT_FALSE(isMended(*round, *job));
                std::set<job::CircuitId> wrong;
                for (const job::Circuit& c : job->circuits) {
                    if (c.input.empty())
                        continue;
                    const auto sound = wiggle::readsWith(*job, c, job::Condition::KeyOn, {});
                    const auto reads = wiggle::readsWith(*job, c, job::Condition::KeyOn, round->faults());
                    if (sound.has_value() != reads.has_value() || (sound && std::abs(*sound - *reads) > 0.02))
                        wrong.insert(c.id);
                }
                if (level == static_cast<int>(Level::Comes)) {
                    const auto loose = std::get<faults::Loose>(round->faults().front());
                    EXPECT_TRUE(wrong.empty()) << "at rest it reads right";
                    const job::Circuit& c = *job::find(*job, round->circuits.front());
                    const auto open = wiggle::readsWith(*job, c, job::Condition::KeyOn, {faults::OpenWire{loose.wire}});
                    EXPECT_GT(std::abs(*open - *wiggle::readsWith(*job, c, job::Condition::KeyOn, {})), 0.01);
                } else if (level != static_cast<int>(Level::Hands)) { // an old table moves no volts
                    for (const job::CircuitId& c : round->circuits)
                        EXPECT_TRUE(wrong.contains(c)) << c.value;
                }
                if (level == static_cast<int>(Level::Shared)) {
                    EXPECT_GE(wrong.size(), 2U);
                }
                for (size_t i = 0; i < round->known.size(); ++i) { // tables, parts and settings too
                    const diagnosis::Taken& said = round->known[i];
                    const auto spots = test::spotsOf(a, said.circuit);
                    const auto spot = std::ranges::find_if(spots, [&](const diagnosis::Spot& s) {
                        return s.place.station.key == said.station && s.place.condition == said.reading.condition();
                    });
                    ASSERT_NE(spot, spots.end());
                    test::FaultyCar car(a, round->truth[i], spots);
                    const auto shows = car.at(*spot);
                    ASSERT_EQ(shows.has_value(), !said.reading.isOverload());
                    if (shows && level != static_cast<int>(Level::Two)) {
                        EXPECT_NEAR(shows->si(), said.reading.si(), 1e-3 * std::abs(shows->si()) + 0.01);
                    }
                }
                const auto again = makeRound(a, test::families(), test::library(), static_cast<Level>(level), seed);
                EXPECT_EQ(again->complaint, round->complaint) << "the same for the same seed";
                EXPECT_EQ(again->truth.front().what, round->truth.front().what);
                EXPECT_TRUE(faults::readFaults(faults::writeFaults(round->faults()), *job).has_value());
            }
        EXPECT_GT(complaints.size(), 15U) << "they are not all alike";
    }
}

/// A learner who reads one place that tells nothing, mends what is sound, then what is not.
TEST(Practice, DebriefTellsStepByStepWhatTheWorkWasWorth)
{
    const auto job = practised("petrel.vicegrip");
    const auto a = analysis::analyse(job);
    const auto round = makeRound(a, test::families(), test::library(), Level::One, 5);
    ASSERT_TRUE(round.has_value());
    const job::CircuitId circuit = round->circuits.front();
    test::FaultyCar car(a, round->truth.front(), test::spotsOf(a, circuit));
    job::Job played = startOf(a, *round, "2026-03-01T09:00:00Z");
    EXPECT_EQ(played.proofs.size(), round->known.size());
    const auto read = [&](const diagnosis::Spot& spot, const char* when) {
        for (const auto& e : analysis::promises(a, spot.circuit, spot.place.condition))
            if (e.station.key == spot.place.station.key)
                played.proofs.push_back(
                    proof::record(a.facts, spot.circuit, e, *car.at(spot), job::ReadingSource::Meter, when));
    };
    diagnosis::Finder finder(a, circuit, test::families(), test::library());
    const auto first = finder.diagnosis(round->known, job::Condition::KeyOn).probes.front();
    read(first.spot, "2026-03-01T10:00:00Z");
    read(first.spot, "2026-03-01T10:01:00Z");
    read(first.spot, "2026-03-01T10:02:00Z");
    played.mends.push_back({{"wire w1"}, "Wire w1 was open", "2026-03-01T10:03:00Z"});
    const auto half = debrief(a, played, *round, 2, test::families(), test::library());
    EXPECT_FALSE(half.found);
    EXPECT_EQ(half.readings, 3);
    EXPECT_EQ(half.soundMended, 1);
    ASSERT_EQ(half.steps.size(), 4U);
    EXPECT_THAT(half.steps[0].what, HasSubstr(first.spot.place.station.label));
    EXPECT_FALSE(half.steps[0].believed.empty());
    EXPECT_GT(half.steps[0].share, 0);
    EXPECT_THAT(half.steps[3].remark, HasSubstr("sound"));
    EXPECT_GE(half.seconds, kNeedlessMend_s + 2 * kHint_s + first.seconds);

    played.mends.push_back(diagnosis::mendOf(played, round->truth.front(), "2026-03-01T10:04:00Z"));
    const auto whole = debrief(a, played, *round, 0, test::families(), test::library());
    EXPECT_TRUE(whole.found);
    EXPECT_FALSE(whole.clean()) << "something sound was mended";
    EXPECT_EQ(whole.steps.size(), 5U);
    EXPECT_TRUE(whole.steps[4].remark.empty());
    EXPECT_EQ(whole.truth, std::vector{round->truth.front().what});
    EXPECT_GT(whole.best_s, 0);
    EXPECT_FALSE(whole.bestSteps.empty());
}

/// Who does what the finder says is as good as it is.
TEST(Practice, WhoFollowsTheFinderTakesItsTime)
{
    const auto job = practised("petrel.vicegrip");
    const auto a = analysis::analyse(job);
    for (unsigned seed = 0; seed < 4; ++seed) {
        const auto round = makeRound(a, test::families(), test::library(), Level::One, seed);
        const job::CircuitId circuit = round->circuits.front();
        test::FaultyCar car(a, round->truth.front(), test::spotsOf(a, circuit));
        diagnosis::Finder finder(a, circuit, test::families(), test::library());
        const auto way = diagnosis::follow(finder, round->known, job::Condition::KeyOn,
                                           [&](const diagnosis::Spot& s) { return car.at(s); });
        job::Job played = startOf(a, *round, "2026-03-01T09:00:00Z");
        int minute = 10;
        for (size_t i = round->known.size(); i < way.taken.size(); ++i)
            for (const auto& e : analysis::promises(a, circuit, way.taken[i].reading.condition()))
                if (e.station.key == way.taken[i].station)
                    played.proofs.push_back(proof::record(a.facts, circuit, e, way.taken[i].reading,
                                                          job::ReadingSource::Meter,
                                                          "2026-03-01T10:" + std::to_string(minute++) + ":00Z"));
        const auto told = debrief(a, played, *round, 0, test::families(), test::library());
        EXPECT_EQ(told.idle, 0) << round->truth.front().what;
        EXPECT_NEAR(told.seconds, way.seconds, 1e-6);
        EXPECT_NEAR(told.seconds, told.best_s, 1e-6) << round->truth.front().what;
    }
}

TEST(Practice, KindsComeAgainAfterOneThreeSevenAndTwentyOneRounds)
{
    Record r;
    const auto wait = [&](bool right) {
        answered(r, "open-wire", right);
        int rounds = 1;
        for (; !isDue(r, "open-wire"); ++rounds)
            answered(r, "drift", true);
        return rounds;
    };
    EXPECT_FALSE(isDue(r, "open-wire")) << "never played";
    EXPECT_EQ(wait(true), 1);
    EXPECT_EQ(wait(true), 3);
    EXPECT_EQ(wait(true), 7);
    EXPECT_EQ(wait(true), 21);
    EXPECT_EQ(wait(true), 21);
    EXPECT_EQ(wait(false), 1);
    EXPECT_EQ(wait(true), 1);
    EXPECT_EQ(wait(true), 3);
    const Record back = recordOf(written(r));
    EXPECT_EQ(written(back), written(r));
    EXPECT_EQ(recordOf(nlohmann::json::parse(R"({"rounds": -5, "kinds": {"a": 3, "b": {"step": 99}}})")).rounds, 0);
    EXPECT_EQ(recordOf(nlohmann::json::parse(R"({"rounds": 2, "kinds": {"b": {"step": 99}}})")).kinds["b"].step, 4);
    EXPECT_TRUE(recordOf(nlohmann::json::array()).kinds.empty());
}

TEST(Practice, WhatTheDriverSawIsReadAlreadyAndFails)
{
    const auto a = analysis::analyse(practised("petrel.vicegrip"));
    for (unsigned seed = 0; seed < 8; ++seed) {
        const auto round = makeRound(a, test::families(), test::library(), Level::Shared, seed);
        const auto start =
            analysis::analyse(std::make_shared<const job::Job>(startOf(a, *round, "2026-03-01T09:00:00Z")));
        ASSERT_EQ(start.job->proofs.size(), 1U) << round->complaint;
        EXPECT_FALSE(start.job->proofs[0].passes());
        diagnosis::Finder finder(start, round->circuits[0], test::families(), test::library());
        const auto told = finder.diagnosis({}, job::Condition::KeyOn);
        ASSERT_FALSE(told.groups.empty());
        EXPECT_NE(told.suspects[told.groups.front().members.front()].family, "nothing");
        const auto back = job::read(job::write(*start.job));
        ASSERT_TRUE(back.has_value());
        EXPECT_EQ(back->proofs, start.job->proofs) << round->complaint;
    }
}

TEST(Practice, SuggestsWhatIsDueThenWhatIsNew)
{
    Record r;
    EXPECT_EQ(suggested(r), Level::One);
    answered(r, "open-wire", true);
    answered(r, "comes-and-goes", false);
    EXPECT_EQ(suggested(r), Level::One) << "an open wire is due again";
    r.kinds["open-wire"].due = 99;
    EXPECT_EQ(suggested(r), Level::Comes);
    r.kinds["comes-and-goes"].due = 99;
    EXPECT_EQ(suggested(r), Level::Hands) << "never found yet: an open wire is of the first two";
}

TEST(Practice, WhatIsDueComesBeforeOthers)
{
    const auto a = analysis::analyse(practised("petrel.vicegrip"));
    Record due;
    due.kinds["drift"] = {0, 1, 0, 1};
    int with = 0, without = 0;
    for (unsigned seed = 0; seed < 40; ++seed) {
        with += makeRound(a, test::families(), test::library(), Level::One, seed, due)->truth[0].family == "drift";
        without += makeRound(a, test::families(), test::library(), Level::One, seed)->truth[0].family == "drift";
    }
    EXPECT_GT(with, without);
}

TEST(Practice, ACarOnWhichNothingCanBeSeenIsSaid)
{
    job::Job bare;
    bare.name = "Bare";
    const auto a = analysis::analyse(std::make_shared<const job::Job>(bare));
    for (int level = 0; level < kLevels; ++level) {
        const auto round = makeRound(a, test::families(), test::library(), static_cast<Level>(level), 1);
        ASSERT_FALSE(round.has_value());
        EXPECT_THAT(round.error().sentence, HasSubstr("nothing on this car"));
    }
}

} // namespace
} // namespace vicegrip::practice
