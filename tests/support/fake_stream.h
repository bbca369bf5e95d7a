#pragma once

#include "core/dbc/dbc.h"
#include "tests/support/virtual_bus.h"

#include <QTimer>

#include <map>
#include <string>

namespace vicegrip::test {

/// An ECU of somebody else on the virtual bus: it sends the messages of a database fifty times a second, with the
/// values it is told, page by page where a message has pages.
class FakeStream
{
  public:
    explicit FakeStream(const std::string& database)
        : m_database(dbc::readFile(database).value().database), m_bus(VirtualBus::connected())
    {
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
    [[nodiscard]] static QString adapter() { return VirtualBus::adapter(); }

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
    dbc::Database m_database;
    std::unique_ptr<QCanBusDevice> m_bus;
    QTimer m_tick;
    int m_round = 0;
};

} // namespace vicegrip::test
