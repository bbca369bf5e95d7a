#include "app/stages/handover/lists_view.h"

#include "app/desk/part_library.h"
#include "app/stages/handover/difference_rows.h"
#include "app/store/whole_file.h"
#include "app/widgets/file_field.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {

ListsView::ListsView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_field(fileField(tr("A list to take back"), "list-file")),
      m_said(label({}, look::Size::Body)),
      m_list(new ListTable("list-changes", tr("What a list has, or what it would change"),
                           {{tr("About"), 100}, {tr("What"), 0}, {tr("Now"), 0, true}, {tr("In the list"), 0, true}})),
      m_write({KeyButton::bound(this, "list-wires", tr("Write the wires"), Qt::Key_W, true),
               KeyButton::bound(this, "list-cavities", tr("The cavities"), Qt::Key_C, false),
               KeyButton::bound(this, "list-parts", tr("The parts"), Qt::Key_P, false)}),
      m_open(KeyButton::bound(this, "list-open", tr("Open a list"), Qt::Key_O, false)),
      m_take(KeyButton::bound(this, "list-take", tr("Take it over"), Qt::Key_T, true)),
      m_work([this](const Read& read) { show(read); })
{
    m_said->setObjectName(QStringLiteral("list-said"));
    m_list->setWordWrap(true);
    m_list->verticalHeader()->setDefaultSectionSize(40_px);
    auto* out = new QHBoxLayout;
    out->setSpacing(look::kGap);
    for (KeyButton* key : m_write)
        out->addWidget(key);
    out->addStretch(1);
    auto* back = new QHBoxLayout;
    back->setSpacing(look::kGap);
    back->addWidget(m_open);
    back->addWidget(m_take);
    back->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(look::kGap);
    column->addWidget(label(tr("For a spreadsheet, and back: what a list would change stands here before it is taken."),
                            look::Size::Small, false, true));
    column->addLayout(out);
    column->addWidget(label(tr("A list to take back: its file"), look::Size::Small, false, true));
    column->addWidget(m_field);
    column->addWidget(m_said);
    column->addWidget(m_list, 1);
    column->addLayout(back);
    for (const lists::Kind kind : lists::allKinds())
        connect(m_write[static_cast<size_t>(kind)], &KeyButton::clicked, this, [this, kind] { write(kind); });
    connect(m_field, &TypedField::entered, this, [this](const QString& typed) { choose(typed.trimmed()); });
    connect(m_open, &KeyButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(this, tr("List"), QFileInfo(m_desk.store.path()).path(),
                                                          tr("Lists (*.csv *.txt);;All files (*)"));
        if (!file.isEmpty()) {
            m_field->setText(file);
            choose(file);
        }
    });
    connect(m_take, &KeyButton::clicked, this, &ListsView::take);
    handFocus(this, m_list);
}

void ListsView::write(lists::Kind kind)
{
    const QFileInfo job(m_desk.store.path());
    const QString name =
        QString::fromUtf8(lists::kindName(kind).data(), static_cast<int>(lists::kindName(kind).size()));
    const QString file = job.dir().filePath(job.completeBaseName() + u'-' + name + QStringLiteral(".csv"));
    const auto written = writeWhole(file, QByteArray::fromStdString(lists::toCsv(*m_desk.store.job(), kind)));
    m_said->setText(written ? tr("%1 is written, beside the job.").arg(QDir::toNativeSeparators(file))
                            : text(written.error().text()));
    setInk(m_said, written ? look::colours().ink : look::colours().failing);
}

void ListsView::choose(const QString& file)
{
    m_file = file;
    m_of = nullptr;
    refresh();
}

void ListsView::refresh()
{
    for (KeyButton* key : m_write)
        key->setEnabled(!m_desk.store.path().isEmpty());
    if (m_file.isEmpty()) {
        showColumns();
        return;
    }
    if (m_of != m_desk.store.analysis())
        read();
}

