#pragma once

#include "link/address.h"

#include <QTcpServer>
#include <QTcpSocket>

#include <gtest/gtest.h>

namespace vicegrip::test {

/// A meter that answers its name, then whatever it is told to.
class FakeMeter
{
  public:
    explicit FakeMeter(QByteArray answer) : m_answer(std::move(answer))
    {
        EXPECT_TRUE(m_server.listen(QHostAddress::LocalHost));
        QObject::connect(&m_server, &QTcpServer::newConnection, [this] {
            m_socket = m_server.nextPendingConnection();
            QObject::connect(m_socket, &QTcpSocket::readyRead, [this] {
                while (m_socket->canReadLine())
                    m_socket->write(m_socket->readLine().startsWith("*IDN?") ? QByteArray("Somebody,Meter,0,1\n")
                                                                             : m_answer);
            });
        });
    }
    [[nodiscard]] link::Address address() const
    {
        return link::NetworkAddress{QStringLiteral("127.0.0.1"), m_server.serverPort()};
    }
    /// As a user types it.
    [[nodiscard]] QString typed() const { return QStringLiteral("127.0.0.1:%1").arg(m_server.serverPort()); }
    void hangUp() { m_socket->abort(); }

  private:
    QTcpServer m_server;
    QTcpSocket* m_socket = nullptr;
    QByteArray m_answer;
};

} // namespace vicegrip::test
