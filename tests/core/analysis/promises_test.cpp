#include "tests/support/petrel.h"

#include <gtest/gtest.h>
#include <thread>

/// Promises are worked out for those who ask, once, and stay while what they rest on does.
namespace vicegrip::analysis {
namespace {

using job::Condition;

int askedOf(const Analysis& a)
{
    int out = 0;
    for (const proof::CircuitView& view : a.circuits)
        for (const Condition condition : {Condition::KeyOn, Condition::BatteryOff})
            out += isPromised(a, view.id, condition) ? 1 : 0;
    return out;
}

Analysis after(const Analysis& before, const std::function<void(job::Job&)>& edit)
{
    job::Job job = *before.job;
    edit(job);
    return analyse(std::make_shared<const job::Job>(std::move(job)), &before);
}

TEST(Promises, AreWorkedOutForTheCircuitThatIsAskedOfAlone)
{
    const Analysis a = test::analysed(test::petrel());
    EXPECT_EQ(askedOf(a), 0) << "states, tables and findings need none";
    const auto& volts = promises(a, {"clt"}, Condition::KeyOn);
    EXPECT_FALSE(volts.empty());
    EXPECT_EQ(askedOf(a), 1);
    EXPECT_TRUE(isPromised(a, {"clt"}, Condition::KeyOn));
    EXPECT_EQ(&promises(a, {"clt"}, Condition::KeyOn), &volts) << "once";
    EXPECT_TRUE(promises(a, {"nobody"}, Condition::KeyOn).empty());
}

TEST(Promises, AreKeptUntilWhatTheyRestOnChanges)
{
    const Analysis a = test::analysed(test::petrel());
    const auto& clt = promises(a, {"clt"}, Condition::KeyOn);
    const auto& map = promises(a, {"map"}, Condition::BatteryOff);
    const Analysis read = after(a, [](job::Job& j) { j.proofs.pop_back(); });
    EXPECT_EQ(&promises(read, {"clt"}, Condition::KeyOn), &clt) << "a reading moves none of them";
    const Analysis table = after(read, [](job::Job& j) { job::find(j, job::CircuitId{"clt"})->scaling.points += 1; });
    EXPECT_EQ(&promises(table, {"map"}, Condition::BatteryOff), &map) << "nor does another circuit's table";
    EXPECT_FALSE(isPromised(table, {"clt"}, Condition::KeyOn)) << "its own moves the value the ECU shows";
    EXPECT_EQ(askedOf(after(table, [](job::Job& j) { j.wires.front().length_m += 1; })), 0);
    EXPECT_EQ(askedOf(after(table, [](job::Job& j) { j.meter.lead_ohm += 0.1; })), 0) << "the meter's are theirs";
}

TEST(Promises, AreTheSameWhoeverAsksAndInWhateverOrder)
{
    const Analysis one = test::analysed(test::petrel()), two = test::analysed(test::petrel());
    const auto askAll = [&](bool backwards) {
        for (size_t i = 0; i < one.circuits.size(); ++i) {
            const auto& id = one.circuits[backwards ? one.circuits.size() - 1 - i : i].id;
            for (const Condition condition : {Condition::KeyOn, Condition::BatteryOff})
                (void)promises(one, id, condition);
        }
    };
    std::thread there([&] { askAll(true); }), here([&] { askAll(false); });
    there.join();
    here.join();
    int compared = 0;
    for (const proof::CircuitView& view : one.circuits)
        for (const Condition condition : {Condition::KeyOn, Condition::BatteryOff}) {
            const auto &a = promises(one, view.id, condition), &b = promises(two, view.id, condition);
            ASSERT_EQ(a.size(), b.size());
            for (size_t i = 0; i < a.size(); ++i, ++compared) {
                EXPECT_EQ(a[i].trouble, b[i].trouble);
                EXPECT_EQ(a[i].subjects, b[i].subjects);
                EXPECT_EQ(a[i].due.isOpen(), b[i].due.isOpen());
                if (!a[i].promises() || a[i].due.isOpen())
                    continue;
                const double least = 1e-9 * std::abs(b[i].due.si()) + 1e-12;
                EXPECT_NEAR(a[i].due.si(), b[i].due.si(), least);
                EXPECT_NEAR(a[i].low, b[i].low, least);
                if (std::isfinite(b[i].high)) {
                    EXPECT_NEAR(a[i].high, b[i].high, least);
                }
            }
        }
    EXPECT_GT(compared, 100);
}

} // namespace
} // namespace vicegrip::analysis
