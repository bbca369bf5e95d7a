#include "link/can_ecu.h"

#include <QCanBus>
#include <QCanBusDevice>
#include <QTcpServer>
#include <QTest>

#include <gmock/gmock.h>
#include <memory>

namespace vicegrip::link {
namespace {

/// Somebody on the other end of the virtual bus.
class FakeEcu
{
  public:
    FakeEcu()
    {
        // One server a process: every test of this file meets on the same port.
        static const QString interface = [] {
            QTcpServer probe;
            EXPECT_TRUE(probe.listen(QHostAddress::LocalHost));
            return QStringLiteral("tcp://127.0.0.1:%1/can0").arg(probe.serverPort());
        }();
        m_interface = interface;
        m_bus.reset(QCanBus::instance()->createDevice(QStringLiteral("virtualcan"), m_interface));
        EXPECT_TRUE(m_bus && m_bus->connectDevice());
        EXPECT_TRUE(QTest::qWaitFor([&] { return m_bus->state() == QCanBusDevice::ConnectedState; }, 3000));
    }
    [[nodiscard]] const QString& interface() const { return m_interface; }
    QCanBusDevice& bus() { return *m_bus; }

  private:
    QString m_interface;
    std::unique_ptr<QCanBusDevice> m_bus;
};

/// Until a sample of somebody on the bus has come through.
bool becomesLive(FakeEcu& fake, const CanEcu& ecu)
{
    return QTest::qWaitFor(
        [&] {
            fake.bus().writeFrame(frameOf(EcuSample{1, 2048, 2.5, {}}));
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
    QList<EcuSample> seen;
    QObject::connect(&ecu, &CanEcu::sampled, [&](const QList<EcuSample>& s) { seen += s; });
    QString said;
    QObject::connect(&ecu, &CanEcu::stateChanged, [&](CanEcu::State, const QString& s) { said = s; });
    ecu.open(QStringLiteral("virtualcan"), fake.interface());
    EXPECT_EQ(ecu.state(), CanEcu::State::Connecting);
    ASSERT_TRUE(becomesLive(fake, ecu));
    EXPECT_EQ(seen.first().counts, 2048);
    ASSERT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Silent; }, 5000));
    EXPECT_THAT(said.toStdString(), testing::HasSubstr("sends nothing"));
    fake.bus().writeFrame(frameOf(EcuSample{1, 2049, 2.5, {}}));
    EXPECT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Live; }, 3000)) << "and it comes back";
}

TEST(CanEcu, GarbageOnTheBusIsNotASample)
{
    FakeEcu fake;
    CanEcu ecu;
    QList<EcuSample> seen;
    QObject::connect(&ecu, &CanEcu::sampled, [&](const QList<EcuSample>& samples) { seen += samples; });
    ecu.open(QStringLiteral("virtualcan"), fake.interface());
    ASSERT_TRUE(becomesLive(fake, ecu)); // from here on every frame arrives, in its order
    ASSERT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Silent; }, 5000));
    seen.clear();
    for (int i = 0; i < 50; ++i) {
        fake.bus().writeFrame(QCanBusFrame(kSampleBase, QByteArray(i % 8, 'x'))); // too short
        fake.bus().writeFrame(QCanBusFrame(0x123, QByteArray(8, 'x'))); // somebody else's
        fake.bus().writeFrame(QCanBusFrame(kTableAnswer, QByteArray(8, '\x7f'))); // no such answer
    }
    fake.bus().writeFrame(frameOf(EcuSample{3, 77, 0.1, {}}));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !seen.isEmpty(); }, 5000));
    EXPECT_EQ(seen.size(), 1) << "the garbage before it made none";
    EXPECT_EQ(seen.first().counts, 77);
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

    ecu.open(QStringLiteral("virtualcan"), fake.interface());
    ASSERT_TRUE(becomesLive(fake, ecu));
    failed.clear();
    ecu.sendTable(table());
    ASSERT_TRUE(QTest::qWaitFor([&] { return !failed.isEmpty(); }, 5000)) << "nobody answers";
    EXPECT_THAT(failed.toStdString(), testing::HasSubstr("did not answer"));

    TableReceiver receiver;
    QObject::connect(&fake.bus(), &QCanBusDevice::framesReceived, [&] {
        for (const QCanBusFrame& f : fake.bus().readAllFrames())
            if (const auto outcome = receiver.take(f, 8))
                fake.bus().writeFrame(frameOf(outcome->input, outcome->answer));
    });
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
    ecu.open(QStringLiteral("no-such-plugin"), QStringLiteral("can0"));
    EXPECT_EQ(ecu.state(), CanEcu::State::Failed);
    EXPECT_THAT(said.toStdString(), testing::HasSubstr("cannot be opened"));
    ecu.close();
    EXPECT_EQ(ecu.state(), CanEcu::State::Off);
}

} // namespace
} // namespace vicegrip::link
