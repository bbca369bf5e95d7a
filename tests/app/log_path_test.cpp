#include "tests/support/new_user.h"

#include <QApplication>
#include <QComboBox>
#include <QDir>
#include <QTableWidget>
#include <gmock/gmock.h>

/// From a log on a stick to what it says, what a change did, and what the tuner gets, with the keyboard.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::HasSubstr;
using testing::StartsWith;

class LogPath : public testing::Test
{
  protected:
    LogPath()
    {
        for (const char* name : {"petrel-before.csv", "petrel-after.csv"})
            QFile::copy(QStringLiteral(VICEGRIP_SOURCE_DIR "/data/logs/") + QLatin1String(name), file(name));
        w.window.showStage(Stage::Start);
        w.key(Qt::Key_2, Qt::AltModifier);
        w.settle();
    }

    [[nodiscard]] QString file(const char* name) const { return w.folder.filePath(QLatin1String(name)); }
    void open(const char* field, const QString& path)
    {
        w.type(w.find<QLineEdit>(field), qPrintable(path));
        w.settle();
    }
    [[nodiscard]] const job::Job& job() { return *w.window.desk().store.job(); }
    [[nodiscard]] QTableWidget* list() { return w.find<QTableWidget>("log-says"); }
    void choose(const char* words)
    {
        for (int row = 0; row < list()->rowCount(); ++row)
            if (list()->item(row, 1)->text().contains(QString::fromUtf8(words))) {
                list()->setCurrentCell(row, 1);
                w.settle();
                return;
            }
        ADD_FAILURE() << "no row says " << words;
    }
    [[nodiscard]] std::string what() { return w.textOf("log-what"); }
    [[nodiscard]] std::string where() { return w.textOf("log-where"); }

    test::NewUser user;
    test::Window w;
};

TEST_F(LogPath, AFindingLeadsToItsRowsAndToItsCircuit)
{
    open("log-file", file("petrel-before.csv"));
    EXPECT_THAT(w.textOf("log-title"), StartsWith("petrel-before.csv: 6,000 rows of 15 columns"));
    EXPECT_THAT(what(), HasSubstr("Manifold pressure stops at 300.0 kPa abs")); // the heaviest is chosen
    EXPECT_THAT(w.textOf("log-todo"), HasSubstr("not the boost"));
    EXPECT_THAT(where(), StartsWith("place 1 of 3: from 122"));
    list()->setFocus();
    w.key(Qt::Key_N);
    EXPECT_THAT(where(), StartsWith("place 2 of 3"));
    w.key(Qt::Key_N);
    w.key(Qt::Key_N);
    EXPECT_THAT(where(), StartsWith("place 1 of 3"));
    choose("step together");
    EXPECT_THAT(w.textOf("log-todo"), HasSubstr("S2"));
    choose("Manifold pressure stops");
    w.key(Qt::Key_G);
    w.settle();
    EXPECT_EQ(w.window.stage(), Stage::Inputs); // where a sensor that reads further is chosen
    EXPECT_EQ(w.window.desk().selection.circuit().value, "map");
}

TEST_F(LogPath, WhatAChangeDidIsSaidBesideTheOlderLog)
{
    open("log-file", file("petrel-after.csv"));
    open("log-before", file("petrel-before.csv"));
    choose("Manifold pressure reads up to");
    EXPECT_THAT(what(), HasSubstr("the range is enough"));
    choose("steps with the others no more");
    // Asked for one purpose of one column.
    auto* column = w.find<QComboBox>("log-column");
    column->setCurrentText(QStringLiteral("Coolant temp"));
    auto* purpose = w.find<QComboBox>("log-purpose");
    purpose->setCurrentIndex(3);
    emit purpose->activated(3);
    w.settle();
    choose("Coolant temp steps with the others no more");
}

