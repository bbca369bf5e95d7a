#include "tests/support/fake_meter.h"
#include "tests/support/fake_stream.h"
#include "tests/support/links.h"
#include "tests/support/new_user.h"

#include <gmock/gmock.h>

/// From nothing to a proof on live values: an ECU of another make on a CAN bus, and the file that describes its frames.
namespace vicegrip::test {
namespace {

TEST(LinksPath, AnyEcuIsHeardMatchedAndProved)
{
    const NewUser user;
    FakeStream ecu(kOther);
    ecu.says = {{"ECT", 20}, {"ECT_mV", 2500}, {"MAP_kPa", 101.3}, {"MapSensVoltage", 4.2}, {"GboxTempF", 68}};
    Window w;
    fillIn(w);
    use(w);
    EXPECT_EQ(w.textOf("stream-status"), "Heard over The other unit.");
    const auto& desk = w.window.desk();
    EXPECT_EQ(desk.store.job()->stream, "The other unit");
    EXPECT_EQ(cell(w, "Coolant temp", 2), "ECT");
    EXPECT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C")) << cell(w, "Coolant temp", 3);
    EXPECT_TRUE(shows(w, "Coolant temp", 5, "2.500 V"));
    EXPECT_TRUE(shows(w, "Manifold pressure", 3, "101.3 kPa abs")) << cell(w, "Manifold pressure", 3);

    // One that the words did not say, by hand.
    EXPECT_EQ(cell(w, "Gearbox temp", 2), "–");
    w.find<QTableWidget>("told")->setCurrentCell(
        [&] {
            auto* table = w.find<QTableWidget>("told");
            for (int row = 0; row < table->rowCount(); ++row)
                if (table->item(row, 0)->text() == QStringLiteral("Gearbox temp"))
                    return row;
            return -1;
        }(),
        0);
    pick(w, "told-value", QStringLiteral("GboxTempF"));
    EXPECT_TRUE(shows(w, "Gearbox temp", 3, "20.0 °C")) << cell(w, "Gearbox temp", 3);

    // What the ECU is told by its sensors proves the circuit, as on the bench.
    w.click("links-done");
    w.choose("clt");
    const auto promises = desk.promises.of({"clt"}, job::Condition::KeyOn);
    for (const proof::Judged& j : promises) {
        if (j.expectation.station.kind == proof::StationKind::Input)
            ecu.says["ECT_mV"] = j.expectation.due.si() * 1000;
        if (j.expectation.station.kind == proof::StationKind::Value)
            ecu.says["ECT"] = std::round(j.expectation.due.si() - 273.15);
    }
    w.window.showStage(analysis::Stage::Scale);
    w.settle();
    const auto proved = [&] {
        return QTest::qWaitFor([&] { return w.textOf("returned-value").find("✓") != std::string::npos; }, 5000);
    };
    ASSERT_TRUE(proved()) << w.textOf("returned-value");
    const size_t before = desk.store.job()->proofs.size();
    w.click("record");
    w.settle();
    EXPECT_EQ(desk.store.job()->proofs.size(), before + 2) << "volts and value; its counts are not told";

    // Nothing is sent: what would be is said.
    w.click("send");
    w.settle();
    EXPECT_THAT(w.textOf("said"), testing::HasSubstr("only listened to"));
}

TEST(LinksPath, TheNextCarFindsTheLinkAndItsSignals)
{
    const NewUser user;
    FakeStream ecu(kOther);
    {
        Window w;
        fillIn(w);
        use(w);
        w.find<QTableWidget>("told")->setCurrentCell(0, 0);
        pick(w, "told-value", QStringLiteral("nothing"));
        EXPECT_EQ(cell(w, "Manifold pressure", 2), "–");
        pick(w, "told-value", QStringLiteral("FuelPress"));
        EXPECT_EQ(cell(w, "Manifold pressure", 2), "FuelPress");
    }
    Window w;
    w.key(Qt::Key_L, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->stream, "");
    pick(w, "stream-link", QStringLiteral("The other unit"));
    use(w);
    EXPECT_EQ(cell(w, "Manifold pressure", 2), "FuelPress") << "as it was put right by hand";
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->stream, "");
    EXPECT_TRUE(QTest::qWaitFor([&] { return !w.window.desk().live.stream(); }, 3000)) << "undo disconnects";
    w.window.desk().store.undoStack().redo();
    w.settle();
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.ecuLive(); }, 5000)) << "and redo connects";
    w.click("stream-forget");
    w.settle();
    EXPECT_TRUE(w.window.desk().linking.profiles().streams().empty());
}

