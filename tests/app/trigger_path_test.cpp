#include "core/base/shipped.h"
#include "core/capture/write_capture.h"
#include "core/trigger/trigger.h"
#include "core/work/work_steps.h"
#include "tests/support/clipped.h"
#include "tests/support/new_user.h"

#include <QAbstractItemView>
#include <QCheckBox>
#include <QComboBox>
#include <QCompleter>
#include <QSlider>
#include <gmock/gmock.h>

/// From a wheel that somebody names to the front drive that may go on, with the keyboard; and a capture that says what
/// is wrong with it.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::AllOf;
using testing::HasSubstr;
using testing::StartsWith;

class TriggerPath : public testing::Test
{
  protected:
    TriggerPath()
    {
        w.choose("crank");
        w.window.showStage(Stage::Trigger);
        w.settle();
    }

    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }
    [[nodiscard]] const job::TriggerSetup& setup() { return *job::find(job(), job::CircuitId{"crank"})->trigger; }
    void view(int number)
    {
        w.key(static_cast<Qt::Key>(Qt::Key_0 + number), Qt::AltModifier);
        w.settle();
    }
    [[nodiscard]] bool isDone(const char* step)
    {
        for (const work::Step& s : work::steps(job()))
            if (s.id == step)
                return s.done;
        ADD_FAILURE() << "no step " << step;
        return false;
    }
    [[nodiscard]] std::string saidBeside(const char* field)
    {
        return w.find<QLineEdit>(field)->parentWidget()->findChild<QLabel*>()->text().toStdString();
    }
    void open(const QString& file)
    {
        w.type(w.find<QLineEdit>("capture-file"), qPrintable(file));
        w.settle();
    }

    test::NewUser user;
    test::Window w;
};

/// The whole of a turn on the bench: every tooth by its key, kept, and seen in the order of hands.
TEST_F(TriggerPath, PetrelsCrankIsProvedByHandOnTheBench)
{
    w.startBench();
    ASSERT_FALSE(isDone("turn-crank"));
    EXPECT_THAT(w.textOf("hand-tooth"), HasSubstr("below 0."));
    const auto passed = [&] { return w.textOf("hand-verdict"); };
    for (int tooth = 1; tooth <= 35; ++tooth) {
        for (int half = 0; half < 2; ++half) { // to the tooth, and past it; the last one needs no more
            if (!w.find<QAbstractButton>("hand-turn")->isEnabled())
                break;
            w.key(Qt::Key_T);
            ASSERT_TRUE(QTest::qWaitFor(
                [&] {
                    return w.find<QAbstractButton>("hand-turn")->isEnabled() ||
                           w.find<QAbstractButton>("hand-keep")->isEnabled();
                },
                10000))
                << tooth;
        }
        EXPECT_THAT(w.find<QWidget>("wheel")->accessibleDescription().toStdString(),
                    StartsWith(std::to_string(tooth) + " of 35"))
            << passed();
    }
    EXPECT_THAT(passed(), HasSubstr("Tooth 35"));
    w.key(Qt::Key_K);
    w.settle();
    ASSERT_EQ(job().handTurns.size(), 1U);
    EXPECT_TRUE(job().handTurns[0].missed.empty());
    EXPECT_LT(job().handTurns[0].tooth_v.value_or(9), 0.25);
    EXPECT_GT(job().handTurns[0].gap_v.value_or(0), 4.9);
    EXPECT_TRUE(isDone("turn-crank")) << "the front drive may go on";
    EXPECT_THAT(w.textOf("hand-verdict"), HasSubstr("Proved"));
    view(2);
    w.type(w.find<QLineEdit>("gap-now"), "1.3 mm");
    EXPECT_FALSE(isDone("turn-crank"));
    view(1);
    EXPECT_THAT(w.textOf("hand-verdict"), HasSubstr("Stale: air gap"));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_TRUE(isDone("turn-crank")) << "undone";
}

/// A chipped tooth is not seen, and is named by where it is.
TEST_F(TriggerPath, AChippedToothOnTheBenchIsNamed)
{
    w.setFaults(R"([{"kind": "wheel", "circuit": "crank", "chipped": [2]}])");
    w.startBench();
    for (int press = 0; press < 3; ++press) {
        w.key(Qt::Key_T);
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QAbstractButton>("hand-turn")->isEnabled(); }, 10000));
    }
    EXPECT_THAT(w.textOf("hand-verdict"), HasSubstr("Tooth 2: not seen"));
    EXPECT_THAT(w.textOf("hand-todo"), HasSubstr("10° after the first"));
}

