#include "app/shell/job_menu.h"

#include "app/shell/jobs.h"

#include <QDir>

namespace vicegrip::app {

JobMenu::JobMenu(Jobs& jobs, const QList<QList<QAction*>>& groups, QWidget* parent)
    : QMenu(parent), m_jobs(jobs), m_recent(new QMenu(tr("Opened last"), this))
{
    setObjectName(QStringLiteral("job-menu"));
    setAccessibleName(tr("Job"));
    m_recent->setObjectName(QStringLiteral("recent-menu"));
    for (qsizetype i = 0; i < groups.size(); ++i) {
        if (i > 0)
            addSeparator();
        addActions(groups[i]);
        if (i == 0)
            addMenu(m_recent);
    }
    connect(this, &QMenu::aboutToShow, this, &JobMenu::listRecent);
}

void JobMenu::listRecent()
{
    m_recent->clear();
    for (const Recent::Entry& e : m_jobs.recent().entries()) {
        QString name = e.title.isEmpty() ? e.name : e.name + QStringLiteral("  ·  ") + e.title;
        QAction* action = m_recent->addAction(name.replace(QLatin1Char('&'), QLatin1String("&&")));
        action->setToolTip(QDir::toNativeSeparators(e.path));
        connect(action, &QAction::triggered, this, [this, path = e.path] { m_jobs.open(path); });
    }
    m_recent->setToolTipsVisible(true);
    m_recent->setEnabled(!m_recent->isEmpty());
}

} // namespace vicegrip::app
