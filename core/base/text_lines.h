#pragma once

#include "core/base/result.h"

#include <cstdint>
#include <filesystem>
#include <fstream>
#include <optional>
#include <string_view>
#include <vector>

namespace vicegrip {

/// The lines of a text, or of a file of which a piece is held at a time: so that a file may be larger than what is kept
/// of it. It is read and not mapped, as document::readFile says.
class TextLines
{
  public:
    /// The text outlives it.
    explicit TextLines(std::string_view text);
    /// Errors (Io) name the file.
    [[nodiscard]] static Result<TextLines> ofFile(const std::filesystem::path& file);

    /// Goes to the next line; false at the end, or where there is trouble.
    bool next();
    /// Without its end, and without a byte-order mark before the first. It holds until the next is gone to.
    [[nodiscard]] std::string_view line() const { return m_line; }
    [[nodiscard]] int number() const { return m_number; } ///< from 1
    [[nodiscard]] std::uint64_t size() const { return m_size; } ///< bytes of all lines
    [[nodiscard]] std::uint64_t passed() const { return m_passed; } ///< bytes of those gone over
    /// (Io) the file cannot be read to its end; (TooBig) a line of more than 16 MB.
    [[nodiscard]] const std::optional<Error>& trouble() const { return m_trouble; }

  private:
    TextLines() = default;
    bool fill();
    [[nodiscard]] Error tooLong() const;

    std::ifstream m_file;
    bool m_isFile = false;
    std::vector<char> m_held; ///< what was read of the file; the rest is in it
    std::string_view m_rest, m_line;
    int m_number = 0;
    std::uint64_t m_size = 0, m_passed = 0;
    std::optional<Error> m_trouble;
};

} // namespace vicegrip
