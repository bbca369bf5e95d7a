#pragma once

#include "app/store/change.h"
#include "app/store/job_file.h"
#include "core/analysis/analysis.h"

#include <QDateTime>
#include <QFileSystemWatcher>
#include <QFutureWatcher>
#include <QObject>
#include <QTimer>
#include <QUndoStack>

#include <functional>
#include <memory>
#include <optional>

/// The one door through which a job changes. Every edit is a step that can be undone, is autosaved, and is analysed on
/// a worker; a newer edit supersedes an analysis under way. Views draw from what `changed` brings and write nowhere
/// else.
namespace vicegrip::app {

using JobPtr = std::shared_ptr<const job::Job>;
using AnalysisPtr = std::shared_ptr<const analysis::Analysis>;

/// A job that was read from disk and analysed, with what a crash left beside it.
struct OpenedJob
{
    JobFile file;
    JobPtr job;
    AnalysisPtr analysis;
    std::optional<JobFile::Recovered> recovery;
};

class JobStore : public QObject
{
    Q_OBJECT

  public:
    explicit JobStore(QObject* parent = nullptr);
    ~JobStore() override;

    /// Reads, locks and analyses a file; may run on any thread. Errors as JobFile::open.
    [[nodiscard]] static Result<OpenedJob> read(const QString& path);
    void open(OpenedJob opened);
    /// Both at once. On failure the job that was open stays open.
    [[nodiscard]] Result<void> open(const QString& path);
    /// Refused while `changedElsewhere`: what others wrote is not overwritten unasked.
    [[nodiscard]] Result<void> save();
    /// Over whatever stands there now.
    [[nodiscard]] Result<void> saveOver();
    /// The open file as it is now; the lock is given back for that. What was kept beside it is its recovery then.
    [[nodiscard]] Result<OpenedJob> readAgain();
    /// Whether another program wrote the file since it was read or saved here.
    [[nodiscard]] bool changedElsewhere() const;
    /// Writes the job as it is to another place and goes on there; the file that was open stays as it was saved. On
    /// failure it stays open.
    [[nodiscard]] Result<void> saveCopy(const QString& path);
    /// Takes over a lock from another machine, where the file is still what was read. Errors say what is in the way.
    [[nodiscard]] bool canTakeOver() const { return m_file && m_file->canTakeOver(); }
    [[nodiscard]] Result<void> takeOver();
    /// Puts what is not saved beside the file at once. Errors: it can be kept nowhere.
    [[nodiscard]] Result<void> keep();

    /// A job that is nowhere on disk (tests).
    void setJob(job::Job job);

    /// Changes the job under a name a person reads in the undo list. An edit that changes nothing leaves no step; one
    /// that fails, that breaks the job or could not be read from its file again, is refused with its reason and changes
    /// nothing.
    [[nodiscard]] Result<void> edit(const QString& description, const Change& change);
    /// The same where no field stands beside the edit: a refusal is said by `refused`. Whether it was taken.
    bool editOrSay(const QString& description, const Change& change);

    /// What a crash left behind, offered and not imposed.
    [[nodiscard]] bool hasRecovery() const { return m_recovery.has_value(); }
    void takeRecovery();
    void dismissRecovery();
    [[nodiscard]] QString recoveryPath() const { return m_recovery ? m_recovery->path : QString(); }

    /// Whether a job was opened; before that `job` is an empty one.
    [[nodiscard]] bool hasJob() const { return m_hasJob; }
    [[nodiscard]] JobPtr job() const { return m_job; }
    [[nodiscard]] AnalysisPtr analysis() const { return m_analysis; }
    [[nodiscard]] bool isSaved() const { return m_undo.isClean(); }
    [[nodiscard]] QString path() const { return m_file ? m_file->path() : QString(); }
    /// Whether this is the file that is open, by whatever name.
    [[nodiscard]] bool isOpen(const QString& path) const;
    [[nodiscard]] QString readOnlyReason() const { return m_file ? m_file->readOnlyReason() : QString(); }
    [[nodiscard]] QUndoStack& undoStack() { return m_undo; }

    /// Analyses the job from the ground up, taking nothing over: what is said of it is said in other units now.
    void analyseAfresh();

  signals:
    void jobChanged(); ///< the job is another; its analysis follows
    void analysed(); ///< job() and analysis() belong together again
    void savedChanged();
    void refused(const QString& sentence); ///< an edit, with its reason
    void recoveryOffered();
    void autosaveFailed(const QString& sentence);
    void writtenElsewhere(); ///< another program wrote the open file
    void goneFromDisk(); ///< it was removed, renamed or moved

  private:
    friend class EditStep;
    void leave();
    void start(JobPtr job, AnalysisPtr analysis);
    void replace(JobPtr job);
    void analyse();
    void adopt(AnalysisPtr analysis);
    void autosaveNow();
    void offerNextRecovery();
    void watch();
    void look();
    [[nodiscard]] bool isGone() const;

    JobPtr m_job, m_onDisk; ///< as it is here, and as it was read or saved last
    AnalysisPtr m_analysis;
    bool m_hasJob = false;
    std::optional<JobFile> m_file;
    std::optional<JobFile::Recovered> m_recovery;
    QUndoStack m_undo;
    QTimer m_autosave;
    QFileSystemWatcher m_watcher; ///< of the file, and of its folder: most programs write a file by replacing it
    QTimer m_look; ///< a file is written in several goes
    QDateTime m_written; ///< the file's own, when it was read, saved or looked at last
    QFutureWatcher<AnalysisPtr> m_worker;
    bool m_afresh = false; ///< nothing is taken over from the analysis before
    bool m_again = false; ///< the job changed while the worker was at an older one
};

} // namespace vicegrip::app
