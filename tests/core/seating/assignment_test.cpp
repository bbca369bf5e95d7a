#include "core/seating/assignment.h"
#include "core/seating/grouped.h"
#include "tests/support/independent_solver.h"

#include <algorithm>
#include <gtest/gtest.h>
#include <nlohmann/json.hpp>
#include <random>

namespace vicegrip::seating {
namespace {

/// What an assignment is worth, in the order it is judged.
struct Worth
{
    std::array<int, kRanks> seated{};
    double cost = 0;
};

Worth worthOf(const Problem& p, const std::vector<int>& classOf)
{
    Worth w;
    for (size_t i = 0; i < p.items.size(); ++i) {
        if (classOf[i] < 0)
            continue;
        ++w.seated[static_cast<size_t>(p.items[i].rank)];
        w.cost += *p.items[i].cost[static_cast<size_t>(classOf[i])];
    }
    return w;
}

bool allowed(const Problem& p, const std::vector<int>& classOf)
{
    std::vector<int> taken(p.classes.size(), 0);
    std::vector<double> drawn(p.budgets.size(), 0);
    for (size_t i = 0; i < p.items.size(); ++i) {
        if (classOf[i] < 0)
            continue;
        const auto k = static_cast<size_t>(classOf[i]);
        if (!p.items[i].cost[k])
            return false;
        ++taken[k];
        drawn[static_cast<size_t>(p.classes[k].budget)] += p.items[i].draw;
    }
    for (size_t k = 0; k < taken.size(); ++k)
        if (taken[k] > p.classes[k].seats)
            return false;
    for (size_t b = 0; b < drawn.size(); ++b)
        if (drawn[b] > p.budgets[b] + 1e-9)
            return false;
    return true;
}

Problem random(std::mt19937& engine, int items, int classes)
{
    const auto below = [&](unsigned n) { return static_cast<int>(engine() % n); };
    Problem p;
    p.budgets = {static_cast<double>(10 + below(60)), static_cast<double>(below(40))};
    for (int k = 0; k < classes; ++k)
        p.classes.push_back({1 + below(3), below(2)});
    for (int i = 0; i < items; ++i) {
        Item item{below(kRanks), static_cast<double>(below(12)), {}};
        for (int k = 0; k < classes; ++k)
            item.cost.push_back(below(10) < 5 ? std::optional<double>(below(20)) : std::nullopt);
        p.items.push_back(std::move(item));
    }
    return p;
}

/// Every assignment there is.
Worth bruteForce(const Problem& p)
{
    Worth best;
    bool found = false;
    std::vector<int> now(p.items.size(), -1);
    const auto better = [](const Worth& a, const Worth& b) {
        return a.seated != b.seated ? a.seated > b.seated : a.cost < b.cost - 1e-9;
    };
    for (;;) {
        if (allowed(p, now)) {
            const Worth w = worthOf(p, now);
            if (!found || better(w, best))
                best = w;
            found = true;
        }
        size_t i = 0;
        while (i < now.size() && ++now[i] == static_cast<int>(p.classes.size()))
            now[i++] = -1;
        if (i == now.size())
            return best;
    }
}

constexpr int kAmple_ms = 600000; // what is checked is the answer: a busy machine must not cut the search short

TEST(Assignment, IsTheBestOfEveryAssignmentThereIs)
{
    std::mt19937 engine(7); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 500; ++round) {
        const Problem p = random(engine, 1 + round % 6, 1 + round % 4);
        const Assignment found = assign(p, kAmple_ms);
        ASSERT_TRUE(found.optimal);
        ASSERT_TRUE(allowed(p, found.classOf)) << round;
        const Worth mine = worthOf(p, found.classOf), best = bruteForce(p);
        ASSERT_EQ(mine.seated, best.seated) << round;
        ASSERT_NEAR(mine.cost, best.cost, 1e-9) << round;
        ASSERT_NEAR(found.cost, mine.cost, 1e-9);
    }
}

/// Without budgets, chains of moves rank by rank seat as many as can be (the assignment is a matroid's: Edmonds 1970,
/// from memory); only what it costs is left to better.
TEST(Assignment, TheFirstSeatingSeatsAsManyAsTheBestWhereSupplyIsAmple)
{
    std::mt19937 engine(11); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 200; ++round) {
        Problem p = random(engine, 5 + round % 30, 3 + round % 8);
        p.budgets = {1e6, 1e6};
        const Grouped grouped = group(p);
        const std::vector<int> first = ungroup(grouped, p, firstSeating(grouped));
        ASSERT_TRUE(allowed(p, first)) << round;
        const Assignment best = assign(p, kAmple_ms);
        ASSERT_TRUE(best.optimal);
        EXPECT_EQ(worthOf(p, first).seated, worthOf(p, best.classOf).seated) << round;
        EXPECT_LE(best.cost, worthOf(p, first).cost + 1e-9);
    }
}

