#pragma once

#include <string>
#include <string_view>

/// Text as people type and paste it. ASCII only: what else stands in it is left alone.
namespace vicegrip::typed {

/// Without blanks at both ends.
[[nodiscard]] std::string trimmed(std::string_view text);

[[nodiscard]] std::string lower(std::string text);

/// "0,5" becomes "0.5": a comma between digits is a decimal mark.
[[nodiscard]] std::string withPoints(std::string text);

} // namespace vicegrip::typed
