#include "app/look/look.h"
#include "app/widgets/sheet.h"
#include "tests/support/new_user.h"

#include <QComboBox>
#include <QListWidget>
#include <QPlainTextEdit>

#include <gmock/gmock.h>

/// Larger and smaller text, by key and by preference: everything that is drawn follows it, and nobody loses his place.
namespace vicegrip::app {
namespace {

using analysis::Stage;

class TextSize : public testing::Test
{
  protected:
    test::NewUser user;
    test::Window w;

    void TearDown() override
    {
        look::setTextSize(100);
        look::apply(*qApp, false);
    }

    void larger(int times = 1)
    {
        for (int i = 0; i < times; ++i)
            w.key(Qt::Key_Plus, Qt::ControlModifier);
        w.settle();
    }
    void smaller()
    {
        w.key(Qt::Key_Minus, Qt::ControlModifier);
        w.settle();
    }
    [[nodiscard]] int preferred() { return w.window.desk().preferences.now().textSize; }
};

TEST_F(TextSize, KeysGoFromSizeToSizeAndBack)
{
    larger();
    EXPECT_EQ(preferred(), 110);
    larger(2);
    EXPECT_EQ(preferred(), 150);
    EXPECT_EQ(look::textSize(), 150);
    EXPECT_EQ(look::textFont(look::Size::Body).pixelSize(), 21);
    smaller();
    EXPECT_EQ(preferred(), 125);
    w.key(Qt::Key_0, Qt::ControlModifier | Qt::AltModifier);
    w.settle();
    EXPECT_EQ(preferred(), 100);
    EXPECT_EQ(w.window.stage(), Stage::Board);
}

TEST_F(TextSize, EndsAtTheEnds)
{
    larger(20);
    EXPECT_EQ(preferred(), look::kMostText);
    for (int i = 0; i < 20; ++i)
        smaller();
    EXPECT_EQ(preferred(), look::kLeastText);
}

/// From a size that is not among those that are offered, as a file may have it.
TEST_F(TextSize, FromBetween)
{
    Preferred odd = w.window.desk().preferences.now();
    odd.textSize = 93;
    w.window.desk().preferences.set(odd);
    larger();
    EXPECT_EQ(preferred(), 100);
    w.window.desk().preferences.set(odd);
    smaller();
    EXPECT_EQ(preferred(), 90);
}

TEST_F(TextSize, IsKeptFromStartToStart)
{
    larger(2);
    EXPECT_EQ(Preferences().now().textSize, 125);
    test::NewUser::write(user.file(".config/vicegrip/preferences.json"),
                         R"({"version": 1, "text": {"size_percent": 900}})");
    const Preferences damaged;
    EXPECT_EQ(damaged.now().textSize, 100);
    EXPECT_THAT(damaged.complaint().toStdString(), testing::HasSubstr("text/size_percent"));
}

/// Header, rail, list, strip and stage: nothing keeps the old size.
TEST_F(TextSize, EverythingThatIsDrawnFollows)
{
    w.window.showStage(Stage::Meter);
    w.settle();
    const auto heights = [&] {
        std::vector<int> out;
        for (const char* name : {"stage-Pins", "job", "findings"})
            if (const auto* widget = w.window.findChild<QWidget*>(QLatin1String(name)))
                out.push_back(widget->sizeHint().height());
        out.push_back(w.find<QListWidget>("circuits")->sizeHintForRow(0));
        out.push_back(w.find<QLabel>("must-read")->font().pixelSize());
        return out;
    };
    const std::vector<int> before = heights();
    larger(3); // 150 %
    const std::vector<int> after = heights();
    ASSERT_EQ(before.size(), after.size());
    for (size_t i = 0; i < before.size(); ++i)
        EXPECT_NEAR(after[i], 1.5 * before[i], 0.12 * before[i] + 2) << i;
    for (const QLabel* l : w.window.findChildren<QLabel*>())
        if (l->isVisible()) {
            EXPECT_THAT(l->font().pixelSize(), testing::AnyOf(18, 21, 33, 69)) << l->text().toStdString();
        }
}

TEST_F(TextSize, TheViewTheFieldAndTheWordsStay)
{
    w.window.showStage(Stage::Pins);
    w.settle();
    w.click("pins-wires");
    w.settle();
    w.find<QWidget>("wires")->setFocus();
    larger();
    EXPECT_TRUE(w.find<QWidget>("wires")->isVisible());
    EXPECT_TRUE(w.find<QWidget>("wires")->hasFocus());
    w.window.showStage(Stage::Scale); // and of a stage that is not shown
    w.settle();
    larger();
    w.window.showStage(Stage::Pins);
    w.settle();
    EXPECT_TRUE(w.find<QWidget>("wires")->isVisible());
}

/// What is half typed is taken as when the field is left; what is being written of a part goes on.
TEST_F(TextSize, NothingTypedIsLost)
{
    w.window.showStage(Stage::Meter);
    w.settle();
    auto* field = w.find<QLineEdit>("ambient");
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, QStringLiteral("31 °C"));
    larger();
    EXPECT_THAT(w.find<QLineEdit>("ambient")->text().toStdString(), testing::HasSubstr("31.0 °C"));

