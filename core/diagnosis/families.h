#pragma once

#include "core/base/result.h"

#include <filesystem>
#include <map>
#include <string>
#include <string_view>

namespace vicegrip::diagnosis {

/// How likely a family of faults is before anything is read, and why people say so.
struct Family
{
    double weight = 0; ///< against the other families; of all suspects of the family together
    std::string reason;
};

/// Of pairs of faults (two_at_once.h).
inline constexpr const char* kTwoAtOnce = "two-at-once";

/// By name: "open-wire".
using Families = std::map<std::string, Family>;

/// Reads the file of families, data/schema/families.schema.json. Every family of the catalogue must be there, once,
/// with a weight above 0. Errors carry the pointer.
[[nodiscard]] Result<Families> readFamilies(std::string_view text);
[[nodiscard]] Result<Families> readFamiliesFile(const std::filesystem::path& file);

} // namespace vicegrip::diagnosis
