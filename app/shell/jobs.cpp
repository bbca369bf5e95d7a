#include "app/shell/jobs.h"

#include "app/shell/keeping.h"
#include "app/store/whole_file.h"
#include "app/widgets/text.h"
#include "core/base/shipped.h"
#include "core/harness/start.h"
#include "core/job/json.h"

#include <QDir>
#include <QFileDialog>
#include <QStandardPaths>

namespace vicegrip::app {
namespace {

QDir documents()
{
    return QDir(QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation));
}

} // namespace

Jobs::Jobs(JobStore& store, Keeping& keeping, Notices& notices, const Preferences& preferences, QWidget* window)
    : QObject(window),
      m_store(store),
      m_keeping(keeping),
      m_notices(notices),
      m_preferences(preferences),
      m_window(window)
{
    connect(&m_keeping, &Keeping::copied, this, &Jobs::remember);
}

bool Jobs::open(const QString& path)
{
    if (m_store.isOpen(path)) { // its lock is ours, and what was edited stays
        m_notices.say(tr("This job is open here already."));
        return true;
    }
    if (!QFile::exists(path)) {
        m_notices.say(tr("%1 is gone: it was moved, renamed or removed.").arg(QDir::toNativeSeparators(path)),
                      {{tr("Forget it"), [this, path] { m_recent.forget(path); }}});
        return false;
    }
    if (!m_keeping.mayLeave(tr("Open without it"), [this, path] { open(path); }))
        return false;
    return open(JobStore::read(path));
}

bool Jobs::open(Result<OpenedJob> read)
{
    if (!openAside(std::move(read)))
        return false;
    remember();
    return true;
}

bool Jobs::openAside(Result<OpenedJob> read)
{
    if (!read) {
        m_notices.say(QString::fromStdString(read.error().text()));
        return false;
    }
    m_store.open(std::move(*read));
    emit opened();
    return true;
}

void Jobs::remember()
{
    const auto job = m_store.job();
    m_recent.add({m_store.path(), text(job->name), text(job->title), QDateTime::currentDateTimeUtc()});
}

bool Jobs::write(const QString& path, const job::Job& job)
{
    QDir().mkpath(QFileInfo(path).path());
    const auto written = writeWhole(path, QByteArray::fromStdString(job::write(job)));
    if (!written)
        m_notices.say(QString::fromStdString(written.error().text()));
    return written.has_value();
}

bool Jobs::openNew(const QString& name, const std::function<job::Job(const std::string&)>& make)
{
    QString path;
    for (int n = 1; path.isEmpty() || QFile::exists(path); ++n)
        path = documents().filePath(QStringLiteral("%1 %2.vicegrip").arg(name).arg(n));
    if (!write(path, make(QFileInfo(path).completeBaseName().toStdString())) || !open(JobStore::read(path)))
        return false;
    m_notices.say(tr("The new job is kept in %1").arg(QDir::toNativeSeparators(path)));
    return true;
}

void Jobs::begin()
{
    if (!m_keeping.mayLeave(tr("Begin without it"), [this] { begin(); }))
        return;
    const auto make = [this](const std::string& name) {
        parts::EcuProfile none;
        none.name = none.ecu.name = "ECU not chosen yet";
        job::Job job = harness::startJob(name, none);
        job.meter = m_preferences.now().meter;
        return job;
    };
    if (openNew(tr("New job"), make))
        emit begun();
}

void Jobs::beginAnother()
{
    if (!m_keeping.mayLeave(tr("Begin without it"), [this] { beginAnother(); }))
        return;
    const auto like = m_store.job();
    QString name = text(like->name).remove(QLatin1Char('/')).trimmed();
    if (name.isEmpty())
        name = tr("Job");
    openNew(name, [&](const std::string& own) { return harness::anotherLike(*like, own); });
}

void Jobs::ask()
{
    const QString path =
        QFileDialog::getOpenFileName(m_window, tr("Open a job"), m_store.path(), tr("Vicegrip jobs (*.vicegrip)"));
    if (!path.isEmpty())
        open(path);
}

std::vector<Jobs::Demo> Jobs::demos()
{
    return {{QStringLiteral("petrel"), tr("Petrel"),
             tr("Hill-climb buggy, standalone ECU: what it reads and drives, partly proved.")},
            {QStringLiteral("curlew"), tr("Curlew"),
             tr("Van, plug-in ECU: its old plug beside the new one, flex fuel added.")}};
}

void Jobs::openDemo(const QString& name)
{
    if (!m_keeping.mayLeave(tr("Open without it"), [this, name] { openDemo(name); }))
        return;
    const QString own = documents().filePath(tr("Demo %1.vicegrip").arg(name));
    if (!QFile::exists(own)) {
        const auto job = job::readFile(shippedFolder() / "jobs" / (name.toStdString() + ".vicegrip"));
        if (!job) {
            m_notices.say(QString::fromStdString(job.error().text()));
            return;
        }
        if (!write(own, *job))
            return;
    }
    if (m_store.isOpen(own) || open(JobStore::read(own)))
        emit demoOpened(name);
}

} // namespace vicegrip::app
