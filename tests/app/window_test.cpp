#include "app/look/look.h"
#include "app/widgets/state_glyph.h"
#include "tests/support/window.h"

#include <QAccessible>
#include <QComboBox>
#include <QDir>
#include <QListWidget>
#include <QPushButton>
#include <QTableView>
#include <QTcpServer>
#include <QTcpSocket>

#include <cmath>
#include <csignal>
#include <gmock/gmock.h>

namespace vicegrip {
namespace {

using analysis::Stage;
using proof::State;
using testing::HasSubstr;

TEST(Shell, EveryStageIsOneKeyAwayAndSaysSomething)
{
    test::Window w;
    for (int i = 0; i < analysis::kStageCount; ++i) {
        w.key(static_cast<Qt::Key>(Qt::Key_0 + i), Qt::ControlModifier);
        EXPECT_EQ(static_cast<int>(w.window.stage()), i);
        int words = 0;
        for (const char* pressed : {"job", "chip-ecu", "chip-meter"}) // what the band says and can be pressed
            words += w.find<QAbstractButton>(pressed)->text().isEmpty() ? 0 : 1;
        for (const QLabel* l : w.window.findChildren<QLabel*>())
            words += l->isVisible() && !l->text().isEmpty() ? 1 : 0;
        EXPECT_GE(words, 8) << i;
    }
}

TEST(Shell, SelectionStaysAcrossStages)
{
    test::Window w;
    w.choose("gt");
    for (const Qt::Key k : {Qt::Key_4, Qt::Key_5, Qt::Key_2, Qt::Key_0}) {
        w.key(k, Qt::ControlModifier);
        EXPECT_EQ(w.window.desk().selection.circuit().value, "gt");
    }
    w.key(Qt::Key_Up, Qt::AltModifier);
    EXPECT_EQ(w.window.desk().selection.circuit().value, "ot");
}

TEST(Board, ShowsEveryCircuitAndGoesToTheNextTask)
{
    test::Window w;
    const auto* board = w.find<QTableView>("board");
    EXPECT_EQ(board->model()->rowCount(), 23);
    EXPECT_EQ(board->model()->index(1, 0).data().toString(), QStringLiteral("Coolant temp"));
    EXPECT_EQ(board->model()->index(1, 6).data(Qt::AccessibleTextRole).toString(), QStringLiteral("stale"));
    EXPECT_EQ(w.textOf("next"), "Fuel pressure: find the fault");
    w.key(Qt::Key_Return);
    EXPECT_EQ(w.window.stage(), Stage::Meter);
    EXPECT_EQ(w.window.desk().selection.circuit().value, "fp");
    EXPECT_EQ(w.window.desk().selection.station(), "A.11");
}

TEST(Meter, ATypedReadingIsJudgedAndKept)
{
    test::Window w;
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    auto* reading = w.find<QWidget>("reading")->findChild<QLineEdit*>();
    w.type(reading, "3.25 V");
    EXPECT_EQ(w.at("ot", "A.12").state, State::Done);
    EXPECT_EQ(w.window.desk().store.job()->proofs.back().source, job::ReadingSource::Typed);
    w.type(reading, "0.4");
    EXPECT_EQ(w.at("ot", "A.12").state, State::Failing);
    EXPECT_THAT(w.textOf("verdict"), HasSubstr("0.400 V is below 3.0"));
}

TEST(Meter, NonsenseIsRefusedBesideTheFieldAndNothingIsKept)
{
    test::Window w;
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    const size_t proofs = w.window.desk().store.job()->proofs.size();
    auto* field = w.find<QWidget>("reading");
    for (const char* typed : {"3.2 bar", "lots", "3,200", "--"}) {
        w.type(field->findChild<QLineEdit*>(), typed);
        EXPECT_TRUE(field->findChild<QLineEdit*>()->property("wrong").toBool()) << typed;
        EXPECT_FALSE(field->findChild<QLabel*>()->text().isEmpty()) << typed;
    }
    EXPECT_EQ(w.window.desk().store.job()->proofs.size(), proofs);
}

TEST(Meter, WithoutAMeterItSaysSo)
{
    test::Window w;
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    w.click("take");
    EXPECT_EQ(w.textOf("verdict"), "There is no meter on the link.");
}

TEST(Meter, ConditionChangesWhatMustBeRead)
{
    test::Window w;
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.click("condition-battery-off");
    w.settle();
    EXPECT_EQ(w.find<QTableWidget>("places")->item(0, 2)->text(), QStringLiteral("1.816 kΩ"));
    EXPECT_THAT(w.textOf("caution"), HasSubstr("negative lead off"));
    w.click("condition-key-on");
    w.settle();
    EXPECT_THAT(w.textOf("caution"), HasSubstr("no flame"));
}

TEST(Meter, AmbientAndBarometerMoveThePromiseAndAreUndone)
{
    test::Window w;
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    w.type(w.find<QLineEdit>("ambient"), "41 F");
    EXPECT_NEAR(w.window.desk().store.job()->surroundings.ambient_k, 278.15, 1e-9);
    EXPECT_GT(w.at("ot", "A.12").expectation.due.si(), 3.8);
    EXPECT_EQ(w.textOf("must-read").substr(0, 2), "3.");
    w.type(w.find<QLineEdit>("barometer"), "22.2 inHg");
    EXPECT_NEAR(w.at("map", "value").expectation.due.si(), 75178, 150);
    for (const char* typed : {"-80 C", "hot"}) {
        w.type(w.find<QLineEdit>("ambient"), typed);
        EXPECT_TRUE(w.find<QLineEdit>("ambient")->property("wrong").toBool()) << typed;
    }
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(*w.window.desk().store.job(), test::petrel());
}

TEST(Scale, ABadPullUpIsRefusedBesideTheField)
{
    test::Window w;
    w.choose("clt");
    w.key(Qt::Key_5, Qt::ControlModifier);
    w.settle();
    const auto before = w.window.desk().store.job();
    for (const char* typed : {"2k49x", "5 V", "1 ohm", "-3k"}) {
        w.type(w.find<QLineEdit>("pull-up"), typed);
        EXPECT_TRUE(w.find<QLineEdit>("pull-up")->property("wrong").toBool()) << typed;
    }
    w.type(w.find<QLineEdit>("range-high"), "-40 °C"); // below the range's start: the job itself refuses
    EXPECT_EQ(w.window.desk().store.job(), before);
    w.type(w.find<QLineEdit>("pull-up"), "none");
    EXPECT_THAT(w.textOf("worst-error"), HasSubstr("Is the pull-up missing?"));
    EXPECT_FALSE(w.find<QAbstractButton>("send")->isEnabled());
}

TEST(Scale, ABadLibraryFileIsSaidAndTheRestIsOffered)
{
    const QTemporaryDir data;
    const QByteArray before = qgetenv("XDG_DATA_HOME");
    qputenv("XDG_DATA_HOME", data.path().toUtf8());
    QDir(data.path()).mkpath(QStringLiteral("vicegrip/library/sensors"));
    QFile bad(data.filePath(QStringLiteral("vicegrip/library/sensors/bad.json")));
    ASSERT_TRUE(bad.open(QIODevice::WriteOnly));
    bad.write("{\"id\": \"x\", \"low\": ");
    bad.close();
    test::Window w;
    w.choose("clt");
    w.key(Qt::Key_5, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.notice(), HasSubstr("bad.json:1:"));
    EXPECT_GT(w.find<QComboBox>("sensor")->count(), 1);
    if (before.isNull())
        qunsetenv("XDG_DATA_HOME");
    else
        qputenv("XDG_DATA_HOME", before);
}

TEST(Scale, UnitsOfTheTradeAreUnderstood)
{
    test::Window w;
    w.choose("clt");
    w.key(Qt::Key_5, Qt::ControlModifier);
    w.settle();
    w.type(w.find<QLineEdit>("range-high"), "266 F");
    EXPECT_NEAR(job::find(*w.window.desk().store.job(), job::CircuitId{"clt"})->scaling.high, 403.15, 1e-6);
    w.type(w.find<QLineEdit>("points"), "24");
    EXPECT_EQ(w.find<QTableWidget>("points-table")->rowCount(), 24);
    EXPECT_EQ(w.window.desk().store.undoStack().undoText().toStdString(), "Points of Coolant temp to 24");
}

TEST(Opening, ABadFileIsSaidAndTheGoodJobStays)
{
    test::Window w;
    const auto before = w.window.desk().store.job();
    QFile bad(w.folder.filePath(QStringLiteral("bad.vicegrip")));
    ASSERT_TRUE(bad.open(QIODevice::WriteOnly));
    bad.write("{\"vicegrip\": 1, \"name\": ");
    bad.close();
    EXPECT_FALSE(w.window.openJob(bad.fileName()));
    EXPECT_THAT(w.notice(), HasSubstr("bad.vicegrip:1:"));
    EXPECT_THAT(w.notice(), HasSubstr("cut off"));
    EXPECT_EQ(w.window.desk().store.job(), before);
    EXPECT_EQ(w.window.desk().store.path(), w.job());
}

TEST(Opening, WhatACrashLeftIsOfferedAndNotImposed)
{
    test::Window first;
    ASSERT_TRUE(first.window.desk().store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "changed"; }));
    const QString autosave = first.folder.filePath(QStringLiteral(".petrel.vicegrip.autosave"));
    ASSERT_TRUE(QTest::qWaitFor([&] { return QFile::exists(autosave); }, 5000));

