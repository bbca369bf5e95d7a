#include "core/compare/compare.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <regex>

namespace vicegrip {
namespace {

using compare::About;
using compare::Difference;

std::vector<std::string> said(const std::vector<Difference>& all, bool follows)
{
    std::vector<std::string> out;
    for (const Difference& d : all)
        if (compare::follows(d.about) == follows)
            out.push_back(d.what + ": " + d.before + " -> " + d.after);
    return out;
}

TEST(Compare, AJobIsNotDifferentFromItself)
{
    const auto a = test::analysed(test::petrel());
    EXPECT_TRUE(compare::differences(a, a).empty());
}

/// Three changes, and just those; what follows is told apart.
TEST(Compare, ThreeChangesAreJustThree)
{
    job::Job job = test::petrel();
    const auto before = test::analysed(job);
    test::wire(job, "w6").colour = "BN/YE";
    job::findInput(job, {"AN3"})->pull_up_ohm = 1000;
    job.ecu.firmware = "0.5";
    const auto all = compare::differences(before, test::analysed(job));
    EXPECT_THAT(said(all, false),
                testing::ElementsAre("Wire w6, colour and area: BU/WH 0.5 mm² -> BN/YE 0.5 mm²",
                                     "ECU firmware: 0.4 -> 0.5", "Input AN3, pull-up: 2k49 Ω -> 1k Ω"));
    int tables = 0, proofs = 0;
    for (const Difference& d : all) {
        tables += d.about == About::Table ? 1 : 0;
        proofs += d.about == About::Proof ? 1 : 0;
    }
    EXPECT_EQ(tables, 1); // of the coolant
    EXPECT_EQ(proofs, 3); // what the ECU reports of the manifold's pressure rests on its firmware
}

TEST(Compare, AWireThatMovedIsToldAtItsCavities)
{
    job::Job job = test::petrel();
    const auto before = test::analysed(job);
    job::Wire& w = test::wire(job, "w6");
    const job::PointRef was = w.from.owner == "A" ? w.from : w.to;
    (w.from.owner == "A" ? w.from : w.to) = {"A", "25"};
    const auto told = said(compare::differences(before, test::analysed(job)), false);
    EXPECT_THAT(told, testing::Contains("Cavity A" + was.cavity + ": w6 -> no wire"));
    EXPECT_THAT(told, testing::Contains("Cavity A25: no wire -> w6"));
    EXPECT_THAT(told, testing::Not(testing::Contains(testing::StartsWith("Wire w6"))));
}

/// Brute force: every single edit of a list of edits is told, and each the other way round with its sides exchanged.
TEST(Compare, EveryEditIsToldBothWaysRound)
{
    using Edit = std::function<void(job::Job&)>;
    const std::vector<std::pair<const char*, Edit>> edits = {
        {"name", [](job::Job& j) { j.circuits[2].name = "Air"; }},
        {"length", [](job::Job& j) { j.wires[4].length_m += 0.1; }},
        {"area", [](job::Job& j) { j.wires[4].area_m2 *= 2; }},
        {"wire gone", [](job::Job& j) { j.wires.pop_back(); }},
        {"rating", [](job::Job& j) { j.switches[0].rating_a = 10; }},
        {"battery", [](job::Job& j) { j.battery.ohm = 0.02; }},
        {"ambient", [](job::Job& j) { j.surroundings.ambient_k += 5; }},
        {"points", [](job::Job& j) { job::find(j, job::CircuitId{"clt"})->scaling.points = 8; }},
        {"range", [](job::Job& j) { j.parts[1].high += 10; }},
        {"supply", [](job::Job& j) { j.ecu.supply.volts = 4.95; }},
        {"plug", [](job::Job& j) { j.connectors[3].label = "Another"; }},
    };
    const auto before = test::analysed(test::petrel());
    for (const auto& [name, edit] : edits) {
        job::Job job = test::petrel();
        edit(job);
        const auto after = test::analysed(job);
        const auto there = compare::differences(before, after), back = compare::differences(after, before);
        EXPECT_FALSE(said(there, false).empty()) << name;
        EXPECT_EQ(said(there, false).size(), said(back, false).size()) << name;
        for (const Difference& d : there)
            if (!compare::follows(d.about)) {
                const bool mirrored = std::ranges::any_of(back, [&](const Difference& b) {
                    return b.about == d.about && b.before == d.after && b.after == d.before;
                });
                EXPECT_TRUE(mirrored) << name << ": " << d.what;
            }
    }
}

std::optional<nlohmann::json> otherThan(const nlohmann::json& value)
{
    if (value.is_number())
        return value.is_number_integer() ? nlohmann::json(value.get<int>() + 1)
                                         : nlohmann::json(value.get<double>() * 1.07 + 1e-9);
    if (value.is_string())
        return value.get<std::string>() + "x";
    return value.is_boolean() ? std::optional<nlohmann::json>(!value.get<bool>()) : std::nullopt;
}

/// But for what nobody changes by itself: what a proof keeps of its promise, hours, and what leads from a line of the
/// logbook to its thing.
bool isOfItsOwn(const std::string& pointer)
{
    return !pointer.starts_with("/vicegrip") && !(pointer.starts_with("/proofs") && !pointer.ends_with("/value")) &&
           !(pointer.starts_with("/pinned") && pointer.ends_with("/when")) &&
           !(pointer.starts_with("/log/") && pointer.ends_with("/about"));
}

/// What is told of a change that nobody made elsewhere.
std::set<std::string> own(const analysis::Analysis& before, const job::Job& after)
{
    std::set<std::string> out;
    const auto now = analysis::analyse(std::make_shared<const job::Job>(after), &before);
    for (const compare::Difference& d : compare::differences(before, now))
        if (!compare::follows(d.about))
            out.insert(d.what);
    return out;
}

/// Nothing may be said to be the same that is not: of every member that the file has anywhere, one is changed, and each
/// change that a job can hold is told, as its own and not only by what follows.
TEST(Compare, NoChangeOfTheFileGoesUntold)
{
    const std::regex place("/[0-9]+(?=/|$)");
    constexpr int kMostTries = 2; // of those that are refused, as most references are
    std::map<std::string, int> tries;
    std::set<std::string> seen;
    for (const char* name : {"petrel", "curlew"}) {
        const auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/" + name + ".vicegrip");
        ASSERT_TRUE(job) << job.error().text();
        const nlohmann::json file = nlohmann::json::parse(job::write(*job)), flat = file.flatten();
        const auto before = test::analysed(*job);
        for (const auto& [pointer, value] : flat.items()) {
            const std::string member = std::regex_replace(pointer, place, "/*");
            const auto other = otherThan(value);
            if (!isOfItsOwn(pointer) || !other || seen.contains(member) || tries[member]++ >= kMostTries)
                continue;
            nlohmann::json changed = file;
            changed.at(nlohmann::json::json_pointer(pointer)) = *other;
            const auto after = job::read(changed.dump());
            if (!after) // a name that leads nowhere, a word that is none
                continue;
            seen.insert(member);
            EXPECT_FALSE(own(before, *after).empty()) << name << pointer << " " << value;
        }
    }
    EXPECT_GT(seen.size(), 200U);
}

/// The name that lines of the logbook are told with is told once.
TEST(Compare, ANewNameIsOneChange)
{
    job::Job job = test::petrel();
    const auto before = test::analysed(job);
    std::ranges::find(job.circuits, job::CircuitId{"map"}, &job::Circuit::id)->name = "Boost";
    EXPECT_THAT(own(before, job), testing::ElementsAre("Boost, name"));
}

/// Nor does what goes: a member of a part that its description has no line for.
TEST(Compare, WhatIsNoLongerSaidOfAPartIsTold)
{
    job::Job job = test::petrel();
    const auto supplied = std::ranges::find_if(job.parts, [](const parts::Part& p) {
        const auto* open = std::get_if<parts::OpenCollector>(&p.model);
        return open != nullptr && open->least_supply_v > 0;
    });
    ASSERT_NE(supplied, job.parts.end());
    const auto before = test::analysed(job);
    std::get<parts::OpenCollector>(supplied->model).least_supply_v = 0;
    EXPECT_THAT(own(before, job), testing::ElementsAre(supplied->name + ", open collector, least supply"));
}

/// What is told of one member of a thing hides no other.
TEST(Compare, TwoChangesOfOneThingAreBothTold)
{
    const nlohmann::json file = test::petrelJson();
    const auto before = test::analysed(test::petrel());
    size_t tried = 0;
    std::string trigger;
    for (size_t i = 0; i < file.at("circuits").size(); ++i)
        if (file.at("circuits")[i].contains("trigger"))
            trigger = "/circuits/" + std::to_string(i) + "/trigger";
    ASSERT_FALSE(trigger.empty());
    const auto changedAt = [&](const std::set<std::string>& pointers) {
        nlohmann::json changed = file;
        for (const std::string& pointer : pointers) {
            auto& there = changed.at(nlohmann::json::json_pointer(pointer));
            there = *otherThan(there);
        }
        return job::read(changed.dump());
    };
    for (const char* thing : {"/ecu/inputs/2", "/ecu/supply", "/battery", "/switches/0", "/loads/0", "/resistors/0",
                              "/circuits/0/scaling", trigger.c_str(), "/parts/0", "/surroundings"}) {
        if (!file.contains(nlohmann::json::json_pointer(thing)))
            continue;
        std::vector<std::string> members; // those that a job can hold otherwise
        const nlohmann::json flat = file.at(nlohmann::json::json_pointer(thing)).flatten();
        for (const auto& [pointer, value] : flat.items())
            if (otherThan(value) && changedAt({thing + pointer}) && pointer != "/id" && pointer != "/name" &&
                pointer != "/label") // by which the others are told
                members.push_back(thing + pointer);
        for (size_t i = 1; i < members.size(); ++i) { // each with its neighbour
            const auto both = changedAt({members[i - 1], members[i]});
            if (!both)
                continue;
            ++tried;
            const auto told = own(before, *both);
            for (const std::string& one : {members[i - 1], members[i]})
                for (const std::string& what : own(before, *changedAt({one})))
                    EXPECT_TRUE(told.contains(what)) << what << " of " << members[i - 1] << " and " << members[i];
        }
    }
    EXPECT_GT(tried, 20U);
}

/// In the words and the measure of people, whatever programs call it.
TEST(Compare, WhatIsToldIsInWordsWithItsUnit)
{
    const auto before = test::analysed(test::petrel());
    const std::vector<std::tuple<const char*, nlohmann::json, const char*>> changes = {
        {"/battery/ohm", 0.02, "Battery, resistance: 0.015 Ω -> 0.02 Ω"},
        {"/battery/volts", 12.8, "Battery, volts: 12.6 V -> 12.8 V"},
        {"/meter/input_ohm", 1e6, "Meter, input: 10M Ω -> 1M Ω"},
        {"/meter/volts_share", 0.01, "Meter, volts: 0.5 % -> 1 %"},
        {"/ecu/least_supply_v", 7, "ECU, least supply: 6.5 V -> 7 V"},
        {"/ecu/inputs/0/pull_up_tolerance", 0.1 * 0.2, "Input AN1, pull-up tolerance: 1 % -> 2 %"},
        {"/ecu/outputs/0/most_a", 4.5, "Output INJ1, most current: 4 A -> 4.5 A"},
        {"/ecu/plug_in", true, "ECU, plug in: no -> yes"},
        {"/brief/displacement_l", 1.6000000000000001, "Brief, displacement: 1.598 l -> 1.6 l"},
        {"/brief/cylinders", 5, "Brief, cylinders: 4 -> 5"},
        {"/circuits/0/scaling/high", 250, "Manifold pressure, scaling, high: 300.00 kPa abs -> 250.00 kPa abs"},
    };
    for (const auto& [pointer, value, told] : changes) {
        nlohmann::json file = test::petrelJson();
        file[nlohmann::json::json_pointer(pointer)] = value;
        const auto job = job::read(file.dump());
        ASSERT_TRUE(job) << pointer << job.error().text();
        EXPECT_THAT(said(compare::differences(before, test::analysed(*job)), false), testing::ElementsAre(told));
    }
    job::Job job = test::petrel();
    job::TriggerSetup& trigger = *job::find(job, job::CircuitId{"crank"})->trigger;
    trigger.gap_m = 0.00125;
    trigger.gapLeast_m = 0.0012;
    trigger.lies_deg = 60;
    trigger.beside_m = 0.002;
    EXPECT_THAT(said(compare::differences(before, test::analysed(job)), false),
                testing::ElementsAre("Crank trigger, air gap: 1.9 mm -> 1.25 mm",
                                     "Crank trigger, lie of the strip: not said -> 60°",
                                     "Crank trigger, wheel beside the face: not said -> 2 mm",
                                     "Crank trigger, trigger, least gap: 1 mm -> 1.2 mm"));
    // Not one that is different may look the same: digits are cut only where the two stay apart.
    job = test::petrel();
    job.battery.volts *= 1 + 1e-9;
    EXPECT_THAT(said(compare::differences(before, test::analysed(job)), false),
                testing::ElementsAre(testing::StartsWith("Battery, volts: 12.6")));
}

TEST(Compare, TheListIsCsv)
{
    const std::string csv = compare::toCsv({{About::Wire, {}, "Wire w1, colour", "BU, x", "RD \"y\""}});
    EXPECT_EQ(csv, "about,circuit,what,before,after\r\nwire,,\"Wire w1, colour\",\"BU, x\",\"RD \"\"y\"\"\"\r\n");
}

} // namespace
} // namespace vicegrip
