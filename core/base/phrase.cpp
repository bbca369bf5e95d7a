#include "core/base/phrase.h"

#include <fmt/args.h>
#include <fmt/format.h>

#include <optional>
#include <utility>

namespace vicegrip {
namespace {

Translate g_translate; // NOLINT: a process speaks one language

std::optional<std::string> filled(std::string_view words, std::span<const std::string_view> arguments)
{
    fmt::dynamic_format_arg_store<fmt::format_context> store;
    for (const std::string_view argument : arguments)
        store.push_back(argument);
    try {
        return fmt::vformat(words, store);
    } catch (const fmt::format_error&) {
        return std::nullopt;
    }
}

} // namespace

void setTranslate(Translate translate)
{
    g_translate = std::move(translate);
}

std::string phrase(std::string_view key)
{
    return g_translate ? g_translate(key) : std::string(key);
}

std::string phraseOf(std::string_view key, std::span<const std::string_view> arguments)
{
    if (g_translate)
        if (auto said = filled(g_translate(key), arguments))
            return *std::move(said);
    return filled(key, arguments).value_or(std::string(key));
}

} // namespace vicegrip
