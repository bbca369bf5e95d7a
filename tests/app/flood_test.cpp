#include "link/bench_bus.h"
#include "tests/support/window.h"

#include <QElapsedTimer>
#include <QLocalServer>
#include <QLocalSocket>

#include <ctime>
#include <gmock/gmock.h>
#include <iostream>

/// False instruments before the real window: whatever they send, and however much, the window stays alive under the
/// hand.
namespace vicegrip::test {
namespace {

/// The longest the window's thread was at work without coming round, CPU only: what else the machine does is not its
/// fault.
class Stalls
{
  public:
    Stalls()
    {
        m_round.setInterval(0);
        QObject::connect(&m_round, &QTimer::timeout, [this] {
            const double now = cpu_ms();
            m_longest = std::max(m_longest, now - m_before);
            m_before = now;
        });
        m_before = cpu_ms();
        m_round.start();
    }
    [[nodiscard]] double longest_ms() const { return m_longest; }

  private:
    static double cpu_ms()
    {
        timespec t{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        return static_cast<double>(t.tv_sec) * 1e3 + static_cast<double>(t.tv_nsec) / 1e6;
    }

    QTimer m_round;
    double m_before = 0, m_longest = 0;
};

constexpr double kStall_ms = 50;

/// A bench whose every channel the test holds, and whose standard output is a script's.
class FalseBench
{
  public:
    explicit FalseBench(Window& w, const QByteArray& script = {})
    {
        EXPECT_TRUE(m_server.listen(m_folder.filePath(QStringLiteral("door"))));
        QFile program(m_folder.filePath(QStringLiteral("bench")));
        EXPECT_TRUE(program.open(QIODevice::WriteOnly));
        program.write("#!/bin/sh\necho '{\"socket\": \"" + m_server.fullServerName().toUtf8() +
                      "\", \"nonce\": \"n\"}'\n" + script + "\ncat > /dev/null\n");
        program.close();
        program.setPermissions(QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ExeOwner);
        QObject::connect(&m_server, &QLocalServer::newConnection, [this] {
            QLocalSocket* line = m_server.nextPendingConnection();
            QObject::connect(line, &QLocalSocket::readyRead, line, [this, line] {
                while (line->canReadLine()) {
                    const QByteArray text = line->readLine().trimmed();
                    if (text.startsWith("n "))
                        channels.insert(text.mid(2), line);
                    else if (line == channels.value("control"))
                        line->write(answer);
                    else if (text == "*IDN?")
                        line->write("Somebody,Meter,0,1\n");
                    else if (line == channels.value("meter"))
                        line->write(reading);
                }
            });
        });
        w.window.desk().live.startBench(program.fileName(), w.job(), {});
        EXPECT_TRUE(QTest::qWaitFor([&] { return channels.size() == 3 && w.window.desk().live.meterReady(); }, 5000));
    }

    /// Sends the same again and again for a while, as fast as the window takes it.
    void flood(const char* channel, const QByteArray& bytes, int ms)
    {
        QElapsedTimer time;
        time.start();
        while (time.elapsed() < ms) {
            QLocalSocket* line = channels.value(channel);
            if (line == nullptr || line->state() != QLocalSocket::ConnectedState)
                break;
            if (line->bytesToWrite() < 1 << 20)
                line->write(bytes);
            QCoreApplication::processEvents();
        }
        QTest::qWait(50);
    }

    QByteArray answer = "{\"ok\":true}\n", reading = "2.5\n";
    QHash<QByteArray, QPointer<QLocalSocket>> channels;

  private:
    QTemporaryDir m_folder;
    QLocalServer m_server;
};

QByteArray frames(int count)
{
    QByteArray out;
    for (int i = 0; i < count; ++i)
        out += link::lineOf(link::frameOf(link::EcuSample{i % 24, i % 4096, 2.5, 300.0F})) + '\n';
    return out;
}

struct Flood
{
    const char* channel;
    QByteArray bytes;
    bool survives; ///< what is well formed is only much
};

TEST(Flood, NothingThatIsSentStallsTheWindow)
{
    const Flood floods[] = {{"can", frames(2000), true},
                            {"can", QByteArray("\n").repeated(100000), false},
                            {"can", QByteArray("can0:\n").repeated(1000), false},
                            {"can", QByteArray(1 << 20, '\xff'), false},
                            {"meter", QByteArray("9.9E37\n").repeated(20000), true},
                            {"meter", QByteArray(1 << 20, 'x'), false},
                            {"control", QByteArray("{\"ok\":true}\n").repeated(20000), false},
                            {"control", QByteArray("{\"error\":\"x\"}\n").repeated(20000), false},
                            {"control", QByteArray(1 << 20, '{'), false}};
    for (const Flood& flood : floods) {
        Window w;
        w.choose("ot");
        w.key(Qt::Key_4, Qt::ControlModifier);
        w.settle();
        FalseBench bench(w);
        const Stalls stalls;
        bench.flood(flood.channel, flood.bytes, 600);
        EXPECT_LT(stalls.longest_ms(), kStall_ms) << flood.channel << " " << flood.bytes.left(20).toStdString();
        std::cout << "longest stall " << stalls.longest_ms() << " ms of CPU: " << flood.channel << " "
                  << flood.bytes.left(10).toHex().toStdString() << '\n';
        if (!flood.survives) {
            EXPECT_FALSE(w.notice().empty()) << flood.channel << " " << flood.bytes.left(20).toStdString();
        }
    }
}

TEST(Flood, WhatTheBenchSaysBesidesDoesNotEither)
{
    const char* const scripts[] = {"yes 'a library complains of a thing' | head -n 2000000 >&2",
                                   "yes '{\"trouble\": \"x.json:1: no such wire\"}' | head -n 200000", "yes nonsense",
                                   "head -c 50000000 /dev/zero"};
    for (const char* script : scripts) {
        Window w;
        FalseBench bench(w, QByteArray("sleep 0.2\n") + script);
        const Stalls stalls;
        QTest::qWait(1200);
        EXPECT_LT(stalls.longest_ms(), kStall_ms) << script;
        std::cout << "longest stall " << stalls.longest_ms() << " ms of CPU: " << script << '\n';
    }
}

TEST(Flood, WrongReadingsAreSaidAndNotRecorded)
{
    for (const char* reading : {"nan\n", "\n", "1e999\n", "2.5 V\n", "\xff\xff\n", "0x10\n"}) {
        Window w;
        w.choose("ot");
        w.key(Qt::Key_4, Qt::ControlModifier);
        w.settle();
        FalseBench bench(w);
        bench.reading = reading;
        const auto before = w.window.desk().store.job();
        w.click("take");
        ASSERT_TRUE(
            QTest::qWaitFor([&] { return w.textOf("verdict").find("not a number") != std::string::npos; }, 5000))
            << reading << w.textOf("verdict");
        EXPECT_EQ(w.window.desk().store.job(), before);
    }
}

} // namespace
} // namespace vicegrip::test
