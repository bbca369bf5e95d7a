#include "link/bench_link.h"
#include "tests/support/fake_bench.h"

#include <QLocalSocket>
#include <QTest>

#include <gmock/gmock.h>

namespace vicegrip::link {
namespace {

std::string troubleWith(const QByteArray& says)
{
    const FakeBench fake(says);
    BenchLink bench;
    QString trouble;
    QObject::connect(&bench, &BenchLink::failed, [&](const QString& s) { trouble = s; });
    bench.start(fake.program(), QStringLiteral("job"), {});
    EXPECT_TRUE(QTest::qWaitFor([&] { return !trouble.isEmpty(); }, 5000)) << says.toStdString();
    EXPECT_FALSE(bench.isReady());
    return trouble.toStdString();
}

TEST(BenchLink, NonsenseAnnouncementsAreSaid)
{
    EXPECT_THAT(troubleWith("echo hello"), testing::HasSubstr("where it listens"));
    EXPECT_THAT(troubleWith("echo '{}'"), testing::HasSubstr("where it listens"));
    EXPECT_THAT(troubleWith("echo '{\"socket\": \"/nowhere/door\", \"nonce\": \"1\"}'"), testing::HasSubstr("gone"));
    EXPECT_THAT(troubleWith("echo '{\"socket\": 7, \"nonce\": [1]}'"), testing::HasSubstr("where it listens"));
    EXPECT_THAT(troubleWith("head -c 300000 /dev/zero | tr '\\0' x"), testing::HasSubstr("where it listens"));
    EXPECT_THAT(troubleWith("echo '{\"trouble\": \"x.vicegrip:1: broken\"}'; exit 3"), testing::HasSubstr("broken"));
    EXPECT_EQ(troubleWith("yes 'a library complains' | head -n 200000 >&2; exit 1"), "The bench has stopped.")
        << "what libraries say on standard error is not for the user";
}

TEST(BenchLink, OneThatNeverSaysWhereItListensIsGivenUp)
{
    const FakeBench fake("true");
    BenchLink bench;
    QString trouble;
    QObject::connect(&bench, &BenchLink::failed, [&](const QString& s) { trouble = s; });
    bench.start(fake.program(), QStringLiteral("job"), {});
    ASSERT_TRUE(QTest::qWaitFor([&] { return !trouble.isEmpty(); }, 20000));
    EXPECT_THAT(trouble.toStdString(), testing::HasSubstr("where it listens"));
    EXPECT_EQ(bench.processId(), 0) << "it was let go";
}

TEST(BenchLink, HandsWithoutABenchAreAnswered)
{
    BenchLink bench;
    QString error;
    bench.putProbes(QStringLiteral("A.7"), QStringLiteral("BAT-"), [&](const QString& e) { error = e; });
    EXPECT_THAT(error.toStdString(), testing::HasSubstr("no bench"));
}

/// A bench whose control channel the test holds in its hands.
class HeldBench
{
  public:
    explicit HeldBench(const QByteArray& saysBesides = {}) : fake(FakeBench::said(m_door.path()) + saysBesides)
    {
        QObject::connect(&link, &BenchLink::failed, [this](const QString& s) { failed = s; });
        QObject::connect(&link, &BenchLink::said, [this](const QString& s) { said << s; });
        link.start(fake.program(), QStringLiteral("job"), {});
        EXPECT_TRUE(QTest::qWaitFor([&] { return link.isReady(); }, 5000));
        EXPECT_TRUE(QTest::qWaitFor([&] { return (peer = m_door.server.nextPendingConnection()) != nullptr; }, 3000));
        EXPECT_TRUE(QTest::qWaitFor([&] { return peer->canReadLine(); }, 3000));
        EXPECT_EQ(peer->readLine(), "n control\n");
    }

  private:
    FakeDoor m_door;

  public:
    FakeBench fake;
    BenchLink link;
    QString failed;
    QStringList said;
    QLocalSocket* peer = nullptr;
};

TEST(BenchLink, EveryRequestIsAnsweredEvenWhenItDies)
{
    HeldBench bench;
    QStringList answers;
    for (int i = 0; i < 3; ++i)
        bench.link.setMeasurand(QStringLiteral("clt"), 300, [&](const QString& e) { answers << e; });
    QByteArray asked;
    ASSERT_TRUE(QTest::qWaitFor([&] { return (asked += bench.peer->readAll()).count('\n') == 3; }, 3000));
    bench.peer->write("{\"ok\":true}\nnonsense\n");
    ASSERT_TRUE(QTest::qWaitFor([&] { return answers.size() == 2; }, 3000));
    EXPECT_EQ(answers[0], QString());
    EXPECT_THAT(answers[1].toStdString(), testing::HasSubstr("nonsense"));
    bench.peer->abort();
    ASSERT_TRUE(QTest::qWaitFor([&] { return answers.size() == 3; }, 3000));
    EXPECT_FALSE(answers[2].isEmpty());
    EXPECT_FALSE(bench.link.isReady());
}

TEST(BenchLink, AMuteOneIsGivenUp)
{
    HeldBench bench;
    QString answer;
    bench.link.putProbes(QStringLiteral("A.7"), QStringLiteral("BAT-"), [&](const QString& e) { answer = e; });
    ASSERT_TRUE(QTest::qWaitFor([&] { return !answer.isEmpty(); }, 5000));
    EXPECT_THAT(answer.toStdString(), testing::HasSubstr("does not answer"));
    EXPECT_EQ(bench.failed, answer);
    EXPECT_FALSE(bench.link.isReady());
    EXPECT_EQ(bench.link.processId(), 0) << "it was let go";
}

TEST(BenchLink, StoppingAnswersWhoWaits)
{
    HeldBench bench;
    QString answer;
    bench.link.putProbes(QStringLiteral("A.7"), QStringLiteral("BAT-"), [&](const QString& e) { answer = e; });
    bench.link.stop();
    EXPECT_FALSE(answer.isEmpty());
    EXPECT_TRUE(bench.failed.isEmpty()) << "it was wanted";
}

TEST(BenchLink, OneThatLapsesIntoNonsenseIsGivenUp)
{
    for (const bool onItsSocket : {false, true}) {
        HeldBench bench(onItsSocket ? "" : FakeBench::kUntilTold + "yes nonsense | head -n 100000");
        bench.fake.tell();
        if (onItsSocket)
            bench.peer->write(QByteArray("unasked\n").repeated(20000));
        ASSERT_TRUE(QTest::qWaitFor([&] { return !bench.failed.isEmpty(); }, 5000)) << onItsSocket;
        EXPECT_THAT(bench.failed.toStdString(), testing::HasSubstr("nobody understands"));
    }
}

TEST(BenchLink, WhatItCannotUseIsPassedOnAndItsCureToo)
{
    HeldBench bench(FakeBench::kUntilTold + "yes '{\"trouble\": \"f.json:3: no such wire\"}' | head -n 5000\n" +
                    FakeBench::kUntilTold + "echo '{\"trouble\": \"\"}'");
    bench.fake.tell();
    ASSERT_TRUE(QTest::qWaitFor([&] { return bench.said.size() == 1; }, 5000));
    bench.fake.tell();
    ASSERT_TRUE(QTest::qWaitFor([&] { return bench.said.size() == 2; }, 5000));
    EXPECT_THAT(bench.said[0].toStdString(), testing::HasSubstr("goes on with what it had: f.json:3: no such wire"));
    EXPECT_THAT(bench.said[1].toStdString(), testing::HasSubstr("taken up what was changed"));
    EXPECT_TRUE(bench.link.isReady());
}

} // namespace
} // namespace vicegrip::link
