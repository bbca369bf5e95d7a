#include "app/store/job_store.h"

#include "core/job/check.h"
#include "core/job/json.h"

#include <QFileInfo>
#include <QUndoCommand>
#include <QtConcurrentRun>

namespace vicegrip::app {
namespace {

constexpr int kAutosaveAfter_ms = 500;
constexpr int kLookAfter_ms = 200;

AnalysisPtr analysisOf(JobPtr job, const AnalysisPtr& before = nullptr)
{
    return std::make_shared<const analysis::Analysis>(analysis::analyse(std::move(job), before.get()));
}

} // namespace

/// Undo restores the whole value: jobs are shared and cheap to keep.
class EditStep : public QUndoCommand
{
  public:
    EditStep(JobStore& store, JobPtr before, JobPtr after, const QString& description)
        : QUndoCommand(description), m_store(store), m_before(std::move(before)), m_after(std::move(after))
    {
    }
    void undo() override { m_store.replace(m_before); }
    void redo() override { m_store.replace(m_after); }

  private:
    JobStore& m_store;
    JobPtr m_before, m_after;
};

JobStore::JobStore(QObject* parent) : QObject(parent), m_job(std::make_shared<const job::Job>()), m_onDisk(m_job)
{
    m_autosave.setSingleShot(true);
    m_autosave.setInterval(kAutosaveAfter_ms);
    connect(&m_autosave, &QTimer::timeout, this, &JobStore::autosaveNow);
    m_look.setSingleShot(true);
    m_look.setInterval(kLookAfter_ms);
    connect(&m_look, &QTimer::timeout, this, &JobStore::look);
    connect(&m_watcher, &QFileSystemWatcher::fileChanged, &m_look, qOverload<>(&QTimer::start));
    connect(&m_watcher, &QFileSystemWatcher::directoryChanged, &m_look, qOverload<>(&QTimer::start));
    connect(&m_undo, &QUndoStack::cleanChanged, this, &JobStore::savedChanged);
    connect(&m_worker, &QFutureWatcherBase::finished, this, [this] {
        if (std::exchange(m_again, false))
            analyse();
        else
            adopt(m_worker.result());
    });
    m_analysis = analysisOf(m_job);
}

JobStore::~JobStore()
{
    m_worker.waitForFinished();
    leave();
}

Result<OpenedJob> JobStore::read(const QString& path)
{
    return JobFile::open(path).map([](std::pair<JobFile, job::Job>&& opened) {
        auto recovery = opened.first.recoverable(opened.second);
        auto job = std::make_shared<const job::Job>(std::move(opened.second));
        return OpenedJob{std::move(opened.first), job, analysisOf(job), std::move(recovery)};
    });
}

/// What was edited in the last half second is kept beside the file that is left.
void JobStore::leave()
{
    if (m_autosave.isActive()) {
        m_autosave.stop();
        autosaveNow();
    }
}

void JobStore::open(OpenedJob opened)
{
    leave();
    m_file.emplace(std::move(opened.file));
    m_onDisk = opened.job;
    m_recovery = std::move(opened.recovery);
    watch();
    start(std::move(opened.job), std::move(opened.analysis));
    if (m_recovery)
        emit recoveryOffered();
}

Result<void> JobStore::open(const QString& path)
{
    return read(path).map([&](OpenedJob&& opened) { open(std::move(opened)); });
}

bool JobStore::isOpen(const QString& path) const
{
    return m_file && JobFile::whereItLies(path) == m_file->path() && m_file->readOnlyReason().isEmpty();
}

void JobStore::setJob(job::Job job)
{
    auto set = std::make_shared<const job::Job>(std::move(job));
    auto analysis = analysisOf(set);
    start(std::move(set), std::move(analysis));
}

/// With its analysis at once and not from the worker: the first window shows the job and not an empty page.
void JobStore::start(JobPtr job, AnalysisPtr analysis)
{
    m_undo.clear();
    m_job = std::move(job);
    m_hasJob = true;
    emit jobChanged();
    if (m_worker.isRunning())
        m_again = true;
    adopt(std::move(analysis));
}

Result<void> JobStore::edit(const QString& description, const Change& change)
{
    auto after = std::make_shared<job::Job>(*m_job);
    if (auto done = change(*after); !done)
        return done;
    if (*after == *m_job)
        return {};
    if (auto sound = job::check(*after); !sound)
        return sound;
    if (auto kept = job::checkWritten(*after, *m_job); !kept) // nothing that could be saved and not be opened
        return kept;
    m_undo.push(new EditStep(*this, m_job, std::move(after), description)); // NOLINT: the stack owns it
    return {};
}

bool JobStore::editOrSay(const QString& description, const Change& change)
{
    const auto done = edit(description, change);
    if (!done)
        emit refused(tr("%1: %2").arg(description, QString::fromStdString(done.error().sentence)));
    return done.has_value();
}

void JobStore::replace(JobPtr job)
{
    m_job = std::move(job);
    m_autosave.start();
    emit jobChanged();
    analyse();
}

void JobStore::analyse()
{
    if (m_worker.isRunning()) {
        m_again = true;
        return;
    }
    const AnalysisPtr before = std::exchange(m_afresh, false) ? nullptr : m_analysis;
    m_worker.setFuture(QtConcurrent::run([job = m_job, before] { return analysisOf(job, before); }));
}

void JobStore::analyseAfresh()
{
    m_afresh = true;
    analyse();
}

void JobStore::adopt(AnalysisPtr analysis)
{
    m_analysis = std::move(analysis);
    emit analysed();
}

Result<OpenedJob> JobStore::readAgain()
{
    const QString file = path();
    if (const auto theirs = job::readFile(file.toStdString()); !theirs)
        return tl::make_unexpected(theirs.error()); // the lock is not given back for what cannot be opened
    m_file.reset();
    return read(file);
}

bool JobStore::changedElsewhere() const
{
    const auto now = m_file ? job::readFile(m_file->path().toStdString()) : Result<job::Job>(*m_onDisk);
    return now && *now != *m_onDisk; // one that is gone, or cannot be read, has nothing to lose
}

Result<void> JobStore::save()
{
    if (m_file && m_file->readOnlyReason().isEmpty() && changedElsewhere())
        return fail(ErrorCode::Io,
                    tr("not saved: another program has written this job since it was read here.").toStdString());
    return saveOver();
}

Result<void> JobStore::saveOver()
{
    if (!m_file)
        return fail(ErrorCode::Io, tr("The job has no file yet: save a copy first.").toStdString());
    auto saved = m_file->save(*m_job);
    if (saved) {
        m_onDisk = m_job;
        m_autosave.stop();
        m_undo.setClean();
        watch();
        emit savedChanged();
    }
    return saved;
}

Result<void> JobStore::saveCopy(const QString& path)
{
    if (isOpen(path))
        return save();
    return JobFile::create(path, *m_job).map([&](JobFile&& copy) {
        m_autosave.stop();
        if (m_file && m_file->readOnlyReason().isEmpty())
            m_file->dropAutosave(); // the copy holds it
        m_file.emplace(std::move(copy));
        m_onDisk = m_job;
        m_undo.setClean();
        watch();
        emit savedChanged();
    });
}

/// The file as it is now is the one that is known.
void JobStore::watch()
{
    const QFileInfo file(path());
    m_written = file.lastModified();
    const QStringList watched = m_watcher.files() + m_watcher.directories();
    if (!watched.isEmpty())
        m_watcher.removePaths(watched);
    m_watcher.addPaths({file.filePath(), file.path()});
}

void JobStore::look()
{
    const QDateTime before = m_written;
    if (!m_file)
        return;
    watch();
    if (m_written == before)
        return;
    if (isGone()) {
        m_undo.resetClean();
        emit goneFromDisk();
    } else if (changedElsewhere())
        emit writtenElsewhere();
}

bool JobStore::isGone() const
{
    return m_file && !QFileInfo::exists(m_file->path());
}

Result<void> JobStore::takeOver()
{
    if (!canTakeOver())
        return fail(ErrorCode::Io, tr("There is no lock to take over.").toStdString());
    if (changedElsewhere())
        return fail(ErrorCode::Io,
                    tr("The job was changed on disk since it was read here: save a copy elsewhere, or open it again.")
                        .toStdString());
    auto taken = m_file->takeOver();
    if (taken)
        emit savedChanged();
    return taken;
}

Result<void> JobStore::keep()
{
    if (!m_file || m_undo.isClean())
        return {};
    if (isGone()) // what is kept beside it would not be found again
        return fail(ErrorCode::Io, tr("the job's file is gone from its folder").toStdString());
    m_autosave.stop();
    return m_file->autosave(*m_job);
}

void JobStore::autosaveNow()
{
    if (!m_file)
        return;
    if (m_undo.isClean()) {
        m_file->dropAutosave(); // undone back to what is saved
        return;
    }
    if (const auto kept = m_file->autosave(*m_job); !kept)
        emit autosaveFailed(QString::fromStdString(kept.error().sentence));
}

void JobStore::takeRecovery()
{
    if (!m_recovery)
        return;
    const JobFile::Recovered taken = *std::exchange(m_recovery, std::nullopt);
    m_undo.push(new EditStep(*this, m_job, std::make_shared<const job::Job>(taken.job),
                             tr("Take what was not saved"))); // NOLINT: the stack owns it
    if (const auto kept = keep(); !kept) // it stays where it is, then
        emit autosaveFailed(QString::fromStdString(kept.error().sentence));
    else
        JobFile::drop(taken);
    offerNextRecovery();
}

void JobStore::dismissRecovery()
{
    if (m_recovery)
        JobFile::drop(*std::exchange(m_recovery, std::nullopt));
    offerNextRecovery();
}

/// Crash after crash may have left several.
void JobStore::offerNextRecovery()
{
    const auto others = m_file ? m_file->recoverable(*m_job) : std::nullopt;
    if (!others)
        return;
    m_recovery = others;
    emit recoveryOffered();
}

} // namespace vicegrip::app
