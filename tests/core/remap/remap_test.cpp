#include "core/harness/start.h"
#include "core/job/check.h"
#include "core/remap/remap.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <map>
#include <random>
#include <regex>
#include <set>

/// An old plug beside the one that takes its place.
namespace vicegrip::remap {
namespace {

using testing::HasSubstr;

job::Job van()
{
    return *job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
}

const Remapped& row(const Remap& remap, const char* function)
{
    static const Remapped kNone;
    const auto it = std::ranges::find_if(
        remap.rows, [&](const Remapped& r) { return r.function.find(function) != std::string::npos; });
    return it == remap.rows.end() ? kNone : *it;
}

TEST(Remap, TheVansPlugIsComparedByFunction)
{
    const job::Job job = van();
    const Remap all = remap(job, job.oldPlugs.front());
    EXPECT_EQ(row(all, "Coolant temp").fate, Fate::Stays) << "the list says coolant temperature";
    EXPECT_EQ(row(all, "Crank trigger").oldCavity, "32");
    EXPECT_EQ(row(all, "Power feed").oldCavity, "1") << "the list says 12V battery";
    EXPECT_EQ(row(all, "Sensor ground").oldCavity, "11") << "the list says sensor earth";
    EXPECT_EQ(row(all, "after the filter").fate, Fate::New);
    const Remapped& pedal = row(all, "Pedal, signal");
    EXPECT_EQ(pedal.fate, Fate::Exchanged);
    EXPECT_EQ(pedal.with, "Pedal, second track, signal");
    EXPECT_EQ(row(all, "Crank trigger").fate, Fate::Exchanged);
    EXPECT_EQ(row(all, "Brake switch").fate, Fate::Moves);
    EXPECT_EQ(row(all, "Brake switch").oldCavity, "34");
    EXPECT_EQ(row(all, "Power steering").fate, Fate::Goes);
    EXPECT_TRUE(row(all, "Intake air temp, signal").otherColour) << "BU on the old list, VT in the job";
    EXPECT_THAT(all.verdict, HasSubstr("do not follow colours"));
}

/// The van's own pair leaves the ECU's plug and lives on in the gateway's; the ECU's new pair takes its cavities.
TEST(Remap, WhatThisPlugHasNoUseForGoesOnInAnotherUnitsPlug)
{
    const job::Job job = van();
    const Remap all = remap(job, job.oldPlugs.front());
    const Remapped& high = row(all, "Vehicle network, CAN high");
    EXPECT_EQ(high.fate, Fate::Moves);
    EXPECT_EQ(high.oldCavity, "50");
    EXPECT_EQ(high.newPlug + "." + high.newCavity, "W.5");
    EXPECT_EQ(row(all, "Bus to plug W, CAN high").newCavity, "50");
    EXPECT_EQ(row(all, "Bus to plug W, CAN high").fate, Fate::New);
    std::string work;
    for (const RemapStep& s : all.work)
        work += s.what + "\n";
    const auto pulled = work.find("Pull 50: Vehicle network, CAN high, WH/GN; lead it to W.5");
    EXPECT_LT(pulled, work.find("Pin 50 anew")) << work;
    EXPECT_EQ(row(all, "Charge pressure").fate, Fate::Goes)
        << "half its words are no reason to lead it to fuel pressure";
    // A list of the other plug's own says what sits there: nothing moves over then.
    job::Job listed = job;
    listed.oldPlugs.push_back({"W", "another list", true, {{"5", "Vehicle network high", {}}}});
    EXPECT_EQ(row(remap(listed, listed.oldPlugs.front()), "Vehicle network high").fate, Fate::Goes);
}

TEST(Remap, TwoGenerationsOfOnePlugDifferInColoursOnly)
{
    job::Job job = van();
    job::OldPlug old{"V", "the later van's list", true, {}};
    for (const Remapped& r : remap(job, job.oldPlugs.front()).rows)
        if (!r.newCavity.empty() && r.newPlug.empty())
            old.pins.push_back({r.newCavity, r.function, "TQ/PK"});
    const Remap all = remap(job, old);
    for (const Remapped& r : all.rows) {
        EXPECT_EQ(r.fate, Fate::Stays) << r.function;
        EXPECT_TRUE(r.otherColour) << r.function;
    }
    EXPECT_EQ(all.work.size(), 1U) << "nothing to move; count again";
}

/// Does what the steps say to a plug in hand. `held` is what sits in each cavity, by its old cavity.
struct Plug
{
    std::map<std::string, std::string> held;
    std::map<std::string, std::string> tagged; ///< out of the plug, by old cavity

