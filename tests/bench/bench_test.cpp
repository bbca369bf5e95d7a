#include "bench/car.h"
#include "bench/control.h"
#include "bench/scpi.h"
#include "tests/support/petrel.h"

#include <QFile>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>

#include <gmock/gmock.h>

namespace vicegrip::bench {
namespace {

using job::Condition;
using job::PointRef;

TEST(Car, AHealthyCarReadsWhatWasPromisedEverywhere)
{
    const auto a = test::analysed(test::petrel());
    for (unsigned seed = 1; seed <= 5; ++seed) {
        Car car(test::petrel(), {}, seed);
        for (const auto& [condition, ohms] : {std::pair(Condition::KeyOn, false), {Condition::BatteryOff, true}}) {
            ASSERT_TRUE(car.setCondition(condition));
            for (const auto& view : a.circuits) {
                for (const proof::Judged& j : analysis::stations(view, condition)) {
                    const proof::Expectation& e = j.expectation;
                    if (e.station.kind != proof::StationKind::Probe || !e.promises())
                        continue;
                    ASSERT_TRUE(car.putProbes(e.station.point, e.blackPoint));
                    const double reading = ohms ? car.ohms().value_or(1e9) : car.volts().value_or(1e9);
                    EXPECT_GE(reading, e.low) << view.id.value << " " << e.station.label << " seed " << seed;
                    if (e.high < 20e6) {
                        EXPECT_LE(reading, e.high) << view.id.value << " " << e.station.label << " seed " << seed;
                    }
                }
            }
        }
    }
}

TEST(Car, TheEcuSendsWhatWasPromised)
{
    const auto a = test::analysed(test::petrel());
    Car car(test::petrel(), {});
    car.acceptProvedTables();
    const auto samples = car.samples();
    ASSERT_EQ(samples.size(), 24U);
    EXPECT_GE(samples[0].volts, test::at(a, "map", "input").expectation.low);
    EXPECT_LE(samples[0].volts, test::at(a, "map", "input").expectation.high);
    ASSERT_TRUE(samples[0].value) << "the job has its table on record";
    EXPECT_NEAR(*samples[0].value, 98.4, 4);
    EXPECT_FALSE(samples[2].value);
    ASSERT_TRUE(car.setCondition(Condition::BatteryOff));
    EXPECT_TRUE(car.samples().empty());
}

TEST(Car, HandsAreRefusedWhatIsNotThere)
{
    Car car(test::petrel(), {});
    EXPECT_FALSE(car.putProbes(PointRef::fromText("A.99"), PointRef::fromText("BAT-")));
    EXPECT_FALSE(car.feel({"nothing"}, 1));
    EXPECT_FALSE(car.feel({"clt"}, std::nan("")));
    EXPECT_FALSE(car.setAmbient(5));
    EXPECT_TRUE(car.putProbes(PointRef::fromText("A.7"), PointRef::fromText("BAT-")));
}

TEST(Car, HotterCoolantLowersTheInput)
{
    Car car(test::petrel(), {});
    const double cold = car.samples()[2].volts;
    ASSERT_TRUE(car.feel({"clt"}, 353.15));
    EXPECT_LT(car.samples()[2].volts, cold - 1);
}

// SCPI-99 and IEEE 488.2: forms, case, error queue, overload 9.9E37.
TEST(Scpi, SpeaksAsTheStandardHasIt)
{
    Car car(test::petrel(), {});
    ASSERT_TRUE(car.putProbes(PointRef::fromText("A.7"), PointRef::fromText("BAT-")));
    ScpiInterpreter scpi(car);
    EXPECT_EQ(scpi.execute("*idn?").value(0).count(','), 3);
    for (const char* form : {"MEAS:VOLT:DC?", "measure:voltage:dc?", ":MEAS:VOLT?"})
        EXPECT_NEAR(scpi.execute(form).value(0).toDouble(), 2.51, 0.2) << form;
    EXPECT_EQ(scpi.execute("SYST:ERR?").value(0), "0,\"No error\"");
    EXPECT_TRUE(scpi.execute("DANCE").isEmpty());
    EXPECT_EQ(scpi.execute("SYST:ERR?").value(0), "-113,\"Undefined header\"");
    EXPECT_EQ(scpi.execute("SYST:ERR?").value(0), "0,\"No error\"");
    EXPECT_DOUBLE_EQ(scpi.execute("MEAS:RES?").value(0).toDouble(), 9.9e37) << "live: not to be measured in ohm";
    EXPECT_EQ(scpi.execute("*RST;*IDN?;SYST:ERR?").size(), 2);
    EXPECT_TRUE(scpi.execute(";;;").isEmpty());
}

TEST(Control, RefusesNonsenseWithASentence)
{
    Car car(test::petrel(), {});
    EXPECT_EQ(control(car, R"({"condition": "battery-off"})"), R"({"ok":true})");
    for (const char* request : {"", "[]", "{}", "{\"condition\": \"driving\"}", "{\"feel\": {\"clt\": \"hot\"}}",
                                "{\"red\": \"A.7\"}", "{\"ambient_k\": 1e9}", "\xff\xff"})
        EXPECT_TRUE(QJsonDocument::fromJson(control(car, request)).object().contains(QStringLiteral("error")))
            << request;
}

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

TEST(BenchProcess, ListensOnLoopbackOnly)
{
    Process bench;
    const QJsonObject said = bench.announcement();
    QList<int> ports{said.value(QStringLiteral("meter")).toInt(), said.value(QStringLiteral("control")).toInt(),
                     said.value(QStringLiteral("can"))
                         .toString()
                         .section(QLatin1Char(':'), 2)
                         .section(QLatin1Char('/'), 0, 0)
                         .toInt()};
    QFile table(QStringLiteral("/proc/net/tcp"));
    ASSERT_TRUE(table.open(QIODevice::ReadOnly));
    const QByteArray sockets = table.readAll();
    for (int port : ports) {
        const QByteArray hex = QByteArray::number(port, 16).rightJustified(4, '0').toUpper();
        EXPECT_TRUE(sockets.contains("0100007F:" + hex)) << port;
        EXPECT_FALSE(sockets.contains("00000000:" + hex + " 00000000:0000 0A")) << port << " listens on every address";
    }
    QFile six(QStringLiteral("/proc/net/tcp6"));
    if (six.open(QIODevice::ReadOnly)) {
        const QByteArray sockets6 = six.readAll();
        for (int port : ports)
            EXPECT_FALSE(sockets6.contains("00000000000000000000000000000000:" +
                                           QByteArray::number(port, 16).rightJustified(4, '0').toUpper()));
    }
    bench.closeWriteChannel();
    EXPECT_TRUE(bench.waitForFinished(5000)) << "it ends when its standard input closes";
    EXPECT_EQ(bench.exitCode(), 0);
}

TEST(BenchProcess, SaysWhatIsWrongWithItsFiles)
{
    QProcess bench;
    bench.start(QStringLiteral(VICEGRIP_BENCH), {QStringLiteral("/nowhere.vicegrip")});
    ASSERT_TRUE(bench.waitForFinished(5000));
    EXPECT_EQ(bench.exitCode(), 3);
    EXPECT_THAT(bench.readAllStandardError().toStdString(),
                testing::HasSubstr("/nowhere.vicegrip: the file cannot be opened"));
}

} // namespace
} // namespace vicegrip::bench
