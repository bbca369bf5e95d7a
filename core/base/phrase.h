#pragma once

#include <functional>
#include <span>
#include <string>
#include <string_view>

/// What the core says to people, ready for other languages: every sentence is a key, the English one, with arguments.
///
///     phrase("{} is within {}", reads, bounds)
///
/// A translation may take its arguments in another order: "{1} ... {0}". What files hold, and what is compared, is no
/// phrase.
namespace vicegrip {

/// Finds the words of a key in the language of the user.
using Translate = std::function<std::string(std::string_view key)>;

/// For the whole process, before anything is said; empty: English. It is called from any thread.
void setTranslate(Translate translate);

/// The words of a key, with an argument in the place of each {}. A translation whose places do not fit the arguments is
/// not used.
[[nodiscard]] std::string phraseOf(std::string_view key, std::span<const std::string_view> arguments);

/// The words of a key that has no arguments.
[[nodiscard]] std::string phrase(std::string_view key);

template <class... Arguments> [[nodiscard]] std::string phrase(std::string_view key, const Arguments&... arguments)
{
    const std::string_view all[] = {std::string_view(arguments)...};
    return phraseOf(key, all);
}

/// Marks a key that stands in a table and is said by `phrase` where the table is read.
[[nodiscard]] constexpr const char* key(const char* words)
{
    return words;
}

} // namespace vicegrip
