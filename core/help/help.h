#pragma once

#include "core/base/result.h"

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

/// What is this view for, what does that word mean, and where does that number come from? The texts are shipped in a
/// folder: a file a stage ("pins.md") and a file a view of one ("pins-wires.md") in Markdown, terms in bold, at the end
/// the sources of its numbers as a list under "## Sources"; and a glossary of lines "term: meaning".
namespace vicegrip::help {

struct Term
{
    std::string term, meaning;
    bool operator==(const Term&) const = default;
};

/// Errors: those of reading the file, and Malformed with the line that has no colon.
[[nodiscard]] Result<std::vector<Term>> readGlossary(const std::filesystem::path& folder);

/// What there is to say of one view.
struct Help
{
    std::string text; ///< Markdown, paragraphs between empty lines
    std::vector<std::string> sources; ///< "wire gauges: ASTM B258"
    std::vector<Term> terms; ///< of the glossary, in its order: those that the text speaks of
};

/// Errors: those of the two files. `view` as the file is called; one that has no text of its own has its stage's, the
/// name before the dash.
[[nodiscard]] Result<Help> helpOn(const std::filesystem::path& folder, std::string_view view);

} // namespace vicegrip::help
