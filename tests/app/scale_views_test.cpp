#include "app/stages/scale/stroke_view.h"
#include "app/stages/scale/verifier.h"
#include "core/scaling/transfer.h"
#include "tests/support/scale.h"

#include <QClipboard>
#include <QComboBox>
#include <QPlainTextEdit>
#include <QThreadPool>

#include <gmock/gmock.h>

/// Scale's views in the real window: where points lie, what the error is made of, the stops of a throttle, fuel.
namespace vicegrip::test {
namespace {

using testing::HasSubstr;

void place(Window& w, int breakpoints)
{
    auto* box = w.find<QComboBox>("breakpoints");
    box->setCurrentIndex(breakpoints);
    emit box->activated(breakpoints);
    w.settle();
}

std::string strokesFile()
{
    return std::string(VICEGRIP_SOURCE_DIR) + "/data/recordings/throttle-worn.csv";
}

TEST(ScaleTable, PlacedBestTheWorstErrorIsAFractionAndItIsUndone)
{
    Window w;
    goTo(w, "clt");
    const auto worst = [&] { return analysis::find(*w.window.desk().store.analysis(), {"clt"})->table->worstError; };
    const double even = worst();
    place(w, static_cast<int>(job::Breakpoints::Best));
    EXPECT_LT(worst(), even / 3);
    EXPECT_THAT(w.find<QWidget>("gain-bars")->accessibleDescription().toStdString(), HasSubstr("evenly spaced ± 3.9"));
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_EQ(worst(), even);
}

TEST(ScaleTable, TheEcusOwnPointsAreTypedAndRefusedBesideTheField)
{
    Window w;
    goTo(w, "clt");
    place(w, static_cast<int>(job::Breakpoints::Fixed));
    auto* field = w.find<QLineEdit>("fixed-readings");
    EXPECT_TRUE(field->isVisible());
    w.type(field, "0.2 0.5 1 2 3 4.6");
    EXPECT_EQ(circuit(w, "clt").scaling.fixed, (std::vector<double>{0.2, 0.5, 1, 2, 3, 4.6}));
    EXPECT_EQ(w.find<QTableWidget>("points-table")->rowCount(), 6);
    w.type(field, "0.2 0.5 0.4");
    EXPECT_EQ(circuit(w, "clt").scaling.fixed.size(), 6U) << "nothing changed";
    EXPECT_THAT(field->accessibleDescription().toStdString(), HasSubstr("does not rise"));
}

TEST(ScaleTable, CopiedAsTwoColumns)
{
    Window w;
    goTo(w, "map");
    auto* table = w.find<QTableWidget>("points-table");
    table->setFocus();
    QTest::keyClick(table, Qt::Key_C, Qt::ControlModifier);
    EXPECT_THAT(QApplication::clipboard()->text().toStdString(),
                testing::MatchesRegex("0[.]5[0-9]+\t0[.]0\n4[.]4[0-9]+\t300[.]0\n"));
}

TEST(ScaleBudget, SaysHowWrongWhatItIsMadeOfAndWhatItCosts)
{
    Window w;
    goTo(w, "map");
    w.click("scale-budget");
    w.type(w.find<QLineEdit>("budget-at"), "1 bar");
    EXPECT_THAT(w.textOf("budget-worst"), HasSubstr("± 3.2"));
    EXPECT_THAT(w.textOf("budget-mixture"), HasSubstr("± 3.3 % fuel"));
    EXPECT_THAT(w.textOf("budget-how"), HasSubstr("λ 0.9"));
    EXPECT_THAT(w.find<QWidget>("budget-bars")->accessibleDescription().toStdString(), HasSubstr("sensor ± 3.01 kPa"));
    auto* chart = w.find<QWidget>("budget-chart");
    chart->setFocus();
    const std::string before = w.find<QLineEdit>("budget-at")->text().toStdString();
    QTest::keyClick(chart, Qt::Key_Right);
    EXPECT_NE(w.find<QLineEdit>("budget-at")->text().toStdString(), before);
    w.type(w.find<QLineEdit>("budget-at"), "9 bar");
    EXPECT_THAT(w.find<QLineEdit>("budget-at")->accessibleDescription().toStdString(), HasSubstr("outside"));
    w.choose("clt");
    EXPECT_TRUE(w.textOf("budget-mixture").empty());
    EXPECT_THAT(w.textOf("budget-how"), HasSubstr("no part of the air"));
    w.choose("crank");
    EXPECT_FALSE(w.find<QWidget>("budget-bars")->isVisible()) << "a frequency has no volts to budget";
}

TEST(ScaleReadings, PairsAreTypedJudgedAndSetAside)
{
    Window w;
    goTo(w, "clt");
    w.click("scale-readings");
    const auto transfer = [&](double kelvin) {
        const auto job = w.window.desk().store.job();
        const auto car = electrics::build(*job, {.surroundings = job->surroundings});
        return scaling::Transfer::of(*job, *car, circuit(w, "clt"))->reading(kelvin);
    };
    const auto keep = [&](double celsius, double volts) {
        auto *value = w.find<QLineEdit>("captured-value"), *shown = w.find<QLineEdit>("captured-volts");
        shown->setFocus();
        shown->selectAll();
        QTest::keyClicks(shown, QString::number(volts));
        w.type(value, QStringLiteral("%1 C").arg(celsius).toUtf8().constData());
    };
    for (const double celsius : {10.0, 40.0, 60.0, 90.0})
        keep(celsius, transfer(celsius + 273.15));
    ASSERT_EQ(circuit(w, "clt").captured.size(), 4U);
    EXPECT_THAT(w.textOf("captured-verdict"), HasSubstr("agrees with its sheet"));
    EXPECT_THAT(w.textOf("captured-fit"), HasSubstr("Steinhart-Hart"));
    keep(70, transfer(273.15 + 30));
    EXPECT_THAT(w.textOf("captured-verdict"), HasSubstr("The reading at 70.0 °C is -40.0 °C off"));
    auto* table = w.find<QTableWidget>("readings");
    table->selectRow(4);
    w.click("set-aside");
    w.settle();
    EXPECT_TRUE(circuit(w, "clt").captured[4].setAside);
    EXPECT_THAT(w.textOf("captured-verdict"), HasSubstr("agrees with its sheet"));
    table->selectRow(4);
    w.click("remove-reading");
    w.settle();
    EXPECT_EQ(circuit(w, "clt").captured.size(), 4U);
    keep(70, 1);
    w.type(w.find<QLineEdit>("captured-value"), "9 V");
    EXPECT_THAT(w.find<QLineEdit>("captured-value")->accessibleDescription().toStdString(), HasSubstr("temperature"));
}

/// Petrel's ECU was left holding a gauge line for its absolute sensor; it is found, mended and proved at ten places.
TEST(ScalePath, AGaugeLineInTheEcuIsFoundAndMended)
{
    Window w;
    w.setFaults(R"([{"kind": "held-table", "input": "AN1", "points": [[0.5, -101.3], [4.5, 198.7]]}])");
    w.startBench();
    goTo(w, "map");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.find<QLabel>("mix-up")->isVisible(); }, 5000));
    EXPECT_THAT(w.textOf("mix-up"), HasSubstr("the ECU's line is a gauge one"));
    w.key(Qt::Key_R);
    w.settle();
    EXPECT_EQ(of(*w.window.desk().store.job(), "value-mix-up").size(), 1U);
    w.key(Qt::Key_E);
    EXPECT_TRUE(QTest::qWaitFor([&] { return !w.find<QLabel>("mix-up")->isVisible(); }, 5000));
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("returned-value").find("✓") != std::string::npos; }, 5000));
    w.key(Qt::Key_R);
    w.settle();
    EXPECT_TRUE(of(*w.window.desk().store.job(), "value-mix-up").empty());
    w.key(Qt::Key_V);
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("said").find("10 of 10 within") == 0; }, 8000))
        << w.textOf("said");
}

