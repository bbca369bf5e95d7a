#pragma once

#include "app/desk/desk.h"
#include "core/capture/overview.h"
#include "core/log/log.h"
#include "core/pulls/pulls.h"
#include "core/review/kept_review.h"

#include <QString>

#include <atomic>
#include <memory>
#include <optional>
#include <vector>

namespace vicegrip::app {

/// A log as it was read. It does not change.
struct ReadLog
{
    QString file, name; ///< with its folders, and without
    log::Log log;
    std::vector<std::vector<float>> held; ///< of columns with empty rows: the last value there was
    std::vector<capture::Overview> overviews; ///< of each column
    QString trouble; ///< why it could not be read; empty: it was

    [[nodiscard]] std::span<const float> values(size_t column) const
    {
        return held[column].empty() ? std::span<const float>(log.columns[column].values) : held[column];
    }
};

/// What was made of it for a job.
struct ReviewedLog
{
    std::shared_ptr<const ReadLog> read, before; ///< before: null without one
    AnalysisPtr of;
    std::vector<log_columns::Meaning> meanings;
    review::Review review;
    pulls::Pulls pulls; ///< none, with the reason in `verdict`, where the log tells none
    std::vector<review::Compared> compared;
    std::vector<job::LogMark> marks; ///< of the job, in this log
    job::LogReview toKeep; ///< what the job can keep of it; it is not of a time yet
    QString notCompared; ///< why what was asked of both cannot be said; empty: it can

    /// The row that holds at this time.
    [[nodiscard]] size_t rowAt(double time_s) const;
};

/// How two logs are compared.
struct ChangeAsked
{
    std::optional<review::Purpose> purpose; ///< none: everything that differs
    QString column;
};

/// How far the reading of a file is, for another thread to see; and whether it is wanted any more.
struct Reading
{
    std::atomic<int> percent = 0;
    std::atomic<bool> wanted = true;
};

[[nodiscard]] std::shared_ptr<const ReadLog> readLogForView(const QString& file,
                                                            const std::shared_ptr<Reading>& reading);
[[nodiscard]] std::shared_ptr<const ReviewedLog> reviewForView(const std::shared_ptr<const ReadLog>& log,
                                                               const std::shared_ptr<const ReadLog>& before,
                                                               const AnalysisPtr& analysis, const ChangeAsked& asked);

/// Writes the chosen pulls beside the log, a file each, and says how many. Errors (Io): one cannot be written.
[[nodiscard]] Result<int> writePulls(const ReviewedLog& of);

} // namespace vicegrip::app
