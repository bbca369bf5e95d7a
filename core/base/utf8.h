#pragma once

#include <string_view>

namespace vicegrip {

/// Whether a text is UTF-8 (RFC 3629, but for its rarer prohibitions): whole sequences, none longer than it need be.
[[nodiscard]] bool isUtf8(std::string_view text);

} // namespace vicegrip
