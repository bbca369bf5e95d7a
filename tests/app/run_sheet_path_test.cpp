#include "tests/support/on_the_sheet.h"

#include <gmock/gmock.h>

/// The run sheet in the window: by the keyboard, by a meter and by what the bench's ECU reports.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::HasSubstr;
using testing::StartsWith;

using RunSheetPath = test::OnTheSheet;

TEST_F(RunSheetPath, EyesPassALineWithSpaceAndTheNextComesIntoHand)
{
    show();
    EXPECT_THAT(title(), StartsWith("The car stands"));
    EXPECT_THAT(w.textOf("caution"), HasSubstr("local codes"));
    w.key(Qt::Key_Space);
    w.settle();
    EXPECT_EQ(passed("stands"), 1U);
    EXPECT_THAT(title(), StartsWith("Extinguisher"));
    EXPECT_THAT(w.textOf("sheet-summary"), HasSubstr("of 56"));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(passed("stands"), 0U) << "undone";
    w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    w.settle();
    choose("The car stands safely, and cannot roll");
    EXPECT_THAT(standing(), StartsWith("Passed"));
    w.key(Qt::Key_N);
    w.settle();
    EXPECT_EQ(passed("stands"), 0U) << "not any more";
}

TEST_F(RunSheetPath, WhatWaitsSaysForWhatAndCannotPass)
{
    show();
    choose("No fuel anywhere, with the pump primed");
    EXPECT_THAT(standing(), StartsWith("Waits for: The car stands"));
    EXPECT_FALSE(w.find<QAbstractButton>("sheet-seen")->isEnabled());
    w.key(Qt::Key_Space);
    w.settle();
    EXPECT_TRUE(job().passed.empty());
}

TEST_F(RunSheetPath, WorkOfAnotherStageLeadsThere)
{
    show();
    choose("Every plug is pinned and locked");
    EXPECT_THAT(standing(), HasSubstr("to go"));
    w.key(Qt::Key_G);
    w.settle();
    EXPECT_EQ(w.window.stage(), Stage::Pins);
}

/// A reading outside its window fails the line, says what to do, and is kept.
TEST_F(RunSheetPath, ATypedReadingIsHeldAgainstItsWindow)
{
    show();
    choose("Battery at its posts");
    EXPECT_THAT(w.textOf("sheet-due"), StartsWith("12.0"));
    w.type(w.find<QLineEdit>("sheet-reading"), "11.4");
    ASSERT_EQ(job().passed.size(), 1U);
    EXPECT_THAT(standing(), HasSubstr("11.4"));
    EXPECT_THAT(w.textOf("sheet-remedy"), StartsWith("Charge it"));
    w.type(w.find<QLineEdit>("sheet-reading"), "12.5 V");
    choose("Battery at its posts");
    EXPECT_THAT(standing(), StartsWith("Passed: 12.5"));
}

/// The bench's meter at the battery, then its ECU: what it reports passes by itself, sensor after sensor.
TEST_F(RunSheetPath, TheBenchPassesWhatItsEcuReports)
{
    workElsewhere();
    show();
    passBeforePower();
    EXPECT_THAT(title(), StartsWith("Key on")) << standing();
    choose("Battery at its posts");
    w.startBench();
    w.key(Qt::Key_T);
    ASSERT_TRUE(QTest::qWaitFor([&] { return passed("battery") == 2; }, 10000)) << standing();
    EXPECT_EQ(job().passed.back().source, job::ReadingSource::Meter);
    choose("Key on: the ECU wakes and is heard");
    ASSERT_TRUE(QTest::qWaitFor([&] { return passed("awake") == 1; }, 10000))
        << title() << ", " << standing() << ", " << w.notice() << ", " << w.window.desk().live.ecuLive();
    w.settle();
    // The ECU tells a pressure whose table it was left with; with its value steady the line passes by itself.
    const auto before = job().proofs.size();
    choose("Manifold pressure reads its place");
    ASSERT_TRUE(QTest::qWaitFor([&] { return job().proofs.size() > before; }, 10000)) << standing();
    EXPECT_EQ(job().proofs.back().circuit.value, "map");
    EXPECT_EQ(job().proofs.back().station, "value");
    EXPECT_EQ(job().proofs.back().source, job::ReadingSource::Ecu);
}

/// What does not read its place goes to the fault finder with its reading.
TEST_F(RunSheetPath, AValueThatIsOffGoesToTheFaultFinderWithItsReading)
{
    w.setFaults(R"([{"kind": "open", "wire": "w1"}])");
    workElsewhere();
    workThrough("value map");
    w.startBench();
    show();
    choose("Manifold pressure reads its place");
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.textOf("sheet-now").find("kPa") != std::string::npos; }, 10000));
    EXPECT_TRUE(job().proofs.empty() || job().proofs.back().circuit.value != "map") << "it does not pass by itself";
    w.key(Qt::Key_F);
    w.settle();
    EXPECT_EQ(w.window.stage(), Stage::Meter);
    EXPECT_EQ(w.window.desk().selection.circuit().value, "map");
    ASSERT_FALSE(job().proofs.empty());
    EXPECT_EQ(job().proofs.back().station, "value");
    EXPECT_FALSE(job().proofs.back().passes());
}

/// On the bench's starter and at its idle: the speed its ECU counts, the meter at the posts, oil, and then it is warm.
TEST_F(RunSheetPath, FromTheStarterToAnIdleOnTheBench)
{
    workElsewhere();
    workThrough("crank speed");
    w.startBench();
    show();
    choose("The ECU shows the starter's speed");
    EXPECT_EQ(passed("crank speed"), 0U) << "nobody has turned the key";
    w.key(Qt::Key_C);
    ASSERT_TRUE(QTest::qWaitFor([&] { return passed("crank speed") == 1; }, 10000)) << standing();
    EXPECT_EQ(w.window.desk().selection.condition(), job::Condition::Cranking);
    EXPECT_NEAR(job().passed.back().reading->si() * 60, 200, 20);
    w.settle();
    choose("Battery while the starter turns");
    w.key(Qt::Key_T);
    ASSERT_TRUE(QTest::qWaitFor([&] { return passed("crank battery") == 1; }, 10000)) << standing();
    EXPECT_TRUE(job().passed.back().passes()) << standing();
    workThrough("runs");
    choose("It runs by itself");
    w.key(Qt::Key_C);
    ASSERT_TRUE(QTest::qWaitFor([&] { return passed("runs") == 1; }, 10000)) << standing();
    w.settle();
    choose("The alternator charges");
    w.key(Qt::Key_T);
    ASSERT_TRUE(QTest::qWaitFor([&] { return passed("charging") == 1; }, 10000)) << standing();
    EXPECT_TRUE(job().passed.back().passes()) << standing();
}

} // namespace
} // namespace vicegrip
