#include "bench/car.h"
#include "bench/control.h"
#include "bench/scpi.h"
#include "core/scaling/budget.h"
#include "tests/support/petrel.h"

#include <QFile>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>

#include <cmath>
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
    car.takeUpTables();
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

job::Job curlew()
{
    auto job = job::readFile(std::string(VICEGRIP_SOURCE_DIR) + "/data/jobs/curlew.vicegrip");
    EXPECT_TRUE(job) << job.error().text();
    return *job;
}

std::optional<link::EcuPulses> pulsesOf(Car& car, const job::Job& job, const char* circuit)
{
    const auto input = job::inputIndex(job, job::find(job, job::CircuitId{circuit})->input);
    for (const link::EcuPulses& p : car.pulses())
        if (p.input == *input)
            return p;
    return std::nullopt;
}

TEST(Car, AFlexSensorTellsContentAndTemperature)
{
    const job::Job job = curlew();
    Car car(job, {});
    for (const double content : {0.09, 0.39, 0.85}) {
        ASSERT_TRUE(car.feel({"flex"}, content));
        const auto pulses = pulsesOf(car, job, "flex");
        ASSERT_TRUE(pulses);
        EXPECT_NEAR(pulses->hz, 50 + 100 * content, 0.2);
        EXPECT_NEAR(pulses->low_s, 1e-3 + (job.surroundings.ambient_k - 233.15) / 41.25e3, 2e-5) << "41.25 K a ms";
    }
    ASSERT_TRUE(car.setCondition(Condition::BatteryOff));
    EXPECT_FALSE(pulsesOf(car, job, "flex"));
}

TEST(Car, AFlexSensorOffItsSupplyOrGroundGivesNoPulses)
{
    const job::Job job = curlew();
    for (const parts::PinRole role : {parts::PinRole::Signal, parts::PinRole::Supply, parts::PinRole::Ground}) {
        const job::Circuit& flex = *job::find(job, job::CircuitId{"flex"});
        const job::Device& device = *job::find(job, flex.device);
        const job::PointRef pin{device.connector, parts::cavityOf(*job::sensorOf(job, flex), role)};
        electrics::FaultSheet faults;
        for (const job::Wire& w : job.wires)
            if (w.from == pin || w.to == pin)
                faults.push_back(electrics::OpenWire{w.id});
        ASSERT_FALSE(faults.empty());
        Car car(job, faults);
        const auto pulses = pulsesOf(car, job, "flex");
        ASSERT_TRUE(pulses);
        EXPECT_EQ(pulses->hz, 0) << static_cast<int>(role);
    }
}

/// Ten values over the range, felt by hands, come back through the table that was handed over, each within the error
/// its budget states and a step of the value.
TEST(Car, ValuesComeBackWithinTheirBudget)
{
    job::Job job = test::petrel();
    for (const char* id : {"clt", "iat", "ot"}) {
        job::Circuit& c = *job::find(job, job::CircuitId{id});
        c.scaling.knots = job::Knots::Best;
        c.scaling.inputStep = 0.001;
    }
    const auto a = test::analysed(job);
    Car car(job, {}, 3);
    for (const char* id : {"clt", "iat", "ot", "map", "fp", "tps"}) {
        const job::Circuit& c = *job::find(job, job::CircuitId{id});
        const parts::Sensor& sensor = *job::sensorOf(job, c);
        const scaling::Table& table = *analysis::find(a, c.id)->table;
        const int input = *job::inputIndex(job, c.input);
        car.accept(link::tableFor(input, table, sensor.measures));
        for (int i = 0; i < 10; ++i) {
            const double value = std::lerp(c.scaling.low, c.scaling.high, (i + 0.5) / 10);
            ASSERT_TRUE(car.feel(c.id, value));
            const auto sample = car.samples().at(static_cast<size_t>(input));
            ASSERT_TRUE(sample.value);
            const auto budget = scaling::budgetAt(job, c, table, value);
            ASSERT_TRUE(budget) << budget.error().text();
            const double shown = units::fromUnit(*sample.value, sensor.measures, sensor.unit);
            const double step = units::fromUnit(c.scaling.outputStep, sensor.measures, sensor.unit) -
                                units::fromUnit(0, sensor.measures, sensor.unit);
            EXPECT_LE(std::abs(shown - value), budget->worst + step) << id << " at " << value;
        }
    }
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
