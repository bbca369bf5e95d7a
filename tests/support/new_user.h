#pragma once

#include "tests/support/window.h"

#include <QDir>
#include <QFile>

namespace vicegrip::test {

/// Documents, library and configuration of a user who never was here.
class NewUser
{
  public:
    NewUser() : m_config(qgetenv("XDG_CONFIG_HOME"))
    {
        qputenv("XDG_CONFIG_HOME", (m_user.home.path() + QStringLiteral("/.config")).toUtf8());
    }
    ~NewUser() { qputenv("XDG_CONFIG_HOME", m_config); }

    [[nodiscard]] QString file(const char* name) const { return m_user.home.filePath(QLatin1String(name)); }
    static void write(const QString& path, const QByteArray& text)
    {
        QDir().mkpath(QFileInfo(path).path());
        QFile out(path);
        ASSERT_TRUE(out.open(QIODevice::WriteOnly));
        out.write(text);
    }

  private:
    UserFolder m_user;
    QByteArray m_config;
};

} // namespace vicegrip::test
