#include "core/compare/compare.h"
#include "tests/support/petrel.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

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
                                     "ECU firmware: 0.4 -> 0.5", "input AN3 pull-up: 2k49 Ω -> 1k Ω"));
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

/// Nothing may be said to be the same that is not: scalars of the file are changed one at a time, wherever they stand,
/// and each change that a job can hold is told.
TEST(Compare, NoChangeOfTheFileGoesUntold)
{
    const auto before = test::analysed(test::petrel());
    const nlohmann::json file = test::petrelJson(), flat = file.flatten();
    size_t n = 0, tried = 0;
    for (const auto& [pointer, value] : flat.items()) {
        // Counted and not told one by one: readings, cavities that are pinned, lines of the logbook.
        const auto begins = [&](const char* of) { return pointer.starts_with(of); };
        if (begins("/proofs") || begins("/pinned") || begins("/log/") || begins("/vicegrip") || n++ % 47 != 0)
            continue;
        nlohmann::json changed = file;
        nlohmann::json& there = changed.at(nlohmann::json::json_pointer(pointer));
        if (value.is_number())
            there = value.is_number_integer() ? nlohmann::json(value.get<int>() + 1)
                                              : nlohmann::json(value.get<double>() * 1.01 + 1e-9);
        else if (value.is_string())
            there = value.get<std::string>() + "x";
        else if (value.is_boolean())
            there = !value.get<bool>();
        else
            continue;
        const auto job = job::read(changed.dump());
        if (!job) // a name that leads nowhere, a word that is none
            continue;
        ++tried;
        EXPECT_FALSE(compare::differences(before, test::analysed(*job)).empty()) << pointer << " " << value;
    }
    EXPECT_GT(tried, 40U);
}

TEST(Compare, TheListIsCsv)
{
    const std::string csv = compare::toCsv({{About::Wire, {}, "Wire w1, colour", "BU, x", "RD \"y\""}});
    EXPECT_EQ(csv, "about,circuit,what,before,after\r\nwire,,\"Wire w1, colour\",\"BU, x\",\"RD \"\"y\"\"\"\r\n");
}

} // namespace
} // namespace vicegrip