    app::JobStore second; // as after a crash: the saved file and the autosave are what is left
    const QString copy = first.folder.filePath(QStringLiteral("again.vicegrip"));
    QFile::copy(first.job(), copy);
    QFile::copy(autosave, first.folder.filePath(QStringLiteral(".again.vicegrip.autosave")));
    ASSERT_TRUE(second.open(copy));
    EXPECT_TRUE(second.hasRecovery());
    EXPECT_NE(second.job()->title, "changed");
    second.takeRecovery();
    EXPECT_EQ(second.job()->title, "changed");
    second.undoStack().undo();
    EXPECT_NE(second.job()->title, "changed");
}

TEST(Bench, KilledIsSaidAndTheJobStaysOpen)
{
    test::Window w;
    w.startBench();
    kill(static_cast<pid_t>(w.window.desk().live.bench().processId()), SIGKILL);
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.notice().find("bench") != std::string::npos; }, 5000));
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    w.click("take");
    EXPECT_FALSE(w.textOf("verdict").empty());
    ASSERT_TRUE(w.window.desk().store.save());
    EXPECT_TRUE(job::readFile(w.job().toStdString()));
    test::take(w.window, "Connect again");
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return w.window.desk().live.meterReady() && w.window.desk().live.ecuLive(); }, 10000))
        << "one press brings it back";
    w.key(Qt::Key_M);
    EXPECT_TRUE(w.becomes("ot", "A.12", State::Done));
}

