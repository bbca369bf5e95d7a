#pragma once

#include "link/address.h"

#include <QObject>

#include <functional>

class QIODevice;
class QLocalSocket;
class QSerialPort;

/// Lines of text to and from an instrument or the bench, over the network, a serial port or a socket of this machine,
/// bounded in length and in what may wait to be read.
namespace vicegrip::link {

inline constexpr qsizetype kLongestLine = 65536;
inline constexpr qint64 kMostUnread = 1 << 20; ///< bytes that the other side may leave unread

class LineSocket : public QObject
{
    Q_OBJECT

  public:
    /// Leads nowhere yet.
    explicit LineSocket(QObject* parent = nullptr) : QObject(parent) {}
    /// Takes over one that came in.
    explicit LineSocket(QLocalSocket* socket, QObject* parent = nullptr);

    /// Takes down what is there and leads to another place; `connected` or `closed` follows.
    void connectTo(const Address& address);
    void writeLine(const QByteArray& line);
    void close();
    [[nodiscard]] bool isConnected() const;

  signals:
    void connected();
    void received(const QByteArray& line); ///< without the line's end
    void closed(const QString& sentence); ///< by the other side, by an error, or because a bound was passed

  private:
    template <class Socket> void adopt(Socket* socket);
    void adopt(QSerialPort* port);
    void read();
    void breakOff(const QString& sentence);

    QIODevice* m_socket = nullptr;
    bool m_serialOpen = false; ///< a port that has said an error says many
    std::function<void()> m_abort;
    std::function<bool()> m_isConnected;
};

} // namespace vicegrip::link
