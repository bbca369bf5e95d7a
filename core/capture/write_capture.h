#pragma once

#include "core/base/result.h"
#include "core/capture/seen.h"

#include <filesystem>

namespace vicegrip::capture {

/// Writes a capture by the ending of its name: .vcd (channels of changes), .wav (of samples), else columns of time and
/// volts, comma between them. Errors: Io.
[[nodiscard]] Result<void> writeCapture(const Seen& seen, const std::filesystem::path& file);

} // namespace vicegrip::capture
