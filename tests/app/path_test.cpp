#include "tests/support/window.h"

#include <gmock/gmock.h>

/// The path a new user walks, through the real window and the real bench: prove a circuit, break a wire, change a
/// pull-up, hand the table over, export it, and undo all of it.
namespace vicegrip {
namespace {

using analysis::Stage;
using proof::State;
using testing::HasSubstr;

TEST(Path, ProveBreakChangeScaleExportUndo)
{
    test::Window w;
    w.startBench();
    const job::Job before = *w.window.desk().store.job();

    // Prove the oil temperature circuit: Ctrl+4, then M at each place that is needed.
    w.choose("ot");
    w.key(Qt::Key_4, Qt::ControlModifier);
    ASSERT_EQ(w.window.stage(), Stage::Meter);
    w.settle();
    EXPECT_EQ(w.textOf("probe"), "Probe cavity A12");
    EXPECT_EQ(w.textOf("must-read"), "3.244");
    w.key(Qt::Key_M);
    ASSERT_TRUE(w.becomes("ot", "A.12", State::Done)) << w.textOf("verdict");
    EXPECT_THAT(w.textOf("verdict"), HasSubstr("proved"));
    w.click("station-A.12");
    w.window.desk().selection.setStation("OT.2");
    w.key(Qt::Key_M);
    ASSERT_TRUE(w.becomes("ot", "OT.2", State::Done));
    EXPECT_EQ(analysis::find(*w.window.desk().store.analysis(), {"ot"})->meter, State::Done);

    // Break its signal wire in the fault list: the reading fails at the ECU's end and not at the ground.
    w.setFaults(R"([{"kind": "open", "wire": "w12"}])");
    ASSERT_TRUE(w.ecuReads("ot", false));
    w.window.desk().selection.setStation("A.12");
    w.key(Qt::Key_M);
    ASSERT_TRUE(w.becomes("ot", "A.12", State::Failing));
    EXPECT_THAT(w.textOf("verdict"), HasSubstr("not as drawn"));
    EXPECT_EQ(w.at("ot", "OT.2").state, State::Done);
    EXPECT_EQ(w.window.desk().store.analysis()->tasks.front().title, "Fuel pressure: find the fault");
    w.window.desk().selection.setStation("BE.7");
    w.key(Qt::Key_M);
    ASSERT_TRUE(w.becomes("ot", "BE.7", State::Failing)) << "beyond the break nothing pulls it up";

    // Mend it and prove again.
    w.setFaults("[]");
    ASSERT_TRUE(w.ecuReads("ot"));
    for (const char* place : {"A.12", "BE.7"}) {
        w.window.desk().selection.setStation(place);
        w.key(Qt::Key_M);
        ASSERT_TRUE(w.becomes("ot", place, State::Done)) << place;
    }

    // Hand the table to the ECU and see the value come back right.
    w.key(Qt::Key_5, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(w.textOf("returned-value"), "no table");
    w.key(Qt::Key_E);
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("returned-value").find("°C ✓") != std::string::npos; }, 5000))
        << w.textOf("said") << " / " << w.textOf("returned-value");
    w.key(Qt::Key_R);
    ASSERT_TRUE(w.becomes("ot", "value", State::Done));
    EXPECT_EQ(analysis::find(*w.window.desk().store.analysis(), {"ot"})->scale, State::Done);

    // Export it: beside the job.
    w.key(Qt::Key_X);
    QFile csv(w.folder.filePath(QStringLiteral("petrel-ot-table.csv")));
    ASSERT_TRUE(csv.open(QIODevice::ReadOnly)) << w.textOf("said");
    const QByteArray table = csv.readAll();
    EXPECT_TRUE(table.startsWith("input (V),value (°C)\r\n"));
    EXPECT_EQ(table.count('\n'), 17);

    // Change the pull-up: everything proved on it is stale, and says why.
    w.type(w.find<QLineEdit>("pull-up"), "2k49");
    ASSERT_TRUE(w.becomes("ot", "A.12", State::Stale));
    EXPECT_EQ(w.at("ot", "A.12").reason, "input AN6 pull-up changed from 1k Ω to 2k49 Ω");
    EXPECT_EQ(w.at("ot", "value").state, State::Stale);
    EXPECT_EQ(analysis::find(*w.window.desk().store.analysis(), {"ot"})->scale, State::Stale);

    // Undo all of it.
    int steps = 0;
    while (w.window.desk().store.undoStack().canUndo() && steps < 50) {
        w.key(Qt::Key_Z, Qt::ControlModifier);
        ++steps;
    }
    w.settle();
    EXPECT_EQ(steps, 8) << "seven readings and one pull-up";
    EXPECT_EQ(*w.window.desk().store.job(), before);
    EXPECT_EQ(w.at("ot", "A.12").state, State::Untouched);
    EXPECT_TRUE(w.window.desk().store.isSaved());
}

} // namespace
} // namespace vicegrip
