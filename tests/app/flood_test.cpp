#include "link/bench_bus.h"
#include "tests/support/fake_bench.h"
#include "tests/support/stalls.h"
#include "tests/support/window.h"

#include <QLocalSocket>
#include <QPointer>

#include <gmock/gmock.h>
#include <iostream>

/// False instruments before the real window: whatever they send, and however much, the window stays alive under the
/// hand.
namespace vicegrip::test {
namespace {

/// A bench whose every channel the test holds, and whose standard output is a script's.
class FalseBench
{
  public:
    explicit FalseBench(Window& w, const QByteArray& script = {}) : fake(link::FakeBench::said(m_door.path()) + script)
    {
        QObject::connect(&m_door.server, &QLocalServer::newConnection, [this] {
            QLocalSocket* line = m_door.server.nextPendingConnection();
            QObject::connect(line, &QLocalSocket::readyRead, line, [this, line] { answerOn(line); });
        });
        w.window.desk().live.startBench(fake.program(), w.job(), {});
        EXPECT_TRUE(QTest::qWaitFor([&] { return channels.size() == 3 && w.window.desk().live.meterReady(); }, 20000));
    }

    /// Sends the same again and again, as fast as the window takes it: so much, or until it hangs up.
    void flood(const char* channel, const QByteArray& bytes)
    {
        constexpr qint64 kMuch = 8 << 20, kAtOnce = 1 << 20;
        const QPointer<QLocalSocket> line = channels.value(channel);
        const auto isOpen = [&] { return line != nullptr && line->state() == QLocalSocket::ConnectedState; };
        for (qint64 sent = 0; isOpen() && sent < kMuch; sent += bytes.size()) {
            line->write(bytes);
            EXPECT_TRUE(QTest::qWaitFor([&] { return !isOpen() || line->bytesToWrite() < kAtOnce; }, 10000));
        }
        EXPECT_TRUE(QTest::qWaitFor([&] { return !isOpen() || line->bytesToWrite() == 0; }, 10000));
    }

  private:
    void answerOn(QLocalSocket* line)
    {
        while (line->canReadLine()) {
            const QByteArray text = line->readLine().trimmed();
            if (text.startsWith("n "))
                channels.insert(text.mid(2), line);
            else if (line == channels.value("control"))
                line->write("{\"ok\":true}\n");
            else if (line == channels.value("meter"))
                line->write(text == "*IDN?" ? QByteArray("Somebody,Meter,0,1\n") : reading);
        }
    }

    link::FakeDoor m_door;

  public:
    link::FakeBench fake;
    QByteArray reading = "2.5\n";
    QHash<QByteArray, QPointer<QLocalSocket>> channels;
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
        bench.flood(flood.channel, flood.bytes);
        if (!flood.survives) {
            EXPECT_TRUE(QTest::qWaitFor([&] { return !w.notice().empty(); }, 20000))
                << flood.channel << " " << flood.bytes.left(20).toStdString();
        }
        EXPECT_LT(stalls.longest(), kStall) << flood.channel << " " << flood.bytes.left(20).toStdString();
        std::cout << "longest stall " << stalls.longest_ms() << " ms of CPU: " << flood.channel << " "
                  << flood.bytes.left(10).toHex().toStdString() << '\n';
    }
}

TEST(Flood, WhatTheBenchSaysBesidesDoesNotEither)
{
    const std::pair<const char*, const char*> scripts[] = {
        {"yes 'a library complains of a thing' | head -n 2000000 >&2; echo '{\"trouble\": \"that was it\"}'",
         "that was it"},
        {"yes '{\"trouble\": \"x.json:1: no such wire\"}' | head -n 200000; echo '{\"trouble\": \"that was it\"}'",
         "that was it"},
        {"yes nonsense", "nobody understands"},
        {"head -c 50000000 /dev/zero", "nobody understands"}};
    for (const auto& [script, end] : scripts) {
        Window w;
        const FalseBench bench(w, link::FakeBench::kUntilTold + script);
        const Stalls stalls;
        bench.fake.tell();
        EXPECT_TRUE(QTest::qWaitFor([&] { return w.notice().find(end) != std::string::npos; }, 20000)) << script;
        EXPECT_LT(stalls.longest(), kStall) << script;
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
