#include "link/bench_bus.h"
#include "link/can_ecu.h"

#include <QLocalServer>
#include <QLocalSocket>
#include <QTemporaryDir>
#include <QTest>

#include <gmock/gmock.h>
#include <memory>

namespace vicegrip::link {
namespace {

/// Somebody in the bench's place, who sends what it is told to.
class FakeEcu
{
  public:
    FakeEcu()
    {
        EXPECT_TRUE(m_server.listen(m_folder.filePath(QStringLiteral("door"))));
        QObject::connect(&m_server, &QLocalServer::newConnection, [this] {
            m_socket = m_server.nextPendingConnection();
            QObject::connect(m_socket, &QLocalSocket::readyRead, [this] {
                while (m_socket->canReadLine()) {
                    const QByteArray line = m_socket->readLine().trimmed();
                    if (const auto frame = frameOf(line); frame && onFrame)
                        onFrame(*frame);
                }
            });
        });
    }
    [[nodiscard]] OpensBus bus() const { return opensBench({m_server.fullServerName(), "hello"}); }
    void send(const QCanBusFrame& frame) { write(lineOf(frame) + '\n'); }
    void write(const QByteArray& bytes)
    {
        if (m_socket != nullptr)
            m_socket->write(bytes);
    }

    std::function<void(const QCanBusFrame&)> onFrame;

  private:
    QTemporaryDir m_folder;
    QLocalServer m_server;
    QLocalSocket* m_socket = nullptr;
};

/// Hears the counts of the first eight inputs, as the bench's own frames have them.
std::shared_ptr<const stream::Listener> listener()
{
    const auto read = dbc::readFile(VICEGRIP_SOURCE_DIR "/data/links/bench.dbc");
    std::vector<stream::Ear> ears;
    for (int i = 0; i < 8; ++i) {
        const std::string name = "Input" + std::to_string(i);
        ears.push_back({i, job::Tells::Counts, name, name + "Counts", {}, {}, {}});
    }
    return std::make_shared<const stream::Listener>(std::make_shared<const dbc::Database>(read.value().database), ears);
}

/// Opened, and listening.
void open(CanEcu& ecu, const FakeEcu& fake)
{
    ecu.listen(listener());
    ecu.open(fake.bus());
}

/// Until a sample of somebody on the bus has come through.
bool becomesLive(FakeEcu& fake, const CanEcu& ecu)
{
    return QTest::qWaitFor(
        [&] {
            fake.send(frameOf(EcuSample{1, 2048, 2.5, {}}));
            return ecu.state() == CanEcu::State::Live;
        },
        5000);
}

EcuTable table()
{
    return {2, {0.5F, 4.5F}, {0.0F, 300.0F}};
}

TEST(CanEcu, SamplesMakeItLiveAndSilenceIsSaid)
{
    FakeEcu fake;
    CanEcu ecu;
    QList<stream::Heard> seen;
    QObject::connect(&ecu, &CanEcu::told, [&](const QList<stream::Heard>& all) { seen += all; });
    QString said;
    QObject::connect(&ecu, &CanEcu::stateChanged, [&](CanEcu::State, const QString& s) { said = s; });
    open(ecu, fake);
    EXPECT_EQ(ecu.state(), CanEcu::State::Connecting);
    ASSERT_TRUE(becomesLive(fake, ecu));
    EXPECT_EQ(seen.first().value, 2048);
    ASSERT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Silent; }, 5000));
    EXPECT_THAT(said.toStdString(), testing::HasSubstr("sends nothing"));
    fake.send(frameOf(EcuSample{1, 2049, 2.5, {}}));
    EXPECT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Live; }, 3000)) << "and it comes back";
}

TEST(CanEcu, GarbageOnTheBusIsNotASample)
{
    FakeEcu fake;
    CanEcu ecu;
    QList<stream::Heard> seen;
    QObject::connect(&ecu, &CanEcu::told, [&](const QList<stream::Heard>& all) { seen += all; });
    open(ecu, fake);
    ASSERT_TRUE(becomesLive(fake, ecu)); // from here on every frame arrives, in its order
    ASSERT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Silent; }, 5000));
    seen.clear();
    for (int i = 0; i < 50; ++i) {
        fake.send(QCanBusFrame(kSampleBase, QByteArray(i % 8, 'x'))); // too short
        fake.send(QCanBusFrame(0x123, QByteArray(8, 'x'))); // somebody else's
        fake.send(QCanBusFrame(kTableAnswer, QByteArray(8, '\x7f'))); // no such answer
    }
    fake.send(frameOf(EcuSample{3, 77, 0.1, {}}));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !seen.isEmpty(); }, 5000));
    EXPECT_EQ(seen.size(), 1) << "the garbage before it made none";
    EXPECT_EQ(seen.first().value, 77);
}

