#pragma once

#include "core/base/result.h"

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

/// What is this view for, and what does that word mean? The texts are shipped in a folder: a file a view in Markdown
/// ("pins.md"), its terms in bold, and a glossary of lines "term: meaning".
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
    std::vector<Term> terms; ///< of the glossary, in its order: those that the text speaks of
};

/// Errors: those of the two files. `view` as the file is called, in small letters.
[[nodiscard]] Result<Help> helpOn(const std::filesystem::path& folder, std::string_view view);

} // namespace vicegrip::help
