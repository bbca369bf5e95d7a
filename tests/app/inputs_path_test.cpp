#include "core/harness/edits.h"
#include "core/harness/resistors.h"
#include "core/seating/ways_out.h"
#include "tests/support/window.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <QListWidget>
#include <QPlainTextEdit>
#include <gmock/gmock.h>

/// The path of a new user through Brief and Inputs, with the keyboard only: an empty job, an engine, its circuits, the
/// small ECU, what it cannot read and why, a pull-up for one and an expander for another, and the readings follow.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::HasSubstr;

const job::Circuit* circuitOf(test::Window& w, const char* id)
{
    return job::find(*w.window.desk().store.job(), job::CircuitId{id});
}

/// Walks a list with the arrow keys until it shows `words`.
void choose(test::Window& w, const char* box, const char* words)
{
    auto* combo = w.find<QComboBox>(box);
    const int index = combo->findText(QString::fromUtf8(words), Qt::MatchStartsWith);
    ASSERT_GE(index, 0) << words;
    combo->setFocus();
    while (combo->currentIndex() != index)
        QTest::keyClick(combo, combo->currentIndex() < index ? Qt::Key_Down : Qt::Key_Up);
    w.settle();
}

/// Chooses as a click in the opened list does.
void pick(test::Window& w, const char* box, const char* words)
{
    auto* combo = w.find<QComboBox>(box);
    const int index = combo->findText(QString::fromUtf8(words), Qt::MatchStartsWith);
    ASSERT_GE(index, 0) << words;
    combo->setCurrentIndex(index);
    emit combo->activated(index);
    w.settle();
}

