#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <QLockFile>
#include <QString>

#include <memory>
#include <optional>

/// A job on disk: written whole or not at all, locked against a second writer, with an autosave beside it.
namespace vicegrip::app {

class JobFile
{
  public:
    /// What a path leads to: a job that is opened through a link is locked, kept and saved where it lies.
    [[nodiscard]] static QString whereItLies(const QString& path);

    /// Reads and locks what the path leads to. A file somebody else has open, one in a folder that cannot be written,
    /// or one of a newer version is read without a lock; `readOnlyReason` then says why. Errors as job::readFile.
    [[nodiscard]] static Result<std::pair<JobFile, job::Job>> open(const QString& path);

    /// Writes the job to a path and locks it there; `job` is then what is on disk. Errors: as save, and one that
    /// somebody else has open is not overwritten.
    [[nodiscard]] static Result<JobFile> create(const QString& path, const job::Job& job);

    /// Writes atomically and drops the autosave; what could not be read again does not take the old file's place.
    /// Errors (Io) say what the system refused; else those of job::checkWritten.
    [[nodiscard]] Result<void> save(const job::Job& job) const;

    /// Writes the autosave. The saved file is not touched.
    [[nodiscard]] Result<void> autosave(const job::Job& job) const;
    void dropAutosave() const;

    /// What was autosaved and never saved.
    struct Recovered
    {
        QString path;
        job::Job job;
    };
    /// The latest that a crash left, when it reads and is not `saved`: what it holds decides, not its date. `open` puts
    /// an autosave that it finds under a name of its own, where it stays until it is dropped.
    [[nodiscard]] std::optional<Recovered> recoverable(const job::Job& saved) const;
    static void drop(const Recovered& recovered);

    [[nodiscard]] const QString& path() const { return m_path; }
    [[nodiscard]] QString autosavePath() const;
    [[nodiscard]] const QString& readOnlyReason() const { return m_readOnlyReason; }

    /// Whether another machine's lock is all that stands in the way: its process cannot be asked whether it lives.
    [[nodiscard]] bool canTakeOver() const { return m_foreign; }
    /// Takes that lock away and locks; what was read may have been changed since.
    [[nodiscard]] Result<void> takeOver();

  private:
    JobFile(QString path, std::unique_ptr<QLockFile> lock, QString readOnlyReason)
        : m_path(std::move(path)), m_lock(std::move(lock)), m_readOnlyReason(std::move(readOnlyReason))
    {
    }

    QString m_path;
    std::unique_ptr<QLockFile> m_lock;
    QString m_readOnlyReason;
    bool m_foreign = false;
};

} // namespace vicegrip::app
