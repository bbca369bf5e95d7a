#pragma once

#include <iterator>
#include <set>
#include <string>
#include <string_view>

/// Do two names mean the same thing? Names of the trade, as lists, plugs and ECUs write them.
namespace vicegrip::alike {

/// The words of a name: lower case, abbreviations spelled out ("CLT" is coolant and temp), silent ones left out.
[[nodiscard]] std::set<std::string> wordsOf(std::string_view name);

/// Words that were written together apart: "EngCoolantTemp1_V" is "Eng Coolant Temp 1 V".
[[nodiscard]] std::string apart(std::string_view name);

/// Shared words of all words (Jaccard 1901): from 0 to 1. `Words` are sorted, each once.
template <typename Words> [[nodiscard]] double shared(const Words& a, const Words& b)
{
    size_t both = 0;
    for (auto i = a.begin(), j = b.begin(); i != a.end() && j != b.end();)
        if (*i < *j) {
            ++i;
        } else {
            both += *j < *i ? 0 : 1;
            i = *j < *i ? i : std::next(i);
            ++j;
        }
    const size_t all = a.size() + b.size() - both;
    return all > 0 ? static_cast<double>(both) / static_cast<double>(all) : 0;
}

} // namespace vicegrip::alike
