#include "link/bench_link.h"

#include <QFile>
#include <QTcpServer>
#include <QTcpSocket>
#include <QTemporaryDir>
#include <QTest>

#include <gmock/gmock.h>

namespace vicegrip::link {
namespace {

/// A program in the bench's place that says what it is told to and waits.
class FakeBench
{
  public:
    explicit FakeBench(const QByteArray& says)
    {
        QFile script(program());
        EXPECT_TRUE(script.open(QIODevice::WriteOnly));
        script.write("#!/bin/sh\n" + says + "\ncat > /dev/null\n");
        script.close();
        script.setPermissions(QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ExeOwner);
    }
    [[nodiscard]] QString program() const { return m_folder.filePath(QStringLiteral("bench")); }

  private:
    QTemporaryDir m_folder;
};

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
    EXPECT_THAT(troubleWith("echo '{\"can\": \"tcp://127.0.0.1:1/can0\", \"meter\": 1, \"control\": -7}'"),
                testing::Not(testing::IsEmpty()));
    EXPECT_THAT(troubleWith("head -c 300000 /dev/zero | tr '\\0' x"), testing::HasSubstr("where it listens"));
    EXPECT_THAT(troubleWith("echo broken >&2; exit 3"), testing::HasSubstr("broken"));
}

TEST(BenchLink, HandsWithoutABenchAreAnswered)
{
    BenchLink bench;
    QString error;
    bench.putProbes(QStringLiteral("A.7"), QStringLiteral("BAT-"), [&](const QString& e) { error = e; });
    EXPECT_THAT(error.toStdString(), testing::HasSubstr("no bench"));
}

TEST(BenchLink, EveryRequestIsAnsweredEvenWhenItDies)
{
    QTcpServer control;
    ASSERT_TRUE(control.listen(QHostAddress::LocalHost));
    const FakeBench fake("echo '{\"can\": \"tcp://127.0.0.1:1/can0\", \"meter\": 1, \"control\": " +
                         QByteArray::number(control.serverPort()) + "}'");
    BenchLink bench;
    bench.start(fake.program(), QStringLiteral("job"), {});
    ASSERT_TRUE(QTest::qWaitFor([&] { return bench.isReady(); }, 5000));
    QTcpSocket* peer = nullptr;
    ASSERT_TRUE(QTest::qWaitFor([&] { return (peer = control.nextPendingConnection()) != nullptr; }, 3000));
    QStringList answers;
    for (int i = 0; i < 3; ++i)
        bench.setFelt(QStringLiteral("clt"), 300, [&](const QString& e) { answers << e; });
    QByteArray asked;
    ASSERT_TRUE(QTest::qWaitFor([&] { return (asked += peer->readAll()).count('\n') == 3; }, 3000));
    peer->write("{\"ok\":true}\nnonsense\n");
    ASSERT_TRUE(QTest::qWaitFor([&] { return answers.size() == 2; }, 3000));
    EXPECT_EQ(answers[0], QString());
    EXPECT_THAT(answers[1].toStdString(), testing::HasSubstr("nonsense"));
    peer->abort();
    ASSERT_TRUE(QTest::qWaitFor([&] { return answers.size() == 3; }, 3000));
    EXPECT_FALSE(answers[2].isEmpty());
    EXPECT_FALSE(bench.isReady());
}

} // namespace
} // namespace vicegrip::link