/// Supply and ground exchanged at a plug that was rewired: nothing pulls, and nothing burns here.
TEST_F(TriggerPath, ExchangedSupplyAndGroundAreSeenByHand)
{
    w.setFaults(R"([{"kind": "swap", "connector": "CRANK", "cavities": ["1", "3"]}])");
    w.startBench();
    w.key(Qt::Key_T);
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QAbstractButton>("hand-turn")->isEnabled(); }, 10000));
    EXPECT_THAT(w.textOf("hand-verdict"), testing::Not(HasSubstr("Tooth 1: seen")));
}

/// Without a link: keys, and readings that are typed; the sensor at its own plug.
TEST_F(TriggerPath, KeysAndTypedReadingsOfALooseSensor)
{
    w.key(Qt::Key_W);
    QLineEdit* line = w.find<QLineEdit>("wheel-line");
    EXPECT_TRUE(line->hasFocus());
    w.type(line, "4-7");
    EXPECT_EQ(setup().wheel, "36-1") << "refused beside the field";
    w.type(line, "4-1");
    ASSERT_EQ(setup().wheel, "4-1");
    w.find<QCheckBox>("hand-loose")->setFocus();
    w.key(Qt::Key_L);
    w.settle();
    EXPECT_TRUE(w.find<QCheckBox>("hand-loose")->isChecked());
    EXPECT_THAT(w.textOf("hand-leads"), HasSubstr("sensor's signal"));
    const std::string weak = w.textOf("hand-tooth");
    w.type(w.find<QLineEdit>("hand-pull-up"), "1k");
    EXPECT_NE(w.textOf("hand-tooth"), weak) << "another resistor";
    w.type(w.find<QLineEdit>("hand-reading"), "12.5");
    w.type(w.find<QLineEdit>("hand-reading"), "0.3");
    EXPECT_THAT(w.textOf("hand-verdict"), HasSubstr("Tooth 1: seen"));
    w.type(w.find<QLineEdit>("hand-reading"), "5");
    EXPECT_THAT(w.textOf("hand-verdict"), HasSubstr("too much for a tooth"));
    w.find<QCheckBox>("hand-loose")->setFocus();
    w.key(Qt::Key_X);
    EXPECT_THAT(w.textOf("hand-todo"), HasSubstr("tooth 2, 90°"));
    w.key(Qt::Key_B);
    w.key(Qt::Key_Y);
    w.key(Qt::Key_Y);
    w.key(Qt::Key_K);
    w.settle();
    ASSERT_EQ(job().handTurns.size(), 1U);
    EXPECT_TRUE(job().handTurns[0].loose);
    EXPECT_EQ(job().handTurns[0].teeth, 3);
    EXPECT_TRUE(job().handTurns[0].missed.empty());
}

/// 1.9 mm, a window of 1.0 to 1.5 mm, a thread of 1 mm: two thirds of a turn are 1.23 mm; half a turn is 1.4 mm.
TEST_F(TriggerPath, TheGapSaysWhatHandsDo)
{
    view(2);
    EXPECT_THAT(w.textOf("gap-turn"), HasSubstr("⅔"));
    EXPECT_THAT(w.textOf("gap-after"), testing::AllOf(HasSubstr("1.90 mm to 1.23 mm"), HasSubstr("4 flats")));
    EXPECT_THAT(w.textOf("gap-strip"), testing::AllOf(HasSubstr("240°"), HasSubstr("1.40 mm")));
    for (const auto& [field, typed] : {std::pair("gap-feeler-0", "1.1"),
                                       {"gap-feeler-90", "1.25"},
                                       {"gap-feeler-180", "1.4"},
                                       {"gap-feeler-270", "1.25"}})
        w.type(w.find<QLineEdit>(field), typed);
    EXPECT_THAT(w.textOf("gap-run-out"), HasSubstr("0.30 mm, farthest at 180°"));
    EXPECT_THAT(w.textOf("gap-turn"), HasSubstr("stands right")) << "1.1 to 1.4 mm all round";
    EXPECT_NEAR(setup().gap_m, 1.25e-3, 1e-12) << "their middle";
    w.type(w.find<QLineEdit>("gap-now"), "1.9");
    EXPECT_THAT(w.textOf("gap-turn"), HasSubstr("⅔")) << "measured after them: the sensor was turned, or turns twice";
    EXPECT_THAT(w.textOf("gap-open"), testing::AllOf(HasSubstr("holes"), HasSubstr("side")));
    w.type(w.find<QLineEdit>("gap-hole"), "the one by the mark");
    w.type(w.find<QLineEdit>("gap-side"), "stamped side out");
    EXPECT_THAT(w.textOf("gap-open"), HasSubstr("Noted"));
    w.type(w.find<QLineEdit>("gap-now"), "-1");
    EXPECT_EQ(setup().gap_m, 1.9e-3) << "refused beside the field";
}

