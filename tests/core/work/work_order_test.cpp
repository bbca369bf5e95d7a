#include "core/work/work_order.h"

#include <algorithm>
#include <climits>
#include <gmock/gmock.h>
#include <random>

namespace vicegrip::work {
namespace {

using testing::HasSubstr;

Step step(const char* id, const char* place, std::vector<std::string> after = {})
{
    return {id, id, place, std::move(after), {}, {}, false};
}

/// Every order there is, one step after the other: an independent, slow way to the fewest moves.
int fewest(const std::vector<Step>& steps, std::vector<bool>& done, const std::string& place, int moves, int best)
{
    if (moves >= best)
        return best;
    bool any = false;
    for (size_t n = 0; n < steps.size(); ++n) {
        if (done[n])
            continue;
        any = true;
        const bool ready = std::ranges::all_of(steps[n].after, [&](const std::string& id) {
            return done[static_cast<size_t>(std::ranges::find(steps, id, &Step::id) - steps.begin())];
        });
        if (!ready)
            continue;
        done[n] = true;
        const int move = place.empty() || place == steps[n].place ? 0 : 1;
        best = fewest(steps, done, steps[n].place, moves + move, best);
        done[n] = false;
    }
    return any ? best : moves;
}

/// Nothing comes before what it waits for, everything is done once, and the moves are those of the order.
void expectSound(const std::vector<Step>& steps, const Order& r)
{
    std::vector<std::string> before;
    int moves = 0;
    for (size_t i = 0; i < r.order.size(); ++i) {
        const Step& c = steps[r.order[i]];
        for (const std::string& id : c.after)
            EXPECT_TRUE(std::ranges::find(before, id) != before.end() || std::ranges::find(steps, id, &Step::id)->done)
                << c.id << " before " << id;
        before.push_back(c.id);
        moves += i > 0 && c.place != steps[r.order[i - 1]].place ? 1 : 0;
    }
    EXPECT_EQ(moves, r.moves);
    EXPECT_EQ(before.size(), static_cast<size_t>(std::ranges::count(steps, false, &Step::done)));
}

TEST(Order, WhatIsAtOnePlaceIsDoneInOneVisit)
{
    const std::vector<Step> steps = {step("a", "bay"), step("b", "cabin"), step("c", "bay"), step("d", "cabin")};
    const auto r = order(steps);
    ASSERT_TRUE(r);
    expectSound(steps, *r);
    EXPECT_EQ(r->moves, 1);
    EXPECT_TRUE(r->optimal);
}

TEST(Order, MovesAreTheFewestThereAre)
{
    std::mt19937 random(11); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 300; ++round) {
        std::vector<Step> steps;
        const int many = 3 + static_cast<int>(random() % 6);
        for (int n = 0; n < many; ++n) {
            Step c = step(std::string(1, static_cast<char>('a' + n)).c_str(),
                          std::string(1, static_cast<char>('P' + random() % 3)).c_str());
            for (int before = 0; before < n; ++before)
                if (random() % 4 == 0)
                    c.after.emplace_back(1, static_cast<char>('a' + before));
            steps.push_back(std::move(c));
        }
        std::ranges::shuffle(steps, random);
        const auto r = order(steps);
        ASSERT_TRUE(r);
        expectSound(steps, *r);
        EXPECT_TRUE(r->optimal);
        std::vector<bool> done(steps.size());
        EXPECT_EQ(r->moves, fewest(steps, done, {}, 0, INT_MAX)) << round;
    }
}

TEST(Order, WhatIsDoneIsLeftOut)
{
    std::vector<Step> steps = {step("a", "bay"), step("b", "cabin", {"a"}), step("c", "bay", {"b"})};
    steps[0].done = true;
    const auto r = order(steps);
    ASSERT_TRUE(r);
    expectSound(steps, *r);
    EXPECT_EQ(r->moves, 1);
    for (Step& c : steps)
        c.done = true;
    EXPECT_TRUE(order(steps)->order.empty());
    EXPECT_TRUE(order({})->optimal);
}

TEST(Order, StepsThatWaitForEachOtherAreSaid)
{
    const auto ring = order({step("a", "bay", {"b"}), step("b", "bay", {"a"})});
    ASSERT_FALSE(ring);
    EXPECT_THAT(ring.error().sentence, HasSubstr("waits for something that waits for it"));
    EXPECT_THAT(order({step("a", "bay", {"x"})}).error().sentence, HasSubstr("no step \"x\""));
    EXPECT_THAT(order({step("a", "bay"), step("a", "bay")}).error().sentence, HasSubstr("twice"));
}

} // namespace
} // namespace vicegrip::work