TEST(LinksPath, WhatWasLiveIsRecordedAndPlayedWithoutACar)
{
    const NewUser user;
    QString csv;
    Window w;
    {
        FakeStream ecu(kOther);
        ecu.says = {{"ECT", 20}, {"ECT_mV", 2500}};
        fillIn(w);
        use(w);
        ASSERT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C"));
        w.key(Qt::Key_F4);
        ASSERT_TRUE(w.window.desk().live.recorder().isRecording());
        EXPECT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.recorder().seconds() > 0.5; }, 5000));
        w.key(Qt::Key_F5);
        ecu.says["ECT"] = 85;
        ASSERT_TRUE(shows(w, "Coolant temp", 3, "85.0 °C"));
        EXPECT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.recorder().seconds() > 1.5; }, 5000));
        EXPECT_THAT(w.find<QPushButton>("chip-ecu")->text().toStdString(), testing::StartsWith("recording"));
        w.key(Qt::Key_F4);
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.notice().find("Recorded") != std::string::npos; }, 5000));
        csv = w.window.desk().live.recorder().file();
    }
    take(w.window, "Play it");
    EXPECT_EQ(w.find<QLineEdit>("recording-file")->text(), csv);
    const QString frames = QFileInfo(csv).path() + u'/' + QFileInfo(csv).completeBaseName() + QStringLiteral(".log");
    const size_t values = static_cast<size_t>(w.window.desk().live.recorder().values());
    EXPECT_GT(values, 200U);

    // Rows, then the frames themselves: each shows what was live, and what came after the mark comes after it.
    for (const QString& file : {csv, frames}) {
        w.find<QLineEdit>("recording-file")->setText(file);
        w.click("recording-play");
        EXPECT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C")) << file.toStdString() << w.textOf("recording-status");
        EXPECT_TRUE(shows(w, "Coolant temp", 3, "85.0 °C")) << file.toStdString() << w.textOf("recording-status");
        w.choose("clt");
        w.window.showStage(analysis::Stage::Scale);
        w.settle();
        EXPECT_FALSE(w.find<QAbstractButton>("record")->isEnabled()) << "what is past proves nothing";
        w.key(Qt::Key_L, Qt::ControlModifier);
        w.settle();
        EXPECT_TRUE(
            QTest::qWaitFor([&] { return w.textOf("recording-status").find("to its end") != std::string::npos; }, 5000))
            << w.textOf("recording-status");
        w.click("recording-play");
        EXPECT_FALSE(w.window.desk().live.replay());
    }
    w.find<QLineEdit>("recording-file")->setText(QStringLiteral("/no/such/file.csv"));
    w.click("recording-play");
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return w.textOf("recording-status").find("cannot be read") != std::string::npos; }, 5000))
        << w.textOf("recording-status");
}

TEST(LinksPath, WhatIsNoLongerSentIsStaleAfterASecondAndNeverNow)
{
    const NewUser user;
    FakeStream ecu(kOther);
    ecu.says = {{"ECT", 20}};
    Window w;
    fillIn(w);
    use(w);
    ASSERT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C"));
    ecu.stop();
    EXPECT_TRUE(QTest::qWaitFor([&] { return w.find<QPushButton>("chip-ecu")->text() == "ECU lost"; }, 5000));
    EXPECT_NE(cell(w, "Coolant temp", 3), "20.0 °C");
    EXPECT_THAT(w.textOf("stream-status"), testing::HasSubstr("sends nothing"));
    ecu.goOn();
    EXPECT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C")) << "and it comes back by itself";
}

