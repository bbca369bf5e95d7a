#include "app/widgets/connector_face.h"
#include "core/pinning/pinning.h"
#include "tests/support/window.h"

#include <QComboBox>
#include <QPlainTextEdit>
#include <cmath>
#include <gmock/gmock.h>

/// Pins with the keyboard only: from the card, with a wrong count caught.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::HasSubstr;

/// The window on a copy of Curlew, at Pins.
struct Curlew : test::Window
{
    Curlew()
    {
        const QString path = folder.filePath(QStringLiteral("curlew.vicegrip"));
        QFile::copy(QStringLiteral(VICEGRIP_SOURCE_DIR "/data/jobs/curlew.vicegrip"), path);
        EXPECT_TRUE(window.openJob(path));
        window.activateWindow();
        settle();
        key(Qt::Key_3, Qt::ControlModifier);
        settle();
        EXPECT_EQ(window.stage(), Stage::Pins);
    }

    [[nodiscard]] const job::Job& now() { return *window.desk().store.job(); }

    void connector(const char* id)
    {
        auto* box = find<QComboBox>("connector");
        for (int i = 0; i < 2 * box->count() && box->currentData().toString() != QLatin1String(id); ++i) {
            key(i < box->count() ? Qt::Key_PageUp : Qt::Key_PageDown);
            settle();
        }
        ASSERT_EQ(box->currentData().toString(), QLatin1String(id));
    }

    [[nodiscard]] pinning::Pin pinAt(const job::PointRef& at)
    {
        for (const pinning::Pin& p : pinning::pinsOf(now(), *job::findConnector(now(), at.owner)))
            if (p.at == at)
                return p;
        return {};
    }

    /// The cavity the card shows, as "V" and "17".
    [[nodiscard]] job::PointRef shown(const char* connector)
    {
        const std::string cavity = textOf("pin-cavity");
        return {connector, cavity.substr(std::string(connector).size())};
    }

    void tickAll(const job::PointRef& at)
    {
        for (int guard = 0; pinAt(at).next() != nullptr && guard < 20; ++guard) {
            key(Qt::Key_Space);
            settle();
        }
    }

    void typeCount(const QString& typed)
    {
        auto* edit = find<QLineEdit>("count-again");
        ASSERT_TRUE(edit->hasFocus()) << "after the last step the second count is asked for";
        QTest::keyClicks(edit, typed);
        QTest::keyClick(edit, Qt::Key_Return);
        settle();
    }

    /// Row and place of a cavity on the wire side, as a person would type them.
    [[nodiscard]] QString counted(const job::PointRef& at)
    {
        const auto count =
            parts::countOf(job::faceOf(*job::findConnector(now(), at.owner)), at.cavity, parts::Face::Wire);
        return QStringLiteral("%1 %2").arg(count->row).arg(count->fromLeft);
    }
};

TEST(PinsPath, CurlewsPlugIsPinnedFromTheCardWithTheKeyboardOnly)
{
    Curlew w;
    w.connector("V");
    bool miscounted = false;
    int pinned = 0;
    while (w.textOf("pin-cavity") != "All in") {
        ASSERT_LT(++pinned, 80);
        const job::PointRef at = w.shown("V");
        ASSERT_FALSE(w.pinAt(at).wires.empty()) << at.text();
        w.tickAll(at);
        if (!miscounted) {
            miscounted = true;
            const auto right = w.counted(at);
            const QString wrong = right == QStringLiteral("1 2") ? QStringLiteral("1 3") : QStringLiteral("1 2");
            w.typeCount(wrong);
            EXPECT_EQ(w.pinAt(at).state, pinning::PinState::Wrong);
            EXPECT_THAT(w.textOf("pin-trouble"), HasSubstr("The second count led to cavity"));
            w.key(Qt::Key_Space); // it is out again
            w.settle();
            EXPECT_EQ(w.pinAt(at).state, pinning::PinState::Planned);
            ASSERT_EQ(w.shown("V"), at) << "the same pin is still in hand";
            w.tickAll(at);
        }
        w.typeCount(w.counted(at));
        EXPECT_EQ(w.pinAt(at).state, pinning::PinState::Counted) << at.text();
    }
    EXPECT_GT(pinned, 10);
    EXPECT_THAT(w.textOf("pin-place"), HasSubstr("secondary lock"));
    auto& undo = w.window.desk().store.undoStack();
    undo.undo();
    w.settle();
    EXPECT_NE(w.textOf("pin-cavity"), "All in") << "and all of it can be undone";
}