/// How the strip lies is part of the gap: 36-1 over 150 mm, a strip of 1 by 5 mm.
TEST_F(TriggerPath, TheLieOfTheStripIsReckonedWith)
{
    view(2);
    EXPECT_THAT(w.textOf("strip-verdict"), HasSubstr("over its teeth"));
    w.type(w.find<QLineEdit>("strip-across"), "150 mm");
    EXPECT_THAT(w.textOf("strip-verdict"), HasSubstr("how its strip lies"));
    w.type(w.find<QLineEdit>("strip-lies"), "0°");
    EXPECT_EQ(setup().lies_deg, 0);
    EXPECT_THAT(w.textOf("gap-turn"), HasSubstr("½")) << "two thirds of a turn would lie it 60 degrees off";
    EXPECT_THAT(w.textOf("strip-why"),
                testing::AllOf(HasSubstr("costs nothing"), HasSubstr("At 1.40 mm it may lie up")));
    w.type(w.find<QLineEdit>("gap-now"), "1.4");
    EXPECT_THAT(w.textOf("gap-turn"), HasSubstr("stands right"));
    w.type(w.find<QLineEdit>("strip-lies"), "90");
    EXPECT_THAT(w.textOf("gap-turn"), HasSubstr("Turn it in")) << "it lies across the teeth";
    EXPECT_THAT(w.textOf("strip-verdict"), HasSubstr("senses as from 1.7"));
    EXPECT_THAT(w.textOf("strip-why"), HasSubstr("90° from along the teeth costs 0.3"));
    w.type(w.find<QLineEdit>("strip-thick"), "6");
    w.type(w.find<QLineEdit>("strip-beside"), "8");
    EXPECT_THAT(w.textOf("strip-verdict"), HasSubstr("nothing of the teeth"));
    EXPECT_THAT(w.textOf("gap-turn"), HasSubstr("No place fits"));
    w.type(w.find<QLineEdit>("strip-lies"), "sideways");
    EXPECT_EQ(setup().lies_deg, 90) << "refused beside the field";
}

/// The capture that ships: the wrong edge and the run-out, each with its figure and what hands do.
TEST_F(TriggerPath, AShippedCaptureSaysEdgeAndRunOut)
{
    view(3);
    open(QString::fromStdString((shippedFolder() / "captures/crank-coil.wav").string()));
    EXPECT_TRUE(w.find<QCheckBox>("capture-coil")->isChecked()) << "by what it looks like";
    EXPECT_THAT(w.textOf("capture-title"),
                testing::AllOf(StartsWith("Wrong"), HasSubstr("edge"), HasSubstr("run-out")));
    EXPECT_THAT(w.textOf("capture-limit"), testing::ContainsRegex("falling.*[0-9]\\.[0-9]+°"));
    EXPECT_THAT(w.textOf("capture-todo"), HasSubstr("Exchange the sensor's two wires"));
    auto* rows = w.find<QTableWidget>("verdicts");
    bool told = false;
    for (int row = 0; row < rows->rowCount(); ++row)
        told = told || rows->item(row, 2)->text().startsWith(QLatin1String("0.30 mm"));
    EXPECT_TRUE(told);
    auto* edge = w.find<QComboBox>("wheel-edge");
    edge->setCurrentIndex(2);
    emit edge->activated(2);
    w.settle();
    EXPECT_THAT(w.textOf("capture-title"), testing::Not(HasSubstr("edge"))) << "counted by the rising edge";
    auto* wave = w.find<QWidget>("wave");
    wave->setFocus();
    const std::string before = w.textOf("capture-at");
    for (const Qt::Key k :
         {Qt::Key_Right, Qt::Key_Plus, Qt::Key_Minus, Qt::Key_0, Qt::Key_End, Qt::Key_Home, Qt::Key_Right})
        QTest::keyClick(wave, k);
    EXPECT_NE(w.textOf("capture-at"), before) << "the wheel turns with the time";
    open(QStringLiteral("/nowhere.wav"));
    EXPECT_THAT(w.textOf("capture-title"), StartsWith("Wrong")) << "what was shown stays";
}

