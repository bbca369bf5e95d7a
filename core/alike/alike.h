#pragma once

#include <set>
#include <string>
#include <string_view>

/// Do two names mean the same thing? Names of the trade, as lists, plugs and ECUs write them.
namespace vicegrip::alike {

/// The words of a name: lower case, abbreviations spelled out ("CLT" is coolant and temp), silent ones left out.
[[nodiscard]] std::set<std::string> wordsOf(std::string_view name);

/// Words that were written together apart: "EngCoolantTemp1_V" is "Eng Coolant Temp 1 V".
[[nodiscard]] std::string apart(std::string_view name);

/// Shared words of all words (Jaccard 1901): from 0 to 1.
[[nodiscard]] double shared(const std::set<std::string>& a, const std::set<std::string>& b);

} // namespace vicegrip::alike
