#include "app/shell/opening_size.h"
#include "app/store/whole_file.h"
#include "app/widgets/typed_field.h"
#include "core/job/json.h"
#include "tests/support/window.h"

#include <QDir>
#include <QFileInfo>
#include <QFileSystemWatcher>
#include <QLocale>
#include <QScreen>

#include <gmock/gmock.h>

/// Others at the same file: by another path, from another program, away with it.
namespace vicegrip::test {
namespace {

using testing::HasSubstr;

bool isSaid(Window& w, const char* words)
{
    return QTest::qWaitFor([&] { return w.notice().find(words) != std::string::npos; }, 5000);
}

TEST(Elsewhere, WhatAnotherProgramWritesIsSaidWhileItIsOpen)
{
    Window w;
    writeElsewhere(w, "theirs");
    ASSERT_TRUE(isSaid(w, "Another program has written"));
    take(w.window, "Open theirs");
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->title, "theirs");
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Mine"), [](job::Job& j) { j.title = "mine"; }));
    writeElsewhere(w, "theirs again");
    ASSERT_TRUE(isSaid(w, "Another program has written"));
    take(w.window, "Write mine over it");
    EXPECT_EQ(job::readFile(w.job().toStdString())->title, "mine");
}

TEST(Elsewhere, OnesOwnWritingIsNobodyElses)
{
    Window w;
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Mine"), [](job::Job& j) { j.title = "mine"; }));
    int others = 0;
    QObject::connect(&w.window.desk().store, &app::JobStore::writtenElsewhere, [&] { ++others; });
    QFileSystemWatcher sees({w.folder.path()});
    bool isSeen = false;
    QObject::connect(&sees, &QFileSystemWatcher::directoryChanged, [&] { isSeen = true; });
    w.key(Qt::Key_S, Qt::ControlModifier);
    ASSERT_TRUE(QTest::qWaitFor([&] { return isSeen; }, 5000)) << "the store's own watcher has seen it as well";
    EXPECT_FALSE(w.window.desk().store.changedElsewhere());
    EXPECT_TRUE(w.window.desk().store.isSaved());
    writeElsewhere(w, "theirs");
    ASSERT_TRUE(QTest::qWaitFor([&] { return others > 0; }, 5000));
    EXPECT_EQ(others, 1) << "theirs only";
}

TEST(Elsewhere, AFileThatIsGoneIsSaidAndSavedAgain)
{
    Window w;
    ASSERT_TRUE(QFile::remove(w.job()));
    ASSERT_TRUE(isSaid(w, "gone from its folder"));
    EXPECT_FALSE(w.window.desk().store.isSaved());
    EXPECT_FALSE(w.window.close()) << "it would be nowhere";
    EXPECT_THAT(w.notice(), HasSubstr("kept nowhere"));
    const QString copy = w.folder.filePath(QStringLiteral("copy.vicegrip"));
    ASSERT_TRUE(w.window.desk().store.saveCopy(copy));
    EXPECT_TRUE(QFile::exists(copy));
    EXPECT_FALSE(QFile::exists(w.job())) << "a copy goes where it is wanted";
    ASSERT_TRUE(QFile::rename(copy, w.job()));
    ASSERT_TRUE(QTest::qWaitFor([&] { return !w.window.desk().store.isSaved(); }, 5000));
    w.key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(w.notice(), "") << "it is kept now";
    EXPECT_TRUE(job::readFile(copy.toStdString()));
    EXPECT_TRUE(w.window.close());
}

TEST(Elsewhere, ALinkLeadsToTheSameLock)
{
    Window w;
    const QTemporaryDir other;
    const QString link = other.filePath(QStringLiteral("link.vicegrip"));
    ASSERT_TRUE(QFile::link(w.job(), link));
    app::JobStore second;
    ASSERT_TRUE(second.open(link));
    EXPECT_THAT(second.readOnlyReason().toStdString(), HasSubstr("open in another window"));
    EXPECT_TRUE(w.window.openJob(link));
    EXPECT_THAT(w.notice(), HasSubstr("open here already"));
}

TEST(Elsewhere, WhatIsSavedThroughALinkLiesBehindIt)
{
    const QTemporaryDir there, here;
    const QString file = there.filePath(QStringLiteral("job.vicegrip")),
                  link = here.filePath(QStringLiteral("l.vicegrip"));
    QFile::copy(QString::fromStdString(petrelPath()), file);
    ASSERT_TRUE(QFile::link(file, link));
    app::JobStore store;
    ASSERT_TRUE(store.open(link));
    ASSERT_TRUE(store.edit(QStringLiteral("Mine"), [](job::Job& j) { j.title = "mine"; }));
    ASSERT_TRUE(store.save());
    EXPECT_TRUE(QFileInfo(link).isSymLink());
    EXPECT_EQ(job::readFile(file.toStdString())->title, "mine");
}

TEST(Elsewhere, ANameWithoutRoomBesideItIsSaid)
{
    const QTemporaryDir folder;
    const QString file = folder.filePath(QString(240, QLatin1Char('n')) + QStringLiteral(".vicegrip"));
    QFile::copy(QString::fromStdString(petrelPath()), file);
    app::JobStore store;
    ASSERT_TRUE(store.open(file));
    EXPECT_THAT(store.readOnlyReason().toStdString(), HasSubstr("name is too long"));
    const auto copied = store.saveCopy(file + QStringLiteral("x"));
    ASSERT_FALSE(copied);
    EXPECT_THAT(copied.error().sentence, HasSubstr("name is too long"));
}

TEST(Elsewhere, WhatIsKeptNowIsNotSaidToBeUnkept)
{
    Window w;
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("Mine"), [](job::Job& j) { j.title = "mine"; }));
    const QString away = w.folder.path() + QStringLiteral("-away");
    ASSERT_TRUE(QDir().rename(w.folder.path(), away)); // as a drive that is pulled
    w.key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_THAT(w.notice(), HasSubstr("not saved"));
    ASSERT_TRUE(QDir().rename(away, w.folder.path()));
    w.key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(w.notice(), "");
    EXPECT_EQ(job::readFile(w.job().toStdString())->title, "mine");
}

