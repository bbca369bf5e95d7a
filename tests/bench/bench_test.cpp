#include "bench/car.h"
#include "bench/control.h"
#include "bench/scpi.h"
#include "core/scaling/budget.h"
#include "tests/support/petrel.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLocalSocket>
#include <QProcess>
#include <QSet>

#include <cmath>
#include <gmock/gmock.h>
#include <thread>

namespace vicegrip::bench {
namespace {

QByteArray handsDo(Car& car, const QByteArray& request)
{
    Drives drives;
    return control(car, drives, request);
}

using job::Condition;
using job::PointRef;
using testing::HasSubstr;

TEST(Car, AHealthyCarReadsWhatWasPromisedEverywhere)
{
    const auto a = test::analysed(test::petrel());
    for (unsigned seed = 1; seed <= 5; ++seed) {
        Car car(test::petrel(), {}, seed);
        for (const auto& [condition, ohms] : {std::pair(Condition::KeyOn, false), {Condition::BatteryOff, true}}) {
            ASSERT_TRUE(car.setCondition(condition));
            for (const auto& view : a.circuits) {
                for (const proof::Judged& j : analysis::promised(a, view.id, condition)) {
                    const proof::Expectation& e = j.expectation;
                    if (e.station.kind != proof::StationKind::Probe || !e.promises())
                        continue;
                    ASSERT_TRUE(car.putProbes(e.station.point, e.blackPoint));
                    const auto shown = ohms ? car.ohms() : car.volts();
                    const auto dimension = e.due.dimension();
                    const auto reading = shown ? job::Reading::of(*shown, dimension, condition)
                                               : job::Reading::beyond(dimension, condition);
                    EXPECT_TRUE(e.allows(reading)) << view.id.value << " " << e.station.label << " seed " << seed
                                                   << ": " << proof::verdictText(e, reading);
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
        ASSERT_TRUE(car.apply({"flex"}, content));
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
        faults::FaultList faults;
        for (const job::Wire& w : job.wires)
            if (w.from == pin || w.to == pin)
                faults.push_back(faults::OpenWire{w.id});
        ASSERT_FALSE(faults.empty());
        Car car(job, faults);
        const auto pulses = pulsesOf(car, job, "flex");
        ASSERT_TRUE(pulses);
        EXPECT_EQ(pulses->hz, 0) << static_cast<int>(role);
    }
}

/// Ten values over the range, set by hands, come back through the table that was handed over, each within the
/// error its budget states and a step of the value.
TEST(Car, ValuesComeBackWithinTheirBudget)
{
    job::Job job = test::petrel();
    for (const char* id : {"clt", "iat", "ot"}) {
        job::Circuit& c = *job::find(job, job::CircuitId{id});
        c.scaling.breakpoints = job::Breakpoints::Best;
        c.scaling.inputStep = 0.001;
    }
    const auto a = test::analysed(job);
    Car car(job, {}, 3);
    for (const char* id : {"clt", "iat", "ot", "map", "fp", "tps"}) {
        const job::Circuit& c = *job::find(job, job::CircuitId{id});
        const parts::Part& sensor = *job::sensorOf(job, c);
        const scaling::Table& table = *analysis::find(a, c.id)->table;
        const int input = *job::inputIndex(job, c.input);
        car.accept(link::tableFor(input, table, sensor.measures));
        for (int i = 0; i < 10; ++i) {
            const double value = std::lerp(c.scaling.low, c.scaling.high, (i + 0.5) / 10);
            ASSERT_TRUE(car.apply(c.id, value));
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
    EXPECT_FALSE(car.apply({"nothing"}, 1));
    EXPECT_FALSE(car.apply({"clt"}, std::nan("")));
    EXPECT_FALSE(car.setAmbient(5));
    EXPECT_TRUE(car.putProbes(PointRef::fromText("A.7"), PointRef::fromText("BAT-")));
}

TEST(Car, HotterCoolantLowersTheInput)
{
    Car car(test::petrel(), {});
    const double cold = car.samples()[2].volts;
    ASSERT_TRUE(car.apply({"clt"}, 353.15));
    EXPECT_LT(car.samples()[2].volts, cold - 1);
}

// SCPI-99 and IEEE 488.2: forms, case, error queue, overload 9.9E37.
TEST(Scpi, SpeaksAsTheStandardHasIt)
{
    Car car(test::petrel(), {});
    ASSERT_TRUE(car.putProbes(PointRef::fromText("A.7"), PointRef::fromText("BAT-")));
    Multimeter scpi(car);
    EXPECT_EQ(scpi.execute("*idn?").value(0).bytes.count(','), 3);
    for (const char* form : {"MEAS:VOLT:DC?", "measure:voltage:dc?", ":MEAS:VOLT?"})
        EXPECT_NEAR(scpi.execute(form).value(0).bytes.toDouble(), 2.51, 0.2) << form;
    EXPECT_EQ(scpi.execute("SYST:ERR?").value(0).bytes, "0,\"No error\"");
    EXPECT_TRUE(scpi.execute("DANCE").isEmpty());
    EXPECT_EQ(scpi.execute("SYST:ERR?").value(0).bytes, "-113,\"Undefined header\"");
    EXPECT_EQ(scpi.execute("SYST:ERR?").value(0).bytes, "0,\"No error\"");
    EXPECT_DOUBLE_EQ(scpi.execute("MEAS:RES?").value(0).bytes.toDouble(), 9.9e37) << "live: not to be measured in ohm";
    EXPECT_EQ(scpi.execute("*RST;*IDN?;SYST:ERR?").size(), 2);
    EXPECT_TRUE(scpi.execute(";;;").isEmpty());
}

/// A mend takes away what it touches, stays through another drawing, and no other fault goes with it.
TEST(Bench, AMendTakesItsFaultAway)
{
    const faults::FaultList faults = {faults::OpenWire{{"w20"}}, faults::OpenWire{{"w2"}}};
    Car car(test::petrel(), faults);
    const auto volts = [&](const char* at) {
        EXPECT_TRUE(car.putProbes(job::PointRef::fromText(at), job::PointRef::fromText("BAT-")));
        return car.volts().value_or(-1);
    };
    EXPECT_LT(volts("FP.3"), 1);
    EXPECT_EQ(handsDo(car, R"({"mended": [["wire w9"]]})"), R"({"ok":true})");
    EXPECT_LT(volts("FP.3"), 1);
    EXPECT_EQ(handsDo(car, R"({"mended": [["wire w9"], ["circuit fp", "wire w20"]]})"), R"({"ok":true})");
    EXPECT_NEAR(volts("FP.3"), 5, 0.1);
    const double mapOpen = volts("A.5");
    EXPECT_TRUE(car.rewire(test::petrel(), faults));
    EXPECT_NEAR(volts("FP.3"), 5, 0.1) << "what hands have done stays";
    EXPECT_NEAR(volts("A.5"), mapOpen, 0.01) << "the other fault is still there";
    EXPECT_TRUE(car.rewire(test::petrel(), {faults::OpenWire{{"w20"}}}));
    EXPECT_LT(volts("FP.3"), 1) << "another list: nobody has mended of it";
}

/// Undone, a mend is broken again; and the ECU's table with it.
TEST(Bench, AMendThatIsUndoneIsBrokenAgain)
{
    const faults::FaultList faults = {faults::OpenWire{{"w20"}}, faults::HeldTable{{"AN3"}, {{0.5, 10}, {4.5, 20}}}};
    Car car(test::petrel(), faults);
    car.takeUpTables();
    const auto value = [&] {
        for (const link::EcuSample& s : car.samples())
            if (s.input == job::inputIndex(car.job(), {"AN3"}))
                return s.value.value_or(-1);
        return -2.0;
    };
    const double held = value();
    EXPECT_NEAR(held, 15, 0.5) << "half way";
    EXPECT_EQ(handsDo(car, R"({"mended": [["wire w20"], ["scaling clt"]]})"), R"({"ok":true})");
    EXPECT_TRUE(car.putProbes(job::PointRef::fromText("FP.3"), job::PointRef::fromText("BAT-")));
    EXPECT_NEAR(car.volts().value_or(-1), 5, 0.1);
    EXPECT_NEAR(value(), 22, 3) << "the table that is drawn: a cold engine";
    EXPECT_EQ(handsDo(car, R"({"mended": []})"), R"({"ok":true})");
    EXPECT_LT(car.volts().value_or(-1), 1);
    EXPECT_NEAR(value(), held, 0.5);
    EXPECT_EQ(handsDo(car, R"({"mended": [["wire w1"], ["wire w20", "wire w2"]]})"), R"({"ok":true})");
    EXPECT_NEAR(car.volts().value_or(-1), 5, 0.1);
}

/// An input that is set to another kind of signal is not sent; the others are.
/// By hand a tooth before the sensor pulls its line down; 36-1 has one every 10 degrees, and none at 350.
TEST(Bench, HandsTurnTheCrankPastItsSensor)
{
    Car car(test::petrel(), {});
    ASSERT_TRUE(car.putProbes(job::PointRef::fromText("CRANK.2"), job::PointRef::fromText("BAT-")));
    const auto at = [&](double deg) {
        EXPECT_EQ(handsDo(car, QByteArray("{\"turned_deg\": ") + QByteArray::number(deg) + "}"), R"({"ok":true})");
        return car.volts().value_or(-1);
    };
    const auto pulled = [&](double deg) { return at(deg) < 0.25; }; // common practice, no source
    EXPECT_TRUE(pulled(2.5));
    EXPECT_FALSE(pulled(7.5));
    EXPECT_TRUE(pulled(342.5));
    EXPECT_FALSE(pulled(352.5)) << "the gap";
    EXPECT_TRUE(pulled(362.5)) << "a turn later";
    EXPECT_TRUE(pulled(-357.5));
    EXPECT_FALSE(car.turn(std::nan("")));
    ASSERT_TRUE(car.rewire(test::petrel(), {faults::WheelOff{{"crank"}, 2.9e-3, 0.6e-3, {19}}}));
    EXPECT_FALSE(pulled(2.5)) << "farthest at the first tooth: 3.2 mm";
    EXPECT_TRUE(pulled(172.5)) << "2.6 mm";
    EXPECT_FALSE(pulled(182.5)) << "chipped";
    ASSERT_TRUE(car.rewire(test::petrel(), {faults::SwappedCavities{"CRANK", {"1", "3"}}}));
    EXPECT_FALSE(pulled(2.5)) << "its supply is where its ground belongs";
    ASSERT_TRUE(car.setCondition(job::Condition::Running));
    EXPECT_EQ(handsDo(car, R"({"turned_deg": 5})"), R"({"ok":true})") << "it does not run without its trigger";
    ASSERT_TRUE(car.rewire(test::petrel(), {}));
    EXPECT_TRUE(car.runs());
    EXPECT_NE(handsDo(car, R"({"turned_deg": 5})"), R"({"ok":true})") << "it turns by itself";
}

/// Refused with a sentence: without a file, while nothing runs, while one is under way; and a file that cannot be
/// written is said once it is driven.
TEST(Bench, IsDrivenOnlyWhileItRuns)
{
    Car car(test::petrel(), {});
    Drives drives;
    const auto asks = [&](const QByteArray& request) { return control(car, drives, request).toStdString(); };
    EXPECT_THAT(asks(R"({"driven": true})"), HasSubstr("nothing has been driven"));
    EXPECT_THAT(asks(R"({"drive": ""})"), HasSubstr("logged to a file"));
    EXPECT_THAT(asks(R"({"drive": "/nowhere/at/all.csv"})"), HasSubstr("does not run"));
    ASSERT_TRUE(car.setCondition(job::Condition::Running));
    EXPECT_THAT(asks(R"({"drive": "/nowhere/at/all.csv"})"), HasSubstr("\"ok\":true"));
    EXPECT_THAT(asks(R"({"drive": "/nowhere/else.csv"})"), HasSubstr("already"));
    std::string way;
    while ((way = asks(R"({"driven": true})")).find("\"done\":false") != std::string::npos)
        std::this_thread::yield();
    EXPECT_THAT(way, HasSubstr("error"));
    EXPECT_TRUE(car.runs()) << "it idles on meanwhile";
    EXPECT_EQ(car.engine().plant().speed_m_s(), 0);
}

TEST(Bench, SaysNothingOfAnInputThatIsSetOtherwise)
{
    const auto sent = [](const faults::FaultList& faults) {
        Car car(test::petrel(), faults);
        std::set<int> out;
        for (const link::EcuSample& s : car.samples())
            out.insert(s.input);
        return out;
    };
    auto all = sent({});
    const auto but = sent({faults::WrongMode{{"AN3"}, parts::InputMode::Switch}});
    EXPECT_EQ(all.erase(*job::inputIndex(test::petrel(), {"AN3"})), 1U);
    EXPECT_EQ(but, all);
}

/// A loose wire lets go under hands, at the rate it is said to, and hardly ever else; mended it never does.
TEST(Control, WhatIsLooseLetsGoWhileHandsMoveIt)
{
    const job::Job job = test::petrel();
    const auto loose = faults::readFaults(R"({"faults": [{"kind": "loose", "wire": "w20", "at": "FP.3"}]})", job);
    ASSERT_TRUE(loose.has_value()) << loose.error().text();
    EXPECT_EQ(faults::writeFaults(*faults::readFaults(faults::writeFaults(*loose), job)), faults::writeFaults(*loose));
    EXPECT_FALSE(faults::readFaults(R"({"faults": [{"kind": "loose", "wire": "w20", "at": "A.1"}]})", job).has_value());
    Car car(job, *loose);
    ASSERT_TRUE(car.putProbes(job::PointRef::fromText("FP.3"), job::PointRef::fromText("BAT-")));
    const auto dropOuts = [&](const char* hands, int seconds) {
        EXPECT_EQ(handsDo(car, hands), R"({"ok":true})");
        int count = 0;
        bool was = false;
        for (int i = 0; i < seconds * 50; ++i) {
            car.pass(0.02);
            const bool is = *car.volts() < 2.5; // the supply of the sensor
            count += is && !was ? 1 : 0;
            was = is;
        }
        return count;
    };
    EXPECT_LE(dropOuts(R"({"hands": []})", 60), 5);
    EXPECT_LE(dropOuts(R"({"hands": ["A", "wire w20"]})", 60), 5) << "elsewhere, and along the wire";
    const int moved = dropOuts(R"({"hands": ["FP"]})", 60);
    EXPECT_GT(moved, 35);
    EXPECT_LT(moved, 100) << "about one in 0.92 s";
    EXPECT_EQ(handsDo(car, R"({"mended": [["wire w20"]]})"), R"({"ok":true})");
    EXPECT_EQ(dropOuts(R"({"hands": ["FP"]})", 60), 0);
}

TEST(Control, RefusesNonsenseWithASentence)
{
    Car car(test::petrel(), {});
    EXPECT_EQ(handsDo(car, R"({"condition": "battery-off"})"), R"({"ok":true})");
    for (const char* request : {"", "[]", "{}", "{\"condition\": \"driving\"}", "{\"measurand\": {\"clt\": \"hot\"}}",
                                "{\"red\": \"A.7\"}", "{\"ambient_k\": 1e9}", "\xff\xff"})
        EXPECT_TRUE(QJsonDocument::fromJson(handsDo(car, request)).object().contains(QStringLiteral("error")))
            << request;
}

} // namespace
} // namespace vicegrip::bench
