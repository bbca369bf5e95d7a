#include "core/brief/needs.h"
#include "core/harness/start.h"
#include "core/job/json.h"
#include "core/seating/plan.h"
#include "tests/support/library.h"
#include "tests/support/scale.h"

#include <QComboBox>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTimer>

#include <random>

/// Hands that do anything at every view, in any order. Whatever they do, the job is one that can be saved and opened
/// again as it is, and every step can be undone.
namespace vicegrip::test {
namespace {

using analysis::Stage;

class Hands
{
  public:
    Hands(Window& window, unsigned seed) : m_w(window), m_random(seed)
    {
        // A dialog would wait for somebody: whatever opens is shut again.
        QObject::connect(&m_shut, &QTimer::timeout, [] {
            if (QWidget* open = QApplication::activeModalWidget())
                open->close();
            if (QWidget* list = QApplication::activePopupWidget())
                list->close();
        });
        m_shut.start(20);
    }

    void act()
    {
        switch (below(10)) {
        case 0:
        case 1:
            m_w.window.showStage(static_cast<Stage>(below(analysis::kStageCount)));
            did("stage");
            break;
        case 2:
            m_w.key(below(2) == 0 ? Qt::Key_Down : Qt::Key_Up, Qt::AltModifier);
            did("circuit");
            break;
        case 3:
            m_w.key(Qt::Key_Z, below(3) == 0 ? Qt::ControlModifier | Qt::ShiftModifier : Qt::ControlModifier);
            did("undo or redo");
            break;
        case 4:
            choose();
            break;
        case 5:
            type();
            break;
        case 6:
            pick();
            break;
        case 7:
            pressKey();
            break;
        default:
            press();
        }
    }

    [[nodiscard]] const std::string& last() const { return m_did; }

  private:
    int below(int n) { return static_cast<int>(m_random() % static_cast<unsigned>(n)); }
    void did(const std::string& what) { m_did = what; }

    template <class W> W* any()
    {
        std::vector<W*> all;
        for (W* w : m_w.window.template findChildren<W*>())
            if (w->isVisible() && w->isEnabled())
                all.push_back(w);
        return all.empty() ? nullptr : all[static_cast<size_t>(below(static_cast<int>(all.size())))];
    }

    void press()
    {
        auto* button = any<QAbstractButton>();
        if (button != nullptr && button->objectName() != QStringLiteral("practise")) { // that opens another job
            did("press " + button->objectName().toStdString() + " " + button->text().toStdString());
            button->click();
        }
    }

    void choose()
    {
        auto* box = any<QComboBox>();
        if (box == nullptr || box->count() == 0)
            return;
        const int index = below(box->count());
        did("choose " + box->objectName().toStdString() + " " + box->itemText(index).toStdString());
        box->setCurrentIndex(index);
        emit box->activated(index);
    }

    void type()
    {
        static const char* const kTyped[] = {
            "",      "none",  "12",    "-1",    "1e9",        "2k49",    "100 kPa",  "20 l E85", "0 0.5 4.5",
            "nan",   "1e400", "25 °C", "4.7 V", "BU/WH",      "1.5 mm2", "\xc3\x28", "../../x",  "\"quoted\"",
            "0.001", "3 bar", "9999",  "A.7",   "185/60 R14", "0,35",    "-273.2 C", "60",       "\t",
        };
        const QString typed = QString::fromLatin1(kTyped[below(static_cast<int>(std::size(kTyped)))]);
        if (below(4) == 0) {
            if (auto* page = any<QPlainTextEdit>()) {
                did("paste");
                page->setPlainText(typed + QStringLiteral("\n0 0.5\n100 4.5\n"));
                return;
            }
        }
        if (auto* line = any<QLineEdit>(); line != nullptr && !line->isReadOnly()) {
            did("type " + line->objectName().toStdString() + " " + typed.toStdString());
            line->setFocus();
            line->selectAll();
            QTest::keyClicks(line, typed);
            QTest::keyClick(line, Qt::Key_Return);
        }
    }