TEST_F(LogPath, ThePullsAreWrittenForTheTuner)
{
    open("log-file", file("petrel-before.csv"));
    choose("Pulls: 3 of 3 pulls are alike");
    choose("gear 3: warm, one gear, wide open");
    list()->setFocus();
    w.key(Qt::Key_W);
    EXPECT_THAT(w.notice(), HasSubstr("3 pull"));
    QFile pull(file("petrel-before-pull-1.csv"));
    ASSERT_TRUE(pull.open(QIODevice::ReadOnly));
    EXPECT_THAT(pull.readLine().toStdString(), StartsWith("time (s),Engine speed (rpm),Throttle (%)"));
    EXPECT_THAT(pull.readLine().toStdString(), StartsWith("0,"));
}

TEST_F(LogPath, WhatIsNoLogIsSaidBesideTheField)
{
    QFile bad(file("bad.csv"));
    ASSERT_TRUE(bad.open(QIODevice::WriteOnly));
    bad.write("rpm,boost\n900,100\n850,101\n");
    bad.close();
    open("log-file", bad.fileName());
    EXPECT_THAT(w.textOf("log-title"), HasSubstr("could not be read"));
    const auto* below = w.find<QLineEdit>("log-file")->parentWidget()->findChild<QLabel*>();
    EXPECT_THAT(below->text().toStdString(), HasSubstr("no column tells the time"));
    EXPECT_FALSE(list()->isVisible());
    open("log-file", file("petrel-before.csv")); // and another one is read all the same
    EXPECT_THAT(what(), HasSubstr("stops at"));
}

/// A sensor that reads further, in the job: the older log's end is not the sensor's any more.
TEST_F(LogPath, TheReviewFollowsTheJob)
{
    open("log-file", file("petrel-after.csv"));
    choose("which its sensor cannot tell");
    ASSERT_TRUE(w.window.desk().store.edit(QStringLiteral("4 bar"), [](job::Job& j) -> Result<void> {
        for (parts::Part& p : j.parts)
            if (p.id.value == "map-3bar")
                p.high = 400e3;
        for (job::Circuit& c : j.circuits)
            if (c.id.value == "map")
                c.scaling.high = 400e3;
        return {};
    }));
    w.settle();
    for (int row = 0; row < list()->rowCount(); ++row)
        EXPECT_FALSE(list()->item(row, 1)->text().contains(QStringLiteral("cannot tell")));
    // Elsewhere the selection is somebody else's, whatever a log says when it is read to its end.
    w.type(w.find<QLineEdit>("log-file"), qPrintable(file("petrel-before.csv"))); // waits until it is read
    w.find<QLineEdit>("log-file")->setText(file("petrel-after.csv"));
    QTest::keyClick(w.find<QLineEdit>("log-file"), Qt::Key_Return);
    w.window.showStage(Stage::Board);
    w.choose("gt");
    EXPECT_EQ(w.window.desk().selection.circuit().value, "gt");
}

/// What words do not say of a column a hand says once: the next log of that logger is read by it.
TEST_F(LogPath, AColumnThatAHandNamesIsKnownInTheNextLogToo)
{
    for (const char* name : {"petrel-before.csv", "petrel-after.csv"}) {
        QFile log(file(name));
        ASSERT_TRUE(log.open(QIODevice::ReadWrite));
        QByteArray all = log.readAll();
        ASSERT_TRUE(all.contains("Coolant temp (")) << all.left(300).toStdString();
        all.replace("Coolant temp", "Ext 5");
        log.seek(0);
        log.write(all);
        log.resize(all.size());
    }
    const auto says = [&](const char* words) {
        for (int row = 0; row < list()->rowCount(); ++row)
            if (list()->item(row, 1)->text().contains(QString::fromUtf8(words)))
                return true;
        return false;
    };
    open("log-file", file("petrel-before.csv"));
    EXPECT_FALSE(says("Ext 5"));
    w.find<QWidget>("log-plot")->setFocus();
    w.key(Qt::Key_C);
    auto* columns = w.find<QTableWidget>("log-columns");
    ASSERT_TRUE(columns->isVisible());
    const auto found = columns->findItems(QStringLiteral("Ext 5"), Qt::MatchExactly);
    ASSERT_EQ(found.size(), 1);
    columns->setCurrentItem(found.front());
    EXPECT_EQ(columns->item(found.front()->row(), 2)->text(), QStringLiteral("–"));
    auto* is = w.find<QComboBox>("log-column-is");
    is->setCurrentIndex(is->findText(QStringLiteral("Coolant temp")));
    ASSERT_GT(is->currentIndex(), 0);
    emit is->activated(is->currentIndex());
    w.settle();
    EXPECT_EQ(columns->item(found.front()->row(), 3)->text(), QStringLiteral("hand"));
    w.type(w.find<QLineEdit>("log-column-in"), "bar"); // no unit of a temperature
    EXPECT_TRUE(job().logColumns.front().in.empty());
    w.find<QWidget>("log-plot")->setFocus();
    w.key(Qt::Key_C);
    EXPECT_TRUE(list()->isVisible());
    EXPECT_TRUE(says("Ext 5")) << "its steps are those of the oil too";
    open("log-file", file("petrel-after.csv"));
    w.find<QWidget>("log-plot")->setFocus();
    w.key(Qt::Key_C);
    EXPECT_EQ(columns->item(found.front()->row(), 3)->text(), QStringLiteral("hand"));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_TRUE(job().logColumns.empty());
    EXPECT_EQ(columns->item(found.front()->row(), 3)->text(), QString());
}