    w.window.showStage(Stage::Brief);
    w.settle();
    w.click("describe-sensor");
    w.find<QPlainTextEdit>("part-text")->setPlainText(QStringLiteral("name: Own sender"));
    larger();
    EXPECT_TRUE(w.find<QPlainTextEdit>("part-text")->isVisible());
    EXPECT_EQ(w.find<QPlainTextEdit>("part-text")->toPlainText(), QStringLiteral("name: Own sender"));
}

TEST_F(TextSize, NoticesFindingsAndSheetsStay)
{
    w.window.notices().say(QStringLiteral("A thing to know."));
    w.key(Qt::Key_F, Qt::ControlModifier);
    w.key(Qt::Key_F1, Qt::ShiftModifier);
    w.settle();
    EXPECT_TRUE(w.find<Sheet>("sheet")->isVisible());
    larger();
    EXPECT_EQ(w.notice(), "A thing to know.");
    EXPECT_TRUE(w.find<QWidget>("findings-drawer")->isVisible());
    EXPECT_TRUE(w.find<Sheet>("sheet")->isVisible());
    EXPECT_EQ(w.textOf("sheet-title"), "Keys");
}

/// Chosen on the page of preferences, which is made again under the hand that chose.
TEST_F(TextSize, ByPreference)
{
    w.key(Qt::Key_Comma, Qt::ControlModifier);
    auto* box = w.find<QComboBox>("text-size");
    box->setFocus();
    box->setCurrentIndex(box->findData(175));
    emit box->activated(box->currentIndex());
    w.settle();
    EXPECT_EQ(look::textSize(), 175);
    EXPECT_TRUE(w.find<QComboBox>("text-size")->isVisible());
    EXPECT_TRUE(w.find<QComboBox>("text-size")->hasFocus());
    EXPECT_EQ(w.find<QComboBox>("text-size")->currentData().toInt(), 175);
    w.click("preferences-done");
    EXPECT_FALSE(w.find<QWidget>("preferences")->isVisible());
}

/// The window itself can be made as small as ever; what does not fit is moved under it, to where the keys are.
TEST_F(TextSize, TheWindowStaysAndItsContentMoves)
{
    larger(5);
    EXPECT_EQ(w.window.size(), QSize(1280, 800));
    w.window.showStage(Stage::Meter);
    w.settle();
    auto* frame = w.find<QWidget>("frame");
    EXPECT_EQ(frame->width(), 1680);
    w.find<QWidget>("reading")->setFocus(Qt::TabFocusReason);
    QTest::keyClick(w.window.focusWidget(), Qt::Key_Tab);
    w.settle();
    const QWidget* focused = w.window.focusWidget();
    const QRect there(focused->mapTo(&w.window, QPoint()), focused->size());
    EXPECT_TRUE(w.window.rect().intersects(there));
}

} // namespace
} // namespace vicegrip::app
