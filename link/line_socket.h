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
inline constexpr qsizetype kLargestBlock = 64 << 20;
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
    /// A definite-length block (IEEE 488.2, 8.7.9): #, how many digits, how many bytes, and these.
    void writeBlock(const QByteArray& bytes);
    /// From now on what begins with # is such a block, of so many bytes at most.
    void takeBlocks(qsizetype largest) { m_largestBlock = largest; }
    void close();
    [[nodiscard]] bool isConnected() const;

  signals:
    void connected();
    void received(const QByteArray& line); ///< without the line's end
    void receivedBlock(const QByteArray& bytes);
    void closed(const QString& sentence); ///< by the other side, by an error, or because a bound was passed

  private:
    template <class Socket> void adopt(Socket* socket);
    void adopt(QSerialPort* port);
    void read();
    bool readLine(QIODevice& from);
    bool beginBlock(QIODevice& from);
    bool readBlock(QIODevice& from);
    void write(const QByteArray& bytes, qint64 most);
    void breakOff(const QString& sentence);

    QIODevice* m_socket = nullptr;
    qsizetype m_largestBlock = 0, m_awaited = 0; ///< bytes; 0: none are taken, none is under way
    QByteArray m_block;
    bool m_serialOpen = false; ///< a port that has said an error says many
    std::function<void()> m_abort;
    std::function<bool()> m_isConnected;
};

} // namespace vicegrip::link