TEST_F(LogPath, WhatItSaysIsKeptOnceAndUndone)
{
    open("log-file", file("petrel-before.csv"));
    ASSERT_TRUE(w.find<QWidget>("log-keep")->isEnabled());
    list()->setFocus();
    w.key(Qt::Key_K);
    w.settle();
    ASSERT_EQ(job().logReviews.size(), 1U);
    EXPECT_EQ(job::saidText(job().logReviews.front()), "2 wrong, 0 to look at");
    EXPECT_FALSE(job().logReviews.front().when.empty());
    EXPECT_FALSE(w.find<QWidget>("log-keep")->isEnabled()) << "the same is not kept twice";
    open("log-file", file("petrel-after.csv"));
    open("log-before", file("petrel-before.csv"));
    EXPECT_TRUE(w.find<QWidget>("log-keep")->isEnabled());
    list()->setFocus();
    w.key(Qt::Key_K);
    w.settle();
    ASSERT_EQ(job().logReviews.size(), 2U);
    EXPECT_TRUE(std::ranges::any_of(job().logReviews.back().said, [](const job::LogSaid& s) {
        return s.what.starts_with("Since petrel-before.csv: ");
    }));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(job().logReviews.size(), 1U);
    EXPECT_TRUE(w.find<QWidget>("log-keep")->isEnabled());
}

TEST_F(LogPath, APlaceIsMarkedFoundAgainAndForgotten)
{
    open("log-file", file("petrel-before.csv"));
    choose("stops at");
    w.find<QWidget>("log-plot")->setFocus();
    w.key(Qt::Key_M);
    ASSERT_EQ(QApplication::focusWidget(), w.find<QLineEdit>("log-mark"));
    QTest::keyClicks(w.find<QLineEdit>("log-mark"), QStringLiteral("fan came on"));
    QTest::keyClick(w.find<QLineEdit>("log-mark"), Qt::Key_Return);
    w.settle();
    ASSERT_EQ(job().logMarks.size(), 1U);
    const job::LogMark mark = job().logMarks.front();
    EXPECT_EQ(mark.log, "petrel-before.csv");
    EXPECT_GT(mark.at_s, 1);
    choose("fan came on");
    EXPECT_THAT(what(), HasSubstr("fan came on"));
    EXPECT_THAT(where(), StartsWith("place 1 of 1: from "));
    w.find<QWidget>("log-plot")->setFocus();
    w.key(Qt::Key_X);
    w.settle();
    EXPECT_TRUE(job().logMarks.empty());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(job().logMarks.size(), 1U);
    open("log-file", file("petrel-after.csv")); // another log: it is not marked there
    for (int row = 0; row < list()->rowCount(); ++row)
        EXPECT_FALSE(list()->item(row, 1)->text().contains(QStringLiteral("fan came on")));
}

} // namespace
} // namespace vicegrip
