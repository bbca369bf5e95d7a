#include "link/line_socket.h"

#include <QLocalSocket>
#include <QTcpSocket>

namespace vicegrip::link {

LineSocket::LineSocket(QLocalSocket* socket, QObject* parent) : QObject(parent)
{
    adopt(socket);
    if (socket->canReadLine()) // it came before anybody listened
        QMetaObject::invokeMethod(this, &LineSocket::read, Qt::QueuedConnection);
}

/// Sockets of the network and of this machine say the same things and share no ancestor that says them.
template <class Socket> void LineSocket::adopt(Socket* socket)
{
    socket->setParent(this);
    socket->setReadBufferSize(2 * kLongestLine);
    connect(socket, &Socket::connected, this, &LineSocket::connected);
    connect(socket, &Socket::readyRead, this, &LineSocket::read);
    connect(socket, &Socket::errorOccurred, this, [this, socket] { emit closed(socket->errorString()); });
    m_socket = socket;
    m_abort = [socket] { socket->abort(); };
    m_isConnected = [socket] { return socket->state() == decltype(socket->state())::ConnectedState; };
}

void LineSocket::connectTo(const Address& address)
{
    close();
    if (m_socket != nullptr) {
        m_socket->disconnect(this);
        m_socket->deleteLater(); // it may be the sender of what called us
    }
    if (const auto* network = std::get_if<NetworkAddress>(&address)) {
        auto* socket = new QTcpSocket;
        adopt(socket);
        socket->connectToHost(network->host, network->port);
        return;
    }
    const auto& bench = std::get<BenchAddress>(address);
    auto* socket = new QLocalSocket;
    connect(socket, &QLocalSocket::connected, this, [this, greeting = bench.greeting] { writeLine(greeting); });
    adopt(socket);
    socket->connectToServer(bench.socket);
}

void LineSocket::writeLine(const QByteArray& line)
{
    if (!isConnected())
        return;
    m_socket->write(line);
    m_socket->write("\n");
    if (m_socket->bytesToWrite() > kMostUnread)
        breakOff(tr("it does not read what it is sent"));
}

void LineSocket::close()
{
    if (m_socket != nullptr)
        m_abort();
}

bool LineSocket::isConnected() const
{
    return m_socket != nullptr && m_isConnected();
}

void LineSocket::read()
{
    QIODevice* const from = m_socket; // who receives a line may lead us elsewhere
    while (from == m_socket && from->canReadLine())
        emit received(from->readLine().trimmed());
    if (from == m_socket && from->bytesAvailable() > kLongestLine)
        breakOff(tr("it sent a line without an end"));
}

void LineSocket::breakOff(const QString& sentence)
{
    m_abort();
    emit closed(sentence);
}

} // namespace vicegrip::link
