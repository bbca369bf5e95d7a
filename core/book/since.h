#pragma once

#include "core/job/job.h"

#include <filesystem>
#include <optional>

/// What a job was when its books were made, kept beside it, so that the next book can say what changed.
namespace vicegrip::book {

/// Where that is kept: petrel-book.kept beside petrel.vicegrip.
[[nodiscard]] std::filesystem::path keptFile(const std::filesystem::path& jobFile);

/// The job as it was when the last book of another state of it was made: a book that is made twice of one state is the
/// same book. None: there was no such book, or what was kept cannot be read.
[[nodiscard]] std::optional<job::Job> lastBookOf(const job::Job& job, const std::filesystem::path& jobFile);

/// Keeps the state a book was just made of. Error (Io): it cannot be written.
[[nodiscard]] Result<void> keepForNextBook(const job::Job& job, const std::filesystem::path& jobFile);

/// Takes along what was kept when the job is saved under another name; what lies there of another job goes. Error (Io):
/// it cannot be copied.
[[nodiscard]] Result<void> carryKept(const std::filesystem::path& from, const std::filesystem::path& to);

} // namespace vicegrip::book
