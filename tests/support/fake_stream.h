#pragma once

#include "core/dbc/dbc.h"
#include "link/can_place.h"

#include <QCanBus>
#include <QCanBusDevice>
#include <QTcpServer>
#include <QTest>
#include <QTimer>

#include <gtest/gtest.h>
#include <map>
#include <memory>
#include <string>

namespace vicegrip::test {

/// An ECU of somebody else on the virtual bus: it sends the messages of a database fifty times a second, with the
/// values it is told, page by page where a message has pages.
class FakeStream
{
  public:
    explicit FakeStream(const std::string& database) : m_database(dbc::readFile(database).value().database)
    {
        m_bus.reset(QCanBus::instance()->createDevice(QStringLiteral("virtualcan"), interface()));
        EXPECT_TRUE(m_bus && m_bus->connectDevice());
        EXPECT_TRUE(QTest::qWaitFor([&] { return m_bus->state() == QCanBusDevice::ConnectedState; }, 5000));
        m_tick.setInterval(20);
        QObject::connect(&m_tick, &QTimer::timeout, [this] { send(); });
        m_tick.start();
    }
    ~FakeStream() { m_bus->disconnectDevice(); }
    FakeStream(const FakeStream&) = delete;
    FakeStream& operator=(const FakeStream&) = delete;

    /// In the database's own unit, by the name of the signal.
    std::map<std::string, double> says;
    void stop() { m_tick.stop(); }
    void goOn() { m_tick.start(); }
    /// As a user types it.
    [[nodiscard]] QString adapter() const { return QStringLiteral("virtualcan ") + interface(); }

    void send()
    {
        ++m_round;
        for (const dbc::Message& m : m_database.messages()) {
            std::vector<std::uint8_t> data(static_cast<size_t>(m.bytes));
            const auto page = static_cast<std::uint64_t>(m_round % 4);
            for (const dbc::Signal& s : m.carries) {
                if (s.chooses)
                    dbc::put(s, page, data);
                else if (const auto it = says.find(s.name);
                         it != says.end() && (!s.multiplexed || s.multiplexed->holds(page)))
                    dbc::put(s, dbc::rawFor(s, it->second), data);
            }
            QCanBusFrame frame(
                m.id, QByteArray(reinterpret_cast<const char*>(data.data()), static_cast<qsizetype>(data.size())));
            frame.setExtendedFrameFormat(m.extended);
            m_bus->writeFrame(frame);
        }
    }

  private:
    /// A port of this process alone: other tests run beside it. The plugin's server stays on the first one.
    static const QString& interface()
    {
        static const QString kInterface = [] {
            QTcpServer free;
            EXPECT_TRUE(free.listen(QHostAddress::LocalHost));
            return QStringLiteral("tcp://127.0.0.1:%1/can0").arg(free.serverPort());
        }();
        return kInterface;
    }

    dbc::Database m_database;
    std::unique_ptr<QCanBusDevice> m_bus;
    QTimer m_tick;
    int m_round = 0;
};

} // namespace vicegrip::test
