#pragma once

#include "app/shell/notices.h"
#include "app/store/job_store.h"
#include "app/store/preferences.h"
#include "app/store/recent.h"

#include <QObject>

namespace vicegrip::app {

class Keeping;

/// Which job is open: a new one, another like this, one from disk, one of the demo jobs, one of the last ones. What is
/// in the way is said in the notices, and what was open stays open.
class Jobs : public QObject
{
    Q_OBJECT

  public:
    Jobs(JobStore& store, Keeping& keeping, Notices& notices, const Preferences& preferences, QWidget* window);

    bool open(const QString& path);
    bool open(Result<OpenedJob> read);
    /// The same of a file that is not remembered among the last ones.
    bool openAside(Result<OpenedJob> read);
    /// In a file of its own from the first minute, so that nothing is lost; no dialog to fill in with gloves on.
    void begin();
    /// The drawing of the job that is open, in a new file, without what hands did.
    void beginAnother();
    void ask();

    /// The user's own copy of a demo job, made when it is first asked for.
    void openDemo(const QString& name);
    struct Demo
    {
        QString file; ///< name in the folder of the demo jobs
        QString name, about;
    };
    [[nodiscard]] static std::vector<Demo> demos();

    [[nodiscard]] const Recent& recent() const { return m_recent; }

  signals:
    void opened();
    void begun(); ///< with nothing in it yet
    void demoOpened(const QString& name);

  private:
    /// Writes a job under the first free name of that kind in the user's documents, and opens it.
    bool openNew(const QString& name, const std::function<job::Job(const std::string&)>& make);
    bool write(const QString& path, const job::Job& job);
    void remember();

    JobStore& m_store;
    Keeping& m_keeping;
    Notices& m_notices;
    const Preferences& m_preferences;
    QWidget* m_window;
    Recent m_recent;
};

} // namespace vicegrip::app
