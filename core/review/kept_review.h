#pragma once

#include "core/review/before_after.h"

#include <string>
#include <vector>

/// What a log said, kept in the job: the book and the tuner's packet have it, the log itself may be gone.
namespace vicegrip::review {

/// What is kept of a review, with the facts it rests on: of every circuit the log has a column of, its sensor, its
/// seat, its scaling, and the wires to it. `log` may have folders: they are left out. The heaviest 1,000 findings, and
/// of a sentence 2,000 bytes, as the job's schema has it.
[[nodiscard]] job::LogReview record(const analysis::Analysis& analysis, const Side& of, const std::string& log,
                                    std::string when);
/// And what a change did since an older log.
void addChanges(job::LogReview& to, const std::string& before, const std::vector<Compared>& changes);

/// Keeps it in the place of an older one of the same log.
void keep(job::Job& job, job::LogReview review);
/// What is kept of this log; null: nothing.
[[nodiscard]] const job::LogReview* keptOf(const job::Job& job, const std::string& log);

} // namespace vicegrip::review
