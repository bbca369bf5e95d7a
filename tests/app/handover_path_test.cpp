#include "app/stages/handover/handover_page.h"
#include "app/stages/handover/photo_figure.h"
#include "app/stages/handover/photos_view.h"
#include "app/store/preferences.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/key_button.h"
#include "tests/support/new_user.h"
#include "tests/support/petrel.h"
#include "tests/support/window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDropEvent>
#include <QLineEdit>
#include <QMimeData>
#include <QTableWidget>
#include <gmock/gmock.h>

/// What leaves the job for somebody else, with the keyboard: the book, the diagram, what a change costs, what is
/// different, the logbook.
namespace vicegrip {
namespace {

using analysis::Stage;
using testing::Contains;
using testing::HasSubstr;

class HandoverPath : public testing::Test
{
  protected:
    HandoverPath()
    {
        w.window.showStage(Stage::Handover);
        w.settle();
    }

    void view(Qt::Key key)
    {
        w.key(key, Qt::AltModifier);
        w.settle();
    }
    [[nodiscard]] QByteArray read(const char* name) const
    {
        QFile file(w.folder.filePath(QLatin1String(name)));
        EXPECT_TRUE(file.open(QIODevice::ReadOnly)) << name;
        return file.readAll();
    }
    [[nodiscard]] std::vector<std::string> column(const char* table, int column)
    {
        std::vector<std::string> out;
        auto* list = w.find<QTableWidget>(table);
        for (int row = 0; row < list->rowCount(); ++row)
            out.push_back(list->item(row, column)->text().toStdString());
        return out;
    }

