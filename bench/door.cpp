#include "bench/door.h"

#include <QJsonDocument>
#include <QJsonObject>
#include <QLocalSocket>
#include <QRandomGenerator>
#include <QTimer>

namespace vicegrip::bench {
namespace {

constexpr int kPatience_ms = 1000;
constexpr int kMostStrangers = 64; ///< who have not said the nonce yet; each is gone after the patience

QByteArray freshNonce()
{
    QByteArray nonce;
    for (int i = 0; i < 2; ++i)
        nonce += QByteArray::number(QRandomGenerator::system()->generate64(), 16).rightJustified(16, '0');
    return nonce;
}

} // namespace

Door::Door(QObject* parent) : QObject(parent), m_nonce(freshNonce())
{
    connect(&m_server, &QLocalServer::newConnection, this, &Door::receive);
}

Result<void> Door::open()
{
    m_server.setSocketOptions(QLocalServer::UserAccessOption);
    if (!m_folder.isValid() || !m_server.listen(m_folder.filePath(QStringLiteral("door"))))
        return fail(ErrorCode::Io, tr("the bench cannot listen: %1")
                                       .arg(m_folder.isValid() ? m_server.errorString() : m_folder.errorString())
                                       .toStdString());
    return {};
}

QByteArray Door::announcement() const
{
    return QJsonDocument(QJsonObject{{QStringLiteral("socket"), m_server.fullServerName()},
                                     {QStringLiteral("nonce"), QString::fromLatin1(m_nonce)}})
        .toJson(QJsonDocument::Compact);
}

void Door::receive()
{
    while (QLocalSocket* socket = m_server.nextPendingConnection()) {
        if (m_strangers >= kMostStrangers) {
            socket->abort();
            socket->deleteLater();
            continue;
        }
        ++m_strangers;
        auto* line = new link::LineSocket(socket, this);
        auto* patience = new QTimer(line);
        patience->setSingleShot(true);
        connect(patience, &QTimer::timeout, line, &QObject::deleteLater);
        patience->start(kPatience_ms);
        connect(patience, &QObject::destroyed, this, [this] { --m_strangers; });
        connect(line, &link::LineSocket::closed, line, &QObject::deleteLater);
        connect(line, &link::LineSocket::received, patience, [this, line, patience](const QByteArray& greeting) {
            delete patience; // and with it this connection
            admit(line, greeting);
        });
    }
}

void Door::admit(link::LineSocket* line, const QByteArray& greeting)
{
    for (const QByteArray channel : {"can", "meter", "scope", "control"})
        if (greeting == m_nonce + ' ' + channel) {
            emit entered(line, channel);
            return;
        }
    line->close();
    line->deleteLater();
}

} // namespace vicegrip::bench
