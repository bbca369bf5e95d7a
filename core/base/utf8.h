#pragma once

#include <cstddef>
#include <string_view>

namespace vicegrip {

/// Whether a text is UTF-8 (RFC 3629, but for its rarer prohibitions): whole sequences, none longer than it need be.
[[nodiscard]] bool isUtf8(std::string_view text);

/// Whether a byte of such a text begins a character.
[[nodiscard]] inline bool begins(char byte)
{
    return (static_cast<unsigned char>(byte) & 0xC0U) != 0x80U;
}

/// How many characters it has.
[[nodiscard]] size_t lettersOf(std::string_view text);

/// As much of it as are whole characters within so many bytes.
[[nodiscard]] std::string_view cutTo(std::string_view text, size_t bytes);

} // namespace vicegrip
