#include "core/job/job.h"
#include "tests/support/petrel.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLocalSocket>
#include <QProcess>
#include <QSet>

#include <gmock/gmock.h>
#include <thread>

/// The bench as a program: who gets in, and how it ends.
namespace vicegrip::bench {
namespace {

using testing::HasSubstr;

class Process : public QProcess
{
  public:
    Process() { start(QStringLiteral(VICEGRIP_BENCH), {QString::fromStdString(test::petrelPath())}); }
    QJsonObject announcement()
    {
        while (!canReadLine())
            if (!waitForReadyRead(10000))
                return {};
        return QJsonDocument::fromJson(readLine()).object();
    }
};

/// Another process of the same user, who has found the socket and does not know the nonce.
class Stranger : public QLocalSocket
{
  public:
    explicit Stranger(const QJsonObject& announcement)
    {
        connectToServer(announcement.value(QStringLiteral("socket")).toString());
        EXPECT_TRUE(waitForConnected(2000));
    }
    /// Says something; whether the bench has hung up, without a byte, within two seconds.
    bool isShownOut(const QByteArray& says)
    {
        write(says);
        flush();
        const bool gone = state() == UnconnectedState || waitForDisconnected(2000);
        return gone && bytesAvailable() == 0;
    }
};

QByteArray asked(Stranger& line, const QByteArray& text)
{
    line.write(text + '\n');
    while (!line.canReadLine())
        if (!line.waitForReadyRead(3000))
            return {};
    return line.readLine().trimmed();
}

TEST(BenchProcess, NobodySpeaksToItWithoutTheNonce)
{
    Process bench;
    const QJsonObject said = bench.announcement();
    const QByteArray nonce = said.value(QStringLiteral("nonce")).toString().toLatin1();
    EXPECT_EQ(nonce.size(), 32);
    const QFileInfo folder(QFileInfo(said.value(QStringLiteral("socket")).toString()).path());
    EXPECT_EQ(folder.permissions() & (QFile::ReadGroup | QFile::ExeGroup | QFile::ReadOther | QFile::ExeOther), 0);

    for (const QByteArray& greeting :
         {QByteArray("can0:\n"), QByteArray("can0:x\n"), QByteArray("\n").repeated(1 << 20), QByteArray(200000, 'x'),
          QByteArray("*IDN?\n"), QByteArray("{\"condition\": \"battery-off\"}\n"), nonce + '\n',
          QByteArray(32, '0') + " control\n", nonce + " door\n", QByteArray("\xff\x00\n", 3), QByteArray()}) {
        Stranger stranger(said);
        EXPECT_TRUE(stranger.isShownOut(greeting)) << greeting.left(40).toStdString();
    }
    std::vector<std::unique_ptr<Stranger>> crowd; // more than it keeps waiting
    for (int i = 0; i < 100; ++i)
        crowd.push_back(std::make_unique<Stranger>(said));
    EXPECT_TRUE(crowd.back()->isShownOut({}));
    for (const auto& waiting : crowd) // while they wait nobody else is let in
        EXPECT_TRUE(waiting->isShownOut({}));

    Stranger hands(said);
    EXPECT_EQ(asked(hands, nonce + " control\n{\"condition\": \"key-on\"}"), R"({"ok":true})");
    Stranger meter(said);
    EXPECT_EQ(asked(meter, nonce + " meter\n*IDN?").count(','), 3);
}

TEST(BenchProcess, DoesNotListenOnTheNetworkAndEndsWithItsStarter)
{
    Process bench;
    ASSERT_FALSE(bench.announcement().isEmpty());
    const QDir own(QStringLiteral("/proc/%1/fd").arg(bench.processId()));
    QSet<QString> inodes;
    for (const QFileInfo& entry : own.entryInfoList(QDir::AllEntries | QDir::System | QDir::NoDotAndDotDot))
        if (const QString target = entry.symLinkTarget().section(QLatin1Char('/'), -1);
            target.startsWith(QLatin1String("socket:")))
            inodes.insert(target.mid(8).chopped(1));
    for (const char* table : {"/proc/net/tcp", "/proc/net/tcp6", "/proc/net/udp", "/proc/net/udp6"}) {
        QFile file(QString::fromLatin1(table));
        if (!file.open(QIODevice::ReadOnly))
            continue;
        for (const QByteArray& line : file.readAll().split('\n'))
            EXPECT_FALSE(inodes.contains(QString::fromLatin1(line.simplified().split(' ').value(9)))) << table;
    }
    bench.closeWriteChannel();
    EXPECT_TRUE(bench.waitForFinished(5000)) << "it ends when its standard input closes";
    EXPECT_EQ(bench.exitCode(), 0);
}

TEST(BenchProcess, WhoDoesNotReadTheAnswersIsShownOut)
{
    Process bench;
    const QJsonObject said = bench.announcement();
    Stranger deaf(said);
    deaf.setReadBufferSize(1);
    deaf.write(said.value(QStringLiteral("nonce")).toString().toLatin1() + " meter\n");
    const QByteArray questions = QByteArray("*IDN?;").repeated(2000) + '\n';
    for (int i = 0; i < 200 && deaf.state() == QLocalSocket::ConnectedState; ++i) {
        deaf.write(questions);
        deaf.waitForBytesWritten(200);
    }
    EXPECT_TRUE(deaf.state() == QLocalSocket::UnconnectedState || deaf.waitForDisconnected(5000));
}

TEST(BenchProcess, SaysWhatIsWrongWithItsFiles)
{
    QProcess bench;
    bench.start(QStringLiteral(VICEGRIP_BENCH), {QStringLiteral("/nowhere.vicegrip")});
    ASSERT_TRUE(bench.waitForFinished(5000));
    EXPECT_EQ(bench.exitCode(), 3);
    const char* const cannot = "/nowhere.vicegrip: the file cannot be opened";
    EXPECT_THAT(bench.readAllStandardError().toStdString(), testing::HasSubstr(cannot));
    EXPECT_THAT(QJsonDocument::fromJson(bench.readAllStandardOutput())
                    .object()
                    .value(QStringLiteral("trouble"))
                    .toString()
                    .toStdString(),
                testing::HasSubstr(cannot));
}

} // namespace
} // namespace vicegrip::bench
