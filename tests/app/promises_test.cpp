#include "app/desk/promises.h"
#include "tests/support/petrel.h"

#include <QSignalSpy>
#include <QTest>
#include <gmock/gmock.h>

/// What must be read is worked out beside the window, and comes when it is there.
namespace vicegrip::app {
namespace {

using job::Condition;

TEST(PromisesForViews, ComeWithinAFrameOrAreSaidToBeUnderWay)
{
    JobStore store;
    store.setJob(test::petrel());
    Promises promises(store);
    QSignalSpy arrived(&promises, &Promises::arrived);
    EXPECT_EQ(promises.known(store.analysis(), {"map"}, Condition::KeyOn), nullptr)
        << "nobody asked yet, and it does not wait";
    EXPECT_FALSE(promises.isIdle());
    // The thread is at the other one: this one can only be begun when the window comes round again.
    const auto pending = promises.of({"clt"}, Condition::KeyOn);
    ASSERT_FALSE(pending.empty()) << "its places are known all the same";
    for (const proof::Judged& j : pending)
        EXPECT_FALSE(j.expectation.promises()) << j.expectation.station.label;
    EXPECT_THAT(pending.front().expectation.trouble, testing::HasSubstr("being worked out"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return promises.isIdle(); }, 5000));
    EXPECT_EQ(arrived.count(), 1) << "who was told to wait is told that it is there; who was not is not";
    EXPECT_EQ(arrived.front().front().value<job::CircuitId>().value, "clt");
    EXPECT_NE(promises.known(store.analysis(), {"map"}, Condition::KeyOn), nullptr);
    const auto there = promises.of({"clt"}, Condition::KeyOn);
    EXPECT_TRUE(there.front().expectation.promises());
    EXPECT_EQ(there.size(), pending.size());
}

TEST(PromisesForViews, OfAJobThatHasGoneOnAreAskedAnew)
{
    JobStore store;
    store.setJob(test::petrel());
    Promises promises(store);
    for (const proof::CircuitView& view : store.analysis()->circuits)
        (void)promises.known(store.analysis(), view.id, Condition::BatteryOff);
    EXPECT_TRUE(store.edit(QStringLiteral("A longer wire"), [](job::Job& j) -> Result<void> {
        j.wires.front().length_m += 1;
        return {};
    }));
    ASSERT_TRUE(QTest::qWaitFor([&] { return promises.isIdle() && store.analysis()->job == store.job(); }, 5000));
    int known = 0;
    for (const proof::CircuitView& view : store.analysis()->circuits)
        known += promises.known(store.analysis(), view.id, Condition::BatteryOff) != nullptr ? 1 : 0;
    EXPECT_EQ(known, 0) << "all of them rest on the drawing";
    EXPECT_FALSE(promises.of({"clt"}, Condition::KeyOn).empty());
}

TEST(PromisesForViews, ANobodyHasNone)
{
    JobStore store;
    store.setJob(test::petrel());
    Promises promises(store);
    EXPECT_TRUE(promises.of({"nobody"}, Condition::KeyOn).empty());
    EXPECT_TRUE(promises.isIdle());
}

} // namespace
} // namespace vicegrip::app
