#pragma once

#include "core/log/layout_of_log.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace vicegrip::log {

/// How often something is wrong, and where it is first: lines of the piece, from 0.
struct Trouble
{
    std::uint64_t count = 0, line = 0;
    std::string sample; ///< what stands there

    void add(std::uint64_t at, std::string_view what);
    /// The same of a piece that follows, whose first line is `first`.
    void add(const Trouble& later, std::uint64_t first);
};

/// The rows of some whole lines, apart from all others: so that pieces of a file are read on several threads.
struct Piece
{
    std::vector<double> time_s; ///< as the cells tell it
    std::vector<std::uint32_t> lines; ///< of the rows, from the piece's first, 0
    std::vector<std::vector<float>> values; ///< of each field; none for the time's
    std::vector<std::size_t> begins; ///< rows a header stands above
    struct Said
    {
        std::size_t row = 0; ///< that follows
        std::string text;
    };
    std::vector<Said> events;
    std::vector<Trouble> words; ///< of each field: cells that are no number
    Trouble cut, timeless; ///< rows of another length, rows without a time
    std::optional<std::uint32_t> other; ///< line that names other columns: nothing behind it was read
    std::uint32_t lineCount = 0;

    void clear(std::size_t fields);
};

/// Reads them. The last line may lack its end.
void readPiece(std::string_view text, const Layout& layout, Piece& out);

} // namespace vicegrip::log
