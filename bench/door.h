#pragma once

#include "core/base/result.h"
#include "link/line_socket.h"

#include <QLocalServer>
#include <QTemporaryDir>

/// The bench's one entrance: a socket in a folder that only its user may enter, and a nonce that only who started the
/// bench has heard. Who does not say it, with the channel, in the first line and within a second, is shown out.
namespace vicegrip::bench {

class Door : public QObject
{
    Q_OBJECT

  public:
    explicit Door(QObject* parent = nullptr);

    Result<void> open();

    /// {"socket": "/.../door", "nonce": "..."}
    [[nodiscard]] QByteArray announcement() const;

  signals:
    /// "can", "meter", "scope" or "control". The line ends itself.
    void entered(vicegrip::link::LineSocket* line, const QByteArray& channel);

  private:
    void receive();
    void admit(link::LineSocket* line, const QByteArray& greeting);

    QTemporaryDir m_folder;
    QLocalServer m_server;
    QByteArray m_nonce;
    int m_strangers = 0;
};

} // namespace vicegrip::bench
