#include "link/scpi_meter.h"

#include <QSocketNotifier>
#include <QTest>

#include <array>
#include <cstdlib>
#include <fcntl.h>
#include <gmock/gmock.h>
#include <unistd.h>

namespace vicegrip::link {
namespace {

/// An instrument at the far end of a pseudo terminal.
class SerialStub
{
  public:
    explicit SerialStub(QByteArray says)
        : m_answer(std::move(says)), m_master(posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK))
    {
        EXPECT_EQ(grantpt(m_master), 0);
        EXPECT_EQ(unlockpt(m_master), 0);
        m_notifier = std::make_unique<QSocketNotifier>(m_master, QSocketNotifier::Read);
        QObject::connect(m_notifier.get(), &QSocketNotifier::activated, [this] {
            std::array<char, 256> bytes{};
            const ssize_t n = read(m_master, bytes.data(), bytes.size());
            if (n > 0)
                m_heard.append(bytes.data(), n);
            for (qsizetype end = 0; (end = m_heard.indexOf('\n')) >= 0; m_heard.remove(0, end + 1)) {
                const QByteArray answer =
                    m_heard.startsWith("*IDN?") ? QByteArray("Somebody,Serial meter,0,1\r\n") : m_answer;
                EXPECT_EQ(write(m_master, answer.constData(), static_cast<size_t>(answer.size())), answer.size());
            }
        });
    }
    ~SerialStub() { vanish(); }
    SerialStub(const SerialStub&) = delete;
    SerialStub& operator=(const SerialStub&) = delete;

    [[nodiscard]] Address address() const { return SerialAddress{QString::fromLocal8Bit(ptsname(m_master)), 19200}; }
    void vanish()
    {
        m_notifier.reset();
        if (m_master >= 0)
            close(std::exchange(m_master, -1));
    }

  private:
    QByteArray m_answer, m_heard;
    int m_master;
    std::unique_ptr<QSocketNotifier> m_notifier;
};

TEST(SerialMeter, ReadsANumberAndRefusesLetters)
{
    for (const auto& [answer, volts] :
         {std::pair<QByteArray, std::optional<double>>("+2.52013E+00\r\n", 2.52013), {"HELLO\r\n", std::nullopt}}) {
        SerialStub stub(answer);
        ScpiMeter meter;
        std::optional<double> read;
        QString failed;
        QObject::connect(&meter, &ScpiMeter::measured, [&](const job::Reading& r) { read = r.si(); });
        QObject::connect(&meter, &ScpiMeter::failed, [&](const QString& s) { failed = s; });
        meter.open(stub.address());
        ASSERT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Ready; }, 5000))
            << meter.sentence().toStdString();
        meter.measure(job::Condition::KeyOn);
        ASSERT_TRUE(QTest::qWaitFor([&] { return read || !failed.isEmpty(); }, 5000));
        EXPECT_EQ(read, volts);
        EXPECT_EQ(failed.contains(QStringLiteral("not a number")), !volts);
    }
}

TEST(SerialMeter, APortThatVanishesIsSaidAndNothingElseEnds)
{
    SerialStub stub("1\r\n");
    ScpiMeter meter;
    meter.open(stub.address());
    ASSERT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Ready; }, 5000));
    stub.vanish();
    ASSERT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Failed; }, 5000));
    EXPECT_THAT(meter.sentence().toStdString(), testing::HasSubstr("The meter is gone"));
    meter.open(SerialAddress{QStringLiteral("/dev/no-such-port"), 9600});
    ASSERT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Failed; }, 5000));
}

TEST(Address, IsReadAsPeopleWriteIt)
{
    const auto network = [](const char* typed) { return std::get<NetworkAddress>(*addressOf(QLatin1String(typed))); };
    EXPECT_EQ(network("192.168.1.20").port, 5025);
    EXPECT_EQ(network("meter.local:1234").host, QStringLiteral("meter.local"));
    EXPECT_EQ(network("meter.local:1234").port, 1234);
    EXPECT_EQ(network("  fe80::1 ").host, QStringLiteral("fe80::1"));
    const auto serial = [](const char* typed) { return std::get<SerialAddress>(*addressOf(QLatin1String(typed))); };
    EXPECT_EQ(serial("ttyUSB0").baud, 9600);
    EXPECT_EQ(serial("/dev/ttyACM1, 115200").port, QStringLiteral("/dev/ttyACM1"));
    EXPECT_EQ(serial("/dev/ttyACM1, 115200").baud, 115200);
    for (const char* wrong :
         {"", "   ", "meter:", "meter:0", "meter:99999", "a b", "a b c", "ttyUSB0 fast", "ttyS0 0", "<x>"})
        EXPECT_FALSE(addressOf(QLatin1String(wrong))) << wrong;
}

} // namespace
} // namespace vicegrip::link
