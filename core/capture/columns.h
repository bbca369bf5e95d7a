#pragma once

#include "core/base/result.h"
#include "core/capture/seen.h"

#include <filesystem>

namespace vicegrip::capture {

/// Reads columns of numbers, time in seconds first (base/number_table.h). No more is held of the file than what becomes
/// of it. Rows at even times are samples. At uneven ones a column of a few levels is of changes, and so is every
/// column where rows come only as something changes; of any other the samples are put at even times, along straight
/// lines. Errors: as NumberRows; (Malformed, with the line) time that
/// goes back; (Range) one row; (TooBig) more than 400 million samples.
[[nodiscard]] Result<Seen> readColumns(const std::filesystem::path& file);

} // namespace vicegrip::capture
