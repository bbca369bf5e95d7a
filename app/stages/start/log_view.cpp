#include "app/stages/start/log_view.h"

#include "app/desk/when.h"
#include "app/look/look.h"
#include "app/stages/start/column_list.h"
#include "app/stages/start/log_files.h"
#include "app/stages/start/log_plot.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "app/widgets/state_glyph.h"
#include "app/widgets/text.h"
#include "app/widgets/typed_field.h"
#include "core/units/units.h"

#include <QFileInfo>
#include <QLineEdit>
#include <QShortcut>
#include <QStackedWidget>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>

namespace vicegrip::app {
namespace {

enum Cell { Glyph, Words, Times };

} // namespace

LogView::LogView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_files(new LogFiles(desk, this)),
      m_list(
          new ListTable("log-says", tr("What the log says"), {{{}, 34}, {tr("It says"), 0}, {tr("Times"), 60, true}})),
      m_columns(new ColumnList(desk)),
      m_left(new QStackedWidget),
      m_plot(new LogPlot),
      m_progress(new QTimer(this)),
      m_worked([this](const Shown& shown) { take(shown); })
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(6_px);
    column->addWidget(m_files);
    m_title =
        label(tr("No log is open: a CSV of any logger, or a recording of this program."), look::Size::Title, true);
    m_title->setObjectName(QStringLiteral("log-title"));
    column->addLayout(buildTitle());
    m_list->growRows();
    m_list->setItemDelegateForColumn(Glyph, new StateDelegate(m_list));
    m_left->addWidget(m_list);
    m_left->addWidget(m_columns);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(look::kMargin);
    columns->addWidget(m_left, 4);
    columns->addWidget(buildDrawn(), 5);
    column->addLayout(columns, 1);
    m_progress->setInterval(100);
    connect(m_list, &QTableWidget::currentCellChanged, this, [this](int now, int, int before, int) {
        if (now != before)
            showRow();
    });
    connect(m_columns, &ColumnList::chosen, this, &LogView::showColumn);
    connectFiles();
    fill();
}

/// What is open, and what is done with the whole of it.
QLayout* LogView::buildTitle()
{
    constexpr look::Px kMark{190};
    auto* row = new QHBoxLayout;
    row->setSpacing(look::kGap);
    m_mark = new TypedField(tr("Mark at the line"), [](const QString&) -> Result<QString> { return QString(); });
    m_mark->edit()->setObjectName(QStringLiteral("log-mark"));
    m_mark->edit()->setPlaceholderText(tr("M: mark the line"));
    m_mark->setFixedWidth(kMark);
    m_columnsKey = KeyButton::bound(this, "log-columns-key", tr("Columns"), Qt::Key_C, false);
    m_keep = KeyButton::bound(this, "log-keep", tr("Keep it"), Qt::Key_K, false);
    row->addWidget(m_title, 1);
    row->addWidget(m_mark, 0, Qt::AlignVCenter);
    row->addWidget(m_columnsKey, 0, Qt::AlignTop);
    row->addWidget(m_keep, 0, Qt::AlignTop);
    connect(m_keep, &QAbstractButton::clicked, this, &LogView::keep);
    connect(m_mark, &TypedField::entered, this, &LogView::mark);
    connect(m_columnsKey, &QAbstractButton::clicked, this, &LogView::showColumns);
    connect(new QShortcut(QKeySequence(Qt::Key_M), this), &QShortcut::activated, this, [this] {
        if (m_mark->isVisible())
            m_mark->edit()->setFocus();
    });
    return row;
}

QWidget* LogView::buildDrawn()
{
    auto* out = new QWidget;
    auto* drawn = new QVBoxLayout(out);
    drawn->setContentsMargins(0, 0, 0, 0);
    drawn->setSpacing(6_px);
    drawn->addWidget(m_plot, 1);
    m_what = label({}, look::Size::Body, true);
    m_what->setObjectName(QStringLiteral("log-what"));
    m_where = label({}, look::Size::Small, false, true);
    m_where->setObjectName(QStringLiteral("log-where"));
    m_todo = label({}, look::Size::Body);
    m_todo->setObjectName(QStringLiteral("log-todo"));
    for (QLabel* l : {m_what, m_where, m_todo})
        drawn->addWidget(l);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    m_next = KeyButton::bound(this, "log-next", tr("Next place"), Qt::Key_N, true);
    m_circuit = KeyButton::bound(this, "log-circuit", tr("Go to its circuit"), Qt::Key_G, false);
    m_save = KeyButton::bound(this, "log-save", tr("Write the chosen pulls"), Qt::Key_W, false);
    m_unmark = KeyButton::bound(this, "log-unmark", tr("Remove the mark"), Qt::Key_X, false);
    for (KeyButton* b : {m_next, m_circuit, m_save, m_unmark})
        keys->addWidget(b);
    keys->addStretch(1);
    drawn->addLayout(keys);
    connect(m_next, &QAbstractButton::clicked, this, &LogView::nextStretch);
    connect(m_circuit, &QAbstractButton::clicked, this, &LogView::goToCircuit);
    connect(m_save, &QAbstractButton::clicked, this, &LogView::savePulls);
    connect(m_unmark, &QAbstractButton::clicked, this, &LogView::removeMark);
    return out;
}