/// A wheel that nobody has named, from sound; with its cam beside it.
TEST_F(TriggerPath, AnUnknownWheelIsRecognisedFromSoundAndTaken)
{
    const trigger::Turning turning{240, 0, 0.15, 4};
    const auto crank = trigger::senseHall(*trigger::readWheel("24-2"), turning, {}, {1e-3, 0, 0}, {}, 3, 22050);
    const auto cam = trigger::senseHall(*trigger::readWheel("cam 1"), turning, {}, {1e-3, 0, 0}, {}, 3, 22050);
    const QString file = user.file("unknown.wav");
    ASSERT_TRUE(capture::writeCapture({crank.step_s, 3, {{"crank", crank.volts, {}}, {"cam", cam.volts, {}}}},
                                      file.toStdString()));
    w.find<QLineEdit>("wheel-line")->setFocus();
    w.find<QLineEdit>("wheel-line")->selectAll();
    QTest::keyClick(w.find<QLineEdit>("wheel-line"), Qt::Key_Delete);
    w.type(w.find<QLineEdit>("wheel-line"), "");
    ASSERT_TRUE(setup().wheel.empty());
    view(3);
    open(file);
    EXPECT_FALSE(w.find<QCheckBox>("capture-coil")->isChecked());
    QTest::keyClick(w.find<QWidget>("wave"), Qt::Key_R);
    w.settle();
    EXPECT_EQ(setup().wheel, "24-2");
    auto* beside = w.find<QComboBox>("capture-beside");
    ASSERT_EQ(beside->count(), 2);
    beside->setCurrentIndex(1);
    emit beside->activated(1);
    w.settle();
    const auto rows = w.find<QTableWidget>("verdicts");
    EXPECT_THAT(rows->item(rows->rowCount() - 1, 1)->text().toStdString(), HasSubstr("Cam"));
    EXPECT_THAT(rows->item(rows->rowCount() - 1, 2)->text().toStdString(), HasSubstr("after the first tooth"));
}

/// Two readings of a light: 5 degrees and 100 microseconds (arithmetic: 6 n tau).
TEST_F(TriggerPath, ALightLocksTheTiming)
{
    view(4);
    const auto read = [&](const char* rpm, const char* seen) {
        w.type(w.find<QLineEdit>("light-rpm"), rpm);
        w.type(w.find<QLineEdit>("light-commanded"), "10");
        w.type(w.find<QLineEdit>("light-seen"), seen);
        w.click("light-add");
        w.settle();
    };
    read("1000 rpm", "14.4");
    EXPECT_THAT(w.textOf("light-verdict"), HasSubstr("Two readings"));
    read("6000", "11.4");
    EXPECT_THAT(w.textOf("light-offset"), StartsWith("5.0°"));
    EXPECT_THAT(w.textOf("light-delay"), StartsWith("100"));
    EXPECT_THAT(w.textOf("light-verdict"), HasSubstr("5.0° earlier"));
    EXPECT_EQ(setup().light.size(), 2U);
    w.click("light-remove");
    w.settle();
    EXPECT_EQ(setup().light.size(), 1U);
}

TEST_F(TriggerPath, WhereToMountFollowsItsSliders)
{
    view(5);
    const std::string before = w.textOf("mount-title");
    w.find<QSlider>("mount-rpm")->setValue(60);
    w.find<QSlider>("mount-swing")->setValue(30);
    EXPECT_NE(w.textOf("mount-title"), before);
    EXPECT_THAT(w.textOf("mount-title"), HasSubstr("crank's wheel is nearer"));
    EXPECT_THAT(w.textOf("mount-detail"), HasSubstr("4 cylinders"));
}

TEST_F(TriggerPath, ACircuitWithoutAWheelLeadsToOne)
{
    w.choose("clt");
    EXPECT_THAT(w.textOf("wheels"), HasSubstr("Crank trigger: 36-1, never turned by hand"));
    w.key(Qt::Key_Return);
    w.settle();
    EXPECT_EQ(w.window.desk().selection.circuit(), job::CircuitId{"crank"});
}

