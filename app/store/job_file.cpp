#include "app/store/job_file.h"

#include "app/store/whole_file.h"
#include "core/job/json.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QLocale>
#include <QSysInfo>
#include <QThread>

#include <cerrno>
#include <csignal>

namespace vicegrip::app {
namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("JobFile", text);
}

QString beside(const QString& path, const char* ending)
{
    const QFileInfo file(path);
    return file.dir().filePath(QLatin1Char('.') + file.fileName() + QLatin1String(ending));
}

constexpr const char* kRecovered = ".recovered";

/// An autosave that a crash left goes under a name of its own: the next one would take its place.
void setAside(const QString& path)
{
    const QString autosave = beside(path, ".autosave");
    if (!QFile::exists(autosave))
        return;
    QString name = beside(path, kRecovered);
    for (int n = 2; QFile::exists(name); ++n)
        name = beside(path, kRecovered) + QLatin1Char('-') + QString::number(n);
    QFile::rename(autosave, name);
}

/// Whether a lock names a process of this machine that is gone.
bool isDead(qint64 process, const QString& host)
{
    return host == QSysInfo::machineHostName() && kill(static_cast<pid_t>(process), 0) != 0 && errno == ESRCH;
}

/// Who takes a dead one's lock away holds a mark (QLockFile's ".rmlock") for a moment. One that is older was left by
/// somebody who died with it; a younger one is somebody's at work, and taking it would make two owners.
void dropOldMark(const QString& lock)
{
    constexpr qint64 kHeld_ms = 500;
    const QString mark = lock + QLatin1String(".rmlock");
    const QFileInfo info(mark);
    if (info.exists() && info.lastModified().msecsTo(QDateTime::currentDateTime()) > kHeld_ms)
        QFile::remove(mark);
}

/// A lock is stale when its process is gone, however old it is. One that names no process was cut off while it was
/// being written: nobody is that slow, so after a moment it is taken away.
bool take(QLockFile& lock)
{
    lock.setStaleLockTime(0);
    for (int patience = 0; patience < 80; ++patience) {
        if (lock.tryLock(0))
            return true;
        qint64 process = 0;
        QString host, program;
        if (lock.error() != QLockFile::LockFailedError)
            return false;
        if (lock.getLockInfo(&process, &host, &program)) {
            if (!isDead(process, host))
                return false;
            dropOldMark(lock.fileName());
        }
        QThread::msleep(10);
    }
    return lock.removeStaleLockFile() && lock.tryLock(0);
}

/// Lock, autosave and the file that is being written have longer names than the job's own; the system allows 255 bytes.
bool isTooLong(const QString& path)
{
    constexpr qsizetype kMost = 230;
    return QFileInfo(path).fileName().toUtf8().size() > kMost;
}

QString tooLong()
{
    return tr("the file's name is too long for what is kept beside it: save a copy under a shorter name.");
}

/// Why a job is not written: empty for one of this version.
QString newer(const job::Job& job)
{
    return job.version > job::kVersion
               ? tr("The job was written by a newer Vicegrip (version %1): it can be looked at, and a copy kept, but "
                    "not changed on disk.")
                     .arg(job.version)
               : QString();
}

} // namespace

QString JobFile::whereItLies(const QString& path)
{
    const QFileInfo file(path);
    return file.exists() ? file.canonicalFilePath() : file.absoluteFilePath();
}

