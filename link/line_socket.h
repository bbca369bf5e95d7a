#pragma once

#include <QByteArray>
#include <QObject>

class QTcpSocket;

/// Lines over TCP, with a bound on their length: what SCPI instruments and the bench's control channel speak.
namespace vicegrip::link {

inline constexpr qsizetype kLongestLine = 65536;

class LineSocket : public QObject
{
    Q_OBJECT

  public:
    /// Takes over the socket, connected or not.
    explicit LineSocket(QTcpSocket* socket, QObject* parent = nullptr);

    void connectTo(const QString& host, quint16 port);
    void writeLine(const QByteArray& line);
    void close();
    [[nodiscard]] bool isConnected() const;

  signals:
    void connected();
    void received(const QByteArray& line); ///< without the line's end
    void closed(const QString& sentence); ///< by the other side, by an error, or because a line was too long

  private:
    void read();

    QTcpSocket* m_socket;
};

} // namespace vicegrip::link
