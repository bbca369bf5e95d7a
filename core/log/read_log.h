#pragma once

#include "core/log/logged.h"

#include <filesystem>
#include <functional>
#include <string_view>

namespace vicegrip::log {

inline constexpr std::size_t kMostValues = 600'000'000; ///< of all columns: 2.4 GB

/// Asked now and then with the share of the file that was read, by one thread at a time, any of them; false stops it.
using GoesOn = std::function<bool(double share)>;

/// Reads a log on as many threads as there are processors, a few megabytes at a time, so that the file may be larger
/// than what is kept of it. What its rows lack is said in `remarks`. Errors, with file and line: those of layoutOf;
/// (Io) it cannot be read, or was stopped; (TooBig) more than kMostValues, or a line of more than 16 MB; (Range) no row
/// of numbers.
[[nodiscard]] Result<Log> readLog(const std::filesystem::path& file, const GoesOn& goesOn = {});

/// The same of a text.
[[nodiscard]] Result<Log> readLogText(std::string_view text);

/// The line of the file that a row is of, or one close above it: exact for each 1024th row.
[[nodiscard]] std::uint64_t lineOf(const Log& log, std::size_t row);

} // namespace vicegrip::log
