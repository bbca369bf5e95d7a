#pragma once

#include "core/base/result.h"
#include "core/capture/seen.h"

#include <filesystem>

namespace vicegrip::capture {

/// Reads a sound file (WAV and what else libsndfile reads). Its numbers are of full scale: 1 is the loudest there is.
/// Errors: Io, Malformed (no sound file), TooBig.
[[nodiscard]] Result<Seen> readWave(const std::filesystem::path& file);

/// Writes channels of samples as WAV of 16 bits, the greatest of all at nine tenths of full scale. Errors: Io.
[[nodiscard]] Result<void> writeWave(const Seen& seen, const std::filesystem::path& file);

} // namespace vicegrip::capture