TEST(Bench, StoppedDeadDuringAReadingIsSaidAndBroughtBack)
{
    test::Window w;
    w.startBench();
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    kill(static_cast<pid_t>(w.window.desk().live.bench().processId()), SIGSTOP);
    w.click("take");
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.notice().find("does not answer") != std::string::npos; }, 5000));
    EXPECT_EQ(w.find<QPushButton>("chip-meter")->text().toStdString(), "no meter");
    EXPECT_EQ(w.find<QPushButton>("chip-ecu")->text().toStdString(), "no ECU");
    EXPECT_EQ(w.textOf("verdict").find("Taking"), std::string::npos) << w.textOf("verdict");
    test::take(w.window, "Connect again");
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return w.window.desk().live.meterReady() && w.window.desk().live.ecuLive(); }, 10000));
    w.key(Qt::Key_M);
    EXPECT_TRUE(w.becomes("ot", "A.12", State::Done));
}

TEST(Bench, AFaultListThatGoesBadIsSaidWhereItIsSeen)
{
    test::Window w;
    w.startBench();
    w.setFaults(R"([{"kind": "open", "wire": "no-such"}])");
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.notice().find("no-such") != std::string::npos; }, 5000));
    EXPECT_THAT(w.notice(), HasSubstr("The bench goes on with what it had"));
    EXPECT_THAT(w.notice(), HasSubstr("faults.json"));
    w.setFaults("[]");
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.notice().find("taken up") != std::string::npos; }, 5000));
}

