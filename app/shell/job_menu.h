#pragma once

#include <QMenu>

namespace vicegrip::app {

class Jobs;

/// Under the job's name: every way to begin, open, keep and leave a job, and the window's own pages.
class JobMenu : public QMenu
{
    Q_OBJECT

  public:
    /// `groups` are shown one under another, with a line between; the last ones that were open stand under the first.
    JobMenu(Jobs& jobs, const QList<QList<QAction*>>& groups, QWidget* parent);

  private:
    void listRecent();

    Jobs& m_jobs;
    QMenu* m_recent;
};

} // namespace vicegrip::app
