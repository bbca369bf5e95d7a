#include "core/harness/resistors.h"
#include "core/scaling/transfer.h"
#include "tests/support/scale.h"

#include <QComboBox>
#include <QPlainTextEdit>

#include <gmock/gmock.h>

/// From sensors to numbers that are true, on Petrel and on Curlew, as an installer goes through it.
namespace vicegrip::test {
namespace {

using testing::HasSubstr;

bool becomesText(Window& w, const char* label, const char* part, int ms = 8000)
{
    return QTest::qWaitFor([&] { return w.textOf(label).find(part) != std::string::npos; }, ms);
}

/// A thermistor on an outside pull-up, a pressure sensor whose ECU line is a gauge one, and the throttle; then every
/// table in the ECU, true at ten places each.
TEST(ScaleDone, PetrelsInputsComeBackTrueAtTenPlacesEach)
{
    Window w;
    w.setFaults(R"([{"kind": "held-table", "input": "AN1", "points": [[0.5, -101.3], [4.5, 198.7]]}])");
    w.startBench();

    goTo(w, "iat");
    w.type(w.find<QLineEdit>("pull-up"), "none"); // the resistor is outside, in the loom
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Pull-up in the loom"), [](job::Job& job) {
        EXPECT_TRUE(harness::addPullUp(job, job::CircuitId{"iat"}, 1000, 0.01));
    }));
    w.settle();
    ASSERT_TRUE(analysis::find(*w.window.desk().store.analysis(), {"iat"})->table);
    w.type(w.find<QLineEdit>("input-step"), "1 mV");
    auto* breakpoints = w.find<QComboBox>("breakpoints");
    breakpoints->setCurrentIndex(static_cast<int>(job::Breakpoints::Best));
    emit breakpoints->activated(static_cast<int>(job::Breakpoints::Best));
    w.settle();

    goTo(w, "map");
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QLabel>("mix-up")->isVisible(); }, 5000));
    EXPECT_THAT(w.textOf("mix-up"), HasSubstr("the ECU's line is a gauge one"));

    goTo(w, "tps");
    w.click("scale-strokes");
    w.key(Qt::Key_Space);
    strokeTwice(w, "tps", 0, 1);
    w.key(Qt::Key_Space);
    EXPECT_THAT(w.textOf("stroke-verdict"), HasSubstr("Good: 4 strokes")) << w.textOf("stroke-troubles");
    w.key(Qt::Key_T);
    w.settle();
    ASSERT_TRUE(circuit(w, "tps").limits);

    w.click("scale-table");
    ASSERT_TRUE(w.window.desk().store.save()); // the bench builds what the job says
    ASSERT_TRUE(w.ecuReads("iat"));
    w.key(Qt::Key_V, Qt::ShiftModifier);
    EXPECT_TRUE(becomesText(w, "said", "each returns true values at ten places", 60000)) << w.textOf("said");
    goTo(w, "map");
    EXPECT_TRUE(QTest::qWaitFor([&] { return !w.find<QLabel>("mix-up")->isVisible(); }, 3000)) << "the line is mended";
}

