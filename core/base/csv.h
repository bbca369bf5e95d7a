#pragma once

#include <string>
#include <string_view>
#include <vector>

/// Tables as text for other programs (RFC 4180).
namespace vicegrip::csv {

/// One record with its line end; fields that hold a comma, a quote or a line end are quoted. What a spreadsheet would
/// work out as a formula, or run, has an apostrophe before it: names in a job may be anybody's.
[[nodiscard]] std::string row(const std::vector<std::string>& fields);

/// A field as it was before `row` wrote it: without that apostrophe.
[[nodiscard]] std::string_view unguarded(std::string_view field);

} // namespace vicegrip::csv