void LogView::connectFiles()
{
    connect(m_progress, &QTimer::timeout, this, [this] {
        if (m_reading)
            m_title->setText(
                tr("Reading %1: %2 %").arg(QFileInfo(m_files->file()).fileName()).arg(m_reading->percent.load()));
    });
    connect(m_files, &LogFiles::chosen, this, &LogView::ask);
    connect(m_files, &LogFiles::driving, this, [this](int percent) {
        m_title->setText(tr("The bench's car is driven for an evening: %1 %").arg(percent));
    });
    connect(m_files, &LogFiles::notDriven, this, [this](const QString& why) {
        fill();
        emit notice(
            tr("Nothing to read of a drive: %1. It begins with the engine running (above), and warm.").arg(why));
    });
}

/// A file that is being read is not worth waiting for.
LogView::~LogView()
{
    if (m_reading)
        m_reading->wanted = false;
}

void LogView::refresh()
{
    if (m_shown && m_shown->of != m_desk.store.analysis())
        ask();
}

void LogView::refreshLive()
{
    m_files->refreshLive();
}

/// Reads what is not read yet, and reviews it for the job as it is.
void LogView::ask()
{
    const QString file = m_files->file(), before = m_files->before();
    if (m_reading)
        m_reading->wanted = false;
    if (file.isEmpty()) {
        m_progress->stop();
        m_reading.reset();
        m_shown.reset();
        fill();
        return;
    }
    const auto had = [&](const QString& wanted) -> std::shared_ptr<const ReadLog> {
        for (const auto& log : {m_shown ? m_shown->read : nullptr, m_shown ? m_shown->before : nullptr})
            if (log && log->file == wanted && log->trouble.isEmpty())
                return log;
        return nullptr;
    };
    const auto reading = m_reading = std::make_shared<Reading>();
    m_progress->start();
    m_worked.ask([=, log = had(file), old = before.isEmpty() ? nullptr : had(before),
                  analysis = m_desk.store.analysis(), asked = m_files->asked()] {
        const auto now = log ? log : readLogForView(file, reading);
        const auto then = old || before.isEmpty() ? old : readLogForView(before, reading);
        return reviewForView(now, then, analysis, asked);
    });
}

void LogView::take(const Shown& shown)
{
    if (shown->read->file != m_files->file()) // another was asked for, or none, meanwhile
        return;
    m_progress->stop();
    m_reading.reset();
    if (!shown->read->trouble.isEmpty()) {
        m_files->refuseFile(shown->read->trouble);
        m_shown.reset();
        fill();
        return;
    }
    if (shown->before && !shown->before->trouble.isEmpty())
        m_files->refuseBefore(shown->before->trouble);
    else if (!shown->notCompared.isEmpty())
        m_files->refuseBefore(shown->notCompared);
    const bool other = !m_shown || m_shown->read != shown->read;
    m_shown = shown;
    if (other) {
        m_list->setCurrentCell(-1, -1);
        m_files->offer(shown->read->log);
    }
    fill();
}