TEST(ScalePath, VerifyingSaysWhyNotAndCanBeGivenUp)
{
    Window w;
    goTo(w, "map");
    EXPECT_FALSE(w.find<QAbstractButton>("verify")->isEnabled()) << "nothing moves the sensor by itself here";
    EXPECT_FALSE(w.find<QLineEdit>("stimulus")->isVisible());
    w.startBench();
    goTo(w, "clt");
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("returned-value") == "no table"; }, 5000));
    EXPECT_FALSE(w.find<QAbstractButton>("verify")->isEnabled()) << "the ECU has no table for it yet";
    goTo(w, "map");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.find<QAbstractButton>("verify")->isEnabled(); }, 3000));
    w.click("verify");
    const auto* verifier = w.window.findChild<app::Verifier*>();
    ASSERT_TRUE(QTest::qWaitFor([&] { return !verifier->places().empty(); }, 5000));
    w.click("verify");
    EXPECT_THAT(w.textOf("said"), HasSubstr("Given up after"));
    w.type(w.find<QLineEdit>("stimulus"), "150 kPa");
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return w.textOf("returned-value").starts_with("150") || w.textOf("returned-value").starts_with("149"); },
        3000))
        << w.textOf("returned-value");
    EXPECT_THAT(w.textOf("returned-value"), HasSubstr("✓")) << "what must come back follows the hands";
    EXPECT_THAT(w.textOf("expected-value"), HasSubstr("150"));
    EXPECT_FALSE(w.find<QAbstractButton>("record")->isEnabled()) << "this is no rest to prove";
    w.choose("clt");
    w.choose("map");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("returned-value").starts_with("9"); }, 3000)) << "let go again";
}

