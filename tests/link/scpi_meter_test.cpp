#include "link/scpi_meter.h"
#include "tests/support/fake_meter.h"

#include <QSignalSpy>
#include <QTest>

#include <gmock/gmock.h>

namespace vicegrip::link {
namespace {

using test::FakeMeter;

struct Asked
{
    std::optional<job::Reading> reading;
    std::string sentence;
};

Asked ask(const QByteArray& answer, job::Condition condition = job::Condition::KeyOn)
{
    FakeMeter fake(answer);
    ScpiMeter meter;
    Asked asked;
    QObject::connect(&meter, &ScpiMeter::measured, [&](const job::Reading& r) { asked.reading = r; });
    QObject::connect(&meter, &ScpiMeter::failed, [&](const QString& s) { asked.sentence = s.toStdString(); });
    meter.open(fake.address());
    EXPECT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Ready; }, 3000));
    meter.measure(condition);
    EXPECT_TRUE(QTest::qWaitFor([&] { return asked.reading || !asked.sentence.empty(); }, 5000));
    return asked;
}

TEST(ScpiMeter, ReadsANumber)
{
    EXPECT_DOUBLE_EQ(ask("+2.52013000E+00\n").reading->si(), 2.52013);
    EXPECT_DOUBLE_EQ(ask("  -0.5\r\n").reading->si(), -0.5);
}

/// SCPI-99, 7.2.1.5: 9.9E37 is infinity, -9.9E37 its negative, 9.91E37 no number. Many meters count in single
/// precision.
TEST(ScpiMeter, AnOverloadIsOpenInOhmAndNoVoltsElsewhere)
{
    using job::Condition;
    using units::Dimension;
    for (const char* overload : {"9.9E37\n", "+9.90000000E+37\n", "-9.9E+37\n", "9.8999998E37\n", "9.9000003E+37\n"}) {
        EXPECT_EQ(*ask(overload).reading, job::Reading::beyond(Dimension::Voltage, Condition::KeyOn)) << overload;
        EXPECT_EQ(*ask(overload, Condition::BatteryOff).reading,
                  job::Reading::beyond(Dimension::Resistance, Condition::BatteryOff))
            << overload;
    }
    EXPECT_EQ(*ask("1.5E+06\n", Condition::BatteryOff).reading,
              job::Reading::of(1.5e6, Dimension::Resistance, Condition::BatteryOff));
    EXPECT_THAT(ask("9.91E+37\n").sentence, testing::HasSubstr("not a number"));
}

TEST(ScpiMeter, GarbageSilenceAndFloodAreSentences)
{
    EXPECT_THAT(ask("hello\n").sentence, testing::HasSubstr("\"hello\", which is not a number"));
    EXPECT_THAT(ask("nan\n").sentence, testing::HasSubstr("not a number"));
    EXPECT_THAT(ask("\n").sentence, testing::HasSubstr("not a number"));
    EXPECT_THAT(ask("").sentence, testing::HasSubstr("did not answer"));
    EXPECT_FALSE(ask(QByteArray(200000, 'x')).sentence.empty());
}

TEST(ScpiMeter, OneThatTakesTheLineAndStaysMuteIsGivenUp)
{
    QTcpServer mute;
    ASSERT_TRUE(mute.listen(QHostAddress::LocalHost));
    ScpiMeter meter;
    meter.open(NetworkAddress{QStringLiteral("127.0.0.1"), mute.serverPort()});
    EXPECT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Failed; }, 5000));
}

TEST(ScpiMeter, AReadingIsAnsweredWhateverEndsTheLine)
{
    for (const bool anew : {false, true}) {
        FakeMeter fake("");
        ScpiMeter meter;
        QString said;
        QObject::connect(&meter, &ScpiMeter::failed, [&](const QString& s) { said = s; });
        meter.open(fake.address());
        ASSERT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Ready; }, 3000));
        meter.measure(job::Condition::BatteryOff);
        anew ? meter.open(fake.address()) : meter.close();
        EXPECT_FALSE(said.isEmpty());
    }
}

TEST(ScpiMeter, HangingUpIsSaid)
{
    FakeMeter fake("1\n");
    ScpiMeter meter;
    meter.open(fake.address());
    ASSERT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Ready; }, 3000));
    fake.hangUp();
    EXPECT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Failed; }, 3000));
}

TEST(ScpiMeter, NobodyThereIsSaid)
{
    ScpiMeter meter;
    QString said;
    QObject::connect(&meter, &ScpiMeter::stateChanged, [&](ScpiMeter::State, const QString& s) { said = s; });
    meter.open(NetworkAddress{QStringLiteral("127.0.0.1"), 1});
    EXPECT_TRUE(QTest::qWaitFor([&] { return meter.state() == ScpiMeter::State::Failed; }, 3000));
    EXPECT_FALSE(said.isEmpty());
}

} // namespace
} // namespace vicegrip::link