TEST(InputsPath, FromAnEmptyJobToReadingsWithTheKeyboardOnly)
{
    const test::UserFolder user;
    test::Window w;
    w.key(Qt::Key_N, Qt::ControlModifier);
    w.settle();
    ASSERT_EQ(w.window.stage(), Stage::Brief);
    EXPECT_THAT(w.notice(), HasSubstr("New job 1.vicegrip"));
    EXPECT_TRUE(w.window.desk().store.job()->circuits.empty());

    // The engine.
    w.type(w.find<QLineEdit>("cylinders"), "4");
    w.type(w.find<QLineEdit>("displacement_l"), "1598 cc");
    choose(w, "aspiration", "Turbocharged");
    EXPECT_TRUE(w.find<QLineEdit>("target_kpa")->property("wrong").toBool()) << "boosted to 0 kPa is no boost";
    w.type(w.find<QLineEdit>("target_kpa"), "-1 bar");
    EXPECT_TRUE(w.find<QLineEdit>("target_kpa")->property("wrong").toBool()) << "a vacuum is no target";
    w.type(w.find<QLineEdit>("target_kpa"), "14 psi");
    EXPECT_FALSE(w.find<QLineEdit>("target_kpa")->property("wrong").toBool());
    w.type(w.find<QLineEdit>("altitude_m"), "500 m");
    EXPECT_NEAR(w.window.desk().store.job()->surroundings.barometer_pa, 95461, 10);
    choose(w, "fuel", "Any ethanol blend");
    EXPECT_TRUE(w.window.desk().store.job()->circuits.empty()) << "shown, not done";
    EXPECT_THAT(w.textOf("consequences-summary"), HasSubstr("to add"));

    // The ECU, and the circuits.
    auto* ecu = w.find<QComboBox>("ecu");
    ecu->setFocus();
    QTest::keyClick(ecu, Qt::Key_Down); // opens the list: arrows alone change nothing
    while (!ecu->view()->currentIndex().data().toString().startsWith(QStringLiteral("Small standalone")))
        QTest::keyClick(ecu->view(), Qt::Key_Down);
    EXPECT_TRUE(w.window.desk().store.job()->ecu.inputs.empty());
    QTest::keyClick(ecu->view(), Qt::Key_Return);
    w.window.activateWindow(); // the list was a window of its own
    EXPECT_TRUE(QTest::qWaitForWindowActive(&w.window));
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->ecu.inputs.size(), 7U);
    w.key(Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    ASSERT_NE(circuitOf(w, "flex"), nullptr);
    ASSERT_NE(circuitOf(w, "map"), nullptr);
    EXPECT_FALSE(w.find<QAbstractButton>("apply-brief")->isEnabled()) << "nothing is left to do";

    // What is taken out stays out.
    auto* table = w.find<QTableWidget>("consequences");
    table->setFocus();
    for (int row = 0; row < table->rowCount(); ++row)
        if (table->item(row, 1)->text() == QStringLiteral("Oil pressure"))
            table->setCurrentCell(row, 0);
    QTest::keyClick(table, Qt::Key_Delete);
    w.settle();
    EXPECT_EQ(circuitOf(w, "oil-pressure"), nullptr);
    w.key(Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(circuitOf(w, "oil-pressure"), nullptr);

    // Seats.
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    ASSERT_EQ(w.window.stage(), Stage::Inputs);
    w.key(Qt::Key_S);
    w.settle();
    EXPECT_THAT(w.textOf("seating-outcome"), HasSubstr("Proved"));
    ASSERT_FALSE(circuitOf(w, "map")->input.empty());
    ASSERT_TRUE(circuitOf(w, "clt")->input.empty()) << "no pull-up anywhere on this ECU";
    ASSERT_TRUE(circuitOf(w, "iat")->input.empty());
    EXPECT_TRUE(w.window.desk().selection.circuit() == job::CircuitId{"clt"} ||
                w.window.desk().selection.circuit() == job::CircuitId{"iat"})
        << "who is left over is selected";
    w.choose("clt");
    EXPECT_THAT(w.textOf("seat"), HasSubstr("no seat"));
    const auto refused = seating::refusals(*w.window.desk().store.job(), *circuitOf(w, "clt"));
    EXPECT_EQ(refused.size(), 7U) << "each input has its reason";

    // An external pull-up: no input is free for it, so what is only wanted gives up its own.
    EXPECT_THAT(w.textOf("way-title-0"), testing::AllOf(HasSubstr("gives up U"), HasSubstr("pull-up")));
    w.key(Qt::Key_1, Qt::AltModifier);
    w.settle();
    ASSERT_FALSE(circuitOf(w, "clt")->input.empty());
    const auto* pullUp = electrics::Wiring(*w.window.desk().store.job()).pullUp(*circuitOf(w, "clt"));
    ASSERT_NE(pullUp, nullptr);

    // An expander for the air temperature.
    w.choose("iat");
    int way = -1;
    for (int i = 0; i < 9; ++i)
        if (auto* b = w.window.findChild<QAbstractButton*>(QStringLiteral("way-%1").arg(i));
            b != nullptr && b->accessibleName().contains(QStringLiteral("Expander")))
            way = i;
    ASSERT_GE(way, 0);
    w.key(static_cast<Qt::Key>(Qt::Key_1 + way), Qt::AltModifier);
    w.settle();
    ASSERT_EQ(w.window.desk().store.job()->expanders.size(), 1U);
    EXPECT_EQ(circuitOf(w, "iat")->input.value.substr(0, 2), "EX");

    // The meter's promises follow both.
    for (const char* id : {"clt", "iat"}) {
        w.choose(id);
        w.key(Qt::Key_4, Qt::ControlModifier);
        w.settle();
        const auto& input = w.at(id, "input").expectation;
        EXPECT_TRUE(input.promises()) << id << ": " << input.trouble;
        EXPECT_GT(input.due.si(), 0.3) << id;
        EXPECT_LT(input.due.si(), 4.7) << id;
        w.key(Qt::Key_5, Qt::ControlModifier);
        w.settle();
        EXPECT_TRUE(w.find<QAbstractButton>("export")->isEnabled()) << id << ": its table is there";
    }

    // All of it can be undone.
    auto& undo = w.window.desk().store.undoStack();
    while (undo.canUndo())
        undo.undo();
    w.settle();
    EXPECT_TRUE(w.window.desk().store.job()->circuits.empty());
    EXPECT_TRUE(w.window.desk().store.job()->expanders.empty());
}

TEST(Inputs, KeysWalkSeatLockAndUnseat)
{
    test::Window w;
    w.choose("map");
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    auto* seating = w.find<QWidget>("seating");
    seating->setFocus();
    QTest::keyClick(seating, Qt::Key_L);
    w.settle();
    EXPECT_TRUE(circuitOf(w, "map")->locked);
    QTest::keyClick(seating, Qt::Key_L);
    QTest::keyClick(seating, Qt::Key_Delete);
    w.settle();
    EXPECT_TRUE(circuitOf(w, "map")->input.empty());
    EXPECT_THAT(w.textOf("seat"), HasSubstr("no seat"));
    QTest::keyClick(seating, Qt::Key_Right); // to the first input that would take it: the one it left
    QTest::keyClick(seating, Qt::Key_Return);
    w.settle();
    EXPECT_EQ(circuitOf(w, "map")->input, parts::InputId{"AN1"});
    QTest::keyClick(seating, Qt::Key_Down);
    QTest::keyClick(seating, Qt::Key_Left);
    QTest::keyClick(seating, Qt::Key_Down);
    EXPECT_NE(w.window.desk().selection.circuit(), job::CircuitId{"map"});
    EXPECT_FALSE(seating->accessibleDescription().isEmpty());
}

TEST(Inputs, AnInputThatCannotTakeItSaysWhyAndNothingChanges)
{
    test::Window w;
    w.choose("crank");
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    const auto before = w.window.desk().store.job();
    auto* seating = w.find<QWidget>("seating");
    seating->setFocus();
    QTest::keyClick(seating, Qt::Key_Right);
    for (int i = 0; i < 12; ++i) // up from the digital inputs to a free analog one
        QTest::keyClick(seating, Qt::Key_Up);
    QTest::keyClick(seating, Qt::Key_Return);
    w.settle();
    EXPECT_THAT(w.notice(), testing::AllOf(HasSubstr("does not take"), HasSubstr("frequency")));
    EXPECT_EQ(w.window.desk().store.job(), before);
}

TEST(Inputs, HowTheEcuIsSetIsSaidAndJudged)
{
    test::Window w;
    w.choose("clt");
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    const auto judged = [&] {
        return std::ranges::count(w.window.desk().store.analysis()->findings, "mode-set-otherwise",
                                  &findings::Finding::rule);
    };
    const auto input = [&] { return *job::findInput(*w.window.desk().store.job(), circuitOf(w, "clt")->input); };
    ASSERT_EQ(judged(), 0);
    pick(w, "input-mode", "switch");
    EXPECT_EQ(input().setTo, parts::InputMode::Switch);
    EXPECT_EQ(judged(), 1);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(judged(), 0);
    EXPECT_THAT(w.textOf("pull-up-effect"), HasSubstr("a count"));
    const double before = w.at("clt", "input").expectation.due.si();
    pick(w, "input-pull-up", "1");
    ASSERT_EQ(input().pull_up_ohm, 1000);
    EXPECT_NE(w.at("clt", "input").expectation.due.si(), before) << "the meter's promise follows";
    pick(w, "input-pull-up", "off");
    EXPECT_FALSE(input().pull_up_ohm);
}

TEST(Inputs, DraggingACircuitOntoAnInputSeatsIt)
{
    test::Window w;
    w.choose("oil-pressure");
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    auto* seating = w.find<QWidget>("seating");
    // The ninth circuit's box, and the row of AN10: heading and nine inputs above it.
    int row = 0;
    const auto& circuits = w.window.desk().store.job()->circuits;
    while (circuits[static_cast<size_t>(row)].id.value != "oil-pressure")
        ++row;
    const QPoint from(40, 4 + row * 42 + 20), to(seating->width() - 60, 4 + 46 + 9 * 28 + 14);
    QTest::mousePress(seating, Qt::LeftButton, {}, from);
    QTest::mouseMove(seating, to);
    QTest::mouseRelease(seating, Qt::LeftButton, {}, to);
    w.settle();
    EXPECT_EQ(circuitOf(w, "oil-pressure")->input, parts::InputId{"AN10"});
}

TEST(Brief, AFactsConsequencesAreShownBeforeTheyAreDone)
{
    test::Window w;
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.textOf("consequences-summary"), HasSubstr("what the facts ask for"));
    const size_t before = w.window.desk().store.job()->circuits.size();
    choose(w, "air_method", "Mass air");
    EXPECT_THAT(w.textOf("consequences-summary"), HasSubstr("1 to add"));
    EXPECT_EQ(w.window.desk().store.job()->circuits.size(), before);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.textOf("consequences-summary"), HasSubstr("what the facts ask for"));
}