TEST(ScalePath, AThermistorOnAnExternalPullUpComesBackTrueAtTenPlaces)
{
    Window w;
    w.startBench();
    goTo(w, "iat");
    w.type(w.find<QLineEdit>("pull-up"), "1k");
    w.type(w.find<QLineEdit>("input-step"), "1 mV");
    place(w, static_cast<int>(job::Breakpoints::Best));
    ASSERT_TRUE(w.window.desk().store.save()); // the bench builds what the job says
    ASSERT_TRUE(w.ecuReads("iat"));
    w.key(Qt::Key_E);
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("returned-value").find("°C") != std::string::npos; }, 5000));
    w.key(Qt::Key_V);
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("said").find("10 of 10 within") == 0; }, 8000))
        << w.textOf("said");
    w.type(w.find<QLineEdit>("stimulus"), "60 C");
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return w.textOf("returned-value").starts_with("6") || w.textOf("returned-value").starts_with("59"); },
        5000))
        << w.textOf("returned-value");
}

TEST(ScaleTable, WhatTheEcuHoldsIsComparedAsItIsPasted)
{
    Window w;
    goTo(w, "map");
    w.key(Qt::Key_O);
    auto* paste = w.find<QWidget>("old-table");
    EXPECT_TRUE(paste->isVisible());
    auto* field = w.find<QPlainTextEdit>("old-table-text");
    field->setPlainText(QStringLiteral("0.5;-101,3\n4.5;198,7\n"));
    EXPECT_THAT(w.textOf("old-table-verdict"), HasSubstr("at worst +101"));
    field->setPlainText(QStringLiteral("0.5;1\n0.5;2\n"));
    EXPECT_THAT(w.textOf("old-table-verdict"), HasSubstr("no table"));
    QTest::keyClick(field, Qt::Key_Escape);
    EXPECT_FALSE(paste->isVisible());
}

void openStrokes(Window& w, const QString& path)
{
    auto* view = w.window.findChild<app::StrokeView*>();
    view->readFile(path);
    EXPECT_TRUE(QTest::qWaitFor([&] { return !view->isReading(); }, 10000));
}