TEST(Bench, AMissingProgramOrBadJobIsSaid)
{
    test::Window w;
    w.window.desk().live.startBench(QStringLiteral("/nowhere/bench"), w.job(), {});
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.notice().find("cannot be started") != std::string::npos; }, 5000));
    test::Window v;
    v.window.desk().live.startBench(QStringLiteral(VICEGRIP_BENCH), QStringLiteral("/nowhere.vicegrip"), {});
    ASSERT_TRUE(QTest::qWaitFor([&] { return v.notice().find("/nowhere.vicegrip") != std::string::npos; }, 5000))
        << v.notice();
}

TEST(Keys, FinderAndFindingsOpenAndClose)
{
    test::Window w;
    w.key(Qt::Key_K, Qt::ControlModifier);
    auto* finder = w.find<QWidget>("finder");
    ASSERT_TRUE(finder->isVisible());
    QTest::keyClicks(finder->findChild<QLineEdit*>(), QStringLiteral("go scale"));
    QTest::keyClick(finder->findChild<QLineEdit*>(), Qt::Key_Return);
    EXPECT_EQ(w.window.stage(), Stage::Scale);
    w.key(Qt::Key_F, Qt::ControlModifier);
    auto* drawer = w.find<QWidget>("findings-drawer");
    EXPECT_TRUE(drawer->isVisible());
    QTest::keyClick(drawer, Qt::Key_Escape);
    EXPECT_FALSE(drawer->isVisible());
}

TEST(ScreenReader, EveryStationHasANameAndAValue)
{
    test::Window w;
    w.choose("clt");
    QAccessibleInterface* station = QAccessible::queryAccessibleInterface(w.find<QAbstractButton>("station-A.7"));
    ASSERT_NE(station, nullptr);
    EXPECT_EQ(station->text(QAccessible::Name), QStringLiteral("Cavity A7"));
    EXPECT_EQ(station->text(QAccessible::Description), QStringLiteral("must read 2.514 V, read 3.590 V, stale"));
    for (const QAbstractButton* b : w.window.findChildren<QAbstractButton*>())
        EXPECT_TRUE(!b->isVisible() || !b->accessibleName().isEmpty() || !b->text().isEmpty())
            << b->objectName().toStdString();
}

/// WCAG 2.1, success criterion 1.4.3 and the definition of relative luminance.
double luminance(const QColor& c)
{
    const auto channel = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * channel(c.redF()) + 0.7152 * channel(c.greenF()) + 0.0722 * channel(c.blueF());
}

double contrast(const QColor& a, const QColor& b)
{
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

TEST(Contrast, DayAndNightReachAa)
{
    for (bool night : {false, true}) {
        app::look::apply(*qApp, night);
        const auto& c = app::look::colours();
        for (const auto& [ink, ground] : {std::pair(c.ink, c.paper),
                                          {c.inkSoft, c.paper},
                                          {c.inkSoft, c.list},
                                          {c.inkSoft, c.rail},
                                          {c.ink, c.selected},
                                          {c.done, c.paper},
                                          {c.failing, c.paper},
                                          {c.stale, c.paper},
                                          {c.done, c.list},
                                          {c.failing, c.list},
                                          {c.stale, c.list},
                                          {c.accent, c.paper},
                                          {c.accentInk, c.accent},
                                          {c.bandInk, c.band},
                                          {c.failing, c.failingFill},
                                          {c.ink, c.caution},
                                          {c.inkSoft, c.card}})
            EXPECT_GE(contrast(ink, ground), 4.5)
                << (night ? "night " : "day ") << ink.name().toStdString() << " on " << ground.name().toStdString();
    }
    app::look::apply(*qApp, false);
}

TEST(Window, TheOpenJobOpenedAgainStaysAsItIs)
{
    test::Window w;
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Rename"), [](job::Job& j) { j.title = "other"; }));
    EXPECT_TRUE(w.window.openJob(w.job()));
    EXPECT_EQ(w.window.desk().store.job()->title, "other") << "what was edited is still there";
    EXPECT_TRUE(w.window.desk().store.readOnlyReason().isEmpty()) << "its lock is our own";
}

} // namespace
} // namespace vicegrip
