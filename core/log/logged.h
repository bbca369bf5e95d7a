#pragma once

#include "core/base/result.h"

#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

namespace vicegrip::log {

struct Column
{
    std::string name, unit; ///< as written; the unit may be empty
    std::vector<float> values; ///< of each row; no number: nothing stood there
    bool operator==(const Column&) const = default;
};

/// What somebody marked, or a logger said in a line of its own.
struct Event
{
    double time_s = 0;
    std::string text;
};

/// What was left out, or taken otherwise than it stands there.
struct Remark
{
    std::string sentence;
    std::uint64_t line = 0; ///< the first it is about, from 1; 0: the whole file
    std::string column; ///< may be empty
};

struct Log
{
    std::vector<double> time_s; ///< of each row, from the first; never falling
    std::vector<Column> columns;
    std::vector<std::size_t> begins; ///< rows after the first that another log begins at; rising
    std::vector<Event> events;
    std::vector<Remark> remarks;
    std::vector<std::uint64_t> lineAt; ///< of the file, of each 1024th row: see lineOf

    [[nodiscard]] std::size_t rows() const { return time_s.size(); }
    [[nodiscard]] double seconds() const { return time_s.empty() ? 0 : time_s.back(); }
};

} // namespace vicegrip::log