TEST(ScaleStrokes, ARecordingIsJudgedAndItsLimitsTaught)
{
    Window w;
    goTo(w, "tps");
    EXPECT_FALSE(of(*w.window.desk().store.job(), "limits-not-calibrated").empty());
    w.click("scale-strokes");
    openStrokes(w, QString::fromStdString(strokesFile()));
    EXPECT_THAT(w.textOf("stroke-troubles"), HasSubstr("Dead spot at 1.5"));
    EXPECT_THAT(w.textOf("stroke-troubles"), HasSubstr("in 4 of 4 strokes"));
    EXPECT_THAT(w.textOf("stroke-facts"), HasSubstr("closed 0.42"));
    w.key(Qt::Key_T);
    w.settle();
    const auto& limits = circuit(w, "tps").limits;
    ASSERT_TRUE(limits);
    EXPECT_NEAR(limits->closed_v, 0.43, 0.02);
    EXPECT_NEAR(limits->open_v, 4.47, 0.02);
    EXPECT_TRUE(of(*w.window.desk().store.job(), "limits-not-calibrated").empty());
    const auto& table = *analysis::find(*w.window.desk().store.analysis(), {"tps"})->table;
    ASSERT_EQ(table.points.size(), 2U);
    EXPECT_EQ(table.points[0].reading, limits->closed_v) << "0 % is at the stop that was found";
    EXPECT_EQ(table.points[1].value, 1);
    EXPECT_THAT(w.window.desk().store.job()->log.back().what, HasSubstr("limits calibrated"));
}

TEST(ScaleStrokes, LimitsGoStaleWithTheWireAndWithTheScrew)
{
    Window w;
    goTo(w, "tps");
    w.click("scale-strokes");
    openStrokes(w, QString::fromStdString(strokesFile()));
    w.key(Qt::Key_T);
    w.settle();
    EXPECT_THAT(w.textOf("stroke-calibrated"), testing::Not(HasSubstr("Stale")));
    w.key(Qt::Key_M);
    w.settle();
    EXPECT_THAT(w.textOf("stroke-calibrated"), HasSubstr("stop screw"));
    EXPECT_FALSE(of(*w.window.desk().store.job(), "limits-stale").empty());
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_TRUE(of(*w.window.desk().store.job(), "limits-stale").empty());
    job::Job changed = *w.window.desk().store.job();
    job::findInput(changed, circuit(w, "tps").input)->series_ohm += 1000;
    EXPECT_FALSE(of(changed, "limits-stale").empty()) << "an input that is set otherwise";
}

TEST(ScaleStrokes, ABadRecordingIsSaidAndTheGoodOneStays)
{
    Window w;
    goTo(w, "tps");
    w.click("scale-strokes");
    openStrokes(w, QString::fromStdString(strokesFile()));
    const std::string facts = w.textOf("stroke-facts");
    const QString bad = w.folder.filePath(QStringLiteral("bad.csv"));
    for (const auto& [text, said] :
         {std::pair("0,1\n0.01,nan\n", "bad.csv:2: "), {"0,1\n", "no stroke"}, {"", "empty"}}) {
        QFile file(bad);
        ASSERT_TRUE(file.open(QIODevice::WriteOnly));
        file.write(text);
        file.close();
        openStrokes(w, bad);
        EXPECT_THAT(w.textOf("stroke-said"), HasSubstr(said));
        EXPECT_EQ(w.textOf("stroke-facts"), facts);
    }
    w.key(Qt::Key_Space);
    EXPECT_THAT(w.textOf("stroke-said"), HasSubstr("no link"));
}

TEST(ScaleStrokes, OfTwoFilesTheLastOneIsSpokenOf)
{
    Window w;
    goTo(w, "tps");
    w.click("scale-strokes");
    auto* view = w.window.findChild<app::StrokeView*>();
    view->readFile(QString::fromStdString(strokesFile()));
    openStrokes(w, QStringLiteral("/nowhere/strokes.csv"));
    QThreadPool::globalInstance()->waitForDone(); // both are read, whichever was first
    QCoreApplication::processEvents();
    EXPECT_THAT(w.textOf("stroke-said"), HasSubstr("strokes.csv: the file cannot be opened"));
}

