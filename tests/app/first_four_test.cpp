#include "core/pinning/pinning.h"
#include "tests/support/new_user.h"

#include <QAbstractItemView>
#include <QComboBox>
#include <gmock/gmock.h>

/// A new user's first wasted-spark four, from an empty job on, with the keyboard alone: engine, seats, feeds, a plug,
/// the windings with the battery off, the click test, and a ground that lifts.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::HasSubstr;
using testing::StartsWith;

class FirstFour : public testing::Test
{
  protected:
    FirstFour()
    {
        w.key(Qt::Key_N, Qt::ControlModifier);
        w.settle();
    }

    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }
    [[nodiscard]] const job::Circuit* circuit(const char* id) { return job::find(job(), job::CircuitId{id}); }

    void stage(Qt::Key key)
    {
        w.key(key, Qt::ControlModifier);
        w.settle();
    }
    void view(Qt::Key key)
    {
        w.key(key, Qt::AltModifier);
        w.settle();
    }

    /// Down the list of circuits, round its end.
    void walkTo(const char* id)
    {
        for (size_t i = 0; i <= job().circuits.size() && w.window.desk().selection.circuit().value != id; ++i) {
            w.key(Qt::Key_Down, Qt::AltModifier);
            w.settle();
        }
        for (size_t i = 0; i <= job().circuits.size() && w.window.desk().selection.circuit().value != id; ++i) {
            w.key(Qt::Key_Up, Qt::AltModifier);
            w.settle();
        }
        ASSERT_EQ(w.window.desk().selection.circuit().value, id);
    }

    void describe()
    {
        w.type(w.find<QLineEdit>("cylinders"), "4");
        w.type(w.find<QLineEdit>("displacement_l"), "1.8 l");
        w.type(w.find<QLineEdit>("firing_order"), "1342");
        auto* ecu = w.find<QComboBox>("ecu");
        ecu->setFocus();
        QTest::keyClick(ecu, Qt::Key_Down);
        while (!ecu->view()->currentIndex().data().toString().startsWith(QStringLiteral("Mid standalone")))
            QTest::keyClick(ecu->view(), Qt::Key_Down);
        QTest::keyClick(ecu->view(), Qt::Key_Return);
        w.window.activateWindow(); // the list was a window of its own
        EXPECT_TRUE(QTest::qWaitForWindowActive(&w.window));
        w.settle();
        w.key(Qt::Key_Return, Qt::ControlModifier);
        w.settle();
    }

    void seatAndFeed()
    {
        stage(Qt::Key_2);
        w.key(Qt::Key_S);
        w.settle();
        stage(Qt::Key_3);
        view(Qt::Key_7);
        w.key(Qt::Key_Return, Qt::ControlModifier);
        w.settle();
    }

    /// Every pin of the plug is ticked and counted again.
    void pin(const char* plug)
    {
        stage(Qt::Key_3);
        view(Qt::Key_1);
        auto* box = w.find<QComboBox>("connector");
        for (int i = 0; i < box->count() && box->currentData().toString() != QLatin1String(plug); ++i) {
            w.key(Qt::Key_PageUp);
            w.settle();
        }
        for (int i = 0; i < box->count() && box->currentData().toString() != QLatin1String(plug); ++i) {
            w.key(Qt::Key_PageDown);
            w.settle();
        }
        ASSERT_EQ(box->currentData().toString(), QLatin1String(plug));
        for (int guard = 0; w.textOf("pin-cavity") != "All in" && guard < 40; ++guard) {
            auto* count = w.find<QLineEdit>("count-again");
            if (!count->hasFocus()) {
                w.key(Qt::Key_Space);
                w.settle();
                continue;
            }
            const QString shown = QString::fromStdString(w.textOf("pin-cavity")); // "INJ1 2"
            const auto place = parts::countOf(job::faceOf(*job::findConnector(job(), plug)),
                                              shown.section(QLatin1Char(' '), 1).toStdString(), parts::Face::Wire);
            ASSERT_TRUE(place) << shown.toStdString();
            QTest::keyClicks(count, QStringLiteral("%1 %2").arg(place->row).arg(place->fromLeft));
            QTest::keyClick(count, Qt::Key_Return);
            w.settle();
        }
        EXPECT_EQ(w.textOf("pin-cavity"), "All in");
    }

    void read(const char* typed)
    {
        auto* field = w.find<QWidget>("reading")->findChild<QLineEdit*>();
        field->setFocus();
        QTest::keyClicks(field, QString::fromUtf8(typed));
        QTest::keyClick(field, Qt::Key_Return);
        w.settle();
    }

    void startBench(const job::PointRef& one, const job::PointRef& other)
    {
        w.key(Qt::Key_S, Qt::ControlModifier);
        const QString list = w.folder.filePath(QStringLiteral("exchanged.json"));
        test::NewUser::write(list, QByteArray::fromStdString(R"({"faults": [{"kind": "swap", "connector": ")" +
                                                             one.owner + R"(", "cavities": [")" + one.cavity +
                                                             R"(", ")" + other.cavity + R"("]}]})"));
        w.window.desk().live.startBench(QStringLiteral(VICEGRIP_BENCH), w.window.desk().store.path(), list);
        ASSERT_TRUE(QTest::qWaitFor([&] { return w.window.desk().live.canClick(); }, 10000));
    }

    void click()
    {
        const size_t before = job().clicks.size();
        w.key(Qt::Key_C);
        ASSERT_TRUE(QTest::qWaitFor([&] { return job().clicks.size() > before; }, 10000));
        w.settle();
    }

    [[nodiscard]] double must()
    {
        w.settle();
        return w.find<QLabel>("must-read")->text().toDouble();
    }

    test::NewUser user;
    test::Window w;
};

