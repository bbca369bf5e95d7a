#include "core/help/help.h"

#include "core/base/document.h"
#include "core/base/phrase.h"

#include <algorithm>

namespace vicegrip::help {
namespace {

constexpr size_t kLargest = 1U << 20U;

bool isLetter(char c)
{
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || static_cast<unsigned char>(c) >= 0x80;
}

std::string small(std::string_view text)
{
    std::string out(text);
    std::ranges::transform(out, out.begin(),
                           [](char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c; });
    return out;
}

/// Whether the text has the term as words of its own, one or several of it.
bool speaksOf(const std::string& text, const std::string& term)
{
    for (size_t at = text.find(term); at != std::string::npos; at = text.find(term, at + 1)) {
        size_t end = at + term.size();
        if (end < text.size() && text[end] == 's')
            ++end;
        if ((at == 0 || !isLetter(text[at - 1])) && (end == text.size() || !isLetter(text[end])))
            return true;
    }
    return false;
}

/// Cuts them off the end of the text.
std::vector<std::string> takeSources(std::string& text)
{
    constexpr std::string_view kHeading = "\n## Sources\n", kItem = "\n- ";
    std::vector<std::string> out;
    const size_t heading = text.find(kHeading);
    if (heading == std::string::npos)
        return out;
    for (size_t at = text.find(kItem, heading); at != std::string::npos;) {
        const size_t begin = at + kItem.size(), end = std::min(text.find('\n', begin), text.size());
        out.push_back(text.substr(begin, end - begin));
        at = text.find(kItem, end);
    }
    text.resize(heading);
    return out;
}

} // namespace

Result<std::vector<Term>> readGlossary(const std::filesystem::path& folder)
{
    const auto file = folder / "glossary.md";
    return document::readFile(file, kLargest).and_then([&](const std::string& text) -> Result<std::vector<Term>> {
        std::vector<Term> out;
        int number = 0;
        for (size_t at = 0; at < text.size();) {
            const size_t end = std::min(text.find('\n', at), text.size());
            const std::string line = text.substr(at, end - at);
            at = end + 1;
            ++number;
            const size_t colon = line.find(": ");
            if (line.empty())
                continue;
            if (colon == std::string::npos || colon == 0)
                return document::inFile(
                    Result<std::vector<Term>>(
                        fail(ErrorCode::Malformed, phrase("line {} is no \"term: meaning\"", std::to_string(number)))),
                    file);
            out.push_back({line.substr(0, colon), line.substr(colon + 2)});
        }
        return out;
    });
}

Result<Help> helpOn(const std::filesystem::path& folder, std::string_view view)
{
    std::error_code none;
    auto file = folder / (std::string(view) + ".md");
    if (const size_t dash = view.find('-'); dash != std::string_view::npos && !std::filesystem::exists(file, none))
        file = folder / (std::string(view.substr(0, dash)) + ".md");
    return document::readFile(file, kLargest).and_then([&](std::string text) {
        return readGlossary(folder).map([&](std::vector<Term> terms) {
            std::vector<std::string> sources = takeSources(text);
            const std::string spoken = small(text);
            std::erase_if(terms, [&](const Term& t) { return !speaksOf(spoken, small(t.term)); });
            return Help{std::move(text), std::move(sources), std::move(terms)};
        });
    });
}

} // namespace vicegrip::help