Result<std::pair<JobFile, job::Job>> JobFile::open(const QString& name)
{
    const QString path = whereItLies(name);
    auto job = job::readFile(path.toStdString());
    if (!job)
        return tl::make_unexpected(job.error());
    auto lock = std::make_unique<QLockFile>(beside(path, ".lock"));
    QString reason;
    bool foreign = false; // locked from where nobody can be asked
    if (job->version > job::kVersion || isTooLong(path)) {
        reason = job->version > job::kVersion ? newer(*job) : tooLong();
        lock.reset();
    } else if (!take(*lock)) {
        qint64 process = 0;
        QString host, program;
        if (lock->error() == QLockFile::LockFailedError && lock->getLockInfo(&process, &host, &program)) {
            const QString since = QLocale().toString(QFileInfo(lock->fileName()).lastModified(), QLocale::ShortFormat);
            foreign = host != QSysInfo::machineHostName();
            reason = foreign
                         ? tr("The job is locked from another machine, %1, since %2 (process %3). Where nobody works "
                              "on it there any more, take it over; else save a copy elsewhere.")
                               .arg(host, since)
                               .arg(process)
                         : tr("The job is open in another window (process %1, since %2): save a copy elsewhere.")
                               .arg(process)
                               .arg(since);
        } else
            reason = tr("The folder cannot be written: save a copy elsewhere.");
        lock.reset();
    }
    if (lock)
        setAside(path);
    JobFile file(path, std::move(lock), reason);
    file.m_foreign = foreign;
    return std::pair(std::move(file), std::move(*job));
}

Result<JobFile> JobFile::create(const QString& name, const job::Job& job)
{
    const QString path = whereItLies(name);
    if (isTooLong(path))
        return fail(ErrorCode::Io, tr("not saved: %1").arg(tooLong()).toStdString());
    auto lock = std::make_unique<QLockFile>(beside(path, ".lock"));
    if (!take(*lock))
        return fail(ErrorCode::Io,
                    (lock->error() == QLockFile::LockFailedError ? tr("not saved: it is open in another window")
                                                                 : tr("not saved: the folder cannot be written"))
                        .toStdString(),
                    {path.toStdString(), {}, 0, 0});
    return job::checkWritten(job)
        .and_then([&] { return writeWhole(path, QByteArray::fromStdString(job::write(job))); })
        .map([&] { return JobFile(whereItLies(path), std::move(lock), newer(job)); });
}

Result<void> JobFile::takeOver()
{
    auto lock = std::make_unique<QLockFile>(beside(m_path, ".lock"));
    if (!m_foreign || !QFile::remove(lock->fileName()) || !take(*lock))
        return fail(ErrorCode::Io, tr("The lock cannot be taken over: save a copy elsewhere.").toStdString());
    m_lock = std::move(lock);
    m_foreign = false;
    m_readOnlyReason.clear();
    return {};
}

QString JobFile::autosavePath() const
{
    return beside(m_path, ".autosave");
}

Result<void> JobFile::save(const job::Job& job) const
{
    if (!m_readOnlyReason.isEmpty())
        return fail(ErrorCode::Io, m_readOnlyReason.toStdString());
    return job::checkWritten(job)
        .and_then([&] { return writeWhole(m_path, QByteArray::fromStdString(job::write(job))); })
        .map([&] { dropAutosave(); });
}

Result<void> JobFile::autosave(const job::Job& job) const
{
    if (!m_readOnlyReason.isEmpty())
        return fail(ErrorCode::Io, m_readOnlyReason.toStdString());
    return writeWhole(autosavePath(), QByteArray::fromStdString(job::write(job)));
}

void JobFile::dropAutosave() const
{
    QFile::remove(autosavePath());
}

std::optional<JobFile::Recovered> JobFile::recoverable(const job::Job& saved) const
{
    if (!m_readOnlyReason.isEmpty()) // another window's autosave is its own
        return std::nullopt;
    const QDir folder = QFileInfo(m_path).dir();
    const QString names = QFileInfo(beside(m_path, kRecovered)).fileName() + QLatin1Char('*');
    for (const QFileInfo& left :
         folder.entryInfoList({names}, QDir::Files | QDir::Hidden, QDir::Time)) { // the latest first
        auto job = job::readFile(left.filePath().toStdString());
        if (job && *job == saved)
            QFile::remove(left.filePath());
        else if (job)
            return Recovered{left.filePath(), std::move(*job)};
    }
    return std::nullopt;
}

void JobFile::drop(const Recovered& recovered)
{
    QFile::remove(recovered.path);
}

} // namespace vicegrip::app
