#include "app/stages/handover/compare_view.h"

#include "app/stages/handover/difference_rows.h"
#include "app/store/whole_file.h"
#include "app/widgets/file_field.h"
#include "app/widgets/hand_focus.h"
#include "app/widgets/key_button.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/job/json.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

namespace vicegrip::app {

CompareView::CompareView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_field(fileField(tr("Another file of this job, or another job"), "compare-file")),
      m_said(label({}, look::Size::Body)),
      m_list(new ListTable(
          "differences", tr("What is different"),
          {{tr("About"), 100, false}, {tr("What"), 0, false}, {tr("There"), 0, true}, {tr("Here, now"), 0, true}})),
      m_open(KeyButton::bound(this, "compare-open", tr("Open a file"), Qt::Key_O, true)),
      m_saved(KeyButton::bound(this, "compare-saved", tr("With what was saved last"), Qt::Key_L, false)),
      m_save(KeyButton::bound(this, "compare-save", tr("Write the list"), Qt::Key_W, false)),
      m_work([this](const Compared& c) { show(c); })
{
    m_said->setObjectName(QStringLiteral("compare-said"));
    m_list->setWordWrap(true);
    m_list->verticalHeader()->setDefaultSectionSize(40_px);
    auto* keys = new QHBoxLayout;
    keys->setSpacing(look::kGap);
    keys->addWidget(m_open);
    keys->addWidget(m_saved);
    keys->addWidget(m_save);
    keys->addStretch(1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->setSpacing(look::kGap);
    column->addWidget(label(tr("Another file of this job, or another job"), look::Size::Small, false, true));
    column->addWidget(m_field);
    column->addWidget(m_said);
    column->addWidget(m_list, 1);
    column->addLayout(keys);
    connect(m_field, &TypedField::entered, this, [this](const QString& typed) { choose(typed.trimmed()); });
    connect(m_open, &KeyButton::clicked, this, [this] {
        const QString file = QFileDialog::getOpenFileName(
            this, tr("Compare with"), QFileInfo(m_desk.store.path()).path(), tr("Jobs (*.vicegrip);;All files (*)"));
        if (!file.isEmpty()) {
            m_field->setText(file);
            choose(file);
        }
    });
    connect(m_saved, &KeyButton::clicked, this, [this] { choose(m_desk.store.path()); });
    connect(m_save, &KeyButton::clicked, this, &CompareView::save);
    handFocus(this, m_list);
}

void CompareView::choose(const QString& file)
{
    m_file = file;
    m_of = nullptr;
    refresh();
}

void CompareView::refresh()
{
    m_saved->setEnabled(!m_desk.store.path().isEmpty());
    m_save->setEnabled(!m_compared.differences.empty());
    if (m_file.isEmpty()) {
        m_said->setText(
            tr("A file of last month, or what was saved before today's work: what is different from it stands "
               "here, as the job is now."));
        return;
    }
    if (m_of != m_desk.store.analysis())
        compare();
}

void CompareView::compare()
{
    m_of = m_desk.store.analysis();
    m_said->setText(tr("Comparing …"));
    m_work.ask([file = m_file, now = m_of]() -> Compared {
        auto job = job::readFile(QFile::encodeName(file).toStdString());
        if (!job)
            return {file, text(job.error().text()), {}};
        const auto there = analysis::analyse(std::make_shared<const job::Job>(std::move(*job)));
        return {file, {}, compare::differences(there, *now)};
    });
}

void CompareView::show(const Compared& compared)
{
    m_compared = compared;
    Rows rows;
    const int changed = addDifferences(rows, compared.differences, tr("Changed"), tr("Follows"));
    m_list->fill(rows.rows, rows.strong);
    const QString name = QFileInfo(compared.file).fileName();
    m_said->setText(!compared.trouble.isEmpty() ? compared.trouble
                    : rows.rows.empty()         ? tr("Nothing is different from %1.").arg(name)
                                                : tr("%1: %2 changed, %3 follow.")
                                              .arg(name)
                                              .arg(changed)
                                              .arg(static_cast<int>(compared.differences.size()) - changed));
    setInk(m_said, compared.trouble.isEmpty() ? look::colours().ink : look::colours().failing);
    m_save->setEnabled(!compared.differences.empty());
}

void CompareView::save()
{
    if (m_compared.differences.empty() || m_desk.store.path().isEmpty())
        return;
    const QFileInfo job(m_desk.store.path());
    const QString file = job.dir().filePath(job.completeBaseName() + QStringLiteral("-differences.csv"));
    const auto written = writeWhole(file, QByteArray::fromStdString(compare::toCsv(m_compared.differences)));
    m_said->setText(written ? tr("%1 is written, beside the job.").arg(QDir::toNativeSeparators(file))
                            : text(written.error().text()));
}

} // namespace vicegrip::app
