#include "app/widgets/connector_face.h"
#include "core/parts/library.h"
#include "core/pinning/pinning.h"
#include "tests/support/window.h"

#include <QComboBox>
#include <QDir>
#include <QListWidget>
#include <QPlainTextEdit>
#include <gmock/gmock.h>
#include <set>

/// The Pins views beside their path: mouse, speech, own parts, small windows.
namespace vicegrip {
namespace {

using testing::HasSubstr;

struct Pins : test::Window
{
    Pins()
    {
        key(Qt::Key_3, Qt::ControlModifier);
        settle();
    }

    void connector(const char* id)
    {
        auto* box = find<QComboBox>("connector");
        const int index = box->findData(QLatin1String(id));
        ASSERT_GE(index, 0) << id;
        emit box->activated(index);
        settle();
    }
};

TEST(PinsView, ATaskOfTheBoardLeadsToItsCavity)
{
    test::Window w;
    w.choose("tps");
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("counted wrong"), [](job::Job& job) {
        EXPECT_TRUE(pinning::count(job, {"B", "4"}, "5", "t"));
    }));
    w.settle();
    EXPECT_THAT(w.textOf("next"), HasSubstr("cavity 4 is wrong"));
    w.key(Qt::Key_Return);
    w.settle();
    ASSERT_EQ(w.window.stage(), analysis::Stage::Pins);
    EXPECT_EQ(w.textOf("pin-cavity"), "B4");
    EXPECT_THAT(w.textOf("pin-trouble"), HasSubstr("led to cavity 5"));
}

TEST(PinsView, APlaceChosenOnTheThreadIsGoneTo)
{
    Pins w;
    w.choose("clt");
    w.window.desk().selection.setStation("BC.6");
    w.settle();
    EXPECT_EQ(w.textOf("pin-cavity"), "BC 6");
    EXPECT_EQ(w.window.desk().selection.circuit(), job::CircuitId{"clt"});
}

TEST(PinsView, ACavityIsPickedWithTheMouseWhereItIsDrawn)
{
    Pins w;
    w.connector("A");
    auto* face = w.find<app::ConnectorFace>("connector-face");
    std::set<std::string> met;
    for (int x = 30; x < face->width() - 30; x += 6)
        for (int y = 20; y < face->height() - 20; y += 12) {
            QTest::mouseClick(face, Qt::LeftButton, {}, QPoint(x, y));
            met.insert(w.textOf("pin-cavity"));
        }
    met.erase("All in"); // before the first was hit
    EXPECT_EQ(met.size(), 26U) << "each cavity can be hit, and none twice";
}

TEST(PinsView, EveryArrowWalkStaysOnTheFaceAndReachesAllOfIt)
{
    Pins w;
    w.connector("A");
    auto* face = w.find<app::ConnectorFace>("connector-face");
    face->setFocus();
    ASSERT_EQ(w.textOf("pin-cavity"), "All in");
    QTest::keyClick(face, Qt::Key_Right);
    EXPECT_EQ(w.textOf("pin-cavity"), "A1") << "the walk begins at the first";
    std::set<std::string> met;
    for (int row = 0; row < 2; ++row) {
        for (int step = 0; step < 14; ++step) {
            met.insert(w.textOf("pin-cavity"));
            QTest::keyClick(face, row == 0 ? Qt::Key_Left : Qt::Key_Right);
        }
        for (int step = 0; step < 14; ++step) {
            met.insert(w.textOf("pin-cavity"));
            QTest::keyClick(face, row == 0 ? Qt::Key_Right : Qt::Key_Left);
        }
        QTest::keyClick(face, w.textOf("pin-place").starts_with("first") ? Qt::Key_Down : Qt::Key_Up);
    }
    EXPECT_EQ(met.size(), 26U);
}

