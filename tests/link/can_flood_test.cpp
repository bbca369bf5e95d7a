#include "link/can_ecu.h"
#include "tests/support/stalls.h"

#include <QCanBusDevice>
#include <QTest>

#include <atomic>
#include <gmock/gmock.h>
#include <thread>

/// A bus at its worst: the window's thread goes on.
namespace vicegrip::link {
namespace {

using test::kStall;
using test::Stalls;

/// More frames than anybody can take, from the thread that reads it.
class FloodBus : public QCanBusDevice
{
  public:
    FloodBus()
    {
        m_tick.setParent(this);
        connect(&m_tick, &QTimer::timeout, this, [this] {
            QList<QCanBusFrame> frames;
            for (int i = 0; i < 2000; ++i)
                frames << frameOf(EcuSample{i % 24, i % 4096, 2.5, 300.0F});
            QCanBusFrame broken(QCanBusFrame::ErrorFrame);
            broken.setError(QCanBusFrame::BusOffError);
            frames << broken;
            sent += frames.size();
            enqueueReceivedFrames(frames);
        });
    }
    bool writeFrame(const QCanBusFrame&) override { return false; }
    QString interpretErrorFrame(const QCanBusFrame&) override { return {}; }

    static inline std::atomic<qint64> sent = 0; ///< by all of them

  protected:
    bool open() override
    {
        setState(ConnectedState);
        m_tick.start(0);
        return true;
    }
    void close() override
    {
        m_tick.stop();
        setState(UnconnectedState);
    }

  private:
    QTimer m_tick;
};

std::shared_ptr<const stream::Listener> everything()
{
    const auto read = dbc::readFile(VICEGRIP_SOURCE_DIR "/data/links/bench.dbc");
    std::vector<stream::Ear> ears;
    for (int i = 0; i < 24; ++i) {
        const std::string name = "Input" + std::to_string(i);
        ears.push_back({i, job::Tells::Counts, name, name + "Counts", {}, {}, {}});
        ears.push_back({i, job::Tells::Volts, name, name + "Volts", {}, {}, {}});
    }
    return std::make_shared<const stream::Listener>(std::make_shared<const dbc::Database>(read.value().database), ears);
}

TEST(CanFlood, ABusThatFloodsStallsNobodyAndItsHealthIsSaid)
{
    CanEcu ecu;
    ecu.listen(everything());
    qsizetype heard = 0;
    QObject::connect(&ecu, &CanEcu::told, [&](const QList<stream::Heard>& all) { heard += all.size(); });
    const Stalls stalls;
    ecu.open([](QString&) { return std::make_unique<FloodBus>(); }, 500000);
    ASSERT_TRUE(QTest::qWaitFor([&] { return heard > 500'000 && ecu.health().load && *ecu.health().load > 1; }, 20000));
    EXPECT_GT(ecu.health().framesPerSecond, 10'000);
    EXPECT_GT(ecu.health().errors, 0);
    EXPECT_EQ(ecu.health().bus, CanHealth::Bus::Off);
    EXPECT_LT(stalls.longest(), kStall);
}

/// Somebody who does not come back while a quarter of a million frames come finds one batch and not fifty.
TEST(CanFlood, WhoIsBusyFindsNoMoreThanHeCanTake)
{
    CanEcu ecu;
    ecu.listen(everything());
    qsizetype largest = 0;
    QObject::connect(&ecu, &CanEcu::told, [&](const QList<stream::Heard>& all) {
        largest = std::max(largest, all.size());
        for (const qint64 until = FloodBus::sent + 250'000; FloodBus::sent < until;)
            std::this_thread::yield();
    });
    ecu.open([](QString&) { return std::make_unique<FloodBus>(); });
    ASSERT_TRUE(QTest::qWaitFor([&] { return ecu.health().lost > 0; }, 20000)) << "what is too much is lost, and said";
    EXPECT_LE(largest, 110'000);
}

/// What another listener heard before is of inputs that are others now: none of it comes after the change.
TEST(CanFlood, NothingOfTheListenerBeforeComesLate)
{
    CanEcu ecu;
    ecu.listen(everything());
    int changes = 0, least = 0, wrong = 0;
    qsizetype heard = 0;
    QObject::connect(&ecu, &CanEcu::told, [&](const QList<stream::Heard>& all) {
        heard += all.size();
        for (const stream::Heard& h : all)
            wrong += h.input < least ? 1 : 0;
    });
    ecu.open([](QString&) { return std::make_unique<FloodBus>(); });
    const auto database = dbc::readFile(VICEGRIP_SOURCE_DIR "/data/links/bench.dbc").value().database;
    while (changes < 20) {
        const qsizetype before = heard;
        ASSERT_TRUE(QTest::qWaitFor([&] { return heard > before; }, 5000));
        for (const qint64 until = FloodBus::sent + 50'000; FloodBus::sent < until;)
            std::this_thread::yield(); // the next batch is on its way
        least = 100 * ++changes;
        ecu.listen(std::make_shared<const stream::Listener>(
            std::make_shared<const dbc::Database>(database),
            std::vector<stream::Ear>{{least, job::Tells::Volts, "Input0", "Input0Volts", {}, {}, {}}}));
    }
    EXPECT_EQ(wrong, 0);
}

TEST(CanFlood, AnAdapterThatHangsWhileItIsOpenedStopsNobody)
{
    std::atomic<bool> let = false;
    {
        CanEcu ecu;
        const Stalls stalls;
        ecu.open([&](QString& why) -> std::unique_ptr<QCanBusDevice> {
            let.wait(false);
            why = QStringLiteral("it hung");
            return nullptr;
        });
        ASSERT_TRUE(QTest::qWaitFor([&] { return ecu.state() == CanEcu::State::Silent; }, 5000));
        EXPECT_LT(stalls.longest(), kStall);
        ecu.close();
        EXPECT_EQ(ecu.state(), CanEcu::State::Off);
        let = true;
        let.notify_all();
    }
}

} // namespace
} // namespace vicegrip::link