/// Before a list is chosen: what stands in each.
void ListsView::showColumns()
{
    m_take->setEnabled(false);
    m_read = {};
    if (m_said->text().isEmpty())
        m_said->setText(tr("What is not in a list that comes back stays as it is."));
    Rows rows;
    for (const lists::Kind kind : lists::allKinds()) {
        rows.heading({tr("Columns"), app::said(lists::kindName(kind))});
        for (const lists::Column& c : lists::columnsOf(kind))
            rows.rows.push_back({QString::fromUtf8(c.name.data(), static_cast<int>(c.name.size())),
                                 c.taken ? app::said(c.holds) : tr("%1 (worked out)").arg(app::said(c.holds))});
    }
    fill(rows, false);
}

/// Without what is now and in the list there is room for words.
void ListsView::fill(const Rows& rows, bool both)
{
    m_list->setColumnHidden(2, !both);
    m_list->setColumnHidden(3, !both);
    m_list->verticalHeader()->setDefaultSectionSize(both ? 40_px : 26_px);
    m_list->fill(rows.rows, rows.strong);
}

void ListsView::read()
{
    m_of = m_desk.store.analysis();
    m_take->setEnabled(false);
    m_said->setText(tr("Reading …"));
    setInk(m_said, look::colours().ink);
    m_work.ask([file = m_file, now = m_of, known = library().parts]() -> Read {
        auto reading = lists::readFile(*now->job, QFile::encodeName(file).toStdString(), known);
        if (!reading)
            return {text(reading.error().text()), {}, {}};
        Read out{{}, std::move(*reading), {}};
        if (out.reading->job)
            out.differences =
                compare::differences(*now, analysis::analyse(std::make_shared<const job::Job>(*out.reading->job)));
        return out;
    });
}

void ListsView::show(const Read& read)
{
    m_read = read;
    Rows rows;
    const std::vector<lists::Note> notes = read.reading ? read.reading->notes : std::vector<lists::Note>();
    for (const bool stops : {true, false}) {
        if (std::ranges::count(notes, stops, &lists::Note::stops) == 0)
            continue;
        rows.heading({stops ? tr("To mend") : tr("Assumed")});
        for (const lists::Note& n : notes)
            if (n.stops == stops)
                rows.rows.push_back({n.line > 0 ? tr("Line %1").arg(n.line) : tr("List"), text(n.sentence)});
    }
    m_changed = addDifferences(rows, read.differences, tr("Changes"), tr("Follows"));
    fill(rows, true);
    m_said->setText(said(read));
    const bool wrong = !read.trouble.isEmpty() || !read.reading->job;
    setInk(m_said, wrong ? look::colours().failing : look::colours().ink);
    m_take->setEnabled(!wrong && !read.differences.empty());
}

QString ListsView::said(const Read& read) const
{
    if (!read.trouble.isEmpty())
        return read.trouble;
    const QString what = tr("%1: %2, %3 rows.")
                             .arg(QFileInfo(m_file).fileName(), app::said(lists::kindName(read.reading->kind)))
                             .arg(read.reading->rows);
    if (!read.reading->job)
        return tr("%1 Nothing is taken until the list is mended.").arg(what);
    if (read.differences.empty())
        return tr("%1 It changes nothing.").arg(what);
    return tr("%1 Changes: %2. What follows from them: %3. Nothing is taken yet.")
        .arg(what)
        .arg(m_changed)
        .arg(static_cast<int>(read.differences.size()) - m_changed);
}

/// Just what stands there: where the job has changed since, it is read again first.
void ListsView::take()
{
    if (m_of != m_desk.store.analysis() || m_of->job != m_desk.store.job() || !m_read.reading || !m_read.reading->job) {
        refresh();
        return;
    }
    if (!m_desk.store.editOrSay(tr("List taken over: %1").arg(QFileInfo(m_file).fileName()),
                                [&](job::Job& job) { job = *m_read.reading->job; }))
        return;
    m_file.clear();
    m_field->setText({});
    m_said->setText(tr("Taken over. Ctrl+Z takes it back."));
    refresh();
}

} // namespace vicegrip::app
