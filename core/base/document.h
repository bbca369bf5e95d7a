#pragma once

#include "core/base/result.h"

#include <filesystem>
#include <nlohmann/json.hpp>
#include <string_view>

/// JSON documents from outside: sized, parsed, and checked against a published schema before anything looks at them.
namespace vicegrip::document {

inline constexpr size_t kLargestBytes = 32U << 20U; ///< a job of a thousand circuits is under 2 MB
inline constexpr int kDeepest = 64; ///< nesting; our own documents need 8

/// Parses UTF-8 JSON (RFC 8259), each member once. Errors: Malformed with line and column, or with the pointer of a
/// second member of the same name; TooBig for size, nesting or the number of values.
[[nodiscard]] Result<nlohmann::json> parse(std::string_view text);

/// The refusal of what is larger than `most` bytes.
[[nodiscard]] Error tooLarge(size_t most);

/// Checks against a JSON Schema (draft 7). The error carries the JSON pointer of the offending value and one sentence.
[[nodiscard]] Result<void> validate(const nlohmann::json& document, std::string_view schema);

/// Reads a whole text file. Errors (Io, TooBig) name the file; reading ends soon after `most` bytes. The file is copied
/// and not mapped: one that another program cuts short meanwhile would end a mapping's reader with it.
[[nodiscard]] Result<std::string> readFile(const std::filesystem::path& file, size_t most = kLargestBytes);

/// The same result with the file's name set in its error.
template <class T> [[nodiscard]] Result<T> inFile(Result<T> result, const std::filesystem::path& file)
{
    if (!result && result.error().place.file.empty())
        result.error().place.file = file.string();
    return result;
}

} // namespace vicegrip::document