/// Flex fuel from pump fuel through a blended tank on the bench.
TEST(ScaleDone, CurlewsFlexFuelFromPumpFuelToABlend)
{
    Window w;
    w.window.desk().live.startBench(QStringLiteral(VICEGRIP_BENCH), openCurlew(w), w.faults());
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return w.window.desk().live.meterReady() && w.window.desk().live.ecuLive(); }, 10000));
    auto& bench = w.window.desk().live.bench();
    goTo(w, "flex");

    // Its table counts Hz; the ECU shows per cent with it.
    EXPECT_THAT(w.find<QTableWidget>("points-table")->horizontalHeaderItem(0)->text().toStdString(), HasSubstr("Hz"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QAbstractButton>("send")->isEnabled(); }, 3000));
    w.key(Qt::Key_E);
    ASSERT_TRUE(becomesText(w, "returned-value", "%")) << w.textOf("said");
    w.key(Qt::Key_V);
    EXPECT_TRUE(becomesText(w, "said", "10 of 10 within")) << w.textOf("said");

    // Pump fuel: its content is the baseline, where the correction reads 100 %.
    w.click("scale-fuel");
    bench.setMeasurand(QStringLiteral("flex"), 0.09);
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return w.textOf("flex-now").starts_with("9.0") || w.textOf("flex-now") == "8.9 %" ||
                   w.textOf("flex-now") == "9.1 %";
        },
        5000))
        << w.textOf("flex-now");
    w.key(Qt::Key_B);
    w.settle();
    ASSERT_TRUE(w.window.desk().store.job()->tank);
    EXPECT_NEAR(*w.window.desk().store.job()->tank->baseline, 0.09, 0.002);

    // A bit over half a tank of what is sold as E85 and holds 62 %: near 38-40 % (common practice, no source).
    w.type(w.find<QLineEdit>("tank-flow"), "60 l/h");
    w.type(w.find<QLineEdit>("fill-in"), "22 l E9");
    w.type(w.find<QLineEdit>("fill-add"), "28 l E62");
    EXPECT_THAT(w.textOf("fill-outcome"), HasSubstr("E38.7"));
    EXPECT_THAT(w.textOf("fuel-caution"), HasSubstr("Stop: this gives 38.7 % ethanol"));
    EXPECT_THAT(w.find<QWidget>("settling-plot")->accessibleDescription().toStdString(), HasSubstr("9 % for"));

    // Poured in, the engine idling: watched against the curve, and stopped where the calibration is not ready.
    w.type(w.find<QLineEdit>("tank-line"), "0.05 l");
    w.type(w.find<QLineEdit>("tank-flow"), "600 l/h");
    ASSERT_TRUE(w.window.desk().store.save());
    w.window.desk().selection.setCondition(job::Condition::Running);
    w.window.setFocus();
    w.key(Qt::Key_W);
    EXPECT_TRUE(becomesText(w, "fill-watched", "On its way", 20000)) << w.textOf("fill-watched");
    EXPECT_TRUE(becomesText(w, "fill-watched", "Stop the engine", 20000)) << w.textOf("fill-watched");
    w.key(Qt::Key_W);
    EXPECT_THAT(w.textOf("fill-watched"), HasSubstr("Once it is poured in"));
    w.window.desk().selection.setCondition(job::Condition::KeyOn);
    bench.setMeasurand(QStringLiteral("flex"), 0.387);
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("flex-now").starts_with("38."); }, 5000)) << w.textOf("flex-now");
    EXPECT_THAT(w.textOf("flex-baseline"), HasSubstr("Now it must read 113."));
    w.click("scale-table");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("returned-value").starts_with("38."); }, 5000))
        << w.textOf("returned-value");
}

TEST(ScaleTable, AFormulaInPlaceOfPointsAndTheLimitsOfFaults)
{
    Window w;
    goTo(w, "clt");
    auto* form = w.find<QComboBox>("table-form");
    const auto as = [&](const char* name) {
        form->setCurrentText(QLatin1String(name));
        emit form->activated(form->currentIndex());
        w.settle();
    };
    EXPECT_THAT(w.textOf("fault-limits"), HasSubstr("Failed: "));
    auto* table = w.find<QTableWidget>("points-table");
    EXPECT_EQ(table->rowCount(), 20);
    as("as polynomial, degree 3");
    EXPECT_EQ(table->rowCount(), 4) << "c0 to c3";
    EXPECT_EQ(circuit(w, "clt").scaling.takes, job::Takes::Polynomial);
    EXPECT_EQ(circuit(w, "clt").scaling.degree, 3);
    EXPECT_THAT(w.textOf("worst-error"), HasSubstr("value (°C) of x (V)"));
    EXPECT_FALSE(w.find<QComboBox>("breakpoints")->isEnabled()) << "a formula has no points to place";
    as("as Steinhart-Hart");
    EXPECT_EQ(table->rowCount(), 3);
    EXPECT_THAT(w.textOf("worst-error"), HasSubstr("pull-up"));
    as("as points, in counts");
    EXPECT_EQ(table->horizontalHeaderItem(0)->text(), QStringLiteral("input (counts)"));
    EXPECT_EQ(table->item(0, 0)->text(), QStringLiteral("165")) << "0.201 V of 5 V, 12 bits";
    w.choose("map");
    EXPECT_LT(form->findText(QStringLiteral("as Steinhart-Hart")), 0) << "no thermistor";
    EXPECT_EQ(form->currentText(), QStringLiteral("as points")) << "each circuit has its own";
    EXPECT_EQ(table->rowCount(), 2);
    w.choose("clt");
    EXPECT_EQ(form->currentText(), QStringLiteral("as points, in counts")) << "kept";
}

TEST(ScaleTable, TheEcuWorksByTheFormulaItWasGiven)
{
    Window w;
    w.startBench();
    goTo(w, "clt");
    auto* form = w.find<QComboBox>("table-form");
    for (const char* name : {"as Steinhart-Hart", "as polynomial, degree 5"}) {
        form->setCurrentText(QLatin1String(name));
        emit form->activated(form->currentIndex());
        w.settle();
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QAbstractButton>("send")->isEnabled(); }, 3000));
        w.key(Qt::Key_E);
        ASSERT_TRUE(becomesText(w, "said", "The ECU took")) << w.textOf("said");
        ASSERT_TRUE(becomesText(w, "returned-value", "✓")) << w.textOf("returned-value");
        w.key(Qt::Key_V);
        EXPECT_TRUE(becomesText(w, "said", "10 of 10 within")) << name << ": " << w.textOf("said");
    }
}