TEST(LinksPath, WhatIsWrongIsSaidBesideItsField)
{
    const NewUser user;
    Window w;
    w.key(Qt::Key_L, Qt::ControlModifier);
    w.settle();
    pick(w, "stream-link", QStringLiteral("another CAN adapter"));
    w.click("stream-use");
    EXPECT_THAT(w.textOf("stream-wrong"), testing::HasSubstr("Say the adapter"));
    w.find<QComboBox>("stream-adapter")->setCurrentText(QStringLiteral("no-such-plugin can0"));
    w.find<QLineEdit>("stream-file")->setText(QStringLiteral("/no/such/file.dbc"));
    w.click("stream-use");
    EXPECT_THAT(w.textOf("stream-wrong"), testing::HasSubstr("Open the database"));
    const QString broken = user.file("broken.dbc");
    NewUser::write(broken, "BO_ 1 A: 8 X\n SG_ B : 60|16@1+ (1,0) [0|0] \"\" Y\n");
    w.find<QLineEdit>("stream-file")->setText(broken);
    w.click("stream-try");
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return w.textOf("stream-status").find("broken.dbc:2") != std::string::npos; }, 5000))
        << w.textOf("stream-status");
    NewUser::write(broken, "BO_ 1 A: 8 X\n SG_ B : 0|16@1+ (1,0) [0|0] \"\" Y\n");
    w.click("stream-try");
    EXPECT_TRUE(
        QTest::qWaitFor([&] { return w.textOf("stream-status").find("cannot be opened") != std::string::npos; }, 5000))
        << w.textOf("stream-status");
    EXPECT_EQ(w.window.desk().store.job()->stream, "") << "what was tried is not kept";
}

TEST(LinksPath, FramesOfAnotherEcuAreSaidToBe)
{
    const NewUser user;
    FakeStream ecu(VICEGRIP_SOURCE_DIR "/data/links/bench.dbc");
    Window w;
    fillIn(w);
    w.click("stream-try");
    EXPECT_TRUE(QTest::qWaitFor(
        [&] { return w.textOf("stream-status").find("none of them is in the database") != std::string::npos; }, 5000))
        << w.textOf("stream-status");
    w.click("links-done");
    w.settle();
    EXPECT_FALSE(w.window.desk().live.stream()) << "a trial ends with the page";
}

/// A multimeter on the network, by what is typed; the next car finds it.
TEST(LinksPath, AMeterOnTheNetworkReadsAPlace)
{
    const NewUser user;
    const FakeMeter meter("+2.50000E+00\n");
    Window w;
    w.click("chip-meter");
    w.settle();
    auto* where = w.find<QComboBox>("meter-where");
    where->setCurrentText(QStringLiteral("not a place at all"));
    w.click("meter-use");
    EXPECT_THAT(w.textOf("meter-wrong"), testing::HasSubstr("Expected a host"));
    where->setCurrentText(meter.typed());
    w.click("meter-use");
    auto& desk = w.window.desk();
    EXPECT_TRUE(QTest::qWaitFor([&] { return desk.live.meterReady(); }, 5000)) << w.textOf("meter-status");
    EXPECT_EQ(desk.store.job()->instrument, meter.typed().toStdString());
    w.click("links-done");
    w.choose("clt");
    w.window.showStage(analysis::Stage::Meter);
    w.settle();
    const size_t before = desk.store.job()->proofs.size();
    w.key(Qt::Key_M);
    ASSERT_TRUE(QTest::qWaitFor([&] { return desk.store.job()->proofs.size() > before; }, 10000));
    EXPECT_EQ(desk.store.job()->proofs.back().reading.si(), 2.5);
    EXPECT_EQ(desk.store.job()->proofs.back().source, job::ReadingSource::Meter);
    desk.store.undoStack().undo();
    desk.store.undoStack().undo();
    w.settle();
    EXPECT_FALSE(desk.live.hasMeter()) << "undo disconnects";
    w.click("chip-meter");
    w.settle();
    EXPECT_GE(where->findText(meter.typed()), 0) << "it is offered again";
}

} // namespace
} // namespace vicegrip::test