TEST(WholeFile, KeepsWhoMayReadItAndLeavesNothingBehind)
{
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("list.csv"));
    ASSERT_TRUE(app::writeWhole(file, "one"));
    const auto shared = QFileDevice::ReadOwner | QFileDevice::WriteOwner | QFileDevice::ReadGroup;
    QFile::setPermissions(file, shared);
    ASSERT_TRUE(app::writeWhole(file, "two"));
    QFile read(file);
    ASSERT_TRUE(read.open(QIODevice::ReadOnly));
    EXPECT_EQ(read.readAll(), "two");
    EXPECT_EQ(read.permissions() & (QFileDevice::ReadGroup | QFileDevice::ReadOther), QFileDevice::ReadGroup);
    const QString link = folder.filePath(QStringLiteral("link.csv")), other = folder.filePath(QStringLiteral("other"));
    ASSERT_TRUE(QFile::link(file, link));
    ASSERT_TRUE(app::writeWhole(link, "three"));
    EXPECT_TRUE(QFileInfo(link).isSymLink());
    ASSERT_TRUE(QFile::remove(link));
    // Somebody lays a link where the next writing would go.
    ASSERT_TRUE(app::writeWhole(other, "not theirs"));
    ASSERT_TRUE(QFile::link(other, folder.filePath(QStringLiteral(".list.csv.saving"))));
    ASSERT_TRUE(app::writeWhole(file, "four"));
    QFile untouched(other);
    ASSERT_TRUE(untouched.open(QIODevice::ReadOnly));
    EXPECT_EQ(untouched.readAll(), "not theirs");
    ASSERT_TRUE(untouched.remove());
    EXPECT_FALSE(app::writeWhole(folder.filePath(QStringLiteral("no/such/file")), "x"));
    EXPECT_FALSE(app::writeWhole(folder.path(), "x")) << "a folder is in its place";
    EXPECT_EQ(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden), QStringList{QStringLiteral("list.csv")});
}

TEST(TypedComma, IsADecimalMarkWhereItCanBeNothingElse)
{
    const auto volts = [](const QString& typed) {
        return units::parse(typed.toStdString(), units::Dimension::Voltage, "V").map([](double v) {
            return QString::number(v);
        });
    };
    EXPECT_EQ(*volts(QStringLiteral("1,83")), QStringLiteral("1.83"));
    EXPECT_EQ(*volts(QStringLiteral("0,125 V")), QStringLiteral("0.125"));
    EXPECT_FALSE(volts(QStringLiteral("1,234")));
    EXPECT_FALSE(volts(QStringLiteral("1,2,3")));
    const QLocale before;
    QLocale::setDefault(QLocale(QLocale::German));
    app::TypedField field(QStringLiteral("Volts"), volts);
    QString entered;
    QObject::connect(&field, &app::TypedField::entered, [&](const QString& typed) { entered = typed; });
    QTest::keyClicks(field.edit(), QStringLiteral("1,234"));
    QTest::keyClick(field.edit(), Qt::Key_Return);
    QLocale::setDefault(before);
    EXPECT_EQ(entered, QStringLiteral("1.234")) << "a German comma";
}

TEST(SmallDesk, TheFrameMovesUnderTheWindow)
{
    Window w;
    const QSize most = app::openingSize(w.window.screen()->availableGeometry().size());
    EXPECT_LE(w.window.minimumSize().width(), most.width());
    EXPECT_LE(w.window.minimumSize().height(), most.height());
    w.window.setMinimumSize(1, 1);
    w.window.resize(700, 500);
    w.settle();
    EXPECT_EQ(w.window.size(), QSize(700, 500));
    const QWidget* frame = w.find<QWidget>("frame");
    EXPECT_GE(frame->width(), 840); // without the circuit list
    EXPECT_GE(frame->height(), 700);
}

} // namespace
} // namespace vicegrip::test
