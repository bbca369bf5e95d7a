#include "app/stages/handover/logbook_view.h"

#include "app/widgets/hand_focus.h"
#include "app/widgets/labels.h"
#include "app/widgets/list_table.h"
#include "core/logbook/logbook.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QShortcut>
#include <QVBoxLayout>

namespace vicegrip::app {

LogbookView::LogbookView(Desk& desk, QWidget* parent)
    : QWidget(parent),
      m_desk(desk),
      m_filter(new QLineEdit),
      m_count(label({}, look::Size::Small, false, true)),
      m_table(new ListTable("logbook", tr("Logbook, latest first"), {{tr("When"), 150, true}, {tr("What"), 0, false}}))
{
    m_filter->setObjectName(QStringLiteral("logbook-filter"));
    m_filter->setAccessibleName(tr("Search the logbook"));
    m_filter->setPlaceholderText(tr("Search: coolant, seated, A7   /"));
    m_filter->setClearButtonEnabled(true);
    m_count->setObjectName(QStringLiteral("logbook-count"));
    auto* top = new QHBoxLayout;
    top->addWidget(m_filter, 1);
    top->addWidget(m_count);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, look::kGap, 0, 0);
    column->addWidget(label(tr("What hands did and what was read, latest first."), look::Size::Small, false, true));
    column->addLayout(top);
    column->addWidget(m_table, 1);
    connect(m_filter, &QLineEdit::textChanged, this, &LogbookView::refresh);
    connect(new QShortcut(QKeySequence(Qt::Key_Slash), this), &QShortcut::activated, m_filter,
            [this] { m_filter->setFocus(); });
    handFocus(this, m_table);
}

void LogbookView::goTo(const lookup::Entry& entry)
{
    m_filter->clear();
    for (int row = 0; row < m_table->rowCount(); ++row)
        if (m_table->item(row, 1)->text() == text(entry.text)) {
            m_table->setCurrentCell(row, 1);
            m_table->scrollToItem(m_table->item(row, 1), QAbstractItemView::PositionAtCenter);
            break;
        }
    m_table->setFocus();
}

void LogbookView::refresh()
{
    const auto job = m_desk.store.job();
    std::vector<QStringList> rows;
    for (const logbook::LogLine& line : logbook::logbook(*job, m_filter->text().toStdString())) {
        const QDateTime when = QDateTime::fromString(text(line.when), Qt::ISODate).toLocalTime();
        rows.push_back(
            {when.isValid() ? when.toString(QStringLiteral("yyyy-MM-dd HH:mm")) : text(line.when), text(line.what)});
    }
    m_table->fill(rows);
    const int lines = static_cast<int>(rows.size());
    m_count->setText(lines == 0 && m_filter->text().isEmpty() ? tr("Nothing done yet")
                     : lines == 1                             ? tr("1 line")
                                                              : tr("%1 lines").arg(lines));
}

} // namespace vicegrip::app
