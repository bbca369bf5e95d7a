#include "link/line_socket.h"

#include <QTcpSocket>

namespace vicegrip::link {

LineSocket::LineSocket(QTcpSocket* socket, QObject* parent) : QObject(parent), m_socket(socket)
{
    m_socket->setParent(this);
    m_socket->setReadBufferSize(2 * kLongestLine);
    connect(m_socket, &QTcpSocket::connected, this, &LineSocket::connected);
    connect(m_socket, &QTcpSocket::readyRead, this, &LineSocket::read);
    connect(m_socket, &QTcpSocket::errorOccurred, this, [this] { emit closed(m_socket->errorString()); });
}

void LineSocket::connectTo(const QString& host, quint16 port)
{
    m_socket->abort();
    m_socket->connectToHost(host, port);
}

void LineSocket::writeLine(const QByteArray& line)
{
    m_socket->write(line);
    m_socket->write("\n");
}

void LineSocket::close()
{
    m_socket->abort();
}

bool LineSocket::isConnected() const
{
    return m_socket->state() == QAbstractSocket::ConnectedState;
}

void LineSocket::read()
{
    while (m_socket->canReadLine())
        emit received(m_socket->readLine().trimmed());
    if (m_socket->bytesAvailable() > kLongestLine) {
        m_socket->abort();
        emit closed(tr("it sent a line without an end"));
    }
}

} // namespace vicegrip::link