TEST(PinsView, TheCallOutSpeaksOrSaysThatItCannot)
{
    Pins w;
    auto* button = w.find<QAbstractButton>("call-out");
    EXPECT_FALSE(button->isChecked()) << "off until it is asked for";
    w.key(Qt::Key_V);
    EXPECT_TRUE(button->isChecked() || QString::fromStdString(w.notice()).contains(QStringLiteral("speech engine")));
    if (button->isChecked()) {
        w.key(Qt::Key_V);
        EXPECT_FALSE(button->isChecked());
    }
}

TEST(PinsView, ABlankPlugIsOneStep)
{
    Pins w;
    w.connector("B");
    auto* table = w.find<QTableWidget>("pins");
    int blank = -1;
    for (int row = 0; row < table->rowCount(); ++row)
        if (table->item(row, 2)->text() == QStringLiteral("blank plug"))
            blank = row;
    ASSERT_GE(blank, 0);
    const std::string cavity = table->item(blank, 1)->text().toStdString();
    table->setCurrentCell(blank, 1);
    EXPECT_EQ(w.textOf("pin-cavity"), "B" + cavity);
    w.key(Qt::Key_Space);
    w.settle();
    for (const pinning::Pin& p :
         pinning::pinsOf(*w.window.desk().store.job(), *job::findConnector(*w.window.desk().store.job(), "B")))
        if (p.at.cavity == cavity) {
            EXPECT_EQ(p.state, pinning::PinState::BlankIn);
        }
    EXPECT_NE(w.textOf("pin-cavity"), "B" + cavity) << "the next one is shown";
}

TEST(PinsView, AStateIsToldInWordsBesideItsGlyph)
{
    Pins w;
    w.connector("A");
    auto* table = w.find<QTableWidget>("pins");
    std::set<std::string> states;
    for (int row = 0; row < table->rowCount(); ++row)
        states.insert(table->item(row, 0)->toolTip().toStdString());
    EXPECT_THAT(states, testing::Contains("in, counted twice"));
    EXPECT_THAT(states, testing::Contains("blank plug in"));
}

TEST(PinsView, ASmallWindowGivesTheListsRoomToTheFace)
{
    Pins w;
    auto* list = w.find<QListWidget>("circuits");
    EXPECT_TRUE(list->isVisible());
    w.window.resize(1024, 700);
    QCoreApplication::processEvents();
    EXPECT_FALSE(list->isVisible());
    w.window.resize(1280, 800);
    QCoreApplication::processEvents();
    EXPECT_TRUE(list->isVisible());
}

TEST(OwnPart, AnEcuStartedFromAnotherKeepsItsFaces)
{
    const test::UserFolder user;
    Pins w;
    w.key(Qt::Key_1, Qt::ControlModifier);
    w.settle();
    w.click("describe-ecu");
    auto* start = w.find<QComboBox>("part-start");
    const int small = start->findText(QStringLiteral("Small"), Qt::MatchStartsWith);
    start->setCurrentIndex(small);
    emit start->activated(small);
    auto* text = w.find<QPlainTextEdit>("part-text");
    text->setPlainText(text->toPlainText().replace(QStringLiteral("id: small-4"), QStringLiteral("id: small-mine")));
    ASSERT_EQ(w.textOf("part-verdict"), "Understood, and it makes sense.");
    w.key(Qt::Key_Return, Qt::ControlModifier);
    const auto library = parts::readLibrary({(user.home.path() + QStringLiteral("/vicegrip/library")).toStdString()});
    const auto* mine = parts::find(library, parts::EcuId{"small-mine"});
    ASSERT_NE(mine, nullptr) << w.notice();
    ASSERT_TRUE(mine->plugs.front().layout) << "its face comes from the unit it was started from";
    EXPECT_EQ(mine->plugs.front().layout->id, parts::LayoutId{"block-24"});
}

TEST(Lists, NothingIsExportedFromAPlugOrTheOrder)
{
    Pins w;
    w.key(Qt::Key_E);
    w.key(Qt::Key_6, Qt::AltModifier);
    w.key(Qt::Key_E);
    EXPECT_EQ(QDir(w.folder.path()).entryList({QStringLiteral("*.csv")}).size(), 0);
}

} // namespace
} // namespace vicegrip