TEST(Pins, FlippingShowsTheMirrorAndSaysSo)
{
    Curlew w;
    w.connector("V");
    EXPECT_EQ(w.textOf("face-side"), "WIRE SIDE");
    const std::string before = w.textOf("pin-place");
    w.key(Qt::Key_F);
    EXPECT_THAT(w.textOf("face-side"), HasSubstr("MATING FACE"));
    EXPECT_NE(w.textOf("pin-place"), before);
    EXPECT_THAT(w.find<app::ConnectorFace>("connector-face")->accessibleDescription().toStdString(),
                HasSubstr("mirrored"));
    w.key(Qt::Key_F);
    EXPECT_EQ(w.textOf("pin-place"), before);
}

TEST(Pins, ArrowsWalkTheFaceAsItIsSeen)
{
    Curlew w;
    w.connector("V");
    auto* face = w.find<app::ConnectorFace>("connector-face");
    face->setFocus();
    const std::string first = w.textOf("pin-cavity");
    QTest::keyClick(face, Qt::Key_Right);
    const std::string right = w.textOf("pin-cavity");
    EXPECT_NE(right, first);
    QTest::keyClick(face, Qt::Key_Left);
    EXPECT_EQ(w.textOf("pin-cavity"), first);
    QTest::keyClick(face, Qt::Key_Right);
    w.key(Qt::Key_F);
    QTest::keyClick(face, Qt::Key_Right); // on the mating face right is the other way
    EXPECT_EQ(w.textOf("pin-cavity"), first);
    QTest::keyClick(face, Qt::Key_Down);
    EXPECT_NE(w.textOf("pin-cavity"), first);
    QTest::keyClick(face, Qt::Key_Up);
    EXPECT_EQ(w.textOf("pin-cavity"), first);
}

TEST(Pins, TheListAndTheCardFollowEachOther)
{
    Curlew w;
    w.choose("flex");
    w.settle();
    const job::Circuit& flex = *job::find(w.now(), job::CircuitId{"flex"});
    const job::PointRef at = job::cavityOf(w.now(), flex.input);
    EXPECT_EQ(w.textOf("pin-cavity"), at.owner + at.cavity);
    EXPECT_THAT(w.textOf("pin-leads-to"), HasSubstr("Fuel composition, signal"));
    w.connector("V");
    auto* table = w.find<QTableWidget>("pins");
    for (int row = 0; row < table->rowCount(); ++row)
        if (table->item(row, 2)->text() == QStringLiteral("Throttle, signal"))
            table->setCurrentCell(row, 1);
    EXPECT_EQ(w.window.desk().selection.circuit(), job::CircuitId{"tps"}) << "the thread follows the wire in hand";
}

TEST(Pins, AStepTakenBackIsToDoAgain)
{
    Curlew w;
    w.connector("V");
    const job::PointRef at = w.shown("V");
    w.key(Qt::Key_Space);
    w.settle();
    EXPECT_EQ(w.pinAt(at).ticked, 1);
    w.key(Qt::Key_Backspace);
    w.settle();
    EXPECT_EQ(w.pinAt(at).ticked, 0);
}

TEST(Pins, AnotherFaceCanBeChosenForAPlug)
{
    test::Window w;
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.settle();
    auto* box = w.find<QComboBox>("connector");
    const int map = box->findData(QStringLiteral("MAP"));
    ASSERT_GE(map, 0);
    emit box->activated(map);
    auto* faces = w.find<QComboBox>("connector-layout");
    const int pull = faces->findText(QStringLiteral("3-way sealed plug, one row, pull to seat"));
    ASSERT_GT(pull, 0);
    emit faces->activated(pull);
    w.settle();
    const auto* connector = job::findConnector(*w.window.desk().store.job(), "MAP");
    ASSERT_TRUE(connector->layout);
    EXPECT_EQ(connector->layout->id, parts::LayoutId{"row-3-pull"});
}

TEST(Wires, LengthsAreTypedAsTheyAreRead)
{
    test::Window w;
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.key(Qt::Key_3, Qt::AltModifier);
    w.settle();
    auto* table = w.find<QTableWidget>("wires");
    const auto wire = [&] { return w.window.desk().store.job()->wires[0]; };
    const auto type = [&](int column, const char* typed) {
        table->item(0, column)->setText(QString::fromUtf8(typed));
        w.settle();
    };
    type(7, "85 cm");
    EXPECT_NEAR(wire().length_m, 0.85, 1e-12);
    EXPECT_EQ(table->item(0, 7)->text(), QStringLiteral("0.85 m"));
    type(6, "20 AWG");
    EXPECT_NEAR(wire().area_m2, 0.518e-6, 0.001e-6) << "ASTM B258";
    type(5, "violet-white");
    EXPECT_EQ(wire().colour, "VT/WH");
    type(7, "0");
    EXPECT_THAT(w.textOf("wires-said"), HasSubstr("from 1 cm to 50 m"));
    EXPECT_EQ(table->item(0, 7)->text(), QStringLiteral("0.85 m")) << "what stands in the job stands in the cell";
    type(5, "mauve");
    EXPECT_THAT(w.textOf("wires-said"), HasSubstr("is no colour"));
    w.window.desk().store.undoStack().undo();
    w.settle();
    EXPECT_NE(wire().colour, "VT/WH");
    EXPECT_FALSE((table->item(0, 1)->flags() & Qt::ItemIsEditable) != 0) << "ends are drawn, not typed";
}