TEST(Assignment, TheFirstSeatingKeepsTheBudgets)
{
    std::mt19937 engine(12); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 300; ++round) {
        const Problem p = random(engine, 5 + round % 30, 3 + round % 8);
        const Grouped grouped = group(p);
        EXPECT_TRUE(allowed(p, ungroup(grouped, p, firstSeating(grouped)))) << round;
    }
}

/// Every cost its own: nothing is alike, and the programme is as large as it looks.
Problem large(int items)
{
    std::mt19937 engine(13); // NOLINT(bugprone-random-generator-seed)
    Problem p;
    p.budgets = {items * 3.0};
    p.classes.assign(static_cast<size_t>(items), {1, 0});
    for (int i = 0; i < items; ++i) {
        Item item{i % kRanks, 1.0 + static_cast<double>(engine() % 1000) / 100, {}};
        for (int k = 0; k < items; ++k)
            item.cost.push_back(engine() % 4 == 0 ? std::nullopt : std::optional<double>(engine() % 100000));
        p.items.push_back(std::move(item));
    }
    return p;
}

TEST(Assignment, EndedEarlyTheBestFoundStands)
{
    const Problem p = large(120);
    int asked = 0;
    Progress last;
    const Assignment found = assign(p, kAmple_ms, [&](const Progress& progress) {
        last = progress;
        return ++asked < 2;
    });
    EXPECT_FALSE(found.optimal);
    EXPECT_EQ(asked, 2) << "it is not asked again once it has said no";
    EXPECT_TRUE(allowed(p, found.classOf));
    EXPECT_GT(last.seated, 30);
    const Worth worth = worthOf(p, found.classOf);
    EXPECT_GE(worth.seated[0] + worth.seated[1] + worth.seated[2], last.seated);
}

TEST(Assignment, WithoutTimeAFirstSeatingStands)
{
    const Problem p = large(300);
    const Assignment found = assign(p, 0);
    EXPECT_FALSE(found.optimal);
    EXPECT_TRUE(allowed(p, found.classOf));
    EXPECT_EQ(worthOf(p, found.classOf).seated[0], 100) << "all that are required";
}

TEST(Assignment, NothingToSeatAndNowhereToSitAreAnswers)
{
    EXPECT_TRUE(assign({}).optimal);
    Problem p;
    p.items.push_back({0, 1, {}});
    EXPECT_EQ(assign(p).classOf, std::vector<int>{-1});
    p.classes.push_back({0, 0});
    p.budgets.push_back(5);
    p.items[0].cost.push_back(1);
    EXPECT_EQ(assign(p).classOf, std::vector<int>{-1}) << "a class without seats";
    p.classes[0].seats = 1;
    p.budgets[0] = 0.5;
    EXPECT_EQ(assign(p).classOf, std::vector<int>{-1}) << "the budget does not bear it";
}

TEST(Assignment, RequiredComesBeforeAnyNumberOfOthers)
{
    Problem p;
    p.budgets = {10};
    p.classes = {{1, 0}, {3, 0}};
    p.items.push_back({0, 10, {5.0, std::nullopt}}); // takes the whole budget
    for (int i = 0; i < 3; ++i)
        p.items.push_back({1, 3, {std::nullopt, 0.0}});
    EXPECT_EQ(assign(p).classOf, (std::vector<int>{0, -1, -1, -1}));
}

/// The same problems for a solver of another house: SciPy's milp (HiGHS), from the registry.
TEST(Assignment, AgreesWithAnIndependentSolverOnFiveHundredProblems)
{
    std::mt19937 engine(11); // NOLINT(bugprone-random-generator-seed)
    nlohmann::json problems = nlohmann::json::array();
    for (int round = 0; round < 500; ++round) {
        const Problem p = random(engine, 4 + round % 20, 3 + round % 10);
        const Assignment found = assign(p, kAmple_ms);
        ASSERT_TRUE(found.optimal);
        ASSERT_TRUE(allowed(p, found.classOf)) << round;
        const Worth w = worthOf(p, found.classOf);
        nlohmann::json j = {{"budgets", p.budgets}, {"seated", w.seated}, {"cost", w.cost}};
        for (const SeatClass& c : p.classes)
            j["classes"].push_back({c.seats, c.budget});
        for (const Item& i : p.items) {
            nlohmann::json costs = nlohmann::json::array();
            for (const auto& c : i.cost)
                costs.push_back(c ? nlohmann::json(*c) : nlohmann::json(nullptr));
            j["items"].push_back({{"rank", i.rank}, {"draw", i.draw}, {"cost", costs}});
        }
        problems.push_back(std::move(j));
    }
    EXPECT_TRUE(test::agreesWithMilp(problems));
}

} // namespace
} // namespace vicegrip::seating
