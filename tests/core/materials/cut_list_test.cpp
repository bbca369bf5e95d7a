#include "core/base/csv.h"
#include "core/materials/cut_list.h"
#include "core/materials/shopping_list.h"
#include "core/units/shown.h"
#include "tests/support/library.h"
#include "tests/support/petrel.h"

#include <algorithm>
#include <cmath>
#include <gmock/gmock.h>

namespace vicegrip::materials {
namespace {

using testing::HasSubstr;

const Cut& cutOf(const std::vector<Cut>& all, const std::string& wire)
{
    const auto it = std::ranges::find(all, job::WireId{wire}, &Cut::wire);
    EXPECT_NE(it, all.end()) << wire;
    return *it;
}

const Item* item(const std::vector<Item>& all, const std::string& begins)
{
    const auto it = std::ranges::find_if(all, [&](const Item& i) { return i.what.starts_with(begins); });
    return it == all.end() ? nullptr : &*it;
}

TEST(CutList, EveryWireIsCutLongerThanItIsDrawn)
{
    const job::Job job = test::petrel();
    const auto all = cutList(job);
    ASSERT_EQ(all.size(), job.wires.size());
    for (const job::Wire& w : job.wires) {
        const Cut& c = cutOf(all, w.id.value);
        EXPECT_GE(c.cut_m, w.length_m * (1 + Habits{}.slack) - 1e-9) << w.id.value;
        EXPECT_LE(c.cut_m,
                  w.length_m * (1 + Habits{}.slack) + 2 * Habits{}.serviceLoop_m + 10 * Habits{}.stagger_m + 0.01)
            << w.id.value;
        EXPECT_NEAR(c.cut_m * 100, std::round(c.cut_m * 100), 1e-6) << "whole centimetres";
        EXPECT_GT(c.stripFrom_m, 0);
        EXPECT_GT(c.stripTo_m, 0);
    }
    EXPECT_TRUE(std::ranges::is_sorted(all, std::greater<>{}, &Cut::area_m2)) << "one reel after the other";
}

TEST(CutList, APlugToPlugWireByHand)
{
    job::Job job = test::jobOn("small-4");
    job.wires.clear();
    job.wires.push_back({{"w"}, {"A", "5"}, {"A", "6"}, 1.0, 0.5e-6, "BU"});
    const Cut c = cutList(job).front();
    EXPECT_NEAR(c.cut_m, 1.03 + 2 * 0.08, 1e-9);
    EXPECT_NEAR(c.stripFrom_m, 4.5e-3, 1e-12) << "what its terminal family wants";
    EXPECT_TRUE(noteOf(c).empty());
}

TEST(CutList, SplicesOfOneBundleAreStaggered)
{
    job::Job job = test::jobOn("small-4");
    job.wires.clear();
    for (const char* id : {"S1", "S2", "S3"}) {
        job.joints.push_back({id, id, job::JointKind::Splice, {}});
        job.wires.push_back({{id}, {"A", std::to_string(5 + job.wires.size())}, {id, {}}, 0.5, 0.5e-6, "GN"});
    }
    const auto all = cutList(job);
    const auto splice = [&](const char* id) { return cutOf(all, id).cut_m; };
    EXPECT_NEAR(splice("S2") - splice("S1"), Habits{}.stagger_m, 0.011);
    EXPECT_NEAR(splice("S3") - splice("S2"), Habits{}.stagger_m, 0.011);
    EXPECT_THAT(noteOf(cutOf(all, "S3")), HasSubstr("further out"));
    EXPECT_NEAR(cutOf(all, "S3").stripTo_m, 6e-3, 1e-12) << "common practice: about 6 mm for a butt splice";
}

/// Common practice, no source: one terminal more than needed for each small kit of three.
TEST(Shopping, SparesAreOneForEachThree)
{
    const auto all = shoppingList(test::petrel());
    for (const char* what : {"Terminal, ", "Seal for ", "Blank plug for ", "Ring terminal", "Splice"}) {
        const Item* i = item(all, what);
        ASSERT_NE(i, nullptr) << what;
        EXPECT_EQ(i->spare, std::ceil(i->needed / 3)) << what;
    }
    const Item* wire = item(all, "Wire 0.5 mm² ");
    ASSERT_NE(wire, nullptr);
    EXPECT_EQ(wire->unit, "m");
    EXPECT_EQ(wire->spare, 1);
}

TEST(Shopping, CountsAreTheDrawings)
{
    const job::Job job = test::petrel();
    const auto all = shoppingList(job);
    double terminals = 0, metres = 0, plugs = 0;
    for (const Item& i : all) {
        terminals += i.what.starts_with("Terminal, ") ? i.needed : 0;
        metres += i.what.starts_with("Wire ") ? i.needed : 0;
        plugs += i.what.find("plug") != std::string::npos && !i.what.starts_with("Blank") ? i.needed : 0;
    }
    std::set<job::PointRef> used;
    for (const job::Wire& w : job.wires)
        for (const job::PointRef& end : {w.from, w.to})
            if (!end.cavity.empty())
                used.insert(end);
    EXPECT_EQ(terminals, static_cast<double>(used.size()));
    double cut = 0;
    for (const Cut& c : cutList(job))
        cut += c.cut_m;
    EXPECT_NEAR(metres, cut, 0.1 * static_cast<double>(all.size()));
    EXPECT_EQ(plugs, static_cast<double>(job.connectors.size()));
}

/// RFC 4180, 2.5 to 2.7.
TEST(Csv, FieldsThatNeedItAreQuoted)
{
    EXPECT_EQ(csv::row({"a", "b c", ""}), "a,b c,\r\n");
    EXPECT_EQ(csv::row({"a,b", "say \"x\"", "two\nlines"}), "\"a,b\",\"say \"\"x\"\"\",\"two\nlines\"\r\n");
    const std::string text = toCsv(cutList(test::petrel()));
    EXPECT_EQ(static_cast<size_t>(std::ranges::count(text, '\n')), test::petrel().wires.size() + 1);
}

/// What goes to a shop, or to another program, is the same whoever reads it here.
TEST(Lists, FilesDoNotFollowWhatAPersonReads)
{
    const job::Job job = test::petrel();
    const std::string cut = toCsv(cutList(job)), buy = toCsv(shoppingList(job));
    EXPECT_THAT(buy, HasSubstr("Sleeve "));
    ASSERT_TRUE(units::setShown({units::System::US, {}}));
    const auto items = shoppingList(job);
    const std::string cutThen = toCsv(cutList(job)), buyThen = toCsv(items);
    ASSERT_TRUE(units::setShown({}));
    EXPECT_EQ(cutThen, cut);
    EXPECT_EQ(buyThen, buy);
    EXPECT_THAT(items.front().shown, HasSubstr("AWG")) << "and here it is read so";
}

} // namespace
} // namespace vicegrip::materials
