#include "tests/support/window.h"

#include <QDir>
#include <QFileDialog>
#include <QPushButton>
#include <QTimer>

#include <gmock/gmock.h>

/// Nothing that was typed is dropped in silence: where it cannot be kept, a copy is offered.
namespace vicegrip::test {
namespace {

using testing::HasSubstr;

/// The dialog that opens next is answered with this name.
void answer(const QString& path)
{
    auto* look = new QTimer;
    QObject::connect(look, &QTimer::timeout, look, [look, path] {
        auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
        if (dialog == nullptr)
            return;
        look->deleteLater();
        dialog->findChild<QLineEdit*>(QStringLiteral("fileNameEdit"))->setText(path);
        QMetaObject::invokeMethod(dialog, "accept");
    });
    look->start(20);
}

/// A second window on the same job: it may look, and write nowhere.
class Second
{
  public:
    explicit Second(Window& first)
    {
        EXPECT_TRUE(window.openJob(first.job()));
        window.show();
        EXPECT_FALSE(window.desk().store.readOnlyReason().isEmpty());
        EXPECT_TRUE(window.desk().store.editOrSay(QStringLiteral("Rename"), [](job::Job& j) { j.title = "typed"; }));
    }
    app::MainWindow window;
};

TEST(Leaving, ClosingWithWhatCanBeKeptNowhereOffersACopy)
{
    const UserFolder user;
    Window first;
    Second second(first);
    EXPECT_FALSE(second.window.close());
    EXPECT_TRUE(second.window.isVisible());
    EXPECT_THAT(second.window.notices().said().toStdString(),
                testing::AllOf(HasSubstr("kept nowhere"), HasSubstr("another window")));
    const QString copy = first.folder.filePath(QStringLiteral("mine.vicegrip"));
    answer(copy);
    take(second.window, "Save a copy");
    EXPECT_EQ(second.window.desk().store.path(), copy);
    EXPECT_EQ(job::readFile(copy.toStdString())->title, "typed");
    EXPECT_THAT(second.window.notices().said().toStdString(), HasSubstr("mine.vicegrip"));
    EXPECT_TRUE(second.window.close()) << "now it is kept";
}

TEST(Leaving, HeMaySayThatHeGoesWithoutIt)
{
    Window first;
    Second second(first);
    EXPECT_FALSE(second.window.close());
    take(second.window, "Close without it");
    EXPECT_FALSE(second.window.isVisible());
}

TEST(Leaving, AnotherJobIsNotOpenedOverWhatCanBeKeptNowhere)
{
    Window first;
    Second second(first);
    const QString other = first.folder.filePath(QStringLiteral("other.vicegrip"));
    QFile::copy(QString::fromStdString(petrelPath()), other);
    EXPECT_FALSE(second.window.openJob(other));
    EXPECT_EQ(second.window.desk().store.job()->title, "typed");
    take(second.window, "Open without it");
    EXPECT_EQ(second.window.desk().store.path(), other);
}

TEST(Leaving, WhatOthersWroteIsNotOverwrittenUnasked)
{
    Window w;
    auto& store = w.window.desk().store;
    ASSERT_TRUE(store.editOrSay(QStringLiteral("Rename"), [](job::Job& j) { j.title = "mine"; }));
    writeElsewhere(w, "theirs");
    w.key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_THAT(w.notice(), HasSubstr("another program has written"));
    EXPECT_EQ(job::readFile(w.job().toStdString())->title, "theirs");
    EXPECT_FALSE(store.isSaved());

    take(w.window, "Open theirs");
    EXPECT_EQ(store.job()->title, "theirs");
    EXPECT_EQ(store.readOnlyReason(), QString());
    ASSERT_TRUE(store.hasRecovery()) << "mine is kept and offered";
    take(w.window, "Take them");
    EXPECT_EQ(store.job()->title, "mine");
    w.key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(job::readFile(w.job().toStdString())->title, "mine") << "nothing has been written since";

    ASSERT_TRUE(store.editOrSay(QStringLiteral("Rename"), [](job::Job& j) { j.title = "mine again"; }));
    writeElsewhere(w, "theirs again");
    w.key(Qt::Key_S, Qt::ControlModifier);
    take(w.window, "Write mine over it");
    EXPECT_EQ(job::readFile(w.job().toStdString())->title, "mine again") << "he said so";
    EXPECT_TRUE(store.isSaved());
}

TEST(Leaving, AFileThatIsGoneIsWrittenAgain)
{
    Window w;
    ASSERT_TRUE(w.window.desk().store.editOrSay(QStringLiteral("Rename"), [](job::Job& j) { j.title = "mine"; }));
    QFile::remove(w.job());
    w.key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(job::readFile(w.job().toStdString())->title, "mine");
}

TEST(Leaving, ACopyIsOneKeyAwayAndGoneOnIn)
{
    const UserFolder user;
    Window w;
    ASSERT_TRUE(w.window.desk().store.editOrSay(QStringLiteral("Rename"), [](job::Job& j) { j.title = "typed"; }));
    answer(w.folder.filePath(QStringLiteral("copy"))); // its ending is added
    w.key(Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(w.window.desk().store.path(), w.folder.filePath(QStringLiteral("copy.vicegrip")));
    EXPECT_TRUE(w.window.desk().store.isSaved());
    EXPECT_EQ(*job::readFile(w.job().toStdString()), petrel()) << "the first stays as it was saved";
    EXPECT_THAT(w.notice(), HasSubstr("copy.vicegrip"));
}

} // namespace
} // namespace vicegrip::test
