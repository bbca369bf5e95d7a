#pragma once

#include "core/job/job.h"

#include <string>
#include <string_view>
#include <vector>

/// The record of the whole job: what hands did and what was read, in the order of time.
namespace vicegrip::logbook {

struct LogLine
{
    std::string when; ///< ISO 8601, UTC
    std::string what;
};

/// Latest first. Readings come from the proofs, the rest from Job::log; with a filter only lines that hold each of its
/// words, in any case.
[[nodiscard]] std::vector<LogLine> logbook(const job::Job& job, std::string_view filter = {});

/// When its last line was, ISO 8601; empty: it has none. What is written of a job bears this date, not the hour it was
/// written at, so that the same job makes the same bytes.
[[nodiscard]] std::string lastDate(const job::Job& job);

} // namespace vicegrip::logbook
