#pragma once

#include <string>
#include <vector>

/// Tables as text for other programs (RFC 4180).
namespace vicegrip::csv {

/// One record with its line end; fields that hold a comma, a quote or a line end are quoted.
[[nodiscard]] std::string row(const std::vector<std::string>& fields);

} // namespace vicegrip::csv