    test::NewUser user;
    test::Window w;
};

TEST_F(HandoverPath, TheBookIsWrittenBesideTheJobWithTheChaptersThatWereChosen)
{
    EXPECT_THAT(column("book-chapters", 1), Contains("23 circuits, 15 readings"));
    auto* chapters = w.find<QTableWidget>("book-chapters");
    for (int row = 0; row < chapters->rowCount(); ++row)
        if (chapters->item(row, 0)->text() == QLatin1String("Wiring diagrams")) {
            chapters->setCurrentCell(row, 0);
            chapters->setFocus();
            QTest::keyClick(chapters, Qt::Key_Space);
            EXPECT_EQ(chapters->item(row, 0)->checkState(), Qt::Unchecked);
        }
    w.key(Qt::Key_H);
    w.settle();
    EXPECT_THAT(w.textOf("book-said"), HasSubstr("petrel-book.html is written"));
    EXPECT_THAT(read("petrel-book.html").toStdString(), HasSubstr("Plugs</h2>"));
    EXPECT_THAT(read("petrel-book.html").toStdString(), testing::Not(HasSubstr("Wiring diagrams</h2>")));
    w.key(Qt::Key_P);
    w.settle();
    EXPECT_TRUE(read("petrel-book.pdf").startsWith("%PDF-"));
    // The choice is the user's, in the next window too.
    app::Preferences again;
    EXPECT_THAT(again.now().bookWithout, testing::ElementsAre("diagrams"));
}

TEST_F(HandoverPath, ABookOrAPacketThatIsStoppedLeavesNothing)
{
    w.key(Qt::Key_P);
    EXPECT_EQ(w.find<app::KeyButton>("book-pdf")->text(), QStringLiteral("Stop"));
    EXPECT_FALSE(w.find<QWidget>("book-html")->isEnabled());
    w.key(Qt::Key_P);
    w.settle();
    EXPECT_THAT(w.textOf("book-said"), HasSubstr("Stopped: nothing was written."));
    EXPECT_EQ(w.find<app::KeyButton>("book-pdf")->text(), QStringLiteral("Write the book as PDF"));
    view(Qt::Key_4);
    w.key(Qt::Key_F);
    EXPECT_EQ(w.find<app::KeyButton>("packet-zip")->text(), QStringLiteral("Stop"));
    w.key(Qt::Key_Z);
    w.settle();
    EXPECT_THAT(w.textOf("packet-said"), HasSubstr("Stopped: nothing was written."));
    EXPECT_EQ(QDir(w.folder.path()).entryList({QStringLiteral("petrel-*")}, QDir::AllEntries), QStringList());
}

TEST_F(HandoverPath, WhereNothingCanBeWrittenTheBookSaysSo)
{
    QDir(w.folder.path()).mkdir(QStringLiteral("petrel-book.pdf"));
    w.key(Qt::Key_P);
    w.settle();
    EXPECT_THAT(w.textOf("book-said"), HasSubstr("not saved"));
}

TEST_F(HandoverPath, TheDiagramTurnsToTheSelectedCircuitAndAWireSelectsItsOwn)
{
    view(Qt::Key_2);
    w.choose("clt");
    auto* choice = w.find<QComboBox>("diagram-sheet");
    auto* figure = w.find<app::FigureView>("diagram");
    EXPECT_EQ(choice->currentText(), QStringLiteral("Temperatures"));
    EXPECT_THAT(figure->emphasised(), Contains("wire w6"));
    EXPECT_FALSE(figure->emphasised().contains("wire w8"));
    for (const drawn::Shape& s : figure->figure().shapes)
        if (const auto* stroke = std::get_if<drawn::Stroke>(&s.what); stroke != nullptr && s.about == "wire w8") {
            const double scale = figure->widget()->width() / figure->figure().width_mm;
            const auto& p = stroke->points;
            const QPointF at((p[0].x + p[1].x) / 2 * scale, (p[0].y + p[1].y) / 2 * scale);
            QTest::mouseClick(figure->widget(), Qt::LeftButton, Qt::NoModifier, at.toPoint());
            break;
        }
    EXPECT_EQ(w.window.desk().selection.circuit().value, "iat");
    w.key(Qt::Key_S);
    EXPECT_TRUE(read("petrel-temperatures.svg").contains("data-about=\"wire w8\""));
    const QSize readable = figure->widget()->size();
    w.key(Qt::Key_W);
    w.settle();
    EXPECT_LT(figure->widget()->width(), readable.width());
    EXPECT_LE(figure->widget()->width(), figure->viewport()->width());
    w.key(Qt::Key_N);
    EXPECT_NE(choice->currentText(), QStringLiteral("Temperatures"));
}

TEST_F(HandoverPath, AfterNewFirmwareWhatReadsAsBeforeIsTickedAndStandsAgain)
{
    const auto edited = w.window.desk().store.edit(QStringLiteral("firmware"), [](job::Job& job) -> Result<void> {
        job.ecu.firmware = "0.5";
        return {};
    });
    ASSERT_TRUE(edited) << edited.error().text();
    w.settle();
    view(Qt::Key_5);
    EXPECT_EQ(w.textOf("again-title"), "After: ECU firmware");
    auto* again = w.find<QTableWidget>("again");
    ASSERT_EQ(again->rowCount(), 3);
    for (int left = 3; left > 0; --left) { // what is done makes way for what is not
        EXPECT_EQ(std::ranges::count(column("again", 3), "stale"), left);
        again->setCurrentCell(0, 0);
        w.key(Qt::Key_T);
        w.settle();
    }
    EXPECT_EQ(std::ranges::count(column("again", 3), "stands"), 3);
    const auto analysis = w.window.desk().store.analysis();
    for (const char* station : {"input", "counts", "value"})
        EXPECT_EQ(test::at(*analysis, "map", station).state, proof::State::Done) << station;
    w.key(Qt::Key_G);
    w.settle();
    EXPECT_EQ(w.window.stage(), Stage::Meter);
    EXPECT_EQ(w.window.desk().selection.circuit().value, "map");
}

TEST_F(HandoverPath, WhatIsDifferentFromAnotherFileIsJustWhatWasChanged)
{
    job::Job other = *w.window.desk().store.job();
    test::wire(other, "w6").colour = "BN/YE";
    job::findInput(other, {"AN3"})->pull_up_ohm = 1000;
    other.ecu.firmware = "0.3";
    const QString file = w.folder.filePath(QStringLiteral("last-month.vicegrip"));
    test::NewUser::write(file, QByteArray::fromStdString(job::write(other)));
    view(Qt::Key_6);
    w.type(w.find<QLineEdit>("compare-file"), qPrintable(file));
    w.settle();
    EXPECT_EQ(w.textOf("compare-said"), "last-month.vicegrip: 3 changed, 1 follow.");
    EXPECT_THAT(column("differences", 1), Contains("Input AN3, pull-up"));
    w.find<QTableWidget>("differences")->setFocus();
    w.key(Qt::Key_W);
    EXPECT_TRUE(read("petrel-differences.csv").contains("Wire w6"));
    // What was saved last is what is open: nothing is different until something is edited.
    w.key(Qt::Key_L);
    w.settle();
    EXPECT_EQ(w.textOf("compare-said"), "Nothing is different from petrel.vicegrip.");
    w.type(w.find<QLineEdit>("compare-file"), "/nowhere/x.vicegrip");
    EXPECT_EQ(w.textOf("compare-said"), "Nothing is different from petrel.vicegrip."); // the field says what is wrong
}

TEST_F(HandoverPath, ABrokenFileIsSaidWithItsPlace)
{
    const QString file = w.folder.filePath(QStringLiteral("broken.vicegrip"));
    test::NewUser::write(file, "{\"version\": 1, ");
    view(Qt::Key_6);
    w.type(w.find<QLineEdit>("compare-file"), qPrintable(file));
    w.settle();
    EXPECT_THAT(w.textOf("compare-said"), HasSubstr("broken.vicegrip:1:"));
}

TEST_F(HandoverPath, APhotoIsAddedDescribedAndTakenOff)
{
    w.choose("clt");
    view(Qt::Key_7);
    EXPECT_EQ(w.find<QComboBox>("photo-of")->currentText(), QStringLiteral("Circuit: Coolant temp"));
    EXPECT_FALSE(w.find<QWidget>("photo-remove")->isEnabled());
    QImage picture(640, 400, QImage::Format_RGB32);
    picture.fill(Qt::red);
    const QString file = w.folder.filePath(QStringLiteral("shot.png"));
    ASSERT_TRUE(picture.save(file));
    w.type(w.find<QLineEdit>("photo-file"), file.toUtf8().constData());
    w.settle();
    ASSERT_EQ(w.window.desk().store.job()->photos.size(), 1U) << w.textOf("photo-said");
    EXPECT_EQ(w.window.desk().store.job()->photos[0].subject, "clt");
    EXPECT_EQ(w.find<app::PhotoFigure>("photo-shown")->photo().width(), 640);
    w.type(w.find<QLineEdit>("photo-words"), "The boot is off");
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->photos[0].words, "The boot is off");

