#pragma once

#include "core/base/result.h"
#include "core/job/job.h"

#include <map>
#include <string>
#include <string_view>
#include <vector>

/// Tables as they are pasted from a spreadsheet, a mail or a phone: cells between tabs, semicolons, bars or wide gaps.
namespace vicegrip::pasted {

struct ListLine
{
    int number = 0; ///< of the text, from 1
    std::string text; ///< as it was pasted
    std::map<std::string, std::string> cells; ///< by column
};

/// Columns of a list: the name a cell is kept under, and what people write above it.
struct ListColumn
{
    std::string name;
    std::vector<std::string> headings; ///< lower case
};

struct List
{
    std::vector<ListLine> lines;
    std::map<std::string, std::string> units; ///< of columns whose heading names one: "length [cm]" -> cm
};

/// Splits a text. A first line that names columns sets their order; without one they stand as listed. Empty lines and
/// lines that begin with # are passed over. Errors: TooBig above 1 MB or 5000 lines.
[[nodiscard]] Result<List> readList(std::string_view text, const std::vector<ListColumn>& columns);

/// A place as people write it: "CLT.1", "CLT 1", "plug clt 1", "A7", "cavity A 7", "S2", "Battery -". Errors say what
/// is not there.
[[nodiscard]] Result<job::PointRef> placeTyped(const job::Job& job, std::string_view typed);

} // namespace vicegrip::pasted
