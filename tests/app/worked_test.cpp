#include "app/desk/worked.h"

#include <QCoreApplication>
#include <QThreadPool>

#include <gmock/gmock.h>
#include <latch>
#include <thread>
#include <vector>

namespace vicegrip::app {
namespace {

/// Until nothing is under way and everything was told.
void settle()
{
    do {
        QThreadPool::globalInstance()->waitForDone();
        QCoreApplication::processEvents();
    } while (QThreadPool::globalInstance()->activeThreadCount() > 0);
    QCoreApplication::processEvents();
}

struct Told
{
    std::vector<int> answers;
    Worked<int> worked{[this](int answer) { answers.push_back(answer); }};

    /// Something that is under way until `go`.
    void askOneThatLasts(std::latch& go)
    {
        worked.ask([&go] {
            go.wait();
            return 1;
        });
    }
};

TEST(Worked, OfWhatIsAskedMeanwhileOnlyTheNewestIsTold)
{
    Told told;
    std::latch go(1);
    told.askOneThatLasts(go);
    told.worked.ask([] { return 2; });
    told.worked.ask([] { return 3; });
    go.count_down();
    settle();
    EXPECT_EQ(told.answers.back(), 3);
    EXPECT_THAT(told.answers, testing::Not(testing::Contains(2)));
}

/// The first is done, but nobody came round to be told, when another is asked for.
TEST(Worked, WhatWaitedIsNotBegunAfterWhatIsNewer)
{
    Told told;
    std::latch go(1);
    told.askOneThatLasts(go);
    told.worked.ask([] { return 2; });
    go.count_down();
    QThreadPool::globalInstance()->waitForDone();
    ASSERT_FALSE(told.worked.isAtWork());
    told.worked.ask([] { return 3; });
    settle();
    EXPECT_THAT(told.answers, testing::ElementsAre(3));
}

TEST(Worked, IsAskedToStopWhereItsAnswerIsNotWanted)
{
    std::stop_token first, second, third;
    Told told;
    std::latch begun(1), go(1);
    told.worked.ask([&](const std::stop_token& stop) {
        first = stop;
        begun.count_down();
        go.wait();
        return 1;
    });
    begun.wait();
    EXPECT_FALSE(first.stop_requested());
    told.worked.ask([&](const std::stop_token& stop) {
        second = stop;
        return 2;
    });
    EXPECT_TRUE(first.stop_requested()) << "another was asked for";
    go.count_down();
    settle();
    EXPECT_FALSE(second.stop_requested());
    {
        Told gone;
        std::latch at(1);
        gone.worked.ask([&](const std::stop_token& stop) {
            third = stop;
            at.count_down();
            while (!stop.stop_requested())
                std::this_thread::yield();
            return 3;
        });
        at.wait();
    }
    EXPECT_TRUE(third.stop_requested()) << "nobody is there to be told";
}

} // namespace
} // namespace vicegrip::app