TEST_F(FirstFour, FromAnEmptyJobToTheExchangedCavities)
{
    ASSERT_EQ(w.window.stage(), Stage::Brief);
    EXPECT_TRUE(job().circuits.empty());
    describe();
    ASSERT_NE(circuit("ign2"), nullptr) << "two coils of two cylinders";
    EXPECT_EQ(circuit("ign3"), nullptr);
    w.type(w.find<QLineEdit>("injector_ohm"), "12 ohm"); // another kind it is not
    EXPECT_FALSE(w.find<QAbstractButton>("apply-brief")->isEnabled());
    w.type(w.find<QLineEdit>("injector_ohm"), "2.2 ohm");
    EXPECT_THAT(w.textOf("consequences-summary"), HasSubstr("4 with another part"));
    w.key(Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    EXPECT_LT(*parts::windingOhm(*job::partOf(job(), *circuit("inj1"))), 3);
    w.type(w.find<QLineEdit>("injector_ohm"), "14.5 ohm");
    w.key(Qt::Key_Return, Qt::ControlModifier);
    w.settle();
    seatAndFeed();
    for (const char* id : {"inj1", "inj2", "inj3", "inj4", "ign1", "ign2", "fuel-pump"})
        EXPECT_FALSE(circuit(id)->output.empty()) << id;
    EXPECT_FALSE(circuit("clt")->input.empty());
    EXPECT_THAT(w.textOf("feeds-better"), StartsWith("Nothing to change"));

    pin("INJ1");

    w.key(Qt::Key_B, Qt::ControlModifier);
    stage(Qt::Key_4);
    view(Qt::Key_1);
    for (const auto& [id, ohms, typed] : {std::tuple("inj1", "14.", "14.6"), {"ign1", "0.", "0.7"}}) {
        walkTo(id);
        EXPECT_THAT(w.textOf("must-read"), StartsWith(ohms)) << "the winding of " << id;
        read(typed);
        EXPECT_THAT(w.textOf("verdict"), HasSubstr("proved")) << id;
    }

    const job::PointRef two = job::seatCavities(job(), *circuit("inj2")).front();
    const job::PointRef three = job::seatCavities(job(), *circuit("inj3")).front();
    ASSERT_EQ(two.owner, three.owner);
    startBench(two, three);
    w.key(Qt::Key_Y, Qt::ControlModifier);
    view(Qt::Key_2);
    walkTo("inj1");
    click();
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("as drawn"));
    w.key(Qt::Key_N);
    w.settle();
    EXPECT_THAT(w.textOf("click"), HasSubstr("Click Injector 3")) << "in firing order";
    click();
    w.key(Qt::Key_N);
    w.settle();
    click();
    EXPECT_THAT(w.textOf("click-verdict"), HasSubstr("exchanged"));
    for (const job::PointRef& cavity : {two, three})
        EXPECT_THAT(w.textOf("click-todo"), HasSubstr(job::spoken(job(), cavity)));

    walkTo("clt");
    view(Qt::Key_1);
    const auto onGround = [&] {
        for (const proof::Judged& j : w.window.desk().promises.of(job::CircuitId{"clt"}, job::Condition::KeyOn))
            if (j.expectation.station.key == w.window.desk().selection.station())
                return j.expectation.station.role == parts::PinRole::Ground;
        return false;
    };
    for (int guard = 0; guard < 20 && !onGround(); ++guard) {
        w.key(Qt::Key_N);
        w.settle();
    }
    ASSERT_TRUE(onGround());
    const double still = must();
    w.key(Qt::Key_R, Qt::ControlModifier);
    EXPECT_GT(must(), still + 0.01) << "V: what the ECU drives returns over its ground";
    EXPECT_THAT(w.textOf("bounds"), HasSubstr("to")) << "anything between off and on";
}

} // namespace
} // namespace vicegrip
