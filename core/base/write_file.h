#pragma once

#include "core/base/result.h"

#include <filesystem>
#include <string_view>

namespace vicegrip {

/// Writes a file whole or not at all: under a hidden name beside it, to the disk, then in its place. What a link leads
/// to is written, not the link. A kill leaves at most that hidden file, which the next writing takes up. Errors (Io)
/// carry the file's name; what stood there stays as it was.
[[nodiscard]] Result<void> writeFile(const std::filesystem::path& file, std::string_view bytes);

} // namespace vicegrip
