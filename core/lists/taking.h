#pragma once

#include "core/lists/csv_table.h"
#include "core/lists/lists.h"

/// Inside: one kind of list taken row by row.
namespace vicegrip::lists {

struct Taking
{
    job::Job job; ///< as it becomes
    std::vector<Note> notes;

    void stop(int line, std::string sentence) { notes.push_back({line, std::move(sentence), true}); }
    void assume(int line, std::string sentence) { notes.push_back({line, std::move(sentence), false}); }
};

/// The cell of a column; none: the list has no such column.
[[nodiscard]] std::optional<std::string> cellOf(const Row& row, const std::string& column);

void takeWires(Taking& taking, const std::vector<Row>& rows);
void takeCavities(Taking& taking, const std::vector<Row>& rows);
void takeParts(Taking& taking, const std::vector<Row>& rows, const std::vector<parts::Part>& library);

} // namespace vicegrip::lists
