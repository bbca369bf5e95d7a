#include "core/work/work_order.h"

#include <algorithm>
#include <climits>
#include <gmock/gmock.h>
#include <random>

namespace vicegrip::work {
namespace {

using testing::HasSubstr;

Chore chore(const char* id, const char* place, std::vector<std::string> after = {})
{
    return {id, id, place, std::move(after), {}, {}, false};
}

/// Every order there is, one chore after the other: an independent, slow way to the fewest moves.
int fewest(const std::vector<Chore>& chores, std::vector<bool>& done, const std::string& place, int moves, int best)
{
    if (moves >= best)
        return best;
    bool any = false;
    for (size_t n = 0; n < chores.size(); ++n) {
        if (done[n])
            continue;
        any = true;
        const bool ready = std::ranges::all_of(chores[n].after, [&](const std::string& id) {
            return done[static_cast<size_t>(std::ranges::find(chores, id, &Chore::id) - chores.begin())];
        });
        if (!ready)
            continue;
        done[n] = true;
        const int move = place.empty() || place == chores[n].place ? 0 : 1;
        best = fewest(chores, done, chores[n].place, moves + move, best);
        done[n] = false;
    }
    return any ? best : moves;
}

/// Nothing comes before what it waits for, everything is done once, and the moves are those of the order.
void expectSound(const std::vector<Chore>& chores, const Route& r)
{
    std::vector<std::string> before;
    int moves = 0;
    for (size_t i = 0; i < r.order.size(); ++i) {
        const Chore& c = chores[r.order[i]];
        for (const std::string& id : c.after)
            EXPECT_TRUE(std::ranges::find(before, id) != before.end() ||
                        std::ranges::find(chores, id, &Chore::id)->done)
                << c.id << " before " << id;
        before.push_back(c.id);
        moves += i > 0 && c.place != chores[r.order[i - 1]].place ? 1 : 0;
    }
    EXPECT_EQ(moves, r.moves);
    EXPECT_EQ(before.size(), static_cast<size_t>(std::ranges::count(chores, false, &Chore::done)));
}

TEST(Route, WhatIsAtOnePlaceIsDoneInOneVisit)
{
    const std::vector<Chore> chores = {chore("a", "bay"), chore("b", "cabin"), chore("c", "bay"), chore("d", "cabin")};
    const auto r = route(chores);
    ASSERT_TRUE(r);
    expectSound(chores, *r);
    EXPECT_EQ(r->moves, 1);
    EXPECT_TRUE(r->optimal);
}

TEST(Route, MovesAreTheFewestThereAre)
{
    std::mt19937 random(11); // NOLINT(bugprone-random-generator-seed)
    for (int round = 0; round < 300; ++round) {
        std::vector<Chore> chores;
        const int many = 3 + static_cast<int>(random() % 6);
        for (int n = 0; n < many; ++n) {
            Chore c = chore(std::string(1, static_cast<char>('a' + n)).c_str(),
                            std::string(1, static_cast<char>('P' + random() % 3)).c_str());
            for (int before = 0; before < n; ++before)
                if (random() % 4 == 0)
                    c.after.emplace_back(1, static_cast<char>('a' + before));
            chores.push_back(std::move(c));
        }
        std::ranges::shuffle(chores, random);
        const auto r = route(chores);
        ASSERT_TRUE(r);
        expectSound(chores, *r);
        EXPECT_TRUE(r->optimal);
        std::vector<bool> done(chores.size());
        EXPECT_EQ(r->moves, fewest(chores, done, {}, 0, INT_MAX)) << round;
    }
}

TEST(Route, WhatIsDoneIsLeftOut)
{
    std::vector<Chore> chores = {chore("a", "bay"), chore("b", "cabin", {"a"}), chore("c", "bay", {"b"})};
    chores[0].done = true;
    const auto r = route(chores);
    ASSERT_TRUE(r);
    expectSound(chores, *r);
    EXPECT_EQ(r->moves, 1);
    for (Chore& c : chores)
        c.done = true;
    EXPECT_TRUE(route(chores)->order.empty());
    EXPECT_TRUE(route({})->optimal);
}

TEST(Route, ChoresThatWaitForEachOtherAreSaid)
{
    const auto ring = route({chore("a", "bay", {"b"}), chore("b", "bay", {"a"})});
    ASSERT_FALSE(ring);
    EXPECT_THAT(ring.error().sentence, HasSubstr("waits for something that waits for it"));
    EXPECT_THAT(route({chore("a", "bay", {"x"})}).error().sentence, HasSubstr("no chore \"x\""));
    EXPECT_THAT(route({chore("a", "bay"), chore("a", "bay")}).error().sentence, HasSubstr("twice"));
}

} // namespace
} // namespace vicegrip::work
