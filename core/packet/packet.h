#pragma once

#include "core/analysis/analysis.h"
#include "core/book/book.h"

#include <filesystem>
#include <string>
#include <vector>

/// What goes to the person who tunes the car: files that open without this program.
///
///     auto packet = packet::packetOf(analysis, {habits, album}, logs);
///     auto zip = packet::zipOf(*packet);                 // or packet::writeFolder(*packet, "petrel-packet")
///
/// It begins with start.html: what to trust how far, questions with their answers and where they stand, and a list of
/// the files. docs/packet.md says what each file holds.
///
/// In this room too: zip.h and folder.h (the packet as one file or as many), answers.h (inside: questions and trust),
/// data_files.h (inside: numbers for other programs).
namespace vicegrip::packet {

struct File
{
    std::string path; ///< within the packet, parts between slashes: "tables/clt.csv"
    std::string about; ///< one line
    std::string bytes;
};

struct Packet
{
    std::string name; ///< of its folder: letters, digits, - and _
    std::vector<File> files; ///< start.html first
};

/// A log that goes with it, as it was recorded.
struct Log
{
    std::string name; ///< of the file, without folders
    std::string bytes;
};

/// So much of logs goes into one packet, bytes: it is put together in memory.
inline constexpr size_t kMostLogs = 256U << 20U;

/// Reads logs from files, in this order; those of one name get a number. Errors (Io): one cannot be read; (TooBig):
/// together they are more than kMostLogs.
[[nodiscard]] Result<std::vector<Log>> readLogs(const std::vector<std::filesystem::path>& files);

/// The packet of a job: a pure function of what is given. Errors (Io): the book cannot be printed; (Stopped): `beside`
/// asked for that.
[[nodiscard]] Result<Packet> packetOf(const analysis::Analysis& analysis, const book::Beside& beside,
                                      const std::vector<Log>& logs);

} // namespace vicegrip::packet