TEST(BenchBus, AFrameIsALineAndBack)
{
    for (const QCanBusFrame& f : {QCanBusFrame(0x500, QByteArray(8, '\x9a')), QCanBusFrame(0, {}),
                                  QCanBusFrame(0x7ff, QByteArray("\x00\xff", 2))}) {
        const auto again = frameOf(lineOf(f));
        ASSERT_TRUE(again) << lineOf(f).toStdString();
        EXPECT_EQ(again->frameId(), f.frameId());
        EXPECT_EQ(again->payload(), f.payload());
    }
}

/// Every broken form, the two that used to end both programs first.
TEST(BenchBus, WhatIsNotAFrameEndsTheLineAndNothingElse)
{
    const QByteArray broken[] = {"can0:",
                                 "can0:x",
                                 "",
                                 " ",
                                 "500 0",
                                 "500 xx",
                                 "800 00",
                                 "ffffffff1 00",
                                 "-1 00",
                                 "500 001122334455667788",
                                 "500  00",
                                 "0x5 00",
                                 QByteArray("5\0000 00", 7),
                                 QByteArray(70000, '5'),
                                 "\xff\xfe",
                                 "500 00\r00"};
    for (const QByteArray& line : broken) {
        EXPECT_FALSE(frameOf(line)) << line.left(30).toStdString();
        FakeEcu fake;
        CanEcu ecu;
        QString said;
        QObject::connect(&ecu, &CanEcu::stateChanged, [&](CanEcu::State state, const QString& s) {
            if (state == CanEcu::State::Failed)
                said = s;
        });
        open(ecu, fake);
        ASSERT_TRUE(becomesLive(fake, ecu));
        fake.write(line + '\n');
        ASSERT_TRUE(QTest::qWaitFor([&] { return !said.isEmpty(); }, 3000)) << line.left(30).toStdString();
        EXPECT_THAT(said.toStdString(),
                    testing::AnyOf(testing::HasSubstr("not a frame"), testing::HasSubstr("without an end")));
    }
}

TEST(BenchBus, AnEmptyFloodEndsAtOnce)
{
    FakeEcu fake;
    CanEcu ecu;
    open(ecu, fake);
    ASSERT_TRUE(becomesLive(fake, ecu));
    fake.write(QByteArray(1 << 20, '\n'));
    EXPECT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Failed; }, 3000));
}

TEST(CanEcu, ATableIsAnsweredOrGivenUp)
{
    FakeEcu fake;
    CanEcu ecu;
    std::optional<TableAnswer> answer;
    QString failed;
    QObject::connect(&ecu, &CanEcu::tableAnswered, [&](int, TableAnswer a) { answer = a; });
    QObject::connect(&ecu, &CanEcu::tableFailed, [&](int, const QString& s) { failed = s; });
    ecu.sendTable(table());
    EXPECT_THAT(failed.toStdString(), testing::HasSubstr("no link"));

    open(ecu, fake);
    ASSERT_TRUE(becomesLive(fake, ecu));
    failed.clear();
    ecu.sendTable(table());
    ASSERT_TRUE(QTest::qWaitFor([&] { return !failed.isEmpty(); }, 5000)) << "nobody answers";
    EXPECT_THAT(failed.toStdString(), testing::HasSubstr("did not answer"));

    TableReceiver receiver;
    fake.onFrame = [&](const QCanBusFrame& f) {
        if (const auto outcome = receiver.take(f, 8))
            fake.send(frameOf(outcome->input, outcome->answer));
    };
    ecu.sendTable(table());
    ASSERT_TRUE(QTest::qWaitFor([&] { return answer.has_value(); }, 5000));
    EXPECT_EQ(*answer, TableAnswer::Accepted);
}

TEST(CanEcu, ABusThatCannotBeOpenedIsSaid)
{
    CanEcu ecu;
    QString said;
    QObject::connect(&ecu, &CanEcu::stateChanged, [&](CanEcu::State, const QString& s) {
        if (!s.isEmpty())
            said = s;
    });
    ecu.open(opensPlugin({QStringLiteral("no-such-plugin"), QStringLiteral("can0")}));
    ASSERT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Failed; }, 5000));
    EXPECT_THAT(said.toStdString(), testing::HasSubstr("cannot be opened"));
    ecu.close();
    EXPECT_EQ(ecu.state(), CanEcu::State::Off);
}

} // namespace
} // namespace vicegrip::link
