#include "core/base/phrase.h"

#include <optional>
#include <utility>

namespace vicegrip {
namespace {

Translate g_translate; // NOLINT: a process speaks one language

/// The words with the arguments in their places: {} is the next one, {1} the second, {{ and }} are braces. None if a
/// place has no argument.
std::optional<std::string> filled(std::string_view words, std::span<const std::string_view> arguments)
{
    std::string out;
    out.reserve(words.size() + 16 * arguments.size());
    size_t next = 0;
    while (!words.empty()) {
        const size_t brace = words.find_first_of("{}");
        out += words.substr(0, brace);
        if (brace == std::string_view::npos)
            break;
        words.remove_prefix(brace);
        if (words.size() > 1 && words[1] == words[0]) {
            out += words[0];
            words.remove_prefix(2);
            continue;
        }
        const size_t end = words.find('}');
        if (words[0] == '}' || end == std::string_view::npos || end > 2)
            return std::nullopt;
        const size_t which = end == 1 ? next++ : static_cast<size_t>(words[1] - '0');
        if (which >= arguments.size())
            return std::nullopt;
        out += arguments[which];
        words.remove_prefix(end + 1);
    }
    return out;
}

} // namespace

void setTranslate(Translate translate)
{
    g_translate = std::move(translate);
}

std::string phrase(std::string_view key)
{
    return g_translate && !key.empty() ? g_translate(key) : std::string(key);
}

std::string phraseOf(std::string_view key, std::span<const std::string_view> arguments)
{
    if (g_translate)
        if (auto said = filled(g_translate(key), arguments))
            return *std::move(said);
    return filled(key, arguments).value_or(std::string(key));
}

} // namespace vicegrip