/// The bench's engine on its starter, seen by its scope: judged, kept as proof, stale when the sensor is turned in.
TEST_F(TriggerPath, TheBenchsScopeIsSweptAndKeptAsProof)
{
    view(3);
    EXPECT_THAT(saidBeside("capture-file"), AllOf(HasSubstr("tip at"), HasSubstr("fuel and sparks off")));
    w.key(Qt::Key_T);
    EXPECT_THAT(saidBeside("capture-file"), HasSubstr("there is no bench"));
    w.startBench();
    view(3);
    const auto sweep = [&] {
        w.key(Qt::Key_T);
        const auto said = [&] { return w.textOf("capture-title"); };
        ASSERT_TRUE(QTest::qWaitFor(
            [&] {
                return w.find<QAbstractButton>("scope-sweep")->isEnabled() &&
                       said().find("Open a") == std::string::npos;
            },
            20000))
            << said();
        w.settle();
    };
    sweep();
    EXPECT_THAT(w.textOf("capture-title"), HasSubstr("decodes, with margin"));
    EXPECT_THAT(w.textOf("capture-at"), HasSubstr("36-1 at 1")); // and 9x rpm
    EXPECT_EQ(w.find<QComboBox>("capture-beside")->currentText(), "Cam trigger");
    w.key(Qt::Key_K);
    w.settle();
    ASSERT_EQ(job().decoded.size(), 1U);
    EXPECT_TRUE(job().decoded[0].wrong.empty());
    EXPECT_NEAR(job().decoded[0].rpm, 196, 5);
    const auto standing = [&] { return w.window.desk().store.analysis()->decoded.front().state; };
    EXPECT_EQ(standing(), proof::State::Done);
    view(2);
    w.type(w.find<QLineEdit>("gap-now"), "1.3 mm");
    EXPECT_EQ(standing(), proof::State::Stale);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(standing(), proof::State::Done) << "undone";
}

/// A cam is judged by itself: the crank beside it is no cam.
TEST_F(TriggerPath, ACamIsSweptAsACam)
{
    w.choose("cam");
    w.startBench();
    view(3);
    w.key(Qt::Key_T);
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QAbstractButton>("scope-sweep")->isEnabled(); }, 20000));
    w.settle();
    EXPECT_EQ(w.find<QComboBox>("capture-channel")->currentText(), "Cam trigger");
    EXPECT_EQ(w.find<QComboBox>("capture-beside")->currentIndex(), 0);
}

TEST_F(TriggerPath, DownOffersUsualWheels)
{
    auto* edit = w.find<QLineEdit>("wheel-line");
    edit->setFocus();
    QTest::keyClick(edit, Qt::Key_Down);
    ASSERT_TRUE(QTest::qWaitFor([&] { return edit->completer()->popup()->isVisible(); }, 2000));
    EXPECT_GT(edit->completer()->completionCount(), 20);
    edit->completer()->popup()->hide();
}

/// A scope that is not there, or is none: a sentence beside its field, and what is shown stays.
TEST_F(TriggerPath, AScopeThatDoesNotAnswerIsSaid)
{
    view(3);
    w.type(w.find<QLineEdit>("capture-file"), "localhost:1");
    w.key(Qt::Key_T);
    ASSERT_TRUE(QTest::qWaitFor([&] { return w.find<QAbstractButton>("scope-sweep")->isEnabled(); }, 15000));
    EXPECT_THAT(saidBeside("capture-file"), HasSubstr("The scope is gone"));
    w.type(w.find<QLineEdit>("capture-file"), "not a place at all");
    EXPECT_THAT(saidBeside("capture-file"), HasSubstr("no scope is called so"));
}

/// Each view at the design's size and in the smallest window, with something in it.
TEST_F(TriggerPath, NothingIsClipped)
{
    for (const QSize size : {QSize(1280, 800), QSize(1024, 720)}) {
        w.window.resize(size);
        for (int number = 1; number <= 5; ++number) {
            view(number);
            if (number == 3)
                open(QString::fromStdString((shippedFolder() / "captures/crank-coil.wav").string()));
            test::expectNothingClipped(w, "Trigger, view " + std::to_string(number) + " at " +
                                              std::to_string(size.width()));
        }
    }
}

} // namespace
} // namespace vicegrip