TEST(ScaleTable, TheEcusUnitAndOrderAreChosen)
{
    Window w;
    goTo(w, "map");
    auto* unit = w.find<QComboBox>("ecu-unit");
    unit->setCurrentText(QStringLiteral("bar"));
    emit unit->activated(unit->currentIndex());
    w.settle();
    EXPECT_EQ(circuit(w, "map").scaling.unit, "bar");
    auto* table = w.find<QTableWidget>("points-table");
    EXPECT_EQ(table->horizontalHeaderItem(1)->text(), QStringLiteral("value (bar)"));
    auto* order = w.find<QComboBox>("ecu-order");
    order->setCurrentIndex(3);
    emit order->activated(3);
    w.settle();
    EXPECT_EQ(table->horizontalHeaderItem(0)->text(), QStringLiteral("value (bar)"));
    EXPECT_GT(table->item(0, 1)->text().toDouble(), table->item(1, 1)->text().toDouble()) << "from the highest down";
    EXPECT_NE(w.find<QLineEdit>("output-step")->text().indexOf(QLatin1String("bar")), -1);
}

TEST(ScaleTable, TheEcusOwnPlacesAreTakenFromItsTable)
{
    Window w;
    goTo(w, "clt");
    w.key(Qt::Key_O);
    auto* field = w.find<QPlainTextEdit>("old-table-text");
    field->setPlainText(QStringLiteral("0.3\t120\n1\t80\n2.5\t35\n4\t0\n4.7\t-30\n"));
    EXPECT_THAT(w.textOf("old-table-verdict"), HasSubstr("New less old"));
    QTest::keyClick(field, Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(circuit(w, "clt").scaling.breakpoints, job::Breakpoints::Fixed);
    EXPECT_EQ(circuit(w, "clt").scaling.fixed, (std::vector<double>{0.3, 1, 2.5, 4, 4.7}));
    EXPECT_EQ(w.find<QTableWidget>("points-table")->rowCount(), 5);
}

TEST(ScaleReadings, PastedReadingsBecomeTheSensorsCurve)
{
    Window w;
    goTo(w, "map");
    w.click("scale-readings");
    w.key(Qt::Key_P);
    auto* field = w.find<QPlainTextEdit>("readings-paste-text");
    // 6 kPa more than the sheet says at every place: 80 mV (300 kPa over 4 V, 0.5 V at 0).
    field->setPlainText(QStringLiteral("kPa;V\n60;1,38\n120;2,18\nsomething\n200;3,247\n260;4,047\n"));
    EXPECT_THAT(w.textOf("readings-paste-verdict"), HasSubstr("4 readings understood, 1 left out"));
    QTest::keyClick(field, Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    ASSERT_EQ(circuit(w, "map").captured.size(), 4U);
    EXPECT_THAT(w.textOf("captured-verdict"), HasSubstr("by as much everywhere"));
    ASSERT_TRUE(w.find<QAbstractButton>("make-curve")->isEnabled());
    w.key(Qt::Key_M);
    w.settle();
    EXPECT_THAT(w.textOf("captured-verdict"), HasSubstr("agrees with its sheet"));
    const auto job = w.window.desk().store.job();
    const parts::Part& now = *job::sensorOf(*job, circuit(w, "map"));
    EXPECT_NEAR(std::get<parts::RatiometricTransducer>(now.model).low_v, 0.58, 0.01);
    EXPECT_FALSE(w.find<QAbstractButton>("make-curve")->isEnabled()) << "it is already";
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_THAT(w.textOf("captured-verdict"), HasSubstr("by as much everywhere"));
}

TEST(ScaleSwitch, TheVansClutchSwitchHasItsThresholds)
{
    Window w;
    openCurlew(w);
    goTo(w, "clutch");
    w.click("scale-switch");
    EXPECT_THAT(w.textOf("switch-words"), HasSubstr("Closed pulls it low: below 1.6"));
    EXPECT_THAT(w.textOf("switch-low"), HasSubstr("V"));
    EXPECT_THAT(w.textOf("switch-contact"), HasSubstr("Ω"));
    EXPECT_EQ(w.textOf("switch-state"), "no link");
    EXPECT_TRUE(w.find<QWidget>("level-scale")->isVisible());
    w.choose("clt");
    EXPECT_FALSE(w.find<QWidget>("level-scale")->isVisible()) << "a thermistor is no switch";
}

TEST(ScaleSpeed, TyreGearsAndARunAgreeAndBecomeTheLine)
{
    Window w;
    const auto id = addSensor(w, "hall-speed", "DG3");
    goTo(w, id.value.c_str());
    w.click("scale-speed");
    w.type(w.find<QLineEdit>("speed-tyre"), "205/55 R16");
    w.type(w.find<QLineEdit>("speed-teeth"), "8");
    w.type(w.find<QLineEdit>("speed-ratio"), "4");
    EXPECT_THAT(w.textOf("speed-planned"), HasSubstr("16604 pulses/km")) << "32 in 1.9272 m";
    w.type(w.find<QLineEdit>("speed-pulses"), "33200");
    EXPECT_THAT(w.textOf("speed-verdict"), HasSubstr("both edges"));
    w.type(w.find<QLineEdit>("speed-pulses"), "16700");
    EXPECT_THAT(w.textOf("speed-verdict"), HasSubstr("they agree"));
    w.click("speed-take-run");
    w.settle();
    EXPECT_THAT(w.textOf("speed-held"), HasSubstr("16700 pulses/km, so 463.9 Hz at 100 km/h"));
    w.type(w.find<QLineEdit>("speed-tyre"), "big ones");
    EXPECT_THAT(w.find<QLineEdit>("speed-tyre")->accessibleDescription().toStdString(), HasSubstr("205/55 R16"));
    EXPECT_EQ(job::find(*w.window.desk().store.job(), id)->roadSpeed->tyre, "205/55 R16") << "nothing changed";
    w.click("scale-table");
    EXPECT_TRUE(analysis::find(*w.window.desk().store.analysis(), id)->table) << "and has its table in Hz";
}

TEST(ScaleProbe, ABathTellsHowTheProbeIsWired)
{
    Window w;
    goTo(w, addSensor(w, "egt-0-5v", "AN10").value.c_str());
    w.click("scale-probe");
    EXPECT_THAT(w.textOf("probe-bath"), HasSubstr("Boiling water here, at 98.4 kPa abs: 99.2 °C"));
    w.type(w.find<QLineEdit>("probe-joint"), "60 C");
    w.type(w.find<QLineEdit>("probe-shown"), "99 C");
    EXPECT_THAT(w.textOf("probe-verdict"), HasSubstr("wired right"));
    w.type(w.find<QLineEdit>("probe-shown"), "61 C");
    EXPECT_THAT(w.textOf("probe-verdict"), HasSubstr("copper"));
    w.type(w.find<QLineEdit>("probe-shown"), "0 C");
    EXPECT_THAT(w.textOf("probe-verdict"), HasSubstr("exchange them at one place"));
    w.type(w.find<QLineEdit>("probe-shown"), "350 C");
    EXPECT_THAT(w.textOf("probe-verdict"), HasSubstr("fits none of these alone"));
    EXPECT_THAT(w.textOf("probe-caution"), HasSubstr("scalds"));
}

TEST(ScaleReadings, ALevelSenderLearnsItsTankFromTheFills)
{
    Window w;
    goTo(w, addSensor(w, "level-10-180", "AN11").value.c_str());
    const job::CircuitId id = w.window.desk().store.job()->circuits.back().id;
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Wire it"), [&](job::Job& job) {
        job::findInput(job, parts::InputId{"AN11"})->pull_up_ohm = 1000;
        EXPECT_TRUE(harness::seat(job, id, parts::InputId{"AN11"}));
    }));
    w.settle();
    const auto* view = analysis::find(*w.window.desk().store.analysis(), id);
    ASSERT_TRUE(view->table) << view->tableTrouble;
    w.click("scale-readings");
    w.key(Qt::Key_P);
    const auto job = w.window.desk().store.job();
    const auto car = electrics::build(*job, {.surroundings = job->surroundings});
    const auto transfer = scaling::Transfer::of(*job, *car, *job::find(*job, id));
    QString typed;
    for (const auto& [full, said] : {std::pair(0.05, 0.1), {0.25, 0.4}, {0.5, 0.62}, {0.75, 0.81}, {0.98, 0.97}})
        typed += QStringLiteral("%1 %;%2\n").arg(full * 100).arg(transfer->reading(said), 0, 'f', 5);
    w.find<QPlainTextEdit>("readings-paste-text")->setPlainText(typed);
    w.click("readings-paste-take");
    w.settle();
    EXPECT_THAT(w.textOf("captured-fit"), HasSubstr("A smooth curve through all of them"));
    w.key(Qt::Key_M);
    w.settle();
    EXPECT_THAT(w.textOf("captured-verdict"), HasSubstr("agrees with its sheet"));
    const auto now = w.window.desk().store.job();
    EXPECT_EQ(std::get<parts::Resistive>(job::sensorOf(*now, *job::find(*now, id))->model).points.size(), 17U);
}

} // namespace
} // namespace vicegrip::test
