#include "core/harness/start.h"
#include "core/job/json.h"
#include "tests/support/clipped.h"
#include "tests/support/library.h"
#include "tests/support/new_user.h"

#include <gmock/gmock.h>

/// What the ECU drives, through the real window: from the firing order to the first reading.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::HasSubstr;

class Driven : public testing::Test
{
  protected:
    Driven()
    {
        const job::Job job = harness::startJob("Four", *parts::find(test::library(), parts::EcuId{"mid-fixed"}));
        const QString path = w.folder.filePath(QStringLiteral("four.vicegrip"));
        test::NewUser::write(path, QByteArray::fromStdString(job::write(job)));
        EXPECT_TRUE(w.window.openJob(path));
        w.settle();
    }

    void describe()
    {
        w.key(Qt::Key_1, Qt::ControlModifier);
        w.settle();
        w.type(w.find<QLineEdit>("firing_order"), "1342");
        w.click("apply-brief");
        w.settle();
    }

    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }
    [[nodiscard]] const job::Circuit& circuit(const char* id) { return *job::find(job(), job::CircuitId{id}); }

    test::NewUser user;
    test::Window w;
};

TEST_F(Driven, FromTheFiringOrderToTheFirstReading)
{
    describe();
    ASSERT_NE(job::find(job(), job::CircuitId{"inj4"}), nullptr) << "the brief brings them in";
    EXPECT_EQ(w.find<QLineEdit>("firing_order")->text().toStdString(), "1-3-4-2");

    w.key(Qt::Key_2, Qt::ControlModifier);
    w.settle();
    w.key(Qt::Key_S);
    w.settle();
    EXPECT_THAT(w.textOf("seating-outcome"), HasSubstr("Proved"));
    EXPECT_EQ(circuit("inj1").output.value.substr(0, 3), "INJ");
    EXPECT_EQ(circuit("ign2").output.value.substr(0, 3), "IGN");
    w.choose("inj1");
    EXPECT_THAT(w.textOf("seat"), HasSubstr("cavity A"));

    w.key(Qt::Key_4, Qt::ControlModifier);
    w.settle();
    EXPECT_THAT(w.textOf("probe"), HasSubstr("Probe"));
    w.window.desk().selection.setCondition(job::Condition::BatteryOff);
    w.settle();
    EXPECT_THAT(w.textOf("must-read"), testing::StartsWith("14.")) << "the winding";
}

TEST_F(Driven, AWrongFiringOrderIsSaidBesideTheField)
{
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    const job::Job before = job();
    w.type(w.find<QLineEdit>("firing_order"), "1-3-4-4");
    bool said = false;
    for (const QLabel* l : test::shown<QLabel>(w.window))
        said = said || l->text().contains(QStringLiteral("cylinder 2 is missing"));
    EXPECT_TRUE(said);
    EXPECT_EQ(job(), before);
}

TEST_F(Driven, AnOutputIsChosenByHandLockedAndLeft)
{
    describe();
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.choose("inj1");
    auto* plan = w.find<QWidget>("seating");
    plan->setFocus();
    QTest::keyClick(plan, Qt::Key_Right); // to the first that would take it
    QTest::keyClick(plan, Qt::Key_Return);
    w.settle();
    ASSERT_FALSE(circuit("inj1").output.empty());
    EXPECT_THAT(plan->accessibleDescription().toStdString(), HasSubstr(circuit("inj1").output.value));
    QTest::keyClick(plan, Qt::Key_L);
    w.settle();
    EXPECT_TRUE(circuit("inj1").locked);
    QTest::keyClick(plan, Qt::Key_L);
    QTest::keyClick(plan, Qt::Key_Delete);
    w.settle();
    EXPECT_TRUE(circuit("inj1").output.empty());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_FALSE(circuit("inj1").output.empty());
}

/// No view takes a circuit for one that is read.
TEST_F(Driven, EveryStageShowsThem)
{
    describe();
    w.key(Qt::Key_2, Qt::ControlModifier);
    w.key(Qt::Key_S);
    w.settle();
    for (int stage = 0; stage < analysis::kStageCount; ++stage)
        for (const char* id : {"inj1", "ign1", "tachometer"}) {
            w.choose(id);
            w.window.showStage(static_cast<Stage>(stage));
            w.settle();
            test::expectNothingClipped(w, std::string(analysis::stageName(static_cast<Stage>(stage))) + ", " + id);
        }
    for (const char* id : {"inj1", "ign1", "tachometer"}) {
        w.window.showStage(Stage::Meter);
        w.click("meter-click");
        w.choose(id);
        test::expectNothingClipped(w, std::string("click test, ") + id);
    }
    for (const char* view : {"pins-remap", "pins-wires", "pins-harness", "pins-buy", "pins-order", "pins-plug"}) {
        w.window.showStage(Stage::Pins);
        w.click(view);
        w.settle();
    }
}

} // namespace
} // namespace vicegrip