TEST(Wires, ALongerGroundChangesWhatTheMeterMustRead)
{
    test::Window w;
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.key(Qt::Key_3, Qt::AltModifier);
    w.settle();
    const double before = w.at("wb", "A.14").expectation.due.si();
    auto* table = w.find<QTableWidget>("wires");
    int ground = -1;
    for (int row = 0; row < table->rowCount(); ++row)
        if (table->item(row, 0)->text() == QStringLiteral("w36")) // heaters return through it
            ground = row;
    ASSERT_GE(ground, 0);
    table->item(ground, 7)->setText(QStringLiteral("20 m"));
    w.settle();
    EXPECT_GT(std::abs(w.at("wb", "A.14").expectation.due.si() - before), 1e-4);
}

TEST(Lists, CutAndShoppingListsAreExportedBesideTheJob)
{
    test::Window w;
    w.key(Qt::Key_3, Qt::ControlModifier);
    for (const auto& [key, name] :
         {std::pair(Qt::Key_3, "petrel-cut.csv"), {Qt::Key_4, "petrel-harness.csv"}, {Qt::Key_5, "petrel-buy.csv"}}) {
        w.key(key, Qt::AltModifier);
        w.key(Qt::Key_E);
        w.settle();
        EXPECT_THAT(w.notice(), HasSubstr(name));
        EXPECT_TRUE(QFile::exists(w.folder.filePath(QLatin1String(name))));
    }
    EXPECT_GT(w.find<QTableWidget>("to-buy")->rowCount(), 10);
}

TEST(Lists, TheOrderOfHandsPutsBuriedSensorsFirst)
{
    test::Window w;
    ASSERT_TRUE(
        w.window.desk().store.edit(QStringLiteral("nothing pinned"), [](job::Job& job) { job.pinned.clear(); }));
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.key(Qt::Key_6, Qt::AltModifier);
    w.settle();
    auto* table = w.find<QTableWidget>("order");
    const auto rowOf = [&](const char* words) {
        for (int row = 0; row < table->rowCount(); ++row)
            if (table->item(row, 0)->text().contains(QLatin1String(words)))
                return row;
        ADD_FAILURE() << words;
        return -1;
    };
    EXPECT_LT(rowOf("Fit the sensor: Oil pressure"), rowOf("Intake manifold goes back on"));
    EXPECT_LT(rowOf("Fit the sensor: Coolant temp"), rowOf("Intake manifold goes back on"));
    EXPECT_THAT(w.textOf("order-said"), HasSubstr("proved the fewest"));
    w.click("gate-intake");
    EXPECT_THAT(w.textOf("order-said"), HasSubstr("Intake manifold off again"));
    w.settle();
    EXPECT_LT(rowOf("Intake manifold off again"), rowOf("Fit the sensor: Coolant temp"));
    table->setCurrentCell(rowOf("Mount "), 0);
    table->setFocus();
    QTest::keyClick(table, Qt::Key_Space);
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->workSteps.done, std::vector<std::string>{"mount-ecu"});
    for (int row = 0; row < table->rowCount(); ++row)
        EXPECT_FALSE(table->item(row, 0)->text().contains(QStringLiteral("Mount "))) << "what is done is gone";
    table->setCurrentCell(rowOf("Pin and count Throttle plug"), 0);
    table->setFocus();
    QTest::keyClick(table, Qt::Key_Space);
    w.settle();
    EXPECT_EQ(w.find<QComboBox>("connector")->currentData().toString(), QStringLiteral("TPS"))
        << "a plug is pinned there";
}

TEST(OwnPart, AConnectorIsDescribedDrawnAndKept)
{
    const test::UserFolder user;
    test::Window w;
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.settle();
    w.click("describe-connector");
    auto* text = w.find<QPlainTextEdit>("part-text");
    text->setPlainText(QStringLiteral("name: Shop header\nterminal: blade-1.5-sealed\nrows: 1-6; 6-12\n"));
    EXPECT_FALSE(w.find<QAbstractButton>("part-keep")->isEnabled());
    text->setPlainText(
        QStringLiteral("name: Shop header\nterminal: blade-1.5-sealed\nrows: 1-6; 7-12; print corners\n"));
    EXPECT_EQ(w.textOf("part-verdict"), "Understood, and it makes sense.");
    EXPECT_TRUE(w.find<app::ConnectorFace>("connector-face")->isVisible()) << "drawn as it is typed";
    w.key(Qt::Key_Return, Qt::ControlModifier);
    EXPECT_THAT(w.notice(), HasSubstr("shop-header.json"));
}

} // namespace
} // namespace vicegrip
