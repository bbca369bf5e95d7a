#pragma once

#include "cli/commands.h"
#include "core/base/result.h"
#include "core/compare/compare.h"
#include "core/parts/library.h"

#include <nlohmann/json.hpp>
#include <string>
#include <vector>

/// What the commands share: refusing with a code, and columns.
namespace vicegrip::cli {

using Json = nlohmann::ordered_json;

int refuse(const Error& error, int code);
int refuse(const std::string& sentence, int code);

/// What ships, and what the user has added; what is left out of it is said.
[[nodiscard]] parts::Library library();

/// ISO 8601, UTC.
[[nodiscard]] std::string nowText();

/// What is different, a line each.
void printDifferences(const std::vector<compare::Difference>& differences);

/// Padded by characters on screen, not bytes: "kΩ" is two wide. At least one space follows.
[[nodiscard]] std::string padded(const std::string& text, size_t to);

/// Lines whose cells stand below each other, each column as wide as its widest cell.
class Columns
{
  public:
    void row(std::vector<std::string> cells, std::string indent = {}) { m_rows.push_back({indent, std::move(cells)}); }
    /// A line that takes no part in the columns.
    void heading(std::string line) { m_rows.push_back({std::move(line), {}}); }
    void print() const;

  private:
    struct Row
    {
        std::string indent; ///< or a heading
        std::vector<std::string> cells;
    };
    std::vector<Row> m_rows;
};

} // namespace vicegrip::cli