    /// A cell: chosen, and where it can be typed into, typed into.
    void pick()
    {
        auto* table = any<QTableWidget>();
        if (table == nullptr || table->rowCount() == 0)
            return;
        const int row = below(table->rowCount()), column = below(table->columnCount());
        did("cell of " + table->objectName().toStdString());
        table->setCurrentCell(row, column);
        QTableWidgetItem* cell = table->item(row, column);
        if (cell != nullptr && table->editTriggers() != QAbstractItemView::NoEditTriggers &&
            cell->flags().testFlag(Qt::ItemIsEditable))
            cell->setText(below(2) == 0 ? QStringLiteral("2.5 m") : QStringLiteral("GN/YE"));
    }

    void pressKey()
    {
        static const Qt::Key kKeys[] = {
            Qt::Key_S,      Qt::Key_L,    Qt::Key_Delete, Qt::Key_K,    Qt::Key_B,  Qt::Key_M, Qt::Key_N,
            Qt::Key_Space,  Qt::Key_F,    Qt::Key_T,      Qt::Key_O,    Qt::Key_X,  Qt::Key_R, Qt::Key_E,
            Qt::Key_Return, Qt::Key_Down, Qt::Key_Right,  Qt::Key_Left, Qt::Key_Up, Qt::Key_A, Qt::Key_Escape};
        const Qt::Key key = kKeys[below(static_cast<int>(std::size(kKeys)))];
        did("key " + std::to_string(key));
        QWidget* at = m_w.window.focusWidget();
        QTest::keyClick(at != nullptr ? at : &m_w.window, key, below(5) == 0 ? Qt::AltModifier : Qt::NoModifier);
    }

    Window& m_w;
    std::mt19937 m_random;
    QTimer m_shut;
    std::string m_did;
};

void anythingGoes(Window& w, unsigned seed, int steps)
{
    Hands hands(w, seed);
    const job::Job first = *w.window.desk().store.job();
    auto known = w.window.desk().store.job();
    int edits = 0;
    // What is worked out beside the window comes when it comes, and so do the hands to what it offers: they go on until
    // they have done enough.
    for (int step = 0; step < steps || (edits <= steps / 20 && step < 3 * steps); ++step) {
        hands.act();
        QCoreApplication::processEvents();
        const auto now = w.window.desk().store.job();
        if (now == known)
            continue;
        known = now;
        ++edits;
        const auto back = job::read(job::write(*now));
        ASSERT_TRUE(back) << "step " << step << ", " << hands.last() << ": " << back.error().text();
        ASSERT_TRUE(*back == *now) << "step " << step << ", " << hands.last() << ": "
                                   << nlohmann::json::diff(nlohmann::json::parse(job::write(*now)),
                                                           nlohmann::json::parse(job::write(*back)));
    }
    EXPECT_GT(edits, steps / 20) << "hands that do nothing prove nothing";
    w.settle();
    while (w.window.desk().store.undoStack().canUndo())
        w.window.desk().store.undoStack().undo();
    EXPECT_TRUE(*w.window.desk().store.job() == first) << "and all of it is undone";
    w.settle();
}

TEST(RandomHands, OnPetrelNothingIsMadeThatCannotBeOpened)
{
    const UserFolder user;
    Window w;
    anythingGoes(w, 1, 400);
}

TEST(RandomHands, OnTheVanEither)
{
    const UserFolder user;
    Window w;
    openCurlew(w);
    anythingGoes(w, 3, 300);
}

/// An engine with all that the ECU drives.
TEST(RandomHands, NorWhereMostIsDriven)
{
    const UserFolder user;
    Window w;
    job::Job job = harness::startJob("Four", *parts::find(library(), parts::EcuId{"mid-fixed"}));
    job.brief.emplace();
    job.brief->firingOrder = {1, 3, 4, 2};
    EXPECT_TRUE(brief::apply(job, library()));
    EXPECT_TRUE(seating::take(job, seating::bestPlan(job)));
    const QString path = w.folder.filePath(QStringLiteral("four.vicegrip"));
    QFile file(path);
    ASSERT_TRUE(file.open(QIODevice::WriteOnly));
    file.write(QByteArray::fromStdString(job::write(job)));
    file.close();
    ASSERT_TRUE(w.window.openJob(path));
    w.settle();
    anythingGoes(w, 5, 300);
}

TEST(RandomHands, NorOnANewJob)
{
    const UserFolder user;
    Window w;
    w.key(Qt::Key_N, Qt::ControlModifier);
    w.settle();
    anythingGoes(w, 4, 300);
}

} // namespace
} // namespace vicegrip::test
