#include "core/harness/start.h"
#include "core/job/json.h"
#include "tests/support/library.h"
#include "tests/support/new_user.h"

#include <gmock/gmock.h>

#include <QMenu>

/// From an engine that is described to the cavities that are exchanged, with the keyboard alone.
namespace vicegrip {
namespace {

using testing::HasSubstr;
using testing::StartsWith;

class ClickPath : public testing::Test
{
  protected:
    ClickPath()
    {
        const job::Job job = harness::startJob("Four", *parts::find(test::library(), parts::EcuId{"mid-fixed"}));
        m_path = w.folder.filePath(QStringLiteral("four.vicegrip"));
        test::NewUser::write(m_path, QByteArray::fromStdString(job::write(job)));
        EXPECT_TRUE(w.window.openJob(m_path));
        w.settle();
        w.key(Qt::Key_1, Qt::ControlModifier);
        w.settle();
        w.type(w.find<QLineEdit>("firing_order"), "1342");
        w.click("apply-brief");
        w.key(Qt::Key_2, Qt::ControlModifier);
        w.settle();
        w.key(Qt::Key_S);
        w.settle();
    }

    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }
    [[nodiscard]] const job::Circuit& circuit(const char* id) { return *job::find(job(), job::CircuitId{id}); }
    [[nodiscard]] job::PointRef cavity(const char* id) { return job::seatCavities(job(), circuit(id)).front(); }

    void startBench(const QByteArray& faults)
    {
        w.key(Qt::Key_S, Qt::ControlModifier);
        const QString list = w.folder.filePath(QStringLiteral("exchanged.json"));
        test::NewUser::write(list, "{\"faults\": [" + faults + "]}");
        w.window.desk().live.startBench(QStringLiteral(VICEGRIP_BENCH), m_path, list);
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.canClick(); }, 10000));
    }

    void clickTest()
    {
        w.key(Qt::Key_4, Qt::ControlModifier);
        w.settle();
        w.key(Qt::Key_2, Qt::AltModifier);
        w.settle();
    }

    /// Presses C and waits for what is heard.
    void click()
    {
        const size_t before = job().clicks.size();
        w.key(Qt::Key_C);
        ASSERT_TRUE(QTest::qWaitFor([&] { return job().clicks.size() > before; }, 10000));
        w.settle();
    }

    test::NewUser user;
    test::Window w;
    QString m_path;
};

TEST_F(ClickPath, TwoInjectorsExchangedAreNamedByTheirCavities)
{
    ASSERT_FALSE(circuit("inj3").output.empty());
    w.key(Qt::Key_B, Qt::ControlModifier);
    for (const auto& [id, ohms] : {std::pair("inj1", "14."), {"ign1", "0."}}) {
        w.choose(id);
        w.key(Qt::Key_4, Qt::ControlModifier);
        w.settle();
        EXPECT_THAT(w.textOf("must-read"), StartsWith(ohms)) << "the winding of " << id;
    }
    const job::PointRef two = cavity("inj2"), three = cavity("inj3");
    ASSERT_EQ(two.owner, three.owner);
    startBench(QByteArray::fromStdString(R"({"kind": "swap", "connector": ")" + two.owner + R"(", "cavities": [")" +
                                         two.cavity + R"(", ")" + three.cavity + R"("]})"));
    w.key(Qt::Key_Y, Qt::ControlModifier);
    clickTest();
    w.choose("inj1");
    EXPECT_THAT(w.textOf("click"), HasSubstr("Click Injector 1"));
    click();
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("as drawn"));
    w.key(Qt::Key_N);
    w.settle();
    EXPECT_THAT(w.textOf("click"), HasSubstr("Click Injector 3")) << "in firing order";
    click();
    EXPECT_THAT(w.textOf("click-todo"), HasSubstr("Click Injector 2 next"));
    w.key(Qt::Key_N);
    w.settle();
    EXPECT_THAT(w.textOf("click"), HasSubstr("Click Injector 2")) << "where the answer is";
    click();
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("exchanged"));
    for (const job::PointRef& cavity : {two, three})
        EXPECT_THAT(w.textOf("click-todo"), HasSubstr(job::spoken(job(), cavity)));
    bool found = false;
    for (const auto& f : w.window.desk().store.analysis()->findings)
        found = found || f.rule == "click-exchanged";
    EXPECT_TRUE(found);

    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.choose("inj3");
    EXPECT_THAT(w.textOf("click-todo"), HasSubstr("Click Injector 2 next")) << "a click is undone like anything";
}

/// Without a link the ECU's own test clicks, and the user says what answered.
TEST_F(ClickPath, WhatWasHeardIsSaidByHand)
{
    w.choose("clt");
    clickTest();
    EXPECT_THAT(w.textOf("click"), HasSubstr("does not drive Coolant temp"));
    w.key(Qt::Key_Y);
    w.settle();
    EXPECT_TRUE(job().clicks.empty());
    w.key(Qt::Key_N);
    w.settle();
    EXPECT_THAT(w.textOf("click"), HasSubstr("Click Injector 1")) << "where the work is";
    EXPECT_FALSE(w.find<QWidget>("click-output")->isEnabled());
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("the ECU's own output test"));
    w.key(Qt::Key_Y);
    w.settle();
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("as drawn"));
    w.key(Qt::Key_N);
    w.settle();
    w.key(Qt::Key_X);
    w.settle();
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("Nothing answered"));
    w.key(Qt::Key_A);
    auto* others = w.find<QMenu>("others");
    ASSERT_TRUE(others->isVisible());
    while (others->activeAction() != nullptr && others->activeAction()->text() != QStringLiteral("Coil 1"))
        QTest::keyClick(others, Qt::Key_Down);
    QTest::keyClick(others, Qt::Key_Return);
    w.settle();
    EXPECT_EQ(job().clicks.size(), 3U);
    EXPECT_EQ(job().clicks.back().answered, std::vector{job::CircuitId{"ign1"}});

    w.click("condition-battery-off");
    w.settle();
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("Ctrl+Y"));
    w.key(Qt::Key_Y);
    w.settle();
    EXPECT_EQ(job().clicks.size(), 3U) << "nothing clicks with the battery off";
}

/// What is to be done next leads to the view in which it is done, and not back to it.
TEST_F(ClickPath, TheBoardLeadsToTheClick)
{
    clickTest();
    w.choose("inj1");
    w.key(Qt::Key_X);
    w.settle();
    w.key(Qt::Key_1, Qt::AltModifier);
    w.settle();
    ASSERT_TRUE(w.find<QLabel>("probe")->isVisible());
    w.window.desk().selection.setStation(std::string(proof::kClick));
    w.settle();
    EXPECT_TRUE(w.find<QLabel>("click")->isVisible());
    w.key(Qt::Key_1, Qt::AltModifier);
    w.settle();
    EXPECT_TRUE(w.find<QLabel>("probe")->isVisible());
}

} // namespace
} // namespace vicegrip
