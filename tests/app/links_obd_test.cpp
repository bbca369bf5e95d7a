#include "tests/support/diagnostic_bus.h"
#include "tests/support/fake_stream.h"
#include "tests/support/fake_unit.h"
#include "tests/support/links.h"
#include "tests/support/new_user.h"

#include <gmock/gmock.h>

/// Units that answer over OBD: what they say, what circuits are told by it, and that nobody is asked unbidden.
namespace vicegrip::test {
namespace {

/// Every row of the list as "What: says".
std::string said(Window& w)
{
    auto* table = w.find<QTableWidget>("units");
    std::string out;
    for (int row = 0; row < table->rowCount(); ++row)
        out += table->item(row, 1)->text().toStdString() + ": " + table->item(row, 2)->text().toStdString() + "\n";
    return out;
}

bool saysOf(Window& w, const char* what)
{
    return QTest::qWaitFor([&] { return said(w).find(what) != std::string::npos; }, 10000);
}

TEST(LinksPath, ThePlugInUnitIsAskedOverObdAndClearedOnlyWhenThatWasMeant)
{
    const NewUser user;
    Window w;
    const QString van = w.folder.filePath(QStringLiteral("curlew.vicegrip"));
    QFile::copy(QStringLiteral(VICEGRIP_SOURCE_DIR "/data/jobs/curlew.vicegrip"), van);
    ASSERT_TRUE(w.window.openJob(van));
    w.setFaults("[]");
    auto& live = w.window.desk().live;
    live.startBench(QStringLiteral(VICEGRIP_BENCH), van, w.faults());
    ASSERT_TRUE(QTest::qWaitFor([&] { return live.meterReady() && live.ecuLive(); }, 10000));
    w.choose("clt"); // what it says over OBD is what its table makes of the volts
    w.window.showStage(analysis::Stage::Scale);
    w.settle();
    w.click("send");
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("said").find("took the table") != std::string::npos; }, 5000));
    w.key(Qt::Key_L, Qt::ControlModifier);
    w.settle();
    w.click("view-units");
    w.settle();
    EXPECT_EQ(said(w), "") << "nobody is asked by himself";
    w.click("units-ask");
    EXPECT_TRUE(saysOf(w, "Coolant temp: 2")) << said(w) << w.textOf("units-status"); // the ambient's 20 °C or so
    EXPECT_TRUE(saysOf(w, "Codes: none")) << said(w);
    EXPECT_TRUE(saysOf(w, "Engine speed: 0 rpm"));

    // The coolant's wire lies open: its input goes up to the pull-up.
    const auto wire = [&] {
        for (const job::Wire& one : w.window.desk().store.job()->wires)
            for (const job::PointRef& at : {one.from, one.to})
                if (at == job::cavityOf(*w.window.desk().store.job(), parts::InputId{"CLT"}))
                    return QByteArray::fromStdString(one.id.value);
        return QByteArray();
    }();
    w.setFaults("[{\"kind\": \"open\", \"wire\": \"" + wire + "\"}]");
    EXPECT_TRUE(QTest::qWaitFor(
        [&] {
            w.click("units-read");
            return QTest::qWaitFor(
                [&] { return said(w).find("P0118, stored: Coolant temp: reads too high") != std::string::npos; }, 700);
        },
        15000))
        << said(w);

    w.click("units-clear");
    EXPECT_TRUE(w.find<QLabel>("caution")->isVisible());
    w.click("units-keep");
    EXPECT_TRUE(saysOf(w, "P0118, stored"));
    const size_t before = w.window.desk().store.job()->log.size();
    w.click("units-clear");
    w.click("units-really");
    EXPECT_TRUE(saysOf(w, "P0118, pending")) << "its fault is still there";
    ASSERT_EQ(w.window.desk().store.job()->log.size(), before + 1);
    EXPECT_EQ(w.window.desk().store.job()->log.back().what, "Codes cleared over OBD: P0118");
    w.click("units-ask");
    EXPECT_EQ(said(w), "");
}

/// A car whose unit has a diagnostic plug and no database: its values are its circuits'.
TEST(LinksObd, CircuitsAreToldByAUnitThatIsAsked)
{
    for (const bool extended : {false, true}) {
        const NewUser user;
        auto unit = std::make_unique<FakeUnit>(extended ? 0x18DAF110 : 0x7E8, extended);
        unit->says = unitWith({{0x05, 20}, {0x0B, 101}, {0x0C, 0}, {0x45, 2}});
        Window w;
        fillIn(w, {}, QStringLiteral("Its plug"));
        use(w);
        auto& desk = w.window.desk();
        EXPECT_TRUE(desk.live.ecu().isAsking());
        EXPECT_EQ(cell(w, "Coolant temp", 2), "CoolantTemp");
        EXPECT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C")) << cell(w, "Coolant temp", 3);
        EXPECT_TRUE(shows(w, "Manifold pressure", 3, "101.0 kPa abs")) << cell(w, "Manifold pressure", 3);
        EXPECT_EQ(cell(w, "Manifold pressure", 5), "–") << "a unit tells no volts";
        w.click("view-units");
        EXPECT_TRUE(saysOf(w, "Coolant temp: 20")) << said(w);
        w.click("view-told");

        // Its value stands for the circuit's, at Scale as on the Board.
        w.click("links-done");
        w.choose("clt");
        w.window.showStage(analysis::Stage::Scale);
        w.settle();
        EXPECT_TRUE(
            QTest::qWaitFor([&] { return w.textOf("returned-value").find("20.0 °C") != std::string::npos; }, 5000))
            << w.textOf("returned-value");

        // Frames and questions are in the log, so that it can be played.
        w.key(Qt::Key_F4);
        EXPECT_TRUE(QTest::qWaitFor([&] { return desk.live.recorder().seconds() > 1; }, 5000));
        w.key(Qt::Key_F4);
        EXPECT_TRUE(QTest::qWaitFor([&] { return w.notice().find("Recorded") != std::string::npos; }, 5000));
        const QString csv = desk.live.recorder().file();
        unit.reset();
        w.key(Qt::Key_L, Qt::ControlModifier);
        w.settle();
        EXPECT_TRUE(QTest::qWaitFor([&] { return cell(w, "Coolant temp", 3) != "20.0 °C"; }, 5000))
            << "nobody answers: it is not now";
        w.find<QLineEdit>("recording-file")
            ->setText(QFileInfo(csv).path() + u'/' + QFileInfo(csv).completeBaseName() + QStringLiteral(".log"));
        w.click("recording-play");
        EXPECT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C")) << w.textOf("recording-status");
        w.click("recording-play");
        desk.linking.useNone();
        w.settle();
    }
}

/// Where a database describes the frames, units on the same bus are left in peace.
TEST(LinksObd, NobodyIsAskedWhereNobodyAskedForIt)
{
    const NewUser user;
    FakeStream ecu(kOther);
    ecu.says = {{"ECT", 20}};
    FakeUnit unit(0x7E8, false);
    unit.says = unitWith({{0x05, 83}});
    Window w;
    fillIn(w);
    use(w);
    ASSERT_TRUE(shows(w, "Coolant temp", 3, "20.0 °C"));
    EXPECT_THAT(unit.heard, testing::Not(testing::Contains(0x7DF)));
    w.click("view-units");
    w.click("units-ask");
    EXPECT_TRUE(saysOf(w, "Coolant temp: 83"));
    EXPECT_EQ(cell(w, "Coolant temp", 3), "20.0 °C") << "the circuit is told by its own stream";
    EXPECT_THAT(unit.heard, testing::Contains(0x7DF));
}

} // namespace
} // namespace vicegrip::test
