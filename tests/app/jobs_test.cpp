#include "app/shell/jobs.h"

#include "app/store/recent.h"
#include "app/store/remembered.h"
#include "tests/support/new_user.h"

#include <QMenu>
#include <QScreen>

#include <gmock/gmock.h>

namespace vicegrip::app {
namespace {

using test::NewUser;

void click(MainWindow& window, const char* name)
{
    QAbstractButton* button = nullptr;
    for (QAbstractButton* b : window.findChildren<QAbstractButton*>(QLatin1String(name)))
        button = button == nullptr || b->isVisible() ? b : button;
    ASSERT_NE(button, nullptr) << name;
    ASSERT_TRUE(button->isVisible()) << name;
    QTest::mouseClick(button, Qt::LeftButton);
}

QAction* inMenu(MainWindow& window, const char* name)
{
    for (QAction* a : window.findChild<QMenu*>(QStringLiteral("job-menu"))->actions())
        if (a->text() == QLatin1String(name))
            return a;
    return nullptr;
}

TEST(FirstStart, OffersAJobAndNothingThatNeedsOne)
{
    const NewUser user;
    MainWindow window;
    window.show();
    for (const char* name : {"start-new", "start-open", "start-petrel", "start-curlew"})
        EXPECT_TRUE(window.findChild<QAbstractButton*>(QLatin1String(name))->isVisible()) << name;
    EXPECT_FALSE(window.findChild<QWidget*>(QStringLiteral("condition-key-on"))->isVisible());
    EXPECT_FALSE(inMenu(window, "Save the job")->isEnabled());
    EXPECT_FALSE(inMenu(window, "Another like this")->isEnabled());
    EXPECT_TRUE(inMenu(window, "New job")->isEnabled());
    QTest::keyClick(&window, Qt::Key_4, Qt::ControlModifier);
    EXPECT_TRUE(window.findChild<QWidget*>(QStringLiteral("start"))->isVisible()) << "there is nothing to meter yet";
}

TEST(FirstStart, AMouseAloneOpensADemoAndFindsItAgain)
{
    const NewUser user;
    {
        MainWindow window;
        window.show();
        click(window, "start-curlew");
        EXPECT_EQ(window.desk().store.job()->name, "Curlew");
        EXPECT_TRUE(window.desk().store.readOnlyReason().isEmpty()) << "it is the user's own copy";
        EXPECT_TRUE(window.desk().store.path().startsWith(user.file(""))) << window.desk().store.path().toStdString();
        EXPECT_FALSE(window.findChild<QWidget*>(QStringLiteral("start"))->isVisible());
        EXPECT_TRUE(window.desk().store.editOrSay(QStringLiteral("Rename"), [](job::Job& job) -> Result<void> {
            job.title = "Mine";
            return {};
        }));
        ASSERT_TRUE(window.desk().store.save());
    }
    MainWindow window;
    window.show();
    int shown = 0;
    for (const QWidget* last : window.findChildren<QWidget*>(QStringLiteral("recent-0")))
        shown += last->isVisible() ? 1 : 0;
    EXPECT_EQ(shown, 1) << "the list as it was before is gone";
    click(window, "recent-0");
    EXPECT_EQ(window.desk().store.job()->title, "Mine");
    QMenu* recent = window.findChild<QMenu*>(QStringLiteral("recent-menu"));
    emit window.findChild<QMenu*>(QStringLiteral("job-menu"))->aboutToShow();
    ASSERT_EQ(recent->actions().size(), 1);
    EXPECT_TRUE(recent->actions().front()->text().startsWith(QStringLiteral("Curlew")));
}

TEST(FirstStart, EnterBeginsWhereNothingWasOpenedYet)
{
    const NewUser user;
    MainWindow window;
    window.show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(&window));
    QTest::keyClick(&window, Qt::Key_Return);
    EXPECT_EQ(window.stage(), analysis::Stage::Brief);
    EXPECT_TRUE(QFile::exists(window.desk().store.path()));
}

TEST(JobMenu, AnotherLikeThisIsAFileOfItsOwn)
{
    const NewUser user;
    test::Window w;
    const auto before = w.window.desk().store.job();
    ASSERT_FALSE(before->proofs.empty());
    inMenu(w.window, "Another like this")->trigger();
    const auto now = w.window.desk().store.job();
    EXPECT_NE(w.window.desk().store.path(), w.job());
    EXPECT_EQ(now->wires, before->wires);
    EXPECT_TRUE(now->proofs.empty());
    EXPECT_TRUE(w.window.desk().store.isSaved());
    inMenu(w.window, "Another like this")->trigger();
    EXPECT_EQ(w.window.desk().store.job()->wires, before->wires);
    EXPECT_EQ(QDir(QFileInfo(w.window.desk().store.path()).path()).entryList({QStringLiteral("*.vicegrip")}).size(), 2);
}

TEST(JobMenu, OpensUnderTheNameAndSaysItsKeys)
{
    test::Window w;
    QTest::mouseClick(w.window.findChild<QAbstractButton*>(QStringLiteral("job")), Qt::LeftButton);
    auto* menu = w.window.findChild<QMenu*>(QStringLiteral("job-menu"));
    EXPECT_TRUE(menu->isVisible());
    for (const char* name : {"New job", "Open a job", "Save the job", "Save a copy elsewhere", "Night colours",
                             "Keyboard sheet", "About Vicegrip", "Quit"})
        EXPECT_NE(inMenu(w.window, name), nullptr) << name;
    menu->close();
    inMenu(w.window, "Keyboard sheet")->trigger();
    auto* sheet = w.window.findChild<QWidget*>(QStringLiteral("sheet"));
    ASSERT_TRUE(sheet->isVisible());
    QStringList said;
    for (const QLabel* l : sheet->findChildren<QLabel*>())
        said << l->text();
    EXPECT_TRUE(said.contains(QStringLiteral("Ctrl+Shift+S")));
    EXPECT_TRUE(said.contains(QStringLiteral("Save a copy elsewhere")));
    QTest::keyClick(sheet, Qt::Key_Escape);
    EXPECT_FALSE(sheet->isVisible());
    w.key(Qt::Key_3, Qt::ControlModifier);
    inMenu(w.window, "About Vicegrip")->trigger();
    EXPECT_TRUE(sheet->isVisible());
    w.key(Qt::Key_4, Qt::ControlModifier);
    EXPECT_FALSE(sheet->isVisible()) << "a stage is one key away from it";
}

TEST(JobMenu, AnyNameFitsTheHeaderAndIsNoKey)
{
    test::Window w;
    for (const std::string& name : {std::string("Hill & Sons"), std::string(90, 'M')}) {
        EXPECT_TRUE(w.window.desk().store.editOrSay(QStringLiteral("Rename"), [&](job::Job& job) -> Result<void> {
            job.name = name;
            return {};
        }));
        w.settle();
        auto* button = w.find<QPushButton>("job");
        EXPECT_EQ(button->accessibleName().toStdString(), "Job: " + name);
        EXPECT_LT(button->width(), 320);
        EXPECT_TRUE(button->shortcut().isEmpty());
    }
}

TEST(Exports, AllOfItLiesInOneFolderBesideTheJob)
{
    const NewUser user;
    test::Window w;
    inMenu(w.window, "Write lists and tables")->trigger();
    EXPECT_THAT(w.notice(), testing::HasSubstr("petrel-export"));
    const QDir folder(w.folder.filePath(QStringLiteral("petrel-export")));
    const auto lines = [&](const char* name) {
        QFile file(folder.filePath(QLatin1String(name)));
        EXPECT_TRUE(file.open(QIODevice::ReadOnly)) << name;
        return file.readAll().count('\n');
    };
    const auto job = w.window.desk().store.job();
    EXPECT_EQ(lines("cut.csv"), 1 + static_cast<int>(job->wires.size()));
    EXPECT_EQ(lines("harness.csv"), 1 + static_cast<int>(job->branches.size()));
    EXPECT_EQ(lines("findings.csv"), 1 + static_cast<int>(w.window.desk().store.analysis()->findings.size()));
    EXPECT_GT(lines("buy.csv"), 10);
    EXPECT_GT(lines("logbook.csv"), 5);
    EXPECT_EQ(lines("clt-table.csv"), 1 + job::find(*job, job::CircuitId{"clt"})->scaling.points);
    EXPECT_TRUE(folder.exists(QStringLiteral("map-table.json")));
    EXPECT_FALSE(folder.exists(QStringLiteral("crank-table.csv"))) << "it has none";
    // A second time over the first; and where it cannot be written it is said.
    inMenu(w.window, "Write lists and tables")->trigger();
    EXPECT_EQ(lines("findings.csv"), 1 + static_cast<int>(w.window.desk().store.analysis()->findings.size()));
    ASSERT_TRUE(QDir(folder).removeRecursively());
    QFile blocking(folder.path());
    ASSERT_TRUE(blocking.open(QIODevice::WriteOnly));
    inMenu(w.window, "Write lists and tables")->trigger();
    EXPECT_THAT(w.notice(), testing::HasSubstr("it cannot be made"));
}

TEST(RememberedWindow, ItsPlaceComesBack)
{
    const NewUser user;
    {
        MainWindow window;
        window.show();
        window.resize(1100, 720);
        window.close();
    }
    MainWindow window;
    EXPECT_EQ(window.size(), QSize(1100, 720).boundedTo(window.screen()->availableGeometry().size()));
}

TEST(RememberedWindow, WhatIsDamagedIsAsIfThereWereNothing)
{
    for (const QByteArray& text : {QByteArray(R"({"version": 1, "place": "%%%"})"),
                                   QByteArray(R"({"version": 1, "place": "AdnQywADAAAAAAA"})"), QByteArray("[")}) {
        const NewUser user;
        NewUser::write(user.file(".config/vicegrip/window.json"), text);
        MainWindow window;
        EXPECT_LE(window.width(), window.screen()->availableGeometry().width());
        EXPECT_GE(window.width(), 600);
    }
}

TEST(RememberedWindow, AllThatWasSetAsideIsSaidAtOnce)
{
    const NewUser user;
    for (const char* name : {"window.json", "recent.json", "finder.json", "preferences.json"})
        NewUser::write(user.file(".config/vicegrip/") + QLatin1String(name), "[");
    MainWindow window;
    for (const char* name :
         {"window.json.damaged", "recent.json.damaged", "finder.json.damaged", "preferences.json.damaged"}) {
        EXPECT_TRUE(window.notices().said().contains(QLatin1String(name))) << window.notices().said().toStdString();
        EXPECT_TRUE(QFile::exists(user.file(".config/vicegrip/") + QLatin1String(name)));
    }
}

TEST(HelpPanel, StandsBesideTheWorkAndFollowsIt)
{
    test::Window w;
    w.window.resize(1280, 800);
    w.key(Qt::Key_3, Qt::ControlModifier);
    QWidget* keys = w.window.focusWidget();
    w.key(Qt::Key_F1);
    auto* help = w.find<QWidget>("help");
    ASSERT_TRUE(help->isVisible());
    EXPECT_EQ(w.window.focusWidget(), keys) << "the keys stay where the work is";
    const auto says = [&](const char* words) {
        for (const QLabel* l : help->findChildren<QLabel*>())
            if (l->text().contains(QLatin1String(words)))
                return true;
        return false;
    };
    EXPECT_TRUE(says("**cavity**")) << "its text";
    EXPECT_TRUE(says("Bksp")) << "its keys";
    EXPECT_TRUE(says("a hole of a connector")) << "its words";
    w.key(Qt::Key_5, Qt::ControlModifier);
    EXPECT_TRUE(says("breakpoint"));
    EXPECT_FALSE(says("a hole of a connector"));
    // Of the view that is shown, with the sources of its numbers.
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.click("pins-wires");
    w.settle();
    EXPECT_TRUE(says("Every wire as it is cut"));
    EXPECT_TRUE(says("ASTM B258"));
    w.click("pins-plug");
    w.settle();
    EXPECT_FALSE(says("ASTM B258"));
    w.key(Qt::Key_Comma, Qt::ControlModifier);
    EXPECT_TRUE(says("whatever the job"));
    w.key(Qt::Key_F1);
    EXPECT_FALSE(help->isVisible());
}

TEST(HelpPanel, TakesTheStagesPlaceOnASmallDesk)
{
    test::Window w;
    w.window.resize(1024, 700);
    w.settle();
    w.key(Qt::Key_F1);
    EXPECT_FALSE(w.find<QWidget>("help")->isVisible());
    auto* sheet = w.find<QWidget>("sheet");
    ASSERT_TRUE(sheet->isVisible());
    QTest::keyClick(sheet, Qt::Key_Escape);
    EXPECT_FALSE(sheet->isVisible());
}

TEST(RecentJobs, OneThatIsGoneIsSaidAndCanBeForgotten)
{
    const NewUser user;
    Recent().add({user.file("was.vicegrip"), QStringLiteral("Was"), {}, QDateTime::currentDateTimeUtc()});
    MainWindow window;
    window.show();
    click(window, "recent-0");
    EXPECT_TRUE(window.notices().said().contains(QStringLiteral("was.vicegrip is gone")))
        << window.notices().said().toStdString();
    EXPECT_TRUE(window.findChild<QWidget*>(QStringLiteral("start"))->isVisible());
    test::take(window, "Forget it");
    EXPECT_TRUE(Recent().entries().empty());
}

TEST(RecentJobs, AreTheLatestOnceEachAndNoMoreThanTwelve)
{
    const NewUser user;
    for (int i = 0; i < 20; ++i)
        Recent().add({user.file("a") + QString::number(i % 15), QString::number(i), {}, {}});
    const Recent recent;
    ASSERT_EQ(recent.entries().size(), 12U);
    EXPECT_EQ(recent.entries().front().name, QStringLiteral("19"));
    EXPECT_EQ(recent.entries()[5].name, QStringLiteral("14"));
}

TEST(RecentJobs, TwoWindowsKeepEachOthers)
{
    const NewUser user;
    Recent one, two;
    one.add({user.file("a"), QStringLiteral("a"), {}, {}});
    two.add({user.file("b"), QStringLiteral("b"), {}, {}});
    EXPECT_EQ(Recent().entries().size(), 2U);
}

TEST(RecentJobs, ADamagedListIsSetAsideAndSaid)
{
    for (const QByteArray& text :
         {QByteArray("{"), QByteArray("[]"), QByteArray("{\"jobs\": []}"),
          QByteArray("{\"version\": \"x\", \"jobs\": []}"), QByteArray("\xff\x00", 2), QByteArray(3 << 20, '[')}) {
        const NewUser user;
        NewUser::write(Recent().file(), text);
        MainWindow window;
        EXPECT_TRUE(window.notices().said().contains(QStringLiteral("set aside"))) << text.left(40).toStdString();
        EXPECT_TRUE(QFile::exists(Recent().file() + QStringLiteral(".damaged")));
        Recent().add({user.file("a"), QStringLiteral("a"), {}, {}});
        EXPECT_EQ(Recent().entries().size(), 1U);
        EXPECT_TRUE(Recent().complaint().isEmpty());
    }
}

TEST(RecentJobs, EntriesThatAreNoneAreLeftOut)
{
    const NewUser user;
    NewUser::write(Recent().file(), R"({"version": 1, "jobs": [7, {"path": "relative"}, {"path": 3}, {}, null,
                                       {"path": "/tmp/a.vicegrip", "name": "A", "opened": "never"}]})");
    const Recent recent;
    ASSERT_EQ(recent.entries().size(), 1U);
    EXPECT_FALSE(recent.entries().front().when.isValid());
}

TEST(RecentJobs, AListOfANewerVersionIsLeftAsItIs)
{
    const NewUser user;
    const QByteArray text(R"({"version": 2, "jobs": []})");
    NewUser::write(Recent().file(), text);
    Recent recent;
    EXPECT_FALSE(recent.complaint().isEmpty());
    recent.add({user.file("a"), QStringLiteral("a"), {}, {}});
    QFile file(Recent().file());
    ASSERT_TRUE(file.open(QIODevice::ReadOnly));
    EXPECT_EQ(file.readAll(), text);
}

} // namespace
} // namespace vicegrip::app