TEST(Brief, AQuestionIsAnsweredAndLeavesTheBoard)
{
    test::Window w;
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    const auto open = [&] {
        for (const analysis::Task& t : w.window.desk().store.analysis()->tasks)
            if (t.stage == Stage::Brief)
                return t.title;
        return std::string();
    };
    EXPECT_EQ(open(), "Ask the tuner: 4 open questions");
    w.type(w.find<QLineEdit>("answer-firmware"), "0.4, loaded by the tuner");
    EXPECT_EQ(open(), "Ask the tuner: 3 open questions");
    EXPECT_EQ(w.window.desk().store.job()->brief->answers.at("firmware"), "0.4, loaded by the tuner");
}

TEST(Brief, ABetterSensorIsFittedFromTheChart)
{
    test::Window w;
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    auto* chart = w.find<QWidget>("range-chart");
    chart->setFocus();
    EXPECT_THAT(w.textOf("range-verdict"), HasSubstr("headroom"));
    QTest::keyClick(chart, Qt::Key_Down);
    EXPECT_THAT(chart->accessibleDescription().toStdString(), HasSubstr("2.5 bar"));
    QTest::keyClick(chart, Qt::Key_Return);
    w.settle();
    EXPECT_EQ(job::sensorOf(*w.window.desk().store.job(), *circuitOf(w, "map"))->id, parts::PartId{"map-2b5"});
    w.type(w.find<QLineEdit>("target_kpa"), "1.8 bar");
    const auto& findings = w.window.desk().store.analysis()->findings;
    EXPECT_NE(std::ranges::count(findings, "range-short", &findings::Finding::rule), 0) << "and too short is said";
}

