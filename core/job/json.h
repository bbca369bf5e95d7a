#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <filesystem>
#include <string_view>

/// The job's file: JSON after data/schema/job.schema.json, described in docs/formats.md.
namespace vicegrip::job {

/// Reads a job. The text must parse, follow the schema, name only things it holds, and make sense (lengths above 0,
/// parts as `parts::checkPart` wants them). Errors carry line and column, or a JSON pointer.
/// A file of a newer version is read as far as this one understands it, and keeps its version: whoever shows it must
/// not write it. One that cannot be understood at all is refused with ErrorCode::Version.
[[nodiscard]] Result<Job> read(std::string_view text);
[[nodiscard]] Result<Job> readFile(const std::filesystem::path& file);

/// Whether what would be written is read again as it is: what is wrong, with its place. A job that was edited follows
/// the schema too, and holds no number that a file cannot.
[[nodiscard]] Result<void> checkWritten(const Job& job);

/// The same of a job that `job::check` has passed and that came of `sound`, which was written and read as it is: only
/// what differs is looked at again. Places in errors count from the first thing that differs.
[[nodiscard]] Result<void> checkWritten(const Job& job, const Job& sound);

/// The whole job as text, ending in a newline. `read(write(job))` equals `job`, unknown members included.
[[nodiscard]] std::string write(const Job& job);

} // namespace vicegrip::job
