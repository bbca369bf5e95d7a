#pragma once

#include <QFile>
#include <QLocalServer>
#include <QTemporaryDir>

#include <gtest/gtest.h>

/// False benches: what the window starts and listens to is the test's.
namespace vicegrip::link {

/// A socket that takes everybody in.
struct FakeDoor
{
    FakeDoor() { EXPECT_TRUE(server.listen(folder.filePath(QStringLiteral("door")))); }
    [[nodiscard]] QByteArray path() const { return server.fullServerName().toUtf8(); }

    QTemporaryDir folder;
    QLocalServer server;
};

/// A program in the bench's place that says what it is told to and waits.
class FakeBench
{
  public:
    /// Goes on when `tell` is called, once each.
    static inline const QByteArray kUntilTold = "until rm go 2> /dev/null; do sleep 0.01; done\n";
    /// Where it listens.
    static QByteArray said(const QByteArray& socket)
    {
        return "echo '{\"socket\": \"" + socket + "\", \"nonce\": \"n\"}'\n";
    }

    explicit FakeBench(const QByteArray& says)
    {
        QFile script(program());
        EXPECT_TRUE(script.open(QIODevice::WriteOnly));
        script.write("#!/bin/sh\ncd \"$(dirname \"$0\")\"\n" + says + "\ncat > /dev/null\n");
        script.close();
        script.setPermissions(QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ExeOwner);
    }
    [[nodiscard]] QString program() const { return m_folder.filePath(QStringLiteral("bench")); }
    void tell() const { EXPECT_TRUE(QFile(m_folder.filePath(QStringLiteral("go"))).open(QIODevice::WriteOnly)); }

  private:
    QTemporaryDir m_folder;
};

} // namespace vicegrip::link
