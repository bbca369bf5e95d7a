#include "link/line_socket.h"

#include <QLocalSocket>
#include <QRegularExpression>
#include <QSerialPort>
#include <QTcpSocket>

namespace vicegrip::link {

std::optional<Address> addressOf(const QString& typed)
{
    constexpr quint16 kScpiPort = 5025;
    const QStringList words = typed.split(QRegularExpression(QStringLiteral("[\\s,]+")), Qt::SkipEmptyParts);
    if (words.isEmpty() || words.size() > 2)
        return std::nullopt;
    const QString& place = words.first();
    static const QRegularExpression kSerial(QStringLiteral("^(/dev/\\S+|tty\\S+|COM\\d+)$"));
    bool isNumber = true;
    if (kSerial.match(place).hasMatch()) {
        SerialAddress out{place, SerialAddress().baud};
        if (words.size() == 2)
            out.baud = words.last().toInt(&isNumber);
        return isNumber && out.baud > 0 ? std::optional<Address>(out) : std::nullopt;
    }
    const qsizetype colon = place.count(QLatin1Char(':')) == 1 ? place.indexOf(QLatin1Char(':')) : place.size();
    NetworkAddress out{place.left(colon), kScpiPort};
    if (colon < place.size())
        out.port = place.mid(colon + 1).toUShort(&isNumber);
    static const QRegularExpression kHost(QStringLiteral("^[A-Za-z0-9.:-]+$"));
    return words.size() == 1 && isNumber && out.port > 0 && kHost.match(out.host).hasMatch()
               ? std::optional<Address>(out)
               : std::nullopt;
}

LineSocket::LineSocket(QLocalSocket* socket, QObject* parent) : QObject(parent)
{
    adopt(socket);
    if (socket->canReadLine()) // it came before anybody listened
        QMetaObject::invokeMethod(this, &LineSocket::read, Qt::QueuedConnection);
}

/// A port is open or it is not: there is nobody to wait for.
void LineSocket::adopt(QSerialPort* port)
{
    port->setParent(this);
    port->setReadBufferSize(2 * kLongestLine);
    connect(port, &QSerialPort::readyRead, this, &LineSocket::read);
    connect(port, &QSerialPort::errorOccurred, this, [this, port](QSerialPort::SerialPortError error) {
        if (error == QSerialPort::NoError || error == QSerialPort::TimeoutError)
            return;
        // It is in the middle of reading, and may not be closed now.
        QMetaObject::invokeMethod(
            this,
            [this, port, why = port->errorString()] {
                if (m_socket != port || !std::exchange(m_serialOpen, false))
                    return;
                port->close();
                emit closed(why);
            },
            Qt::QueuedConnection);
    });
    m_socket = port;
    m_abort = [this, port] {
        m_serialOpen = false;
        port->close();
    };
    m_isConnected = [this, port] { return m_serialOpen && port->isOpen(); };
    m_serialOpen = true;
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
    m_awaited = 0;
    m_block.clear();
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
    if (const auto* serial = std::get_if<SerialAddress>(&address)) {
        auto* port = new QSerialPort;
        port->setPortName(serial->port);
        port->setBaudRate(serial->baud);
        adopt(port);
        if (port->open(QIODevice::ReadWrite))
            QMetaObject::invokeMethod(this, &LineSocket::connected, Qt::QueuedConnection);
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
    write(line + '\n', kMostUnread);
}

void LineSocket::writeBlock(const QByteArray& bytes)
{
    const QByteArray count = QByteArray::number(bytes.size());
    write('#' + QByteArray::number(count.size()) + count + bytes + '\n', kLargestBlock);
}

void LineSocket::write(const QByteArray& bytes, qint64 most)
{
    if (!isConnected())
        return;
    m_socket->write(bytes);
    if (m_socket->bytesToWrite() > most)
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
    while (from == m_socket && from->isOpen() && (m_awaited > 0 ? readBlock(*from) : readLine(*from)))
        ;
}

/// A line, or the beginning of a block; false: neither is there yet.
bool LineSocket::readLine(QIODevice& from)
{
    if (m_largestBlock > 0 && from.peek(1) == "#")
        return beginBlock(from);
    if (from.canReadLine()) {
        emit received(from.readLine().trimmed());
        return true;
    }
    if (from.bytesAvailable() > kLongestLine)
        breakOff(tr("it sent a line without an end"));
    return false;
}

bool LineSocket::beginBlock(QIODevice& from)
{
    constexpr qint64 kMostDigits = 9;
    const QByteArray head = from.peek(2 + kMostDigits);
    if (head.size() < 2)
        return false;
    const int digits = head.at(1) - '0';
    bool isNumber = digits >= 1 && digits <= kMostDigits;
    if (isNumber && head.size() < 2 + digits)
        return false;
    const qlonglong count = isNumber ? head.mid(2, digits).toLongLong(&isNumber) : 0;
    if (!isNumber || count < 0 || count > m_largestBlock) {
        breakOff(tr("it sent a block that does not say how long it is, or one that is too long"));
        return false;
    }
    from.read(2 + digits);
    m_block = QByteArray("");
    m_awaited = count;
    if (count == 0)
        emit receivedBlock(std::exchange(m_block, {}));
    return true;
}

bool LineSocket::readBlock(QIODevice& from)
{
    const QByteArray part = from.read(m_awaited);
    m_block += part;
    m_awaited -= part.size();
    if (m_awaited == 0)
        emit receivedBlock(std::exchange(m_block, {}));
    return !part.isEmpty();
}

void LineSocket::breakOff(const QString& sentence)
{
    m_abort();
    emit closed(sentence);
}

} // namespace vicegrip::link