TEST(OwnPart, AnEcuIsDescribedCheckedKeptAndThenOffered)
{
    const test::UserFolder user;
    test::Window w;
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    w.click("describe-ecu");
    auto* text = w.find<QPlainTextEdit>("part-text");
    text->setPlainText(QString());
    QTest::keyClicks(text, QStringLiteral("name: Shop unit"));
    QTest::keyClick(text, Qt::Key_Return);
    QTest::keyClicks(text, QStringLiteral("plug A: 1-12"));
    QTest::keyClick(text, Qt::Key_Return);
    QTest::keyClicks(text, QStringLiteral("AN1: A99, analog"));
    EXPECT_FALSE(w.find<QAbstractButton>("part-keep")->isEnabled());
    auto* complaints = w.find<QListWidget>("part-complaints");
    ASSERT_GE(complaints->count(), 1);
    EXPECT_THAT(complaints->item(0)->text().toStdString(), HasSubstr("Line 3"));
    for (int i = 0; i < 10; ++i) // "99, analog"
        QTest::keyClick(text, Qt::Key_Backspace);
    QTest::keyClicks(text, QStringLiteral("9, analog, pull-up 1k"));
    EXPECT_EQ(w.textOf("part-verdict"), "Understood, and it makes sense.") << text->toPlainText().toStdString();
    ASSERT_EQ(w.find<QTableWidget>("part-understood")->rowCount(), 1);
    EXPECT_EQ(w.find<QTableWidget>("part-understood")->item(0, 1)->text(), QStringLiteral("A.9"));
    w.key(Qt::Key_Return, Qt::ControlModifier);
    EXPECT_THAT(w.notice(), HasSubstr("shop-unit.json"));
    QTest::keyClick(text, Qt::Key_Escape);
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    EXPECT_GE(w.find<QComboBox>("ecu")->findText(QStringLiteral("Shop unit")), 0);
}

TEST(OwnPart, ASensorStartsFromOneOfTheLibrary)
{
    const test::UserFolder user;
    test::Window w;
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    w.click("describe-sensor");
    auto* start = w.find<QComboBox>("part-start");
    const int index = start->findText(QStringLiteral("Oil thermistor"), Qt::MatchStartsWith);
    ASSERT_GT(index, 0);
    start->setCurrentIndex(index);
    emit start->activated(index);
    EXPECT_EQ(w.textOf("part-verdict"), "Understood, and it makes sense.");
    auto* text = w.find<QPlainTextEdit>("part-text");
    text->appendPlainText(QStringLiteral("160\twarm"));
    EXPECT_EQ(w.textOf("part-verdict"), "One thing to mend");
    EXPECT_FALSE(w.find<QAbstractButton>("part-keep")->isEnabled());
}

TEST(SeatAll, WhatIsEditedMeanwhileIsKeptAndSeatedToo)
{
    test::Window w;
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    w.key(Qt::Key_S); // the answer cannot be here before the next event
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Unseat"), [](job::Job& job) {
        job.title = "meanwhile";
        EXPECT_TRUE(harness::unseat(job, {"iat"}));
    }));
    w.settle();
    EXPECT_THAT(w.textOf("seating-outcome"), HasSubstr("Proved"));
    EXPECT_EQ(w.window.desk().store.job()->title, "meanwhile");
    EXPECT_FALSE(circuitOf(w, "iat")->input.empty());
    w.window.desk().store.undoStack().undo();
    EXPECT_TRUE(circuitOf(w, "iat")->input.empty()) << "the seating is a step of its own";
}

} // namespace
} // namespace vicegrip
