#pragma once

#include "core/base/result.h"
#include "core/capture/seen.h"

#include <filesystem>

namespace vicegrip::capture {

/// Reads a capture by what it is, whatever its name: sound (RIFF), changes (VCD), or columns of numbers: time in
/// seconds, then channels in volts. Rows at even times are samples; others are changes. Errors: Io, TooBig, Malformed
/// with file and line: what the readers say, time that goes back; (Range) fewer than two rows.
[[nodiscard]] Result<Seen> readCapture(const std::filesystem::path& file);

} // namespace vicegrip::capture
