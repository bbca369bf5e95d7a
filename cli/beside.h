#pragma once

#include "core/book/book.h"

#include <string>

/// What books and packets are made of besides the job.
namespace vicegrip::cli {

/// The photos that lie beside a job's file, and the job as it was in the last book: a file, or "" for none. Errors:
/// those of job::readFile for that file.
[[nodiscard]] Result<book::Beside> besideOf(const job::Job& job, const std::string& file, const std::string& since);

} // namespace vicegrip::cli
