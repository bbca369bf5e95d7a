#pragma once

#include "core/base/result.h"
#include "core/job/job.h"
#include "core/parts/part.h"

#include <filesystem>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// A job's wires, cavities and parts as tables for a spreadsheet (RFC 4180), and those tables taken back.
/// In this room: csv_table.h (a table out of its text), taking.h (inside: one kind of list taken row by row).
namespace vicegrip::lists {

enum class Kind {
    Wires, ///< a row a wire
    Cavities, ///< a row a cavity and the wire that ends in it
    Parts ///< a row a circuit, with the part it leads to and its seat
};
[[nodiscard]] std::span<const Kind> allKinds();
/// "wires", "cavities", "parts": as files and commands name them. A key: `phrase` says it.
[[nodiscard]] std::string_view kindName(Kind kind);

struct Column
{
    std::string_view name; ///< as the first row has it
    std::string_view holds; ///< a key
    bool taken = true; ///< else it is worked out, and what stands there in a list that comes in changes nothing
};
[[nodiscard]] std::span<const Column> columnsOf(Kind kind);

/// The list, its first row the names of the columns. Areas in mm², lengths in m.
[[nodiscard]] std::string toCsv(const job::Job& job, Kind kind);

/// What is to be said of a row.
struct Note
{
    int line = 0; ///< of the text, from 1; 0: of the whole list
    std::string sentence;
    bool stops = false; ///< nothing is taken while it stands
};

struct Reading
{
    Kind kind = Kind::Wires;
    int rows = 0;
    std::vector<Note> notes; ///< in the order of the rows
    std::optional<job::Job> job; ///< as it would be; none while a note stops
};

/// Reads a list against a job, which stays as it is. The first row tells which list it is, in any order of columns; a
/// column that is not there leaves what it would say alone, and so does a row. Between cells: comma, semicolon or tab,
/// whichever the first row has. All or nothing: one row that cannot be taken stops all.
///
/// Wires: without a name, or with one that is not in the job, a wire is new; with both ends empty it is taken out.
/// Cells bear units ("20 AWG", "85 cm"). Cavities: a wire moves to the cavity it stands beside. Parts: names, parts out
/// of the job or `library` and seats, whose wires are drawn as on the screen. Errors: Malformed (no such list, a quote
/// that is not closed), TooBig (above 4 MB or 50 000 rows).
[[nodiscard]] Result<Reading> read(const job::Job& job, std::string_view text,
                                   const std::vector<parts::Part>& library = {});

/// The same of a file, which errors name. Io: it cannot be read.
[[nodiscard]] Result<Reading> readFile(const job::Job& job, const std::filesystem::path& file,
                                       const std::vector<parts::Part>& library = {});

} // namespace vicegrip::lists
