#pragma once

#include <QCanBus>
#include <QCanBusDevice>
#include <QTcpServer>
#include <QTest>

#include <gtest/gtest.h>
#include <memory>

namespace vicegrip::test {

/// A CAN bus without wires: a plugin that passes frames on over TCP.
struct VirtualBus
{
    /// Another member of it.
    static std::unique_ptr<QCanBusDevice> connected()
    {
        std::unique_ptr<QCanBusDevice> bus(
            QCanBus::instance()->createDevice(QStringLiteral("virtualcan"), interface()));
        EXPECT_TRUE(bus && bus->connectDevice());
        EXPECT_TRUE(QTest::qWaitFor([&] { return bus->state() == QCanBusDevice::ConnectedState; }, 5000));
        return bus;
    }

    /// As a user types it.
    static QString adapter() { return QStringLiteral("virtualcan ") + interface(); }

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
};

} // namespace vicegrip::test
