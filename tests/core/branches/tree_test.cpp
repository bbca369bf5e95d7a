#include "core/branches/tree.h"
#include "core/job/check.h"
#include "core/materials/cut_list.h"
#include "core/materials/shopping_list.h"
#include "core/parts/conductor.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <gmock/gmock.h>
#include <limits>
#include <numeric>
#include <random>
#include <set>

/// The harness as it lies: ways, bundles, and lengths off the tape.
namespace vicegrip::branches {
namespace {

using test::wire;
using testing::HasSubstr;

size_t branch(const job::Job& job, const char* from, const char* to)
{
    return static_cast<size_t>(
        std::ranges::find_if(job.branches, [&](const job::Branch& b) { return b.from == from && b.to == to; }) -
        job.branches.begin());
}

TEST(HarnessTree, AWireRunsThroughTheBulkheadAndAlongItsStretches)
{
    const job::Job job = test::petrel();
    const Tree tree(job);
    const auto way = tree.way("CLT", "BE");
    ASSERT_TRUE(way);
    std::vector<std::string> names;
    for (size_t b : *way)
        names.push_back(job.branches[b].from + ">" + job.branches[b].to);
    EXPECT_EQ(names, (std::vector<std::string>{"Y3>CLT", "Y2>Y3", "S2>Y2", "S1>S2", "BE>S1"}));
    EXPECT_NEAR(*tree.length_m(*std::ranges::find(job.wires, job::WireId{"w5"}, &job::Wire::id)), 1.61, 1e-9);
    EXPECT_TRUE(tree.way("CLT", "A")) << "the halves of the bulkhead are one place";
    EXPECT_FALSE(tree.way("CLT", "G3")) << "a battery strap lies alone";
    EXPECT_FALSE(tree.way("CLT", "nowhere"));
}

TEST(HarnessTree, EveryWireOfTheDemoReachesAlongItsWay)
{
    const job::Job job = test::petrel();
    const Tree tree(job);
    for (const job::Wire& w : job.wires)
        if (const auto way = tree.length_m(w)) {
            EXPECT_GE(w.length_m, *way - kNoticeablyShort_m) << w.id.value;
        }
}

TEST(HarnessTree, AStretchHoldsTheWiresWhoseWayItIs)
{
    const job::Job job = test::petrel();
    const auto all = stretches(job);
    const Stretch& trunk = all[branch(job, "S2", "Y2")];
    // By hand: everything between the sensors beyond Y2 and what is before it.
    size_t beyond = 0;
    const std::set<std::string> far = {"MAP",  "TPS",  "CAM",  "CLT",  "FP",   "OT",   "CRANK",      "OIL-PRESSURE",
                                       "INJ1", "INJ2", "INJ3", "INJ4", "IGN1", "IGN2", "BOOST-VALVE"};
    for (const job::Wire& w : job.wires)
        if (const bool rail = w.from.owner == "S7" || w.from.owner == "S12" || w.to.owner == "G5"; !rail)
            beyond +=
                far.contains(w.from.owner) || far.contains(w.to.owner) || w.to.owner == "S7" || w.to.owner == "S12"
                    ? 1U
                    : 0U;
    EXPECT_EQ(trunk.wires.size(), beyond);
    EXPECT_GT(trunk.packed_m, parts::outerDiameter(0.5e-6) * std::sqrt(static_cast<double>(beyond)))
        << "less than the wires' own copper and plastic";
    EXPECT_GT(trunk.dressing.bundle_m, all[branch(job, "Y2", "MAP")].dressing.bundle_m);
    EXPECT_EQ(all[branch(job, "Y2", "MAP")].wires.size(), 3U);
}

TEST(HarnessTree, AMeasuredStretchMovesEveryWireAlongIt)
{
    job::Job job = test::petrel();
    const double clt = wire(job, "w5").length_m, iat = wire(job, "w7").length_m;
    EXPECT_TRUE(setBranchLength(job, branch(job, "Y2", "Y3"), 0.8)); // it was 0.3
    EXPECT_NEAR(wire(job, "w5").length_m, clt + 0.5 + 0.01, 1e-9) << "it was a centimetre short of its way";
    EXPECT_DOUBLE_EQ(wire(job, "w7").length_m, iat) << "the intake sensor lies before it";
    wire(job, "w5").length_m += 0.2; // a loop that somebody wants
    EXPECT_TRUE(setBranchLength(job, branch(job, "Y2", "Y3"), 0.3));
    EXPECT_NEAR(wire(job, "w5").length_m, 1.61 + 0.2, 1e-9) << "what it had beyond its way stays";
}

TEST(HarnessTree, AStretchThatIsNotThereHasNoLength)
{
    const job::Job before = test::petrel();
    job::Job job = before;
    EXPECT_THAT(setBranchLength(job, job.branches.size(), 1).error().sentence, HasSubstr("no such stretch"));
    EXPECT_EQ(job, before);
}

TEST(HarnessTree, WhatGoesOverItIsBought)
{
    const job::Job job = test::petrel();
    const auto all = stretches(job);
    const auto list = materials::shoppingList(job);
    const auto item = [&](const std::string& what) {
        const auto it = std::ranges::find_if(list, [&](const materials::Item& i) { return i.what.starts_with(what); });
        return it == list.end() ? materials::Item{} : *it;
    };
    double sleeves = 0, bought = 0;
    for (size_t i = 0; i < all.size(); ++i)
        sleeves += all[i].wires.empty() ? 0 : job.branches[i].length_m;
    for (const materials::Item& i : list)
        bought += i.what.starts_with("Sleeve ") ? i.needed : 0;
    EXPECT_GE(bought, sleeves);
    EXPECT_LT(bought, sleeves + 1) << "rounded up to tenths, size by size";
    EXPECT_EQ(item("Grommet ").unit, "pcs");
    EXPECT_GT(item("Shrink ").needed, 0);
    const std::string csv = toCsv(job, all);
    EXPECT_EQ(std::ranges::count(csv, '\n'), static_cast<long>(job.branches.size()) + 1);
    EXPECT_THAT(csv, HasSubstr("Y2,MAP,0.20,no,3,"));
}

TEST(HarnessTree, ARingAndAStretchToItselfAreRefused)
{
    job::Job job = test::petrel();
    job.branches.push_back({"CLT", "MAP", 0.2});
    auto checked = job::check(job);
    ASSERT_FALSE(checked);
    EXPECT_THAT(checked.error().sentence, HasSubstr("ring"));
    EXPECT_EQ(checked.error().place.pointer, "/branches/" + std::to_string(job.branches.size() - 1));
    job.branches.back() = {"Y9", "Y9", 0.2};
    EXPECT_THAT(job::check(job).error().sentence, HasSubstr("both ends"));
}

TEST(HarnessTree, AStretchIsTypedAsPeopleWriteIt)
{
    const job::Job job = test::petrel();
    for (const char* typed : {"Y2 clt 40 cm", "Y2 to CLT, 0,4", "Y2 - CLT 0.4 m", "Y2  CLT  400 mm"}) {
        const auto b = branchTyped(job, typed);
        ASSERT_TRUE(b) << typed << ": " << b.error().sentence;
        EXPECT_EQ(b->from, "Y2");
        EXPECT_EQ(b->to, "CLT") << "plugs are known in any case";
        EXPECT_NEAR(b->length_m, 0.4, 1e-12) << typed;
    }
    for (const char* wrong : {"", "Y2", "Y2 CLT", "Y2 CLT 0", "Y2 CLT 3 bar", "Y/2 CLT 1 m", "Y2 CLT 99 m"})
        EXPECT_FALSE(branchTyped(job, wrong)) << wrong;
}

/// The least sum of edges that join all owners, by Prim's algorithm on a full matrix: another way to the same tree.
double leastJoining(const std::vector<std::vector<double>>& between)
{
    const size_t n = between.size();
    std::vector<double> near(n, std::numeric_limits<double>::infinity());
    std::vector<bool> in(n, false);
    near[0] = 0;
    double sum = 0;
    for (size_t step = 0; step < n; ++step) {
        size_t best = n;
        for (size_t i = 0; i < n; ++i)
            if (!in[i] && (best == n || near[i] < near[best]))
                best = i;
        in[best] = true;
        sum += near[best];
        for (size_t i = 0; i < n; ++i)
            near[i] = std::min(near[i], between[best][i]);
    }
    return sum;
}

TEST(HarnessTree, TheProposalIsTheShortestThatJoinsEverything)
{
    std::mt19937 random(4);
    for (int trial = 0; trial < 60; ++trial) {
        job::Job job;
        const size_t n = 4 + static_cast<size_t>(trial) % 9;
        std::vector<std::vector<double>> between(n, std::vector<double>(n, std::numeric_limits<double>::infinity()));
        for (size_t i = 0; i < n; ++i)
            job.joints.push_back({"S" + std::to_string(i), {}, job::JointKind::Splice, {}});
        int number = 0;
        const auto draw = [&](size_t a, size_t b) {
            const double m = std::uniform_real_distribution(0.1, 3.0)(random);
            job.wires.push_back(
                {{"w" + std::to_string(++number)}, {job.joints[a].id, {}}, {job.joints[b].id, {}}, m, 0.5e-6, "BU"});
            between[a][b] = between[b][a] = std::min(between[a][b], m);
        };
        for (size_t i = 1; i < n; ++i)
            draw(i, static_cast<size_t>(random()) % i);
        for (size_t extra = 0; extra < n; ++extra) {
            const size_t a = random() % n, b = random() % n;
            if (a != b)
                draw(a, b);
        }
        job.branches = proposeBranches(job);
        const double sum = std::accumulate(job.branches.begin(), job.branches.end(), 0.0,
                                           [](double s, const job::Branch& b) { return s + b.length_m; });
        EXPECT_NEAR(sum, leastJoining(between), 1e-9) << trial;
        EXPECT_EQ(job.branches.size(), n - 1);
    }
}

TEST(HarnessTree, TheProposalForTheVanIsATreeWithoutBatteryLeads)
{
    auto van = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
    ASSERT_TRUE(van);
    van->branches = proposeBranches(*van);
    EXPECT_TRUE(job::check(*van));
    for (const job::Branch& b : van->branches)
        EXPECT_TRUE(b.from != "BAT-" && b.to != "BAT-" && b.from != "BAT+" && b.to != "BAT+");
    const Tree tree(*van);
    for (const char* plug : {"CLT", "FLEX", "X", "PEDAL2"})
        EXPECT_TRUE(tree.way("V", plug)) << plug;
}

} // namespace
} // namespace vicegrip::branches