    // Dropped on the view, another one.
    picture.fill(Qt::blue);
    const QString dropped = w.folder.filePath(QStringLiteral("dropped.png"));
    ASSERT_TRUE(picture.save(dropped));
    QMimeData files;
    files.setUrls({QUrl::fromLocalFile(dropped), QUrl(QStringLiteral("http://nowhere.example/x.jpg"))});
    QDragEnterEvent enter(QPoint(10, 10), Qt::CopyAction, &files, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(w.window.findChild<app::PhotosView*>(), &enter);
    ASSERT_TRUE(enter.isAccepted());
    QDropEvent drop(QPointF(10, 10), Qt::CopyAction, &files, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(w.window.findChild<app::PhotosView*>(), &drop);
    w.settle();
    ASSERT_EQ(w.window.desk().store.job()->photos.size(), 2U) << w.textOf("photo-said");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    ASSERT_EQ(w.window.desk().store.job()->photos.size(), 1U);

    test::NewUser::write(w.folder.filePath(QStringLiteral("none.jpg")), "no photo");
    w.type(w.find<QLineEdit>("photo-file"), w.folder.filePath(QStringLiteral("none.jpg")).toUtf8().constData());
    w.settle();
    EXPECT_THAT(w.textOf("photo-said"), HasSubstr("it is no photo"));
    EXPECT_EQ(w.window.desk().store.job()->photos.size(), 1U);

    // Gone from its folder: said, and the book is written all the same.
    const QDir folder(w.folder.filePath(QStringLiteral("petrel-photos")));
    ASSERT_TRUE(QFile::remove(folder.filePath(folder.entryList(QDir::Files).first())));
    view(Qt::Key_8);
    view(Qt::Key_7);
    EXPECT_THAT(w.textOf("photo-said"), HasSubstr("cannot be shown"));
    view(Qt::Key_1);
    w.key(Qt::Key_H);
    w.settle();
    EXPECT_THAT(read("petrel-book.html").toStdString(), HasSubstr("is not there"));

    view(Qt::Key_7);
    w.find<QTableWidget>("photos")->setFocus();
    w.key(Qt::Key_X);
    w.settle();
    EXPECT_TRUE(w.window.desk().store.job()->photos.empty());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(w.window.desk().store.job()->photos.size(), 1U);
}

TEST_F(HandoverPath, AListGoesOutAndComesBackAsItStandsOnTheScreen)
{
    view(Qt::Key_8);
    EXPECT_FALSE(w.find<QWidget>("list-take")->isEnabled());
    w.key(Qt::Key_W);
    EXPECT_THAT(w.textOf("list-said"), HasSubstr("petrel-wires.csv is written"));
    QByteArray list = read("petrel-wires.csv");
    EXPECT_THAT(list.toStdString(), HasSubstr("wire,from,to,colour,area_mm2,length_m"));
    w.key(Qt::Key_C);
    w.key(Qt::Key_P);
    EXPECT_THAT(read("petrel-cavities.csv").toStdString(), HasSubstr("plug,cavity,wire"));
    EXPECT_THAT(read("petrel-parts.csv").toStdString(), HasSubstr("circuit,name,part,seat"));

    test::NewUser::write(w.folder.filePath(QStringLiteral("mine.csv")), "wire,length_m\nw5,9,5\n");
    w.type(w.find<QLineEdit>("list-file"), w.folder.filePath(QStringLiteral("mine.csv")).toUtf8().constData());
    w.settle();
    EXPECT_THAT(w.textOf("list-said"), HasSubstr("Nothing is taken until"));
    EXPECT_FALSE(w.find<QWidget>("list-take")->isEnabled());

    test::NewUser::write(w.folder.filePath(QStringLiteral("mine.csv")), "wire,length_m\nw5,9.5\n");
    w.type(w.find<QLineEdit>("list-file"), w.folder.filePath(QStringLiteral("mine.csv")).toUtf8().constData());
    w.settle();
    const auto before = w.window.desk().store.job();
    EXPECT_THAT(w.textOf("list-said"), HasSubstr("Changes: 1. What follows from them"));
    auto* table = w.find<QTableWidget>("list-changes");
    EXPECT_EQ(table->item(1, 1)->text(), QStringLiteral("Wire w5, length"));
    w.key(Qt::Key_T);
    w.settle();
    EXPECT_THAT(w.textOf("list-said"), HasSubstr("Taken over"));
    const auto now = w.window.desk().store.job();
    const auto wire = std::ranges::find(now->wires, job::WireId{"w5"}, &job::Wire::id);
    EXPECT_NEAR(wire->length_m, 9.5, 1e-12);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.settle();
    EXPECT_EQ(*w.window.desk().store.job(), *before);
}

TEST_F(HandoverPath, LabelsAreMadeOfTheSheetThatWasTyped)
{
    view(Qt::Key_3);
    EXPECT_THAT(w.textOf("labels-page"), HasSubstr("Page 1 of"));
    auto* size = w.find<QLineEdit>("labels-size");
    w.type(size, "90 x 12");
    EXPECT_THAT(w.textOf("labels-said"), HasSubstr("measure the rule first"));
    auto* figure = w.find<app::FigureView>("labels");
    figure->setFocus();
    w.key(Qt::Key_N);
    std::set<std::string> wires;
    for (const drawn::Shape& s : figure->figure().shapes)
        if (s.about.starts_with("wire "))
            wires.insert(s.about);
    EXPECT_GT(wires.size(), 15U);
    w.key(Qt::Key_P);
    EXPECT_TRUE(read("petrel-labels.pdf").startsWith("%PDF-"));
    w.type(w.find<QLineEdit>("labels-margin"), "5 x 8");
    w.find<QComboBox>("labels-form")->activated(1);
    app::Preferences again; // the sheet is the user's, for the next job too
    EXPECT_EQ(again.now().labels.label, (sheets::Size{90, 12}));
    EXPECT_EQ(again.now().labels.margin, (sheets::Size{5, 8}));
    EXPECT_EQ(again.now().labels.form, sheets::LabelForm::Wrap);
    EXPECT_EQ(again.now().labels.paper, sheets::kA4);
    EXPECT_TRUE(again.complaint().isEmpty());
    // Too small: which wires, and what would do.
    w.type(size, "15 x 5");
    EXPECT_THAT(w.textOf("labels-said"), HasSubstr("would do for all of them"));
    w.find<QCheckBox>("print-labels")->click();
    w.find<QCheckBox>("print-faces")->click();
    w.settle();
    EXPECT_THAT(w.textOf("labels-said"), testing::Not(HasSubstr("too small")));
}

TEST_F(HandoverPath, ThePacketIsWrittenWithWhatMayBeTrusted)
{
    view(Qt::Key_4);
    EXPECT_THAT(column("packet-trust", 1), Contains(HasSubstr("nobody has measured it")));
    w.key(Qt::Key_Z);
    w.settle();
    EXPECT_THAT(w.textOf("packet-said"), HasSubstr("petrel-packet.zip is written"));
    EXPECT_TRUE(read("petrel-packet.zip").startsWith("PK"));
    w.key(Qt::Key_F);
    w.settle();
    EXPECT_THAT(read("petrel-packet/start.html").toStdString(), HasSubstr("What has nobody proved?"));
    // A folder of somebody else's is left alone.
    QDir(w.folder.filePath(QStringLiteral("petrel-packet"))).removeRecursively();
    QDir(w.folder.path()).mkpath(QStringLiteral("petrel-packet/holiday"));
    w.key(Qt::Key_F);
    w.settle();
    EXPECT_THAT(w.textOf("packet-said"), HasSubstr("no packet"));
}

} // namespace
} // namespace vicegrip