TEST(ScaleStrokes, RecordedFromTheEcuWhileHandsMoveIt)
{
    Window w;
    w.startBench();
    goTo(w, "tps");
    w.click("scale-strokes");
    w.key(Qt::Key_Space);
    auto& bench = w.window.desk().live.bench();
    strokeTwice(w, "tps", 0.02, 0.98);
    w.key(Qt::Key_Space);
    EXPECT_THAT(w.textOf("stroke-verdict"), HasSubstr("Good: 4 strokes"))
        << w.textOf("stroke-troubles") << w.textOf("stroke-said");
    w.key(Qt::Key_T);
    w.settle();
    ASSERT_TRUE(circuit(w, "tps").limits);
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("stroke-now") == "0.0 %"; }, 3000)) << w.textOf("stroke-now");

    // The idle-stop loop: the screw opens it a little, shut is no longer 0, and it is zeroed there.
    w.key(Qt::Key_M);
    w.settle();
    EXPECT_THAT(w.textOf("stroke-calibrated"), HasSubstr("Stale: the stop screw"));
    bench.setMeasurand(QStringLiteral("tps"), 0.05);
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("stroke-now").starts_with("3."); }, 3000))
        << w.textOf("stroke-now");
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return w.textOf("stroke-said").find("Shut and still") != std::string::npos; }, 4000))
        << w.textOf("stroke-said");
    w.key(Qt::Key_M);
    w.settle();
    EXPECT_TRUE(circuit(w, "tps").limits->screwMoved.empty()) << w.textOf("stroke-said");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.textOf("stroke-now") == "0.0 %"; }, 3000)) << w.textOf("stroke-now");
    EXPECT_THAT(w.window.desk().store.job()->log.back().what, HasSubstr("after the stop screw"));
}

TEST(ScaleFuel, BaselinePlanAndCautionOnTheVan)
{
    Window w;
    openCurlew(w);
    goTo(w, "flex");
    w.click("scale-fuel");
    w.type(w.find<QLineEdit>("flex-hz"), "59 Hz");
    EXPECT_EQ(w.textOf("flex-now"), "9.0 %");
    w.click("flex-set-baseline");
    w.settle();
    ASSERT_TRUE(w.window.desk().store.job()->tank);
    EXPECT_NEAR(*w.window.desk().store.job()->tank->baseline, 0.09, 1e-9);
    EXPECT_THAT(w.textOf("flex-baseline"), HasSubstr("Now it must read 100.0 % by mass"));
    w.type(w.find<QLineEdit>("tank-flow"), "60 l/h");
    w.type(w.find<QLineEdit>("fill-in"), "22 l E9");
    w.type(w.find<QLineEdit>("fill-add"), "28 l E62");
    EXPECT_THAT(w.textOf("fill-outcome"), HasSubstr("50.0 l of E38.7"));
    EXPECT_THAT(w.textOf("fuel-caution"), HasSubstr("Stop: this gives 38.7 % ethanol"));
    w.type(w.find<QLineEdit>("tank-ready"), "85 %");
    EXPECT_THAT(w.textOf("fuel-caution"), testing::Not(HasSubstr("Stop")));
    EXPECT_THAT(w.find<QWidget>("settling-plot")->accessibleDescription().toStdString(), HasSubstr("9 % for 24 s"));
    w.type(w.find<QLineEdit>("fill-add"), "90 l E62");
    EXPECT_THAT(w.textOf("fill-detail"), HasSubstr("too much"));
    w.type(w.find<QLineEdit>("flex-hz"), "180");
    EXPECT_THAT(w.textOf("flex-verdict"), HasSubstr("contaminated"));
    EXPECT_FALSE(w.find<QAbstractButton>("flex-set-baseline")->isEnabled()) << "no baseline from a failed sensor";
}

} // namespace
} // namespace vicegrip::test
