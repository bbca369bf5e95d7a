#include "app/look/look.h"
#include "app/shell/header.h"
#include "app/widgets/sheet.h"
#include "tests/support/new_user.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QListWidget>
#include <QMenu>
#include <QTableView>
#include <QTimer>

#include <gmock/gmock.h>

/// Somebody in the United States with a mouse alone (a cavity's name is typed): from the first screen to a copy kept
/// elsewhere.
namespace vicegrip::app {
namespace {

using testing::HasSubstr;
using testing::Not;

class UsUser : public testing::Test
{
  protected:
    test::NewUser user;
    MainWindow window;

    UsUser()
    {
        QApplication::setDoubleClickInterval(0); // a click on a list that just dropped would be one of the click before
        window.resize(1280, 800);
        window.show();
        settle();
    }
    ~UsUser() override
    {
        QApplication::setDoubleClickInterval(m_doubleClick);
        look::setTextSize(100);
        look::apply(*qApp, false);
        EXPECT_TRUE(units::setShown({}));
    }

    const int m_doubleClick = QApplication::doubleClickInterval();

    void settle()
    {
        const auto isAnalysed = [&] { return window.desk().store.analysis()->job == window.desk().store.job(); };
        EXPECT_TRUE(QTest::qWaitFor(isAnalysed, 10000));
        QThreadPool::globalInstance()->waitForDone();
        for (int i = 0; i < 6; ++i)
            QCoreApplication::processEvents();
    }
    template <class W> W* find(const QString& name)
    {
        for (W* each : window.findChildren<W*>(name))
            if (each->isVisible())
                return each;
        return nullptr;
    }
    void click(const char* name)
    {
        auto* button = find<QAbstractButton>(QLatin1String(name));
        ASSERT_NE(button, nullptr) << name;
        QTest::mouseClick(button, Qt::LeftButton);
        settle();
    }
    /// Opens the job's menu and clicks one of its lines.
    void menu(const char* line)
    {
        click("job");
        auto* shown = window.findChild<QMenu*>(QStringLiteral("job-menu"));
        ASSERT_TRUE(shown->isVisible());
        for (QAction* a : shown->actions())
            if (a->text() == QLatin1String(line)) {
                QTest::mouseClick(shown, Qt::LeftButton, {}, shown->actionGeometry(a).center());
                settle();
                return;
            }
        ADD_FAILURE() << "no line " << line;
    }
    /// Opens a box and clicks a line of its list.
    void choose(const char* box, const char* what)
    {
        auto* combo = find<QComboBox>(QLatin1String(box));
        ASSERT_NE(combo, nullptr);
        QTest::mouseClick(combo, Qt::LeftButton);
        settle();
        const QModelIndex at = combo->model()->index(combo->findText(QString::fromUtf8(what)), 0);
        ASSERT_TRUE(at.isValid()) << what;
        QTest::mouseClick(combo->view()->viewport(), Qt::LeftButton, {}, combo->view()->visualRect(at).center());
        EXPECT_TRUE(QTest::qWaitFor([&] { return combo->currentText() == QString::fromUtf8(what); }));
        settle();
    }
    std::string everything()
    {
        QStringList all;
        for (const QLabel* l : window.findChildren<QLabel*>())
            if (l->isVisible())
                all << l->text();
        for (const QLineEdit* e : window.findChildren<QLineEdit*>())
            if (e->isVisible())
                all << e->text();
        for (const QTableView* t : window.findChildren<QTableView*>())
            for (int r = 0; t->isVisible() && r < t->model()->rowCount(); ++r)
                for (int c = 0; c < t->model()->columnCount(); ++c)
                    all << t->model()->index(r, c).data().toString();
        return all.join(QLatin1Char('\n')).remove(QStringLiteral("at 25 °C")).toStdString(); // in names of parts
    }
};

TEST_F(UsUser, GoesAllTheWayWithAMouse)
{
    click("start-curlew");
    EXPECT_EQ(window.desk().store.job()->name, "Curlew");
    menu("Preferences");
    choose("units-system", "US");
    click("preferences-done");

    bool fahrenheit = false, psi = false;
    for (const char* stage : {"stage-Board", "stage-Brief", "stage-Inputs", "stage-Pins", "stage-Meter"}) {
        click(stage); // Scale has the ECU's own table, in the ECU's unit
        const std::string said = everything();
        EXPECT_THAT(said, Not(HasSubstr("°C"))) << stage;
        EXPECT_THAT(said, Not(HasSubstr(" kPa"))) << stage;
        fahrenheit |= said.find("°F") != std::string::npos;
        psi |= said.find(" psi") != std::string::npos;
    }
    EXPECT_TRUE(fahrenheit);
    EXPECT_TRUE(psi);

    click("stage-Pins");
    for (QPushButton* b : window.findChild<Header*>()->findChildren<QPushButton*>())
        if (b->text().startsWith(QStringLiteral("Find ")))
            QTest::mouseClick(b, Qt::LeftButton);
    auto* finder = window.findChild<QWidget*>(QStringLiteral("finder"));
    ASSERT_TRUE(finder != nullptr && finder->isVisible());
    QTest::keyClicks(finder->findChild<QLineEdit*>(), "V23");
    auto* list = finder->findChild<QListWidget*>();
    ASSERT_GT(list->count(), 0);
    EXPECT_THAT(list->item(0)->text().toStdString(), HasSubstr("V23"));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
    settle();
    EXPECT_EQ(window.stage(), analysis::Stage::Pins);
    EXPECT_THAT(everything(), HasSubstr("23"));

    menu("Help on this view");
    EXPECT_TRUE(find<Sheet>(QStringLiteral("help")) != nullptr);
    EXPECT_THAT(everything(), HasSubstr("What it is for"));

    menu("Larger text");
    EXPECT_EQ(look::textSize(), 110);
    EXPECT_EQ(window.desk().preferences.now().textSize, 110);

    const QString elsewhere = user.file("kept/elsewhere.vicegrip");
    QDir().mkpath(QFileInfo(elsewhere).path());
    QTimer look;
    QObject::connect(&look, &QTimer::timeout, &look, [&] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        if (dialog == nullptr)
            return;
        look.stop();
        dialog->findChild<QLineEdit*>(QStringLiteral("fileNameEdit"))->setText(elsewhere);
        QTest::mouseClick(dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Save), Qt::LeftButton);
    });
    look.start(20);
    menu("Save a copy elsewhere");
    EXPECT_TRUE(QFile::exists(elsewhere));
}

} // namespace
} // namespace vicegrip::app
