#include "app/stages/handover/book_view.h"

#include "app/store/whole_file.h"
#include "app/widgets/caution.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/book/html.h"
#include "core/book/pdf.h"
#include "core/book/since.h"
#include "core/logbook/logbook.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QShortcut>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {

BookView::BookView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_chapters(new ListTable("book-chapters", tr("Chapters of the build book"),
                               {{tr("Chapter"), 250, false}, {tr("What stands in it"), 0, false}})),
      m_stops(new Caution),
      m_asOf(label({}, look::Size::Small, false, true)),
      m_said(label({}, look::Size::Body)),
      m_pdf(KeyButton::bound(this, "book-pdf", {}, Qt::Key_P, true)),
      m_html(KeyButton::bound(this, "book-html", tr("As a page of HTML"), Qt::Key_H, false)),
      m_work([this](const Written& w) {
          say(w.trouble.isEmpty() ? tr("%1 is written, beside the job.").arg(QDir::toNativeSeparators(w.file))
                                  : w.trouble,
              !w.trouble.isEmpty());
          showAtWork(false);
      })
{
    m_asOf->setObjectName(QStringLiteral("book-as-of"));
    m_said->setObjectName(QStringLiteral("book-said"));
    m_stops->setObjectName(QStringLiteral("book-stops"));
    m_chapters->verticalHeader()->setDefaultSectionSize(28_px);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    keys->addWidget(m_pdf);
    keys->addWidget(m_html);
    keys->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(look::kGap);
    column->addWidget(label(tr("Everything that was fitted, proved, scaled and is still open, for somebody who was not "
                               "there. It needs no Vicegrip to be read. Space takes a chapter in or leaves it out."),
                            look::Size::Small, false, true));
    column->addWidget(m_chapters, 1);
    column->addWidget(m_stops);
    column->addWidget(m_asOf);
    column->addWidget(m_said);
    column->addLayout(keys);
    connect(m_pdf, &KeyButton::clicked, this, [this] { m_work.isAtWork() ? m_work.stop() : write(true); });
    connect(m_html, &KeyButton::clicked, this, [this] { write(false); });
    connect(m_chapters, &QTableWidget::itemChanged, this, &BookView::ticked);
    connect(new QShortcut(QKeySequence(Qt::Key_Space), m_chapters, nullptr, nullptr, Qt::WidgetShortcut),
            &QShortcut::activated, this, &BookView::toggle);
    handFocus(this, m_chapters);
    showAtWork(false);
}

bool BookView::isIn(book::Chapter chapter) const
{
    return std::ranges::count(m_desk.preferences.now().bookWithout, book::chapterName(chapter)) == 0;
}

void BookView::say(const QString& sentence, bool bad)
{
    m_said->setText(sentence);
    setInk(m_said, bad ? look::colours().failing : look::colours().ink);
}

/// A car of hundreds of circuits takes minutes.
void BookView::showAtWork(bool isAtWork)
{
    m_pdf->setText(isAtWork ? tr("Stop") : tr("Write the book as PDF"));
    m_html->setEnabled(!isAtWork);
}

void BookView::refresh()
{
    const auto analysis = m_desk.store.analysis();
    std::vector<QStringList> rows;
    for (const book::Chapter chapter : book::allChapters()) {
        const std::string holds = book::chapterHolds(*analysis, chapter);
        rows.push_back(
            {said(book::chapterTitle(chapter)), holds.empty() ? tr("nothing yet: it is left out") : text(holds)});
    }
    m_chapters->fill(rows);
    const QSignalBlocker quiet(m_chapters);
    for (size_t i = 0; i < book::allChapters().size(); ++i)
        m_chapters->item(static_cast<int>(i), 0)
            ->setCheckState(isIn(book::allChapters()[i]) ? Qt::Checked : Qt::Unchecked);
    if (m_chapters->currentRow() < 0)
        m_chapters->setCurrentCell(0, 0);
    const auto lines = logbook::logbook(*analysis->job);
    m_asOf->setText(lines.empty() ? tr("Nothing is in the logbook yet: the book will have no date.")
                                  : tr("The book will be as of %1 UTC, the last line of the logbook.")
                                        .arg(QDateTime::fromString(text(lines.front().when), Qt::ISODate)
                                                 .toString(QStringLiteral("yyyy-MM-dd HH:mm"))));
    const auto stops = std::ranges::count(analysis->findings, findings::Severity::Stop, &findings::Finding::severity);
    m_stops->setVisible(stops > 0);
    m_stops->setText(
        tr("To be stopped for: %1. That will stand on its cover: the car is not ready for another person.").arg(stops));
    if (m_said->text().isEmpty())
        say(m_desk.store.path().isEmpty() ? tr("Save the job first: the book is written beside it.")
                                          : tr("It is written beside the job, over the book that is there."),
            false);
}

/// A tick was set or taken by the mouse.
void BookView::ticked(QTableWidgetItem* cell)
{
    Preferred preferred = m_desk.preferences.now();
    const std::string name(book::chapterName(book::allChapters()[static_cast<size_t>(cell->row())]));
    std::erase(preferred.bookWithout, name);
    if (cell->checkState() != Qt::Checked)
        preferred.bookWithout.push_back(name);
    m_desk.preferences.set(preferred);
}

void BookView::toggle()
{
    if (QTableWidgetItem* cell = m_chapters->item(m_chapters->currentRow(), 0))
        cell->setCheckState(cell->checkState() == Qt::Checked ? Qt::Unchecked : Qt::Checked);
}

void BookView::write(bool pdf)
{
    const QFileInfo job(m_desk.store.path());
    if (m_desk.store.path().isEmpty()) {
        say(tr("Save the job first: the book is written beside it."), true);
        return;
    }
    std::set<book::Chapter> chapters;
    std::ranges::copy_if(book::allChapters(), std::inserter(chapters, chapters.end()),
                         [this](auto c) { return isIn(c); });
    showAtWork(true);
    say(tr("Writing the book …"), false);
    const QString file =
        job.dir().filePath(job.completeBaseName() + (pdf ? QStringLiteral("-book.pdf") : QStringLiteral("-book.html")));
    m_work.ask([analysis = m_desk.store.analysis(), chapters, habits = m_desk.preferences.now().habits,
                path = QFile::encodeName(m_desk.store.path()).toStdString(), pdf,
                file](const std::stop_token& stop) -> Written {
        const job::Job& now = *analysis->job;
        const book::Book made =
            book::bookOf(*analysis, chapters, {habits, photos::albumOf(now, path), book::lastBookOf(now, path), stop});
        const Result<std::string> bytes = pdf ? book::pdfOf(made, stop) : Result<std::string>(book::htmlOf(made));
        if (stop.stop_requested())
            return {file, tr("Stopped: nothing was written. The book that was there is as it was.")};
        if (!bytes)
            return {file, text(bytes.error().text())};
        const auto written = writeWhole(file, QByteArray::fromStdString(*bytes)).and_then([&] {
            return book::keepForNextBook(now, path);
        });
        return {file, written ? QString() : text(written.error().text())};
    });
}

} // namespace vicegrip::app