void LogView::fill()
{
    m_rows = m_shown ? rowsOf(*m_shown) : std::vector<LogRow>();
    if (m_shown) {
        m_title->setText(
            tr("%1: %2 rows of %3 columns, %4")
                .arg(m_shown->read->name, QLocale().toString(static_cast<qlonglong>(m_shown->read->log.rows())))
                .arg(m_shown->read->log.columns.size())
                .arg(tenthsText(m_shown->read->log.seconds())));
    } else if (m_files->file().isEmpty()) {
        m_title->setText(tr("No log is open: a CSV of any logger, or a recording of this program."));
    } else {
        m_title->setText(tr("%1 could not be read.").arg(QFileInfo(m_files->file()).fileName()));
    }
    std::vector<QStringList> rows;
    std::vector<int> headings;
    for (const LogRow& r : m_rows) {
        if (r.kind == LogRow::Heading)
            headings.push_back(static_cast<int>(rows.size()));
        rows.push_back({QString(), r.words, r.times});
    }
    m_list->fill(rows, headings);
    for (size_t i = 0; i < m_rows.size(); ++i) {
        QTableWidgetItem* mark = m_list->item(static_cast<int>(i), Glyph);
        const auto& state = m_rows[i].state;
        mark->setData(kStateRole, state ? QVariant(static_cast<int>(*state)) : QVariant());
        mark->setData(Qt::AccessibleTextRole, state ? said(proof::stateName(*state)) : QString());
        for (int column = 0; column < m_list->columnCount(); ++column)
            m_list->item(static_cast<int>(i), column)
                ->setFlags(m_rows[i].kind == LogRow::Heading ? Qt::ItemIsEnabled
                                                             : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    }
    m_files->showChange(m_shown && m_shown->before);
    for (QWidget* of : std::initializer_list<QWidget*>{m_left, m_plot, m_mark, m_columnsKey, m_keep})
        of->setVisible(m_shown != nullptr);
    showKept();
    m_columns->show(m_shown);
    const auto first = std::ranges::find_if(m_rows, [](const LogRow& r) { return r.kind != LogRow::Heading; });
    if (const LogRow* now = row(); first != m_rows.end() && (now == nullptr || now->kind == LogRow::Heading))
        m_list->setCurrentCell(static_cast<int>(first - m_rows.begin()), Words);
    showRow();
}

const LogRow* LogView::row() const
{
    const int at = m_list->currentRow();
    return m_shown && at >= 0 && at < static_cast<int>(m_rows.size()) ? &m_rows[static_cast<size_t>(at)] : nullptr;
}

void LogView::show(const QString& what, const QString& todo, const std::vector<size_t>& columns,
                   std::vector<review::Stretch> stretches)
{
    m_what->setText(what);
    m_todo->setText(todo);
    m_stretches = stretches;
    m_stretch = 0;
    if (!m_shown)
        return;
    m_plot->show(m_shown, columns, std::move(stretches));
    if (!m_stretches.empty())
        m_plot->goToStretch(m_stretches.front());
}

void LogView::showRow()
{
    const LogRow* r = row();
    std::vector<size_t> columns;
    m_unmark->setVisible(r != nullptr && r->kind == LogRow::Mark);
    if (m_left->currentWidget() == m_columns) {
        showColumn();
        return;
    }
    if (r == nullptr || r->kind == LogRow::Heading || r->kind == LogRow::Remark) {
        if (m_shown)
            for (size_t c = 0; c < std::min<size_t>(LogPlot::kMostFields, m_shown->meanings.size()); ++c)
                columns.push_back(c);
        show({}, {}, columns, {});
    } else if (r->kind == LogRow::Finding) {
        const review::Finding& f = m_shown->review.findings[r->at];
        show(text(f.what), text(f.todo), f.columns, f.stretches);
    } else if (r->kind == LogRow::Change) {
        const review::Compared& c = m_shown->compared[r->at];
        show(text(c.verdict), {}, {c.after}, {});
    } else if (r->kind == LogRow::Mark) {
        const size_t at = m_shown->rowAt(m_shown->marks[r->at].at_s);
        show(r->words, {}, m_plot->columns(), {{at, at}});
    } else {
        const pulls::Pull& p = m_shown->pulls.all[r->at];
        using log_columns::Quantity;
        for (const Quantity q : {Quantity::EngineSpeed, Quantity::Manifold, Quantity::AskedPressure, Quantity::Mixture,
                                 Quantity::IntakeAir})
            if (const auto c = log_columns::columnOf(m_shown->meanings, q))
                columns.push_back(*c);
        show(text(p.why), {}, columns, {{p.first, p.last}});
    }
    const bool hasCircuit = r != nullptr && r->kind == LogRow::Finding &&
                            m_shown->meanings[m_shown->review.findings[r->at].columns.front()].circuit.has_value();
    if (hasCircuit && isVisible()) // the strip below is of what is in hand
        m_desk.selection.setCircuit(*m_shown->meanings[m_shown->review.findings[r->at].columns.front()].circuit);
    m_next->setVisible(m_stretches.size() > 1);
    m_circuit->setVisible(hasCircuit);
    m_save->setVisible(m_shown && (r == nullptr || r->kind != LogRow::Mark) &&
                       std::ranges::any_of(m_shown->pulls.all, &pulls::Pull::chosen));
    m_stretch = m_stretches.size(); // the first is in view already: the next key shows the second
    nextStretch();
}

void LogView::nextStretch()
{
    if (m_stretches.empty() || !m_shown) {
        m_where->clear();
        return;
    }
    m_stretch = m_stretch >= m_stretches.size() ? 0 : (m_stretch + 1) % m_stretches.size();
    const review::Stretch& s = m_stretches[m_stretch];
    const log::Log& log = m_shown->read->log;
    m_where->setText(tr("place %1 of %2: from %3 to %4, line %5 of the file")
                         .arg(m_stretch + 1)
                         .arg(m_stretches.size())
                         .arg(tenthsText(log.time_s[s.first]), tenthsText(log.time_s[s.last]))
                         .arg(log::lineOf(log, s.first)));
    m_plot->goToStretch(s);
}

void LogView::goToCircuit()
{
    const LogRow* r = row();
    if (r == nullptr || r->kind != LogRow::Finding)
        return;
    const auto& circuit = m_shown->meanings[m_shown->review.findings[r->at].columns.front()].circuit;
    if (!circuit)
        return;
    m_desk.selection.setCircuit(*circuit);
    emit goTo(m_shown->review.findings[r->at].rule == review::Rule::End ? analysis::Stage::Inputs
                                                                        : analysis::Stage::Meter);
}

void LogView::savePulls()
{
    if (!m_shown)
        return;
    if (const auto written = writePulls(*m_shown))
        emit notice(tr("%n pull(s) written beside the log, with units.", nullptr, *written));
    else
        emit notice(text(written.error().text()));
}

/// For the book and the tuner, who may never see the log.
void LogView::keep()
{
    if (!m_shown)
        return;
    job::LogReview kept = m_shown->toKeep;
    kept.when = nowText();
    if (m_desk.store.editOrSay(tr("Log %1 reviewed").arg(m_shown->read->name),
                               [&](job::Job& job) { review::keep(job, std::move(kept)); }))
        emit notice(tr("Kept: the build book and the tuner's packet say it."));
}

void LogView::showKept()
{
    if (!m_shown)
        return;
    const job::LogReview* kept = review::keptOf(*m_desk.store.job(), m_shown->toKeep.log);
    const bool same = kept != nullptr && kept->said == m_shown->toKeep.said && kept->restsOn == m_shown->toKeep.restsOn;
    m_keep->setText(same ? tr("Kept") : tr("Keep it"));
    m_keep->updateGeometry();
    m_keep->setEnabled(!same);
}

/// What the log says, or what its columns are taken for.
void LogView::showColumns()
{
    const bool now = m_left->currentWidget() != m_columns;
    m_left->setCurrentWidget(now ? static_cast<QWidget*>(m_columns) : m_list);
    m_columnsKey->setText(now ? tr("Back to the list") : tr("Columns"));
    m_columnsKey->updateGeometry();
    showRow();
}

/// The column whose meaning is asked, over the whole log.
void LogView::showColumn()
{
    const auto at = m_columns->column();
    if (m_left->currentWidget() != m_columns || !at)
        return;
    for (KeyButton* key : {m_next, m_circuit, m_save, m_unmark})
        key->setVisible(false);
    show({}, {}, {*at}, {});
    m_where->setText(tr("What is said here is kept in the job, for every log with a column of this name and unit."));
}

void LogView::mark(const QString& words)
{
    if (!m_shown || words.trimmed().isEmpty())
        return;
    const job::LogMark mark{m_shown->read->name.toStdString(), m_plot->now_s(), words.trimmed().toStdString()};
    if (m_desk.store.editOrSay(tr("Mark in %1").arg(m_shown->read->name),
                               [&](job::Job& job) { job.logMarks.push_back(mark); }))
        m_mark->setText({});
    m_plot->setFocus();
}

void LogView::removeMark()
{
    const LogRow* r = row();
    if (r == nullptr || r->kind != LogRow::Mark)
        return;
    const job::LogMark& gone = m_shown->marks[r->at];
    m_desk.store.editOrSay(tr("Mark removed"), [&](job::Job& job) { std::erase(job.logMarks, gone); });
}

} // namespace vicegrip::app