    void work(const RemapStep& step)
    {
        std::smatch m;
        const std::string& s = step.what;
        if (std::regex_search(s, m, std::regex("^Pull (\\S+) and tag it"))) {
            ASSERT_TRUE(held.contains(m[1])) << s;
            tagged[m[1]] = held[m[1]];
            held.erase(m[1]);
        } else if (std::regex_search(s, m, std::regex("^Pull (\\S+):"))) {
            ASSERT_TRUE(held.contains(m[1])) << s;
            held.erase(m[1]);
        } else if (std::regex_search(s, m, std::regex("^Move the tagged wire of (\\S+) to (\\S+):"))) {
            ASSERT_TRUE(tagged.contains(m[1])) << s;
            ASSERT_FALSE(held.contains(m[2])) << s << ": something sits there";
            held[m[2]] = tagged[m[1]];
            tagged.erase(m[1]);
        } else if (std::regex_search(s, m, std::regex("^Move (\\S+) to (\\S+):"))) {
            ASSERT_TRUE(held.contains(m[1])) << s;
            ASSERT_FALSE(held.contains(m[2])) << s << ": something sits there";
            held[m[2]] = held[m[1]];
            held.erase(m[1]);
        } else if (std::regex_search(s, m, std::regex("^Pin (\\S+) anew"))) {
            ASSERT_FALSE(held.contains(m[1])) << s << ": something sits there";
            held[m[1]] = "new";
        }
    }
};

/// Whatever was exchanged, hands that follow the steps end with every wire where it belongs, and never push a terminal
/// into a cavity that holds one.
TEST(Remap, HandsThatFollowTheStepsEndRight)
{
    const job::Job job = van();
    std::vector<std::pair<std::string, std::string>> now; // cavity and function
    for (const Remapped& r : remap(job, job.oldPlugs.front()).rows)
        if (!r.newCavity.empty() && r.newPlug.empty())
            now.emplace_back(r.newCavity, r.function);
    std::mt19937 random(3);
    for (int trial = 0; trial < 200; ++trial) {
        std::vector<std::string> cavities;
        for (const auto& [cavity, function] : now)
            cavities.push_back(cavity);
        cavities.insert(cavities.end(), {"40", "41", "42"}); // free on the new side
        std::ranges::shuffle(cavities, random);
        job::OldPlug old{"V", {}, true, {}};
        for (size_t i = 0; i < now.size(); ++i)
            if (random() % 6 != 0) // the old plug had no such function
                old.pins.push_back({cavities[i], now[i].second, {}});
        old.pins.push_back({"60", "Rear wiper", {}});
        old.pins.push_back({"59", "Vehicle network high", {}}); // to another plug
        const Remap all = remap(job, old);
        Plug plug;
        for (const job::OldPin& p : old.pins)
            plug.held[p.cavity] = p.cavity;
        for (const RemapStep& step : all.work)
            ASSERT_NO_FATAL_FAILURE(plug.work(step)) << "trial " << trial;
        EXPECT_TRUE(plug.tagged.empty());
        EXPECT_EQ(plug.held.size(), now.size()) << "trial " << trial;
        for (const Remapped& r : all.rows)
            if (r.fate != Fate::Goes && r.newPlug.empty()) {
                EXPECT_EQ(plug.held[r.newCavity], r.fate == Fate::New ? "new" : r.oldCavity) << r.function;
            }
    }
}

TEST(Remap, IntoAnotherHousingWiresMoveOneByOne)
{
    job::Job job = van();
    job.oldPlugs.front().repinned = false;
    const Remap all = remap(job, job.oldPlugs.front());
    const auto brake =
        std::ranges::find_if(all.work, [](const RemapStep& s) { return s.what.starts_with("Old 34 to new 29"); });
    EXPECT_NE(brake, all.work.end());
    for (const RemapStep& s : all.work)
        EXPECT_THAT(s.what, testing::Not(HasSubstr("tag it")));
}

TEST(Remap, AnOldListIsPastedWithItsTroubles)
{
    const auto read =
        pasteOldPins("Pin\tFunction\tWire colour\n1\tSensor earth\tbk/wh\n2\tTPS\tmauve\n1\tagain\t\n\t\tBU\n"
                     "a long name\tx\n7\tCoolant temp\n");
    ASSERT_TRUE(read);
    ASSERT_EQ(read->pins.size(), 3U);
    EXPECT_EQ(read->pins[0].colour, "BK/WH");
    EXPECT_EQ(read->pins[1].colour, "");
    ASSERT_EQ(read->lines.size(), 6U);
    EXPECT_EQ(read->lines[0].trouble, "");
    EXPECT_THAT(read->lines[1].trouble, HasSubstr("kept without a colour"));
    EXPECT_THAT(read->lines[2].trouble, HasSubstr("twice"));
    EXPECT_THAT(read->lines[3].trouble, HasSubstr("cavity first"));
    EXPECT_THAT(read->lines[4].trouble, HasSubstr("cavity first"));
    EXPECT_EQ(pasteOldPins(textOf(read->pins))->pins, read->pins) << "its own text reads back";
}

TEST(Remap, AnotherEcuTakesTheOldListOfItsPlugAway)
{
    job::Job job = van();
    for (const parts::EcuProfile& profile : test::library().ecus)
        if (profile.id.value == "small-4") {
            EXPECT_TRUE(harness::setEcu(job, profile));
        }
    EXPECT_TRUE(job.oldPlugs.empty());
    EXPECT_TRUE(job::check(job)) << job::check(job).error().text();
}

TEST(Remap, AnOldPlugOfNoConnectorIsRefused)
{
    job::Job job = van();
    job.oldPlugs.front().connector = "Q";
    EXPECT_EQ(job::check(job).error().place.pointer, "/old_plugs/0/connector");
    job = van();
    job.oldPlugs.push_back(job.oldPlugs.front());
    EXPECT_FALSE(job::check(job));
    job = van();
    job.oldPlugs.front().pins.push_back(job.oldPlugs.front().pins.front());
    EXPECT_THAT(job::check(job).error().place.pointer, HasSubstr("/old_plugs/0/pins/"));
}

} // namespace
} // namespace vicegrip::remap
