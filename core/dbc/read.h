#pragma once

#include "core/dbc/database.h"

#include <filesystem>

namespace vicegrip::dbc {

inline constexpr size_t kMostText = 32U << 20; ///< bytes of a file
inline constexpr size_t kMostMessages = 20000, kMostSignals = 2000; ///< of a file; of a message

/// A file that was read, and what in it cannot be meant: two signals in the same bits, names for a signal that is not
/// there. Nobody is kept from the rest for it.
struct ReadDatabase
{
    Database database;
    std::vector<Error> remarks;
};

/// Reads a database file (DBC): messages, signals, value names, float codings, multiplexing in both its forms.
/// Comments, attributes and what else it may hold are passed over. Texts in other than UTF-8 are taken as Latin-1
/// (ISO 8859-1). Errors carry line and column: Malformed, Range (a signal that leaves its message), Reference (a
/// value's name of a signal that is not there), TooBig.
[[nodiscard]] Result<ReadDatabase> read(std::string_view text);
[[nodiscard]] Result<ReadDatabase> readFile(const std::filesystem::path& file);

} // namespace vicegrip::dbc
